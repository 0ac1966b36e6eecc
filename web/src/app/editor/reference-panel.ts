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

/** How a selected cross-reference reads. */
@Component({
  selector: 'al-reference-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, Select],
  template: `
    <p>
      Leads to <b>{{ target() }}</b>. What it reads is worked out for each variant, by the design.
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
  protected readonly forms = referenceForms.map((value) => ({ value, label: formNames[value] }));
  protected readonly target = computed(() => {
    this.library.changes();
    const { component, target } = this.node().attrs as { component: string | null; target: string | null };
    return this.library.targetTitle(component, target, this.own());
  });
}
