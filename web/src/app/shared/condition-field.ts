import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import {
  describeUndefined,
  flattenValues,
  parseCondition,
  printCondition,
  simplify,
  undefinedIn,
  type Axis,
  type AxisValue,
} from '@allomorph/core';
import { Textarea } from 'primeng/textarea';
import { putTogether, takeApart } from './condition-parts';
import { laneColours, lanePatterns } from './lanes';
import { Lens } from './lens';

/** Edits one condition, by clicking values or by typing its text form; both show the same expression. */
@Component({
  selector: 'al-condition-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Textarea],
  template: `
    @if (parts(); as shown) {
      <div class="axes">
        @for (axis of lens.axes(); track axis.key) {
          <fieldset>
            <legend>
              {{ axis.title }}
              @if (shown.get(axis.key); as part) {
                <button type="button" class="not" (click)="turn(axis.key)" [attr.aria-pressed]="part.not">
                  {{ part.not ? 'none of' : 'any of' }}
                </button>
              }
            </legend>
            @for (item of flat(axis); track item.value.key) {
              <button
                type="button"
                class="value"
                [style.margin-left.rem]="item.ancestors.length * 0.9"
                [class.on]="shown.get(axis.key)?.values?.includes(item.value.key)"
                [attr.aria-pressed]="shown.get(axis.key)?.values?.includes(item.value.key) ?? false"
                (click)="toggle(axis.key, item.value.key)"
              >
                <span
                  class="swatch pattern-{{ item.value.pattern % patterns }}"
                  [style.--lane]="colour(item.value)"
                ></span>
                {{ item.value.title }}
              </button>
            }
          </fieldset>
        } @empty {
          <p class="note">There are no axes yet; a keeper adds them under Variation.</p>
        }
      </div>
    } @else if (!fault()) {
      <p class="note">This condition has alternatives across axes; change it as text.</p>
    }
    <label class="as-text" [for]="fieldId()">As text</label>
    <textarea
      pTextarea
      [id]="fieldId()"
      rows="2"
      class="mono"
      spellcheck="false"
      placeholder="always applies"
      [ngModel]="text()"
      (ngModelChange)="type($event)"
      [attr.aria-invalid]="fault() !== null"
    ></textarea>
    @if (fault(); as message) {
      <p class="problem-text" role="alert">{{ message }}</p>
    }
    @if (advice(); as hint) {
      <p class="note">
        {{ hint.text }}
        @if (hint.shorter; as shorter) {
          <button type="button" class="shorter mono" (click)="type(shorter)">{{ shorter }}</button>
        }
      </p>
    }
    @for (message of unknown(); track message) {
      <p class="warn">{{ message }}</p>
    }
  `,
  styles: `
    .axes {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(8.5rem, 1fr));
      gap: 0.6rem;
      margin-bottom: 0.6rem;
    }
    fieldset {
      border: 1px solid var(--line);
      border-radius: 3px;
      padding: 0.2rem 0.5rem 0.5rem;
      margin: 0;
      min-width: 0;
      display: flex;
      flex-direction: column;
      align-items: flex-start;
      gap: 0.15rem;
    }
    legend {
      font-weight: 600;
      padding: 0 0.3rem;
    }
    .not {
      border: 0;
      border-bottom: 1px dashed var(--accent);
      background: none;
      color: var(--accent);
      font: inherit;
      cursor: pointer;
      padding: 0;
      margin-left: 0.3rem;
    }
    .value {
      display: flex;
      align-items: center;
      gap: 0.4rem;
      border: 1px solid transparent;
      background: none;
      color: inherit;
      font: inherit;
      font-size: 0.92rem;
      padding: 0.08rem 0.4rem;
      border-radius: 3px;
      cursor: pointer;
      text-align: left;
    }
    .value:hover {
      border-color: var(--line);
    }
    .value.on {
      background: var(--tint);
      border-color: var(--accent);
      font-weight: 650;
    }
    .swatch {
      width: 0.9rem;
      height: 0.9rem;
      border-radius: 2px;
      flex: none;
    }
    .as-text {
      display: block;
      color: var(--soft);
      font-size: 0.88rem;
    }
    textarea {
      width: 100%;
      font-size: 0.84rem;
    }
    .note {
      color: var(--soft);
      margin: 0.2rem 0;
    }
    p {
      margin: 0.25rem 0;
    }
    .shorter {
      border: 0;
      border-bottom: 1px dashed var(--accent);
      background: none;
      color: var(--accent);
      cursor: pointer;
      padding: 0;
      text-align: left;
    }
    .warn {
      color: var(--warn);
    }
  `,
})
export class ConditionField {
  protected readonly lens = inject(Lens);

  /** The text form; null or empty: always. */
  readonly value = input<string | null>(null);
  /** Names what the condition is on: with another one the field begins anew. */
  readonly subject = input('');
  readonly fieldId = input('condition-text');
  /** A condition that can be read, or null for none. */
  readonly changed = output<string | null>();

  protected readonly patterns = lanePatterns;
  private readonly given = computed(() => ({ subject: this.subject(), text: this.value() ?? '' }), {
    equal: (a, b) => a.subject === b.subject && a.text === b.text,
  });
  protected readonly text = linkedSignal(() => this.given().text);
  protected readonly parts = computed(() => takeApart(this.text()));
  protected readonly fault = computed(() => {
    if (this.text().trim() === '') return null;
    const parsed = parseCondition(this.text());
    return parsed.ok ? null : `${parsed.message} (at sign ${parsed.start + 1})`;
  });
  /** What can be said of the whole expression: that it never or always holds, or that it can be shorter. */
  protected readonly advice = computed<{ readonly text: string; readonly shorter: string | null } | null>(() => {
    const parsed = parseCondition(this.text());
    if (!parsed.ok) return null;
    const simple = simplify(parsed.condition);
    if (simple.kind === 'never') return { text: 'This can never hold: it contradicts itself.', shorter: null };
    if (simple.kind === 'always') return { text: 'This always holds: it limits nothing.', shorter: null };
    const shorter = printCondition(simple.condition);
    return shorter.length < printCondition(parsed.condition).length
      ? { text: 'Shorter, and the same:', shorter }
      : null;
  });
  protected readonly unknown = computed(() => undefinedIn(this.text(), this.lens.vocabulary()).map(describeUndefined));

  protected flat(axis: Axis): ReturnType<typeof flattenValues> {
    return flattenValues(axis);
  }

  protected colour(value: AxisValue): string {
    return laneColours[value.colour % laneColours.length] ?? laneColours[0];
  }

  protected toggle(axis: string, value: string): void {
    const parts = new Map(this.parts() ?? []);
    const part = parts.get(axis) ?? { values: [], not: false };
    const values = part.values.includes(value) ? part.values.filter((each) => each !== value) : [...part.values, value];
    if (values.length === 0) parts.delete(axis);
    else parts.set(axis, { ...part, values });
    this.type(putTogether(parts));
  }

  protected turn(axis: string): void {
    const parts = new Map(this.parts() ?? []);
    const part = parts.get(axis);
    if (part) parts.set(axis, { ...part, not: !part.not });
    this.type(putTogether(parts));
  }

  protected type(text: string): void {
    this.text.set(text);
    if (text.trim() === '') this.changed.emit(null);
    else if (parseCondition(text).ok) this.changed.emit(text.trim());
  }
}
