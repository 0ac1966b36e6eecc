import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output, signal } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import { flattenValues, type Axis, type AxisValue, type NamingPlace } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { Select } from 'primeng/select';
import { of } from 'rxjs';
import { Api, problemText } from '../shared/api';
import { Notices } from '../shared/notices';
import { Wording } from '../shared/wording';

/** A value that somebody wants to do without. */
export interface ValueAsked {
  readonly axis: Axis;
  readonly value: AxisValue;
}

/** Retires a value, or merges it into another one, with everything that names it; shows before what that does. */
@Component({
  selector: 'al-give-up-value',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, Button, Dialog, Select],
  template: `
    <p-dialog
      [header]="'Do without “' + (asked()?.value?.title ?? '') + '”'"
      [modal]="true"
      [visible]="asked() !== null"
      (visibleChange)="closed.emit()"
      [style]="{ width: '40rem', 'max-width': '96vw' }"
    >
      <div class="field">
        <label for="give-up-into">What takes its place</label>
        <p-select
          inputId="give-up-into"
          ariaLabel="What takes its place"
          appendTo="body"
          [options]="others()"
          optionLabel="label"
          optionValue="key"
          [filter]="others().length > 12"
          filterBy="label"
          [ngModel]="into()"
          (ngModelChange)="into.set($event)"
        />
        <small>{{
          into() === ''
            ? 'Retired: conditions are rewritten as if it were out everywhere.'
            : 'Merged: each condition that names it names the other one from now on.'
        }}</small>
      </div>
      @if (problem(); as text) {
        <p class="problem-text" role="alert">{{ text }}</p>
      } @else if (told.error(); as error) {
        <p class="problem-text" role="alert">{{ textOf(error) }}</p>
      } @else if (told.hasValue() && told.value(); as plan) {
        <div class="plan" aria-live="polite">
          @if (plan.named.length === 0) {
            <p>Nothing names it.</p>
          } @else {
            <p>
              {{ wording.count(conditions(), 'condition', 'conditions') }} in
              {{ wording.count(plan.named.length, 'place', 'places') }}
              {{ conditions() === 1 ? 'is' : 'are' }} rewritten:
            </p>
            <ul class="places">
              @for (place of plan.named.slice(0, shown()); track place.kind + place.key) {
                <li>
                  <a [routerLink]="linkTo(place)" target="_blank">{{ place.title }}</a>
                  <span class="soft">{{ kindOf(place) }}{{ place.conditions > 1 ? ', ' + place.conditions : '' }}</span>
                </li>
              }
              @if (plan.named.length > shown()) {
                <li>
                  <button type="button" class="act" (click)="shown.set(plan.named.length)">
                    {{ plan.named.length - shown() }} more
                  </button>
                </li>
              }
            </ul>
          }
          @if (plan.blocked.length > 0) {
            <div class="stop">
              <p>
                <b>{{ wording.count(plan.blocked.length, 'thing is', 'things are') }} wholly for it.</b> Delete
                {{ plan.blocked.length === 1 ? 'it' : 'them' }}, or change
                {{ plan.blocked.length === 1 ? 'its' : 'their' }} condition first:
              </p>
              <ul>
                @for (place of plan.blocked; track place.kind + place.key) {
                  <li>
                    <a [routerLink]="linkTo(place)" target="_blank">{{ place.title }}</a>
                    <span class="soft">{{ kindOf(place) }}</span>
                  </li>
                }
              </ul>
            </div>
          }
          @if (plan.lostCount > 0) {
            <div class="goes">
              <p>
                <b
                  >{{ wording.count(plan.lostCount, 'passage is', 'passages are') }} only for it and
                  {{ plan.lostCount === 1 ? 'goes' : 'go' }} with it:</b
                >
              </p>
              <ul>
                @for (each of plan.lost; track $index) {
                  <li>
                    “{{ each.text }}” <a [routerLink]="linkTo(each)" target="_blank">{{ each.title }}</a>
                  </li>
                }
                @if (plan.lostCount > plan.lost.length) {
                  <li class="soft">and {{ plan.lostCount - plan.lost.length }} more</li>
                }
              </ul>
            </div>
          }
          @for (profile of plan.differing; track profile.title) {
            <p class="differs">
              In <b>{{ profile.title }}</b> it is {{ profile.isIn ? 'in' : 'out' }} and the other one
              {{ profile.isIn ? 'out' : 'in' }}: what is for it will be {{ profile.isIn ? 'out' : 'in' }} there.
            </p>
          }
          @if (plan.held > 0) {
            <p class="soft">
              {{ wording.count(plan.held, 'placement holds', 'placements hold') }} an earlier revision, which goes on
              naming it.
            </p>
          }
        </div>
      } @else {
        <p class="soft">Looking for what names it …</p>
      }
      <div class="end">
        <p-button label="Cancel" [text]="true" (onClick)="closed.emit()" />
        <p-button [label]="doing()" severity="danger" [disabled]="!mayGo()" [loading]="isGoing()" (onClick)="go()" />
      </div>
    </p-dialog>
  `,
  styles: `
    .plan {
      max-height: 50vh;
      overflow: auto;
    }
    ul {
      margin: 0 0 0.8rem;
      padding-left: 1.2rem;
    }
    p {
      margin: 0.4rem 0;
    }
    .soft {
      color: var(--soft);
    }
    li .soft {
      margin-left: 0.4rem;
    }
    a {
      color: var(--accent);
    }
    .end {
      display: flex;
      justify-content: flex-end;
      gap: 0.5rem;
      margin-top: 1.2rem;
    }
    .stop,
    .goes,
    .differs {
      border-left: 3px solid var(--warn);
      padding-left: 0.8rem;
      margin-top: 0.8rem;
    }
  `,
})
export class GiveUpValue {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly wording = inject(Wording);

