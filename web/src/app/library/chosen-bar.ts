import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { ActOnMany, ManyDone } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Api } from '../shared/api';
import { ConditionField } from '../shared/condition-field';
import { Notices } from '../shared/notices';
import { Wording } from '../shared/wording';
import { collectionText } from './collection-rows';
import { mostChosen, type ChosenRows } from './chosen-rows';
import { StepsBack } from './steps-back';

type Question = Exclude<ActOnMany['act']['kind'], 'archive'>;

const headings: Readonly<Record<Question, string>> = {
  collection: 'Move to a collection',
  tag: 'Tag',
  limit: 'Limit',
  delete: 'Delete',
};

/** @param things how many, in words */
function doneText(act: ActOnMany['act'], things: string): string {
  switch (act.kind) {
    case 'collection':
      return act.collection === null
        ? `Taken out of their collections: ${things}.`
        : `Moved to “${collectionText(act.collection)}”: ${things}.`;
    case 'tag':
      return act.on
        ? `Tagged with ${act.tag} ${act.value}: ${things}.`
        : `No longer tagged with ${act.tag} ${act.value}: ${things}.`;
    case 'limit':
      return act.when === null ? `Limited no more: ${things}.` : `Limited: ${things}.`;
    case 'archive':
      return act.on ? `Archived: ${things}.` : `Out of the archive: ${things}.`;
    case 'delete':
      return `In the bin now: ${things}.`;
  }
}

/** What can be done with all components that are chosen in the list. */
@Component({
  selector: 'al-chosen-bar',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, InputText, ConditionField],
  template: `
    <div class="bar" role="toolbar" aria-label="With what is chosen">
      <b aria-live="polite">{{ wording.number(chosen().count()) }} chosen</b>
      <button type="button" (click)="ask('tag')">Tag …</button>
      <button type="button" (click)="ask('collection')">Move …</button>
      <button type="button" (click)="ask('limit')">Limit …</button>
      <button type="button" (click)="archive(!inArchive())">
        {{ inArchive() ? 'Take out of the archive' : 'Archive' }}
      </button>
      <button type="button" (click)="ask('delete')">Delete …</button>
      <span class="grow"></span>
      @if (chosen().count() < total()) {
        <button type="button" (click)="allAsked.emit()">
          Choose {{ total() > most ? 'the first ' + most : 'all ' + wording.number(total()) }}
        </button>
      }
      <button type="button" (click)="chosen().keepOnly([])">Choose none</button>
    </div>
    <p-dialog
      [header]="heading()"
      [modal]="true"
      [visible]="question() !== null"
      (visibleChange)="question.set(null)"
      [style]="{ width: 'min(34rem, 96vw)' }"
    >
      @switch (question()) {
        @case ('collection') {
          <div class="field">
            <label for="chosen-collection">Collection</label>
            <input
              pInputText
              id="chosen-collection"
              autocomplete="off"
              list="known-collections"
              [(ngModel)]="collection"
            />
            <datalist id="known-collections">
              @for (each of collections(); track each) {
                <option [value]="each"></option>
              }
            </datalist>
            <small>“Legal / Europe” stands in “Legal”. Empty: in none. Slots take snippets by their collection.</small>
          </div>
        }
        @case ('tag') {
          <div class="pair">
            <div class="field">
              <label for="chosen-tag">Tag</label>
              <input pInputText id="chosen-tag" autocomplete="off" placeholder="subject" [(ngModel)]="tag" />
            </div>
            <div class="field">
              <label for="chosen-value">Value</label>
              <input pInputText id="chosen-value" autocomplete="off" placeholder="rain" [(ngModel)]="value" />
            </div>
          </div>
        }
        @case ('limit') {
          <p>
            All of each topic and snippet will apply only where this holds, in every outline and placement. What it was
            limited to before as a whole is replaced; each gets a new revision.
          </p>
          <al-condition-field [value]="when()" fieldId="chosen-when" (changed)="when.set($event)" />
        }
        @case ('delete') {
          <p>They go into the bin, from where they can be brought back. What is used elsewhere stays.</p>
        }
      }
      @if (result(); as told) {
        @if (told.refused.length > 0) {
          <p role="status">
            <b>{{ wording.count(told.refused.length, 'component was', 'components were') }} left as they were:</b>
          </p>
          <ul class="refused" tabindex="0">
            @for (each of told.refused; track each.key) {
              <li>{{ each.why }}</li>
            }
          </ul>
        }
      }
      <div class="acts">
        @switch (question()) {
          @case ('collection') {
            <p-button
              label="Move them"
              [loading]="busy()"
              (onClick)="act({ kind: 'collection', collection: collection.trim() || null })"
            />
          }
          @case ('tag') {
            <p-button
              label="Take the tag away"
              [outlined]="true"
              [disabled]="tag.trim() === '' || value.trim() === ''"
              [loading]="busy()"
              (onClick)="act({ kind: 'tag', tag: tag.trim(), value: value.trim(), on: false })"
            />
            <p-button
              label="Tag them"
              [disabled]="tag.trim() === '' || value.trim() === ''"
              [loading]="busy()"
              (onClick)="act({ kind: 'tag', tag: tag.trim(), value: value.trim(), on: true })"
            />
          }
          @case ('limit') {
            <p-button
              [label]="when() ? 'Limit them' : 'Take limits away'"
              [loading]="busy()"
              (onClick)="act({ kind: 'limit', when: when() })"
            />
          }
          @case ('delete') {
            <p-button label="Delete them" severity="danger" [loading]="busy()" (onClick)="act({ kind: 'delete' })" />
          }
        }
      </div>
    </p-dialog>
  `,
  styles: `
    .bar {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 0.2rem 0.9rem;
      margin: 0 1.2rem 0.5rem;
      padding: 0.35rem 0.8rem;
      background: var(--tint);
      border: 1px solid var(--accent);
      border-radius: 4px;
    }
    .bar button {
      border: 0;
      background: none;
      color: var(--accent);
      font: inherit;
      font-weight: 600;
      cursor: pointer;
      padding: 0.1rem 0;
    }
    .grow {
      flex: 1;
    }
    .pair {
      display: flex;
      gap: 1rem;
    }
    .pair .field {
      flex: 1;
      min-width: 0;
    }
    .refused {
      max-height: 12rem;
      overflow: auto;
      padding-left: 1.2rem;
    }
    .acts {
      display: flex;
      flex-wrap: wrap;
      justify-content: flex-end;
      gap: 0.6rem;
      margin-top: 1rem;
    }
  `,
})
export class ChosenBar {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly steps = inject(StepsBack);
  protected readonly wording = inject(Wording);

