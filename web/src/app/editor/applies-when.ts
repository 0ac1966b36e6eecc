import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { conditionOn, printCondition, Selector, standingCondition } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Select } from 'primeng/select';
import { ConditionField } from '../shared/condition-field';
import { LaneChips } from '../shared/lane-chips';
import { describeCondition } from '../shared/lanes';
import { Lens } from '../shared/lens';
import { RecentConditions } from '../shared/recent-conditions';
import { likelyTarget, type LimitTarget } from './limit-targets';
import { kindName } from './schema-types';

/** What a target is called in the panel. */
export function targetName(target: LimitTarget): string {
  if (target.kind === 'whole') return target.type === 'topic' ? 'the whole topic' : 'the whole snippet';
  if (target.kind === 'words') return 'these words';
  if (target.kind === 'blocks') return target.named ?? `these ${target.positions.length} blocks`;
  return target.kind === 'column' ? `column ${target.column + 1}` : kindName(target.type);
}

function isIn(target: LimitTarget, selector: Selector): boolean {
  const stamp = 'stamp' in target ? (target.stamp ?? null) : null;
  if ('unless' in target && target.unless?.some((when) => selector.holds(when))) return false;
  return selector.holds(conditionOn({ attrs: { when: target.when, stamp } }));
}

/** Says under which condition the chosen block or words apply, and changes it. */
@Component({
  selector: 'al-applies-when',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, ConditionField, LaneChips, Select],
  template: `
    @if (target(); as chosen) {
      <div class="targets" role="radiogroup" aria-label="What the condition is on">
        @for (each of targets(); track $index) {
          <button
            type="button"
            role="radio"
            [attr.aria-checked]="$index === index()"
            [class.on]="$index === index()"
            (click)="index.set($index)"
          >
            {{ name(each) }}
            @if (each.when) {
              <span class="dot" title="Has a condition">●</span>
            }
          </button>
        }
      </div>
      <p class="now">
        @if (chosen.when) {
          <b>{{ name(chosen) }}</b>
          {{ chosen.kind === 'blocks' && chosen.named?.startsWith('this ') !== true ? 'apply' : 'applies' }} only to
          {{ describe(chosen.when) }}.
        } @else if (chosen.kind === 'blocks') {
          @if (chosen.named === 'this cell') {
            <b>{{ name(chosen) }}</b> applies wherever its row and column do. A condition here leaves it empty
            elsewhere.
          } @else {
            Each of <b>{{ name(chosen) }}</b> keeps its own condition until one is applied to all.
          }
        } @else if (chosen.kind === 'whole') {
          <b>{{ name(chosen) }}</b> applies wherever it is placed. A condition here holds in every outline and
          placement.
        } @else if (standing()) {
          <b>{{ name(chosen) }}</b> has no condition of its own; its stamp has one.
        } @else {
          <b>{{ name(chosen) }}</b> applies wherever what it stands in does.
        }
      </p>
      <al-condition-field [value]="chosen.when" [subject]="subject().name" (changed)="pending.set($event)" />
      @if (variants(); as where) {
        <details class="variants">
          <summary>
            In <b>{{ where.titles.length }}</b> of {{ where.all }} variants{{
              pending() === chosen.when ? '' : ', once applied'
            }}
          </summary>
          <ul>
            @for (title of where.titles; track $index) {
              <li>{{ title }}</li>
            } @empty {
              <li>In none of them.</li>
            }
          </ul>
        </details>
      }
      <div class="end">
        @if (chosen.when) {
          <p-button label="Take away" size="small" [text]="true" (onClick)="put(chosen, null)" />
        }
        <p-button
          label="Apply"
          size="small"
          [disabled]="pending() === chosen.when"
          (onClick)="put(chosen, pending())"
        />
      </div>
      @if (usedBefore().length > 0) {
        <div class="before" role="group" aria-label="Conditions used before">
          <span>Used before, put on with one click:</span>
          @for (when of usedBefore(); track when) {
            <button type="button" [disabled]="when === chosen.when" (click)="put(chosen, when)">
              <al-lane-chips [conditions]="[when]" /> {{ describe(when) }}
            </button>
          }
        </div>
      }
      @if (stamps().length > 0) {
        <div class="stamp">
          Stamp
          <p-select
            ariaLabel="Stamp"
            size="small"
            appendTo="body"
            [options]="stamps()"
            optionLabel="title"
            optionValue="key"
            [ngModel]="stamp()"
            (ngModelChange)="stamped.emit({ target: chosen, stamp: $event || null })"
          />
        </div>
        @if (standing(); as text) {
          <p class="now soft">Its standing condition: {{ text }}.</p>
        }
      }
    } @else {
      <p class="now">Put the cursor in a block, or select words, to say where they apply.</p>
    }
  `,
  styles: `
    .targets {
      display: flex;
      flex-wrap: wrap;
      gap: 0.3rem;
      margin-bottom: 0.5rem;
    }
    .targets button {
      border: 1px solid var(--line);
      background: none;
      color: inherit;
      font: inherit;
      font-size: 0.86rem;
      border-radius: 999px;
      padding: 0.06rem 0.6rem;
      cursor: pointer;
    }
    .targets button.on {
      background: var(--accent);
      border-color: var(--accent);
      color: var(--paper);
      font-weight: 600;
    }
    .dot {
      color: var(--warn);
    }
    .on .dot {
      color: inherit;
    }
    .now {
      margin: 0 0 0.6rem;
    }
    .stamp {
      display: flex;
      align-items: center;
      gap: 0.6rem;
      margin: 0.9rem 0 0.4rem;
      padding-top: 0.7rem;
      border-top: 1px solid var(--line);
    }
    .stamp p-select {
      flex: 1;
    }
    .variants {
      margin: 0.6rem 0 0;
    }
    .variants summary {
      cursor: pointer;
    }
    .variants ul {
      margin: 0.3rem 0;
      padding-left: 1.2rem;
      max-height: 9rem;
      overflow: auto;
    }
    .before {
      margin-top: 0.9rem;
      padding-top: 0.6rem;
      border-top: 1px solid var(--line);
    }
    .before span {
      color: var(--soft);
      font-size: 0.88rem;
    }
    .before button {
      display: flex;
      align-items: center;
      gap: 0.5rem;
      width: 100%;
      text-align: left;
      font: inherit;
      color: inherit;
      background: none;
      border: 0;
      border-radius: 3px;
      padding: 0.2rem 0.3rem;
      cursor: pointer;
    }
    .before button:hover:not([disabled]) {
      background: var(--tint);
    }
    .before button[disabled] {
      color: var(--soft);
      cursor: default;
    }
    .end {
      display: flex;
      justify-content: flex-end;
      gap: 0.5rem;
      margin-top: 0.5rem;
    }
  `,
})
export class AppliesWhen {
  private readonly lens = inject(Lens);
  private readonly recent = inject(RecentConditions);

