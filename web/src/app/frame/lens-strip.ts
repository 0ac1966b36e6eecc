import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Axis } from '@allomorph/core';
import { MultiSelect } from 'primeng/multiselect';
import { Select } from 'primeng/select';
import { SelectButton } from 'primeng/selectbutton';
import { Bindings, keyText } from '../shared/bindings';
import { Lens, ownPick, type LensChoice, type LensMode } from '../shared/lens';
import { leavesOf } from '../shared/lens-pick';

interface Group {
  readonly label: string;
  readonly items: readonly { readonly label: string; readonly value: string }[];
}

/** Says through which variant or profile content is seen, what that hides and how what is out is drawn. */
@Component({
  selector: 'al-lens-strip',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, MultiSelect, Select, SelectButton],
  host: { role: 'region', 'aria-label': 'Lens' },
  template: `
    <span class="what" id="lens-name">Lens</span>
    <p-select
      class="choice"
      [class.short]="lens.pick()"
      ariaLabelledBy="lens-name"
      [options]="groups()"
      [group]="true"
      optionLabel="label"
      optionValue="value"
      placeholder="Everything, no lens"
      [filter]="true"
      filterPlaceholder="Find a variant or profile"
      [resetFilterOnHide]="true"
      [showClear]="true"
      scrollHeight="22rem"
      [ngModel]="lens.current()?.id ?? null"
      (ngModelChange)="lens.look($event)"
    />
    @if (lens.pick(); as pick) {
      <div class="axes picked" role="group" aria-label="What is in">
        @for (axis of lens.axes(); track axis.key) {
          <p-multiselect
            size="small"
            appendTo="body"
            [ariaLabel]="axis.title"
            [options]="leaves(axis)"
            optionLabel="title"
            optionValue="key"
            [placeholder]="axis.title + ': open'"
            [maxSelectedLabels]="2"
            [selectedItemsLabel]="axis.title + ': {0}'"
            [showToggleAll]="false"
            [filter]="leaves(axis).length > 12"
            [ngModel]="pick[axis.key] ?? []"
            (ngModelChange)="lens.pickValues(axis.key, $event)"
          />
        }
      </div>
    } @else if (lens.current()) {
      <ul class="axes" aria-label="What is in">
        @for (axis of lens.axisTexts(); track axis.axis) {
          <li>
            <b>{{ axis.axis }}</b> {{ axis.text }}
          </li>
        }
      </ul>
    }
    @if (lens.current()) {
      @if (lens.hidden(); as hidden) {
        <span class="count" aria-live="polite" [title]="lens.open() ? undecided : ''">{{ told(hidden) }}</span>
      }
      <p-selectbutton
        size="small"
        ariaLabelledBy="lens-out"
        [allowEmpty]="false"
        [options]="modes"
        optionLabel="label"
        optionValue="value"
        [ngModel]="lens.mode()"
        (ngModelChange)="lens.mode.set($event)"
      />
      <span id="lens-out" class="sr-only">How what is out is drawn</span>
    } @else {
      <span class="hint"
        >All content is shown. Choose a variant to read as its readers will; <kbd>{{ key() }}</kbd> switches.</span
      >
    }
  `,
  styles: `
    :host {
      display: flex;
      align-items: center;
      gap: 1rem;
      padding: 0.3rem 1.2rem;
      min-height: 2.9rem;
      border-bottom: 1px solid var(--line);
      background: var(--paper-deep);
      font-size: 0.9rem;
    }
    :host-context(.with-lens) {
      background: color-mix(in srgb, var(--lens) 16%, var(--paper));
      border-bottom: 2px solid var(--lens);
    }
    .what {
      font-weight: 650;
    }
    :host-context(.with-lens) .what {
      background: var(--lens);
      color: #fff;
      padding: 0.1rem 0.6rem;
      border-radius: 999px;
    }
    .choice {
      width: 21rem;
      flex: none;
    }
    .choice.short {
      width: 13.5rem;
    }
    .axes {
      list-style: none;
      margin: 0;
      padding: 0;
      display: flex;
      gap: 1.1rem;
      flex: 1;
      min-width: 0;
      overflow: hidden;
      white-space: nowrap;
    }
    .axes li {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .picked {
      gap: 0.5rem;
      overflow: visible;
      flex-wrap: wrap;
    }
    .picked p-multiselect {
      min-width: 6rem;
      flex: 0 1 10.5rem;
    }
    .axes b {
      color: var(--soft);
      font-weight: 500;
      margin-right: 0.25rem;
    }
    .count {
      font-weight: 650;
      white-space: nowrap;
    }
    .hint {
      color: var(--soft);
    }
    :host(.stacked) {
      flex-direction: column;
      align-items: stretch;
      gap: 0.6rem;
      width: min(21rem, 84vw);
      padding: 0.2rem;
      border: 0;
      background: none;
    }
    .stacked .choice,
    :host(.stacked) .choice {
      width: 100%;
    }
    :host(.stacked) .axes {
      flex-direction: column;
      gap: 0.2rem;
      white-space: normal;
    }
  `,
})
export class LensStrip {
  protected readonly lens = inject(Lens);
  private readonly bindings = inject(Bindings);
  protected readonly key = computed(() => keyText(this.bindings.keyFor('lens')));
  protected readonly leaves = (axis: Axis): { key: string; title: string }[] => [...leavesOf(axis)];
  protected readonly undecided = 'Open: neither in nor out for sure, as it hangs on an axis of which nothing is picked';

  protected told({ count, what, open = 0 }: NonNullable<ReturnType<Lens['hidden']>>): string {
    const out = `${count} ${this.plural[what][count === 1 ? 0 : 1]} out`;
    return this.lens.open() ? `${out}, ${open} open` : out;
  }

  protected readonly plural = { block: ['block', 'blocks'], entry: ['entry', 'entries'] } as const;
  protected readonly modes: { label: string; value: LensMode }[] = [
    { label: 'Ghost', value: 'ghost' },
    { label: 'Fold', value: 'fold' },
  ];
  protected readonly groups = computed<Group[]>(() => {
    const groups = new Map<string, Pick<LensChoice, 'id' | 'title'>[]>([
      [ownPick, [{ id: this.lens.pickFromHere(), title: 'Pick values yourself' }]],
    ]);
    for (const choice of this.lens.choices()) groups.set(choice.group, [...(groups.get(choice.group) ?? []), choice]);
    return [...groups].map(([label, items]) => ({
      label,
      items: items.map(({ id, title }) => ({ label: title, value: id })),
    }));
  });
}