  readonly asked = input.required<ValueAsked | null>();
  readonly closed = output<void>();
  /** It was done, or taken back. */
  readonly changed = output<void>();

  /** The value that stands for it; the empty text: none. */
  protected readonly into = signal('');
  protected readonly shown = signal(8);
  protected readonly problem = signal('');
  protected readonly isGoing = signal(false);
  protected readonly others = computed(() => {
    const asked = this.asked();
    const others = asked ? flattenValues(asked.axis).filter(({ value }) => value.key !== asked.value.key) : [];
    return [
      { key: '', label: 'nothing: retire it' },
      ...others.map(({ value }) => ({ key: value.key, label: `“${value.title}”: merge it` })),
    ];
  });
  protected readonly told = rxResource({
    params: () => ({ asked: this.asked(), into: this.into() }),
    stream: ({ params: { asked, into } }) =>
      asked ? this.api.valueGivenUp(asked.axis.key, asked.value.key, into || undefined) : of(undefined),
  });
  protected readonly conditions = computed(() =>
    (this.told.hasValue() ? (this.told.value()?.named ?? []) : []).reduce((sum, each) => sum + each.conditions, 0),
  );
  protected readonly mayGo = computed(
    () => this.told.hasValue() && !this.told.isLoading() && this.told.value()?.blocked.length === 0,
  );
  protected readonly doing = computed(() => (this.into() === '' ? 'Retire' : 'Merge'));

  constructor() {
    effect(() => {
      this.asked();
      this.into.set('');
      this.shown.set(8);
      this.problem.set('');
    });
  }

  protected textOf(error: unknown): string {
    return problemText(error);
  }

  protected kindOf(place: NamingPlace): string {
    return place.kind === 'component' ? '' : place.kind;
  }

  protected linkTo({ kind, key }: NamingPlace): readonly string[] {
    if (kind === 'component') return ['/edit', key];
    return kind === 'publication' ? ['/publications', key] : [kind === 'variant' ? '/publications' : '/variation'];
  }

  protected go(): void {
    const asked = this.asked();
    if (!asked || !this.told.hasValue()) return;
    this.isGoing.set(true);
    this.problem.set('');
    const into = this.into() || undefined;
    this.api
      .giveUpValue(asked.axis.key, { value: asked.value.key, into, lost: this.told.value()?.lostCount ?? 0 })
      .subscribe({
        next: (act) => {
          this.isGoing.set(false);
          this.closed.emit();
          this.changed.emit();
          this.notices.undoable(`${act.what}.`, () => this.takeBack(act.id));
        },
        error: (error: unknown) => {
          this.isGoing.set(false);
          this.problem.set(problemText(error));
        },
      });
  }

  private takeBack(id: string): void {
    takeActBack(this.api, this.notices, id, () => this.changed.emit());
  }
}

/** Takes an act back and says what of it stays. */
export function takeActBack(api: Api, notices: Notices, id: string, done: () => void): void {
  api.takeVocabularyActBack(id).subscribe({
    next: ({ refused }) => {
      done();
      const [first] = refused;
      if (first) notices.failed(new Error(`Taken back, but for ${refused.length}. ${first.why}`));
      else notices.done('Taken back: everything is as it was.');
    },
    error: (error: unknown) => notices.failed(error),
  });
}
