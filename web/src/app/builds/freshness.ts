import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { RouterLink } from '@angular/router';
import { factsOf, type NamedCause, type RecipeCause, type VariantFreshness, type Vocabulary } from '@allomorph/core';
import { Api, problemText } from '../shared/api';
import { describeCondition } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { Session } from '../shared/session';
import { TimePipe } from '../shared/wording';

const recipeParts: Readonly<Record<RecipeCause, string>> = {
  'variant title': 'The variant has another title.',
  'publication title': 'The publication has another title.',
  values: 'A variable has another value: the variant, an entry of the outline or the publication sets it.',
  language: 'The variant has another language.',
  design: 'The design was changed.',
  formats: 'The variant is built in other formats.',
  vocabulary: 'The axes were changed.',
  empty: 'What is empty is treated otherwise.',
  date: 'The date of the build is shown, and today is another day.',
  application: 'The application was changed since the build.',
};

/** In words, why a deliverable is stale. */
export function causeText(cause: NamedCause, vocabulary: Vocabulary): string {
  switch (cause.kind) {
    case 'component':
      if (cause.to === 0) return 'is no longer there';
      return cause.from === 0 ? 'was missing, and is there now' : `changed from revision ${cause.from} to ${cause.to}`;
    case 'recipe':
      return recipeParts[cause.part];
    case 'outline':
      return 'The outline was changed.';
    case 'condition':
      return `${describeCondition(cause.when, vocabulary)} is answered otherwise: the profile, the axes or the stamps were changed.`;
    case 'own condition':
      return 'applies to others than before';
    case 'slot':
      return `Other snippets of “${cause.collection}” fit a slot.`;
  }
}

/** Which variants' last deliverables are still what building now would give, and why others are not. */
@Component({
  selector: 'al-freshness',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink, TimePipe],
  template: `
    @if (answer.error(); as error) {
      <p class="problem-text">{{ text(error) }}</p>
    } @else if (answer.hasValue()) {
      <details [open]="stale().length > 0">
        <summary>
          @if (stale().length > 0) {
            <b class="stale"
              >{{ stale().length }} of {{ built().length }} deliverables
              {{ stale().length === 1 ? 'is' : 'are' }} stale.</b
            >
          } @else if (built().length > 0) {
            <b class="fresh">{{
              built().length === 1
                ? 'The one deliverable is fresh.'
                : 'All ' + built().length + ' deliverables are fresh.'
            }}</b>
          } @else {
            <b>No variant has a deliverable yet.</b>
          }
          @if (built().length > 0 && without().length > 0) {
            <span class="soft"
              >{{ without().length }} {{ without().length === 1 ? 'variant has' : 'variants have' }} none.</span
            >
          }
          @if (stale().length > 0 && session.mayWrite()) {
            <button type="button" (click)="buildStale($event)">Build the stale ones</button>
          }
        </summary>
        <ul>
          @for (each of stale(); track each.variant) {
            <li>
              <b>{{ each.title }}</b>
              <span class="soft"
                >{{ each.publicationTitle }}, built {{ each.builtAt | alTime
                }}{{ onlyFormats(each) === '' ? '' : '; only ' + onlyFormats(each) }}</span
              >
              <ul class="causes">
                @for (cause of each.causes; track $index) {
                  <li>
                    @if (cause.kind === 'component' || cause.kind === 'own condition') {
                      <a [routerLink]="['/edit', cause.component]">{{ cause.title }}</a>
                    }
                    {{ reason(cause) }}
                  </li>
                }
              </ul>
            </li>
          }
          @for (each of without(); track each.variant) {
            <li>
              <b>{{ each.title }}</b> <span class="soft">{{ each.publicationTitle }}, no deliverable</span>
            </li>
          }
        </ul>
      </details>
    }
  `,
  styles: `
    :host {
      display: block;
      margin: 0 1.3rem 0.6rem 0.9rem;
      border: 1px solid var(--line);
      border-radius: 4px;
      background: var(--paper-deep);
    }
    details {
      padding: 0.55rem 0.9rem;
      max-height: 15rem;
      overflow: auto;
    }
    summary {
      cursor: pointer;
    }
    summary > * {
      margin-right: 0.7rem;
    }
    .stale {
      color: var(--warn);
    }
    .fresh {
      color: var(--good);
    }
    .soft {
      color: var(--soft);
    }
    li > .soft {
      margin-left: 0.4rem;
    }
    ul {
      list-style: none;
      margin: 0.5rem 0 0;
      padding: 0 0 0 1.1rem;
    }
    .causes {
      margin: 0.1rem 0 0.5rem;
      padding-left: 0.8rem;
      border-left: 3px solid var(--line);
    }
    a {
      color: var(--accent);
    }
    button {
      font: 600 0.88rem/1.2 var(--sans);
      color: var(--accent);
      background: none;
      border: 1px solid var(--accent);
      border-radius: 4px;
      padding: 0.25rem 0.6rem;
      cursor: pointer;
    }
  `,
})
export class Freshness {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  protected readonly session = inject(Session);

  /** Grows when builds ended: what was stale may be fresh now. */
  readonly readings = input.required<number>();
  readonly build = output<readonly string[]>();

  protected readonly answer = rxResource({ params: () => this.readings(), stream: () => this.api.freshness() });
  private readonly all = computed<readonly VariantFreshness[]>(() =>
    this.answer.hasValue() ? this.answer.value() : [],
  );
  protected readonly stale = computed(() => this.all().filter((each) => each.state === 'stale'));
  protected readonly built = computed(() => this.all().filter((each) => each.state !== 'no deliverable'));
  protected readonly without = computed(() => this.all().filter((each) => each.state === 'no deliverable'));
  protected readonly reason = (cause: NamedCause): string => causeText(cause, this.lens.vocabulary());
  protected readonly text = problemText;

  /** The formats that are stale where not all are. */
  protected onlyFormats({ formats, staleFormats }: VariantFreshness): string {
    const isWhole = formats.every(({ format }) => staleFormats.includes(format));
    return isWhole ? '' : staleFormats.map((name) => factsOf(name)?.title ?? name).join(', ');
  }

  protected buildStale(event: Event): void {
    // Inside the summary, a click would open or close the list, too.
    event.preventDefault();
    this.build.emit(this.stale().map((each) => each.variant));
  }
}
