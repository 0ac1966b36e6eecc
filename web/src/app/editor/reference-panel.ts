import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { referenceForms, type Component as LibraryComponent, type ReferenceForm } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { Api } from '../shared/api';
import { Lens } from '../shared/lens';
import { EditorLibrary } from './editor-library';
import { panelStyle } from './panel-style';

const formNames: Readonly<Record<(typeof referenceForms)[number], string>> = {
  title: 'Title',
  'number-title': 'Number and title',
  number: 'Number',
  page: 'Page',
  text: 'Own words',
};

/** Where a cross-reference leads: to a component, or a block in it; null: this one, all of it. */
export interface ReferenceTarget {
  readonly component: string | null;
  readonly target: string | null;
}

/** How a selected cross-reference reads. */
@Component({
  selector: 'al-reference-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, Select],
  template: `
    <p>
      Leads to <b>{{ target() }}</b>.
    </p>
    <p aria-live="polite">
      @if (variant(); as shown) {
        In <b>{{ shown.title }}</b> it reads
        @if (!readings.hasValue()) {
          …
        } @else if (reads(); as words) {
          “{{ words }}”{{ isPage() ? ' on screens, and the number of the page on paper' : '' }}.
        } @else {
          nothing: it leads nowhere there, as saved.
        }
      } @else {
        What it reads is worked out for each variant, by the design: look through one to see it.
      }
    </p>
    <p class="acts">
      <button type="button" class="plain-button" (click)="followed.emit(where())">Go there</button>
      <button type="button" class="plain-button" (click)="leadElsewhere.emit()">Lead elsewhere …</button>
    </p>
    <div class="field">
      <label for="reference-form">Reads as</label>
      <p-select
        inputId="reference-form"
        ariaLabel="Reads as"
        [options]="forms()"
        optionLabel="label"
        optionValue="value"
        [ngModel]="node().attrs['form']"
        (ngModelChange)="altered.emit({ form: $event })"
      />
    </div>
    @if (node().attrs['form'] === 'text') {
      <div class="field">
        <label for="reference-text">Own words</label>
        <input
          pInputText
          id="reference-text"
          [ngModel]="node().attrs['text'] ?? ''"
          [ngModelOptions]="{ updateOn: 'blur' }"
          (ngModelChange)="altered.emit({ text: $event || null })"
        />
      </div>
    }
  `,
  styles: `
    ${panelStyle}
    .acts {
      display: flex;
      flex-wrap: wrap;
      gap: 0.2rem 1rem;
    }
  `,
})
export class ReferencePanel {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly library = inject(EditorLibrary);

  readonly node = input.required<Node>();
  readonly own = input.required<LibraryComponent>();
  /** Changed attributes of the reference. */
  readonly altered = output<Readonly<Record<string, unknown>>>();
  readonly followed = output<ReferenceTarget>();
  readonly leadElsewhere = output<void>();
  protected readonly where = computed(() => this.node().attrs as ReferenceTarget);
  /** The variant that is looked through. */
  protected readonly variant = computed(() => this.lens.current()?.variant ?? null);
  /** What it reads there in each form: worked out on the server, where the rest of the publication is. */
  protected readonly readings = rxResource({
    params: () => {
      const variant = this.variant();
      const { key: from, revision } = this.own();
      const { component, target } = this.where();
      if (!variant) return undefined;
      const block = target === null ? {} : { block: target };
      return { id: variant.id, query: { from, to: component ?? from, ...block }, revision };
    },
    stream: ({ params: { id, query } }) => this.api.referenceReadings(id, query),
  });
  protected readonly isPage = computed(() => this.node().attrs['form'] === 'page');
  protected readonly reads = computed(() => {
    const { form, text } = this.node().attrs as { form: ReferenceForm; text: string | null };
    const found = this.readings.hasValue() ? this.readings.value().readings : null;
    if (!found) return null;
    return form === 'text' ? (text ?? found['number-title']) : found[form];
  });
  protected readonly forms = computed(() => {
    const found = this.readings.hasValue() ? this.readings.value().readings : null;
    return referenceForms.map((value) => ({
      value,
      label: !found || value === 'text' || value === 'page' ? formNames[value] : `${formNames[value]}: ${found[value]}`,
    }));
  });
  protected readonly target = computed(() => {
    this.library.changes();
    const { component, target } = this.where();
    return this.library.targetTitle(component, target, this.own());
  });
}
