import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { Origin, OriginCondition, OriginEntry, OriginStep, OriginUse } from '@allomorph/core';
import { componentAddress, kindIcons, kindNames } from '../shared/kinds';
import { describeCondition } from '../shared/lanes';
import { Lens } from '../shared/lens';

interface ShownCondition {
  readonly text: string;
  readonly holds: boolean;
}

interface ShownStep {
  readonly step: OriginStep;
  readonly icon: string;
  readonly kind: string;
  readonly commands: readonly unknown[];
  readonly query: Readonly<Record<string, string>>;
  readonly conditions: readonly ShownCondition[];
}

const howWords: Readonly<Record<OriginStep['how'], string>> = {
  passage: 'here it was written',
  placed: 'places',
  held: 'places, held at its revision,',
  slot: 'has a slot, which takes',
};

const givers: Readonly<Record<Extract<OriginUse, { kind: 'variable' }>['from'], string>> = {
  entry: 'given by the entry',
  variant: 'given by the variant',
  publication: 'given by the publication',
  rule: 'by a rule of the variable',
  default: 'the variable’s default',
  recipe: 'what the build knows of itself',
  nobody: 'nobody gives it a value',
};

/** The way of a passage from its entry down to where it was written, with the conditions on it and what its lines use. */
@Component({
  selector: 'al-origin-way',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterLink],
  template: `
    @if (reasons(); as why) {
      <p class="verdict out">
        <b>Left out</b>, because
        @for (each of why; track $index) {
          {{ $first ? '' : 'and ' }}{{ each }}
        }
      </p>
    }
    <ol>
      @for (entry of entries(); track entry.entry) {
        <li class="entry">
          <span class="kind">entry</span>
          <a [routerLink]="['/publications', publication()]" [queryParams]="{ entry: entry.entry }">{{
            entry.title
          }}</a>
          @for (each of entry.conditions; track $index) {
            <span class="condition" [class.out]="!each.holds">{{ each.text }}</span>
          }
        </li>
      }
      @for (shown of steps(); track $index) {
        <li>
          <span class="kind"><i class="{{ shown.icon }}" aria-hidden="true"></i> {{ shown.kind }}</span>
          <a [routerLink]="shown.commands" [queryParams]="shown.query">{{ shown.step.title }}</a>
          <span class="soft">&ngsp;revision {{ shown.step.revision }}</span>
          @for (each of shown.conditions; track $index) {
            <span class="condition" [class.out]="!each.holds">{{ each.text }}</span>
          }
          <span class="how">{{ words[shown.step.how] }}</span>
        </li>
      }
    </ol>
    @if (origin().uses.length > 0) {
      <h3>In its words</h3>
      <ul>
        @for (use of origin().uses; track $index) {
          <li>
            @switch (use.kind) {
              @case ('variable') {
                <a routerLink="/variables" [queryParams]="{ key: use.key }">{{ use.title }}</a>
                @if (use.reads !== '') {
                  reads <b>{{ use.reads }}</b>,
                }
                <span class="soft"
                  >{{ givers[use.from] }}{{ use.when === null ? '' : ' for ' + inWords(use.when) }}</span
                >
              }
              @case ('words') {
                “{{ use.text }}”
                <span class="condition" [class.out]="!use.holds">{{ inWords(use.when) }}</span>
              }
              @default {
                {{ use.kind }}
                <a [routerLink]="['/edit', use.key]">{{ use.title }}</a>
              }
            }
          </li>
        }
      </ul>
    }
  `,
  styleUrl: './origin-way.css',
})
export class OriginWay {
  private readonly lens = inject(Lens);

  readonly origin = input.required<Origin>();
  /** The entries down to the page. */
  readonly way = input.required<readonly OriginEntry[]>();
  readonly publication = input.required<string>();

  protected readonly words = howWords;
  protected readonly givers = givers;
  protected readonly entries = computed(() =>
    this.way().map(({ entry, title, when, holds }) => ({
      entry,
      title,
      conditions: when === null ? [] : [{ text: this.inWords(when), holds }],
    })),
  );
  protected readonly steps = computed(() =>
    this.origin().steps.map((step): ShownStep => {
      const { component, kind, block } = step;
      const { commands } = componentAddress(kind, component);
      const conditions = step.conditions.map((each) => ({ text: this.condition(each), holds: each.holds }));
      const query: Readonly<Record<string, string>> = block === null ? {} : { block };
      return { step, icon: kindIcons[kind], kind: kindNames[kind], commands, query, conditions };
    }),
  );
  /** Why the passage is not in; null: it is. */
  protected readonly reasons = computed((): readonly string[] | null => {
    const { steps, isLeftOut } = this.origin();
    if (!isLeftOut) return null;
    const failing = steps.flatMap((step) =>
      step.conditions
        .filter(({ holds }) => !holds)
        .map((each) =>
          each.on === 'case'
            ? `in “${step.title}” it is ${this.condition(each)}`
            : `“${step.title}” limits it: ${this.condition(each)}`,
        ),
    );
    return failing.length > 0 ? failing : ['nothing was left of what stands in it'];
  });

  /** A condition in words. */
  protected inWords(when: string): string {
    return describeCondition(when, this.lens.vocabulary());
  }

  private condition({ when, holds, on }: OriginCondition): string {
    if (on === 'case') {
      const words = when === null ? 'otherwise' : this.inWords(when);
      return holds ? `the case “${words}”` : `the case “${words}”, and another one is taken`;
    }
    const where = { block: '', around: 'what it stands in: ', column: 'its column: ' }[on];
    return where + this.inWords(when ?? '');
  }
}
