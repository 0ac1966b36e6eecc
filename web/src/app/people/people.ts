import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { roles, type EntryLink, type InvitationRow, type PersonRow, type Role } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { Tab, TabList, TabPanel, TabPanels, Tabs } from 'primeng/tabs';
import { addressState } from '../shared/address-state';
import { Api, problemText } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { laneColours } from '../shared/lanes';
import { Notices } from '../shared/notices';
import { Sending } from '../shared/sending';
import { Session } from '../shared/session';
import { TimePipe, Wording } from '../shared/wording';
import { AuditRecord } from './audit-record';
import { SessionList } from './session-list';

/** Who may do what here: people, invitations, letters that would have been sent, and the record of what was done. */
@Component({
  selector: 'al-people',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FormsModule,
    Button,
    Dialog,
    InputText,
    Select,
    Tab,
    TabList,
    TabPanel,
    TabPanels,
    Tabs,
    AuditRecord,
    SessionList,
    TimePipe,
  ],
  templateUrl: './people.html',
  styleUrl: './people.css',
})
export class PeoplePlace {
  private readonly api = inject(Api);
  private readonly deletion = inject(Deletion);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);
  protected readonly wording = inject(Wording);

  protected readonly tab = addressState('tab', 'people');
  protected readonly find = addressState('find');
  private readonly readings = signal(0);
  protected readonly people = rxResource({ params: () => this.readings(), stream: () => this.api.people() });
  protected readonly invitations = rxResource({ params: () => this.readings(), stream: () => this.api.invitations() });
  protected readonly outbox = rxResource({ params: () => this.readings(), stream: () => this.api.outbox() });
  protected readonly shown = computed(() => {
    const wanted = this.find.value().trim().toLowerCase();
    return this.people.hasValue()
      ? this.people
          .value()
          .filter(({ name, signIn, role }) => `${name} ${signIn} ${role}`.toLowerCase().includes(wanted))
      : [];
  });
  protected readonly roles = roles.map((value) => ({ value, label: value }));
  protected readonly colours = laneColours;
  protected readonly text = problemText;

  /** Who is being changed. */
  protected readonly changed = signal<PersonRow | null>(null);
  protected readonly inviting = signal(false);
  protected readonly link = signal<{ readonly title: string; readonly link: EntryLink } | null>(null);
  protected readonly sessionsOf = signal<PersonRow | null>(null);
  protected readonly sending = new Sending(() => [this.inviting(), this.changed()]);
  protected name = '';
  protected role: Role = 'writer';
  protected mail = '';

  protected askToInvite(): void {
    Object.assign(this, { name: '', role: 'writer', mail: '' });
    this.inviting.set(true);
  }

  protected invite(): void {
    const name = this.name.trim();
    this.sending.send(this.api.invite({ name, role: this.role, mail: this.mail.trim() }), (link, isOpen) => {
      if (isOpen) this.inviting.set(false);
      this.link.set({ title: `The link for ${name}`, link });
      this.readAgain();
    });
  }

  protected change(person: PersonRow): void {
    Object.assign(this, { name: person.name, role: person.role });
    this.changed.set(person);
  }

  protected save(): void {
    const person = this.changed();
    if (!person) return;
    const request = this.api.savePerson(person.id, { name: this.name, role: this.role, isActive: person.isActive });
    this.sending.send(request, (_, isOpen) => {
      if (isOpen) this.changed.set(null);
      this.readAgain();
    });
  }

  protected turn(person: PersonRow): void {
    if (!person.isActive) {
      this.api.savePerson(person.id, { name: person.name, role: person.role, isActive: true }).subscribe({
        next: () => this.readAgain(),
        error: (error: unknown) => this.notices.failed(error),
      });
      return;
    }
    this.deletion.ask(
      `Let ${person.name} sign in no more?`,
      'Their sessions end now. What they wrote stays, and they can be let in again.',
      () => this.api.savePerson(person.id, { name: person.name, role: person.role, isActive: false }),
      () => this.readAgain(),
      'Let them in no more',
    );
  }

  protected reset(person: PersonRow): void {
    this.api.resetPerson(person.id).subscribe({
      next: (link) => {
        this.link.set({ title: `The link by which ${person.name} sets a new password`, link });
        this.readAgain();
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected endSessions(person: PersonRow): void {
    this.api.endSessions(person.id).subscribe({
      next: () => {
        this.sessionsOf.set(null);
        this.notices.done(`${person.name} is signed out everywhere.`);
        this.readAgain();
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected withdraw(invitation: InvitationRow): void {
    this.api.withdrawInvitation(invitation.id).subscribe({
      next: () => this.readAgain(),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected async copy(address: string): Promise<void> {
    await navigator.clipboard.writeText(address);
    this.notices.done('The link is copied.');
  }

  protected letWritersOutline(allowed: boolean): void {
    this.session.letWritersOutline(allowed).subscribe({
      next: () => this.notices.done(allowed ? 'Writers may change outlines.' : 'Only keepers change outlines now.'),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected isOwn(person: PersonRow): boolean {
    return person.id === this.session.person()?.id;
  }

  private readAgain(): void {
    this.readings.update((count) => count + 1);
  }
}
