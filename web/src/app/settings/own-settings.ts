import { ChangeDetectionStrategy, Component, computed, HostListener, inject, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { appearances, type OwnSettings } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Api, problemText } from '../shared/api';
import { Bindings, everywhereKeys, keyOf, keyText, type EverywhereKey } from '../shared/bindings';
import { laneColours } from '../shared/lanes';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import type { HoldsWork } from '../shared/unsaved.guard';
import { Wording } from '../shared/wording';
import { SessionList } from '../people/session-list';

/** What everybody sets for themselves. */
@Component({
  selector: 'al-own-settings',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText, SessionList],
  templateUrl: './own-settings.html',
  styleUrl: './own-settings.css',
})
export class OwnSettingsPlace implements HoldsWork {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly bindings = inject(Bindings);
  protected readonly session = inject(Session);
  protected readonly wording = inject(Wording);

  private readonly change = signal<Partial<{ name: string } & OwnSettings>>({});
  protected readonly own = computed(() => {
    const person = this.session.person();
    return person ? { name: person.name, ...person.settings, ...this.change() } : null;
  });
  protected readonly dirty = computed(() => Object.keys(this.change()).length > 0);
  protected readonly sessionsRead = signal(0);
  protected readonly problem = signal('');
  protected readonly passwordProblem = signal('');
  protected current = '';
  protected password = '';
  protected readonly colours = laneColours.map((colour, value) => ({ colour, value }));
  protected readonly appearances = appearances.map((value) => ({
    value,
    label: { system: 'As the system', light: 'Light', dark: 'Dark' }[value],
  }));
  protected readonly keyNames = Object.keys(everywhereKeys) as EverywhereKey[];
  protected readonly keys = everywhereKeys;
  protected readonly now = new Date().toISOString();

  hasUnsavedWork(): boolean {
    return this.dirty();
  }

  protected set(change: Partial<{ name: string } & OwnSettings>): void {
    this.change.update((before) => ({ ...before, ...change }));
  }

  protected keyOf(name: EverywhereKey): string {
    return keyText(this.own()?.keys[name] ?? everywhereKeys[name].key);
  }

  /** Takes the key that is pressed in the field for it; Backspace takes ours again. */
  protected pressed(name: EverywhereKey, event: KeyboardEvent): void {
    const key = keyOf(event);
    if (key === null || ['Tab', 'Escape', 'Enter'].includes(event.key)) return;
    event.preventDefault();
    event.stopPropagation();
    const others = this.keyNames.filter((each) => each !== name);
    const taken = others.find((each) => (this.own()?.keys[each] ?? everywhereKeys[each].key) === key);
    if (taken) {
      this.problem.set(`${keyText(key)} is taken: ${everywhereKeys[taken].title}.`);
      return;
    }
    this.problem.set('');
    const rest = Object.entries(this.own()?.keys ?? {}).filter(([each]) => each !== name);
    const isOurs = event.key === 'Backspace' || key === everywhereKeys[name].key;
    this.set({ keys: Object.fromEntries(isOurs ? rest : [...rest, [name, key]]) });
  }

  protected save(): void {
    const own = this.own();
    if (!own || !this.dirty()) return;
    const { name, ...settings } = own;
    const sent = this.change();
    this.session.saveOwn(name, settings).subscribe({
      next: () => {
        // What was changed while it was being saved stays.
        this.change.update((now) => (now === sent ? {} : now));
        this.problem.set('');
        this.notices.done('Your settings are saved.');
      },
      error: (error: unknown) => this.problem.set(problemText(error)),
    });
  }

  protected changePassword(): void {
    this.api.changePassword(this.current, this.password).subscribe({
      next: () => {
        this.current = this.password = '';
        this.passwordProblem.set('');
        this.sessionsRead.update((count) => count + 1);
        this.notices.done('Your password is changed. You are signed out everywhere else.');
      },
      error: (error: unknown) => this.passwordProblem.set(problemText(error)),
    });
  }

  protected endOthers(): void {
    this.api.endOtherSessions().subscribe({
      next: () => {
        this.sessionsRead.update((count) => count + 1);
        this.notices.done('You are signed out everywhere else.');
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  @HostListener('document:keydown', ['$event'])
  protected saveKey(event: KeyboardEvent): void {
    if (event.defaultPrevented || this.bindings.meant(event) !== 'save') return;
    event.preventDefault();
    this.save();
  }

  @HostListener('window:beforeunload', ['$event'])
  protected closing(event: BeforeUnloadEvent): void {
    if (this.dirty()) event.preventDefault();
  }
}