  readonly chosen = input.required<ChosenRows>();
  /** As many as the list has. */
  readonly total = input.required<number>();
  /** Whether the list shows the archive. */
  readonly inArchive = input(false);
  /** All that the list has are to be chosen. */
  readonly allAsked = output<void>();
  readonly done = output<void>();

  protected readonly most = mostChosen;
  protected readonly question = signal<Question | null>(null);
  protected readonly result = signal<ManyDone | null>(null);
  protected readonly busy = signal(false);
  protected readonly collections = signal<readonly string[]>([]);
  protected readonly when = signal<string | null>(null);
  protected collection = '';
  protected tag = '';
  protected value = '';

  protected heading(): string {
    const question = this.question();
    const things = this.wording.count(this.chosen().count(), 'component', 'components');
    return question === null ? '' : `${headings[question]}: ${things}`;
  }

  protected ask(question: Question): void {
    this.result.set(null);
    this.when.set(null);
    this.question.set(question);
    if (question === 'collection')
      this.api.labels().subscribe({
        next: ({ collections }) => this.collections.set(collections.map(({ name }) => collectionText(name))),
        error: (error: unknown) => this.notices.failed(error),
      });
  }

  /** Archives what is chosen, or takes it out: nothing that uses it changes, and it is undone at once. */
  protected archive(on: boolean): void {
    this.busy.set(true);
    this.api.actOnMany({ keys: [...this.chosen().all()], act: { kind: 'archive', on } }).subscribe({
      next: ({ done, back }) => {
        this.busy.set(false);
        this.chosen().keepOnly([]);
        const things = this.wording.count(done.length, 'component is', 'components are');
        const text = on
          ? `${things} archived: offered nowhere, and where used, as before.`
          : `${things} offered again.`;
        this.steps.told(text, back, () => this.done.emit());
        this.done.emit();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.failed(error);
      },
    });
  }

  protected act(act: ActOnMany['act']): void {
    this.busy.set(true);
    this.api.actOnMany({ keys: [...this.chosen().all()], act }).subscribe({
      next: (told) => {
        this.busy.set(false);
        this.result.set(told);
        this.chosen().keepOnly(
          act.kind === 'delete' || told.refused.length > 0 ? told.refused.map(({ key }) => key) : this.chosen().all(),
        );
        if (told.refused.length === 0) this.question.set(null);
        const things = this.wording.count(told.done.length, 'component', 'components');
        this.steps.told(doneText(act, things), told.back, () => this.done.emit());
        this.done.emit();
      },
      error: (error: unknown) => {
        this.busy.set(false);
        this.notices.failed(error);
      },
    });
  }
}
