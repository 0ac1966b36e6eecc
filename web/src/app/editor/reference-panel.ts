import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { referenceForms, type Component as LibraryComponent } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
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
      Leads to <b>{{ target() }}</b>. What it reads is worked out for each variant, by the design.
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
        [options]="forms"
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
  styles: panelStyle,
})
export class ReferencePanel {
  private readonly library = inject(EditorLibrary);

  readonly node = input.required<Node>();
  readonly own = input.required<LibraryComponent>();
  /** Changed attributes of the reference. */
  readonly altered = output<Readonly<Record<string, unknown>>>();
  readonly followed = output<ReferenceTarget>();
  readonly leadElsewhere = output<void>();
  protected readonly where = computed(() => this.node().attrs as ReferenceTarget);
  protected readonly forms = referenceForms.map((value) => ({ value, label: formNames[value] }));
  protected readonly target = computed(() => {
    this.library.changes();
    const { component, target } = this.where();
    return this.library.targetTitle(component, target, this.own());
  });
}
