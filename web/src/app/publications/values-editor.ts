import { ChangeDetectionStrategy, Component, computed, inject, input, output } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { makeNode, type Component as LibraryComponent, type ContentNode, type VariableValues } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Select } from 'primeng/select';
import { EditorLibrary } from '../editor/editor-library';
import { PhraseField } from '../editor/phrase-field';
import { Api } from '../shared/api';

/** Values of variables that hold here instead of their own. */
@Component({
  selector: 'al-values-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Select, PhraseField],
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
    <p-select
      ariaLabel="Add a value of a variable"
      placeholder="Add a value of …"
      [options]="free()"
      optionLabel="title"
      optionValue="key"
      [filter]="true"
      appendTo="body"
      [ngModel]="null"
      (ngModelChange)="add($event)"
    />
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
    p-select {
      width: 16rem;
    }
  `,
})
export class ValuesEditor {
  private readonly api = inject(Api);
  private readonly library = inject(EditorLibrary);

  readonly values = input.required<VariableValues>();
  readonly changed = output<VariableValues>();
  private readonly variables = rxResource({ stream: () => this.api.components({ kind: 'variable', limit: 500 }) });
  private readonly rows = computed(() => (this.variables.hasValue() ? this.variables.value().items : []));
  protected readonly keys = computed(() => Object.keys(this.values()).sort());
  protected readonly free = computed(() => this.rows().filter((row) => !(row.key in this.values())));

  protected title(key: string): string {
    return this.rows().find((row) => row.key === key)?.title ?? key;
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

  protected add(key: string | null): void {
    if (key !== null) this.changed.emit({ ...this.values(), [key]: makeNode('phrase') });
  }

  protected set(key: string, value: ContentNode): void {
    this.changed.emit({ ...this.values(), [key]: value });
  }

  protected drop(key: string): void {
    this.changed.emit(Object.fromEntries(Object.entries(this.values()).filter(([each]) => each !== key)));
  }
}
