import { ChangeDetectionStrategy, Component, computed, effect, inject, input, output } from '@angular/core';
import { makeNode, type Component as LibraryComponent, type ContentNode, type VariableValues } from '@allomorph/core';
import { Button } from 'primeng/button';
import { EditorLibrary } from '../editor/editor-library';
import { PhraseField } from '../editor/phrase-field';
import { ComponentChooser } from '../shared/component-chooser';
import { ComponentTitles } from '../shared/component-titles';

/** Values of variables that hold here instead of their own. */
@Component({
  selector: 'al-values-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [Button, ComponentChooser, PhraseField],
  template: `
    @for (key of keys(); track key) {
      <div class="value">
        <span class="name">{{ title(key) }}</span>
        <al-phrase-field
          [label]="'Value of ' + title(key)"
          [own]="owner(key)"
          [value]="values()[key] ?? null"
          (changed)="set(key, $event)"
        />
        <p-button
          icon="pi pi-times"
          [ariaLabel]="'Remove the value of ' + title(key)"
          [text]="true"
          severity="secondary"
          (onClick)="drop(key)"
        />
      </div>
    }
    <al-component-chooser kind="variable" label="Add a value of …" [without]="keys()" (chosen)="add($event.key)" />
  `,
  styles: `
    .value {
      display: grid;
      grid-template-columns: 9rem 1fr auto;
      gap: 0.5rem;
      align-items: center;
      margin-bottom: 0.4rem;
    }
    .name {
      overflow: hidden;
      text-overflow: ellipsis;
    }
  `,
})
export class ValuesEditor {
  private readonly titles = inject(ComponentTitles);
  private readonly library = inject(EditorLibrary);

  readonly values = input.required<VariableValues>();
  readonly changed = output<VariableValues>();
  protected readonly keys = computed(() => Object.keys(this.values()).sort());

  constructor() {
    effect(() => this.titles.read(this.keys()));
  }

  protected title(key: string): string {
    return this.titles.of(key);
  }

  protected owner(key: string): LibraryComponent {
    return (
      this.library.get(key) ?? {
        key,
        kind: 'variable',
        title: this.title(key),
        revision: 1,
        body: { type: 'variable', default: null, rules: [] },
      }
    );
  }

  protected add(key: string): void {
    this.changed.emit({ ...this.values(), [key]: makeNode('phrase') });
  }

  protected set(key: string, value: ContentNode): void {
    this.changed.emit({ ...this.values(), [key]: value });
  }

  protected drop(key: string): void {
    this.changed.emit(Object.fromEntries(Object.entries(this.values()).filter(([each]) => each !== key)));
  }
}