  readonly targets = input.required<readonly LimitTarget[]>();
  readonly apply = output<{ readonly target: LimitTarget; readonly when: string | null }>();
  /** The conditions that stand in the component, repeats included. */
  readonly inUse = input<readonly string[]>([]);
  protected readonly index = linkedSignal(() => likelyTarget(this.targets()));
  protected readonly target = computed(() => this.targets()[this.index()] ?? null);
  /** What is being limited: what was chosen for one target is never put on another. */
  protected readonly subject = computed(
    () => {
      const target = this.target();
      return { name: JSON.stringify(target), when: target?.when ?? null };
    },
    { equal: (a, b) => a.name === b.name },
  );
  protected readonly pending = linkedSignal<string | null>(() => this.subject().when);
  readonly stamped = output<{ readonly target: LimitTarget; readonly stamp: string | null }>();
  /** Those applied last, then those that the component has most; six are enough to choose from. */
  protected readonly usedBefore = computed(() => {
    const counts = new Map<string, number>();
    for (const when of this.inUse()) counts.set(when, (counts.get(when) ?? 0) + 1);
    const frequent = [...counts].sort(([, a], [, b]) => b - a).map(([when]) => when);
    return [...new Set([...this.recent.conditions(), ...frequent])].slice(0, 6);
  });
  private readonly selectors = computed(() => {
    const { profiles } = this.lens.variation();
    const vocabulary = this.lens.vocabulary();
    const made = new Map(profiles.map((profile) => [profile.key, new Selector(vocabulary, profile)]));
    return this.lens.variants().flatMap(({ title, profile }) => {
      const selector = made.get(profile);
      return selector ? [{ title, selector }] : [];
    });
  });
  /** The variants that the place is in by all conditions around it in this component, and by the one that is being chosen. */
  protected readonly variants = computed(() => {
    const around = this.targets().slice(0, this.index());
    const chosen = this.target();
    const all = this.selectors();
    if (!chosen || all.length === 0) return null;
    const limits = [...around, { ...chosen, when: this.pending() }];
    const found = all.filter(({ selector }) => limits.every((target) => isIn(target, selector)));
    return { titles: found.map(({ title }) => title), all: all.length };
  });
  protected readonly name = targetName;
  protected readonly stamp = computed(() => {
    const target = this.target();
    return target && 'stamp' in target ? (target.stamp ?? '') : '';
  });
  /** What can be put on the target: nothing, and the stamps that may stand there; empty where none can. */
  protected readonly stamps = computed(() => {
    const target = this.target();
    const all = this.lens.variation().stamps;
    if (!target || !('stamp' in target) || target.stamp === undefined) return [];
    const place = target.kind === 'words' ? 'phrases' : 'blocks';
    const fitting = all.filter(({ on, key }) => on === 'both' || on === place || key === target.stamp);
    return fitting.length === 0 ? [] : [{ key: '', title: 'none' }, ...fitting];
  });
  /** What the stamp asks for; empty where it asks for nothing. */
  protected readonly standing = computed(() => {
    const key = this.stamp();
    const asked = key === '' ? '' : printCondition(standingCondition(key, this.lens.variation().stamps));
    return asked === '' ? '' : this.describe(asked);
  });

  protected put(target: LimitTarget, when: string | null): void {
    if (when !== null) this.recent.add(when);
    this.apply.emit({ target, when });
  }

  protected describe(when: string): string {
    return describeCondition(when, this.lens.vocabulary());
  }
}
