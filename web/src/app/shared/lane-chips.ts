import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { describeCondition, laneCode, laneColour, lanePattern, lanesOf } from './lanes';
import { Lens } from './lens';

/** A condition in small: one swatch with codes for each axis it limits. */
@Component({
  selector: 'al-lane-chips',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (lane of lanes(); track $index) {
      <span class="lane" [style.--lane]="lane.colour" [title]="lane.title">
        <span class="swatch {{ lane.pattern }}"></span>{{ lane.code }}
      </span>
    }
  `,
  styles: `
    :host {
      display: inline-flex;
      gap: 0.5rem;
      flex-wrap: wrap;
    }
    .lane {
      display: inline-flex;
      align-items: center;
      gap: 0.25rem;
      font: 600 0.76rem/1 var(--mono);
      white-space: nowrap;
    }
    .swatch {
      width: 0.75rem;
      height: 0.95rem;
      border-radius: 1px;
    }
  `,
})
export class LaneChips {
  private readonly lens = inject(Lens);

  /** The text forms of one or several conditions. */
  readonly conditions = input.required<readonly string[]>();
  protected readonly lanes = computed(() => {
    const vocabulary = this.lens.vocabulary();
    return this.conditions()
      .slice(0, 4)
      .flatMap((when) =>
        lanesOf(when, vocabulary).map((lane) => ({
          colour: laneColour(lane),
          pattern: lanePattern(lane),
          code: laneCode(lane),
          title: describeCondition(when, vocabulary),
        })),
      );
  });
}
