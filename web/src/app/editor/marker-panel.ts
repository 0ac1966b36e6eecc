import { ChangeDetectionStrategy, Component, input, output } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { Node } from 'prosemirror-model';
import { InputText } from 'primeng/inputtext';
import { panelStyle } from './panel-style';

const fields = [
  { name: 'primary', label: 'Heading in the index', hint: 'Such as “rain gauge”.' },
  { name: 'secondary', label: 'Second level', hint: 'Such as “cleaning”; may stay empty.' },
  { name: 'see', label: 'See', hint: 'Only sends readers to this other heading.' },
  { name: 'seeAlso', label: 'See also', hint: 'Names a further heading.' },
] as const;

/** What a selected index marker puts into the index. */
@Component({
  selector: 'al-marker-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText],
  template: `
    <p>An index marker: readers who look up this heading are led here.</p>
    @for (field of fields; track field.name) {
      <div class="field">
        <label for="marker-{{ field.name }}">{{ field.label }}</label>
        <input
          pInputText
          id="marker-{{ field.name }}"
          [placeholder]="field.hint"
          [ngModel]="node().attrs[field.name] ?? ''"
          [ngModelOptions]="{ updateOn: 'blur' }"
          (ngModelChange)="alter(field.name, $event)"
        />
      </div>
    }
  `,
  styles: panelStyle,
})
export class MarkerPanel {
  readonly node = input.required<Node>();
  readonly altered = output<Readonly<Record<string, unknown>>>();
  protected readonly fields = fields;

  protected alter(name: string, text: string): void {
    const value = text.trim();
    this.altered.emit({ [name]: value === '' && name !== 'primary' ? null : value });
  }
}
