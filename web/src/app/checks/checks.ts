import { ChangeDetectionStrategy, Component, computed, HostListener, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { checkKinds, type CheckKind, type CheckSettings, type StoredChecks } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { Textarea } from 'primeng/textarea';
import { Api } from '../shared/api';
import { Bindings } from '../shared/bindings';
import { checkTitles } from '../shared/check-titles';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { TeamChecks } from '../shared/team-checks';
import type { HoldsWork } from '../shared/unsaved.guard';

/** What is changed of the checks, each part by itself; words to avoid as they are written, a line each. */
interface CheckParts extends Omit<CheckSettings, 'avoid'> {
  readonly avoid: string;
}

/** Words to avoid as lines: the words, an equals sign, the better ones. */
const linesOf = (avoid: CheckSettings['avoid']): string =>
  avoid.map(({ words, better }) => (better === '' ? words : `${words} = ${better}`)).join('\n');

function avoidIn(lines: string): { words: string; better: string }[] {
  return lines.split('\n').flatMap((line) => {
    const at = line.indexOf('=');
    const words = (at < 0 ? line : line.slice(0, at)).trim();
    return words === '' ? [] : [{ words, better: at < 0 ? '' : line.slice(at + 1).trim() }];
  });
}

/** The checks of the team: what is looked at when something is saved. */
@Component({
  selector: 'al-checks',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, EditingBands, InputText, Textarea],
  template: `
    <div class="place-head">
      <h1>Checks</h1>
      <span class="grow"></span>
      @if (session.mayKeep()) {
        <span class="soft" aria-live="polite">{{ editing.dirty() ? 'not saved' : 'saved' }}</span>
        <p-button
          label="Save"
          icon="pi pi-check"
          [disabled]="!editing.dirty()"
          [loading]="editing.saving()"
          (onClick)="save()"
        />
      }
    </div>
    @if (editing.base(); as base) {
      <al-editing-bands [editing]="editing" [newest]="base" [names]="partNames" (saved)="taken($event)" />
    }
    @if (parts(); as settings) {
      <div class="scroll" tabindex="0" role="region" aria-label="Checks">
        <p class="lead">
          When somebody saves, the page is looked through for these. Nothing is refused: what is found stands beside the
          page, with its place and, where possible, a mend. What your team does not want is switched off, with the
          reason.
        </p>
        @for (kind of kinds; track kind) {
          <section>
            <label class="switch"
              ><input
                type="checkbox"
                [checked]="settings.off[kind] === undefined"
                [disabled]="!session.mayKeep()"
                (change)="turn(kind)"
              />
              <b>{{ titles[kind][0] }}</b></label
            >
            <p class="soft">{{ titles[kind][1] }}</p>
            @if (settings.off[kind] !== undefined) {
              <div class="field reason">
                <label [for]="'reason-' + kind">Why it is switched off</label>
                <input
                  pInputText
                  [id]="'reason-' + kind"
                  [ngModel]="settings.off[kind]"
                  (ngModelChange)="give(kind, $event)"
                  [readonly]="!session.mayKeep()"
                />
              </div>
            } @else if (kind === 'heading-depth') {
              <label class="number"
                >No more than
                <input
                  pInputText
                  pSize="small"
                  type="number"
                  min="1"
                  max="9"
                  [ngModel]="settings.mostLevels"
                  (ngModelChange)="editing.change({ mostLevels: $event })"
                  [readonly]="!session.mayKeep()"
                />
                levels</label
              >
            } @else if (kind === 'long-sentence') {
              <label class="number"
                >No more than
                <input
                  pInputText
                  pSize="small"
                  type="number"
                  min="5"
                  max="200"
                  [ngModel]="settings.mostWords"
                  (ngModelChange)="editing.change({ mostWords: $event })"
                  [readonly]="!session.mayKeep()"
                />
                words</label
              >
            } @else if (kind === 'words-to-avoid') {
              <div class="field reason">
                <label for="avoid">A line each: the words, and behind an equals sign the better ones</label>
                <textarea
                  pTextarea
                  id="avoid"
                  rows="6"
                  placeholder="log in = sign in&#10;simply"
                  [ngModel]="settings.avoid"
                  (ngModelChange)="editing.change({ avoid: $event })"
                  [readonly]="!session.mayKeep()"
                ></textarea>
              </div>
            }
          </section>
        }
      </div>
    } @else {
      <p class="empty">Reading the checks …</p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      height: 100%;
      min-height: 0;
    }
    .scroll {
      flex: 1;
      min-height: 0;
      padding: 0 1.2rem 1.5rem;
    }
    .lead {
      max-width: 46rem;
      font: 1.08rem/1.55 var(--serif);
    }
    section {
      max-width: 46rem;
      padding: 0.7rem 0;
      border-top: 1px solid var(--line);
    }
    .switch {
      display: inline-flex;
      align-items: center;
      gap: 0.5rem;
      min-height: 1.7rem;
    }
    .soft {
      color: var(--soft);
    }
    section p {
      margin: 0 0 0.3rem 1.5rem;
    }
    .reason,
    .number {
      margin-left: 1.5rem;
    }
    .number input {
      width: 4.5rem;
    }
    textarea {
      width: 100%;
      font-family: var(--mono);
      font-size: 0.9rem;
    }
  `,
})
export class ChecksPlace implements HoldsWork {
  private readonly api = inject(Api);
  private readonly bindings = inject(Bindings);
  private readonly notices = inject(Notices);
  private readonly team = inject(TeamChecks);
  protected readonly session = inject(Session);

  protected readonly kinds = checkKinds;
  protected readonly titles = checkTitles;
  protected readonly partNames = {
    off: 'what is switched off',
    mostLevels: 'the depth of headings',
    mostWords: 'the words of a sentence',
    avoid: 'the words to avoid',
  };
  protected readonly editing = inject(Edits).of<StoredChecks, CheckParts>({
    nameOf: () => 'checks',
    titleOf: () => 'Checks',
    partsOf: ({ off, mostLevels, mostWords, avoid }) => ({ off, mostLevels, mostWords, avoid: linesOf(avoid) }),
    save: ({ revision }, { avoid, off, ...numbers }) =>
      this.api.saveChecks({ base: revision, ...numbers, off: { ...off }, avoid: avoidIn(avoid) }),
  });
  protected readonly parts = computed(() => this.editing.parts());

  constructor() {
    this.api.checks().subscribe({
      next: (stored) => {
        this.team.take(stored);
        void this.editing.show(stored);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  hasUnsavedWork(): boolean {
    return this.editing.dirty();
  }

  discardWork(): void {
    this.editing.discard();
  }

  @HostListener('document:keydown', ['$event'])
  protected keys(event: KeyboardEvent): void {
    if (event.defaultPrevented || this.bindings.meant(event) !== 'save') return;
    event.preventDefault();
    this.save();
  }

  protected turn(kind: CheckKind): void {
    const { [kind]: reason, ...others } = this.parts()?.off ?? {};
    this.editing.change({ off: reason === undefined ? { ...others, [kind]: '' } : others });
  }

  protected give(kind: CheckKind, reason: string): void {
    this.editing.change({ off: { ...this.parts()?.off, [kind]: reason } });
  }

  protected save(): void {
    this.editing.save((saved) => this.taken(saved));
  }

  protected taken(saved: StoredChecks): void {
    this.team.take(saved);
    this.notices.done('The checks are saved.');
  }
}
