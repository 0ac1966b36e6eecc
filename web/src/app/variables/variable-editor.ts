import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  HostListener,
  inject,
  input,
  linkedSignal,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import {
  makeNode,
  type Component as LibraryComponent,
  type ContentNode,
  type VariableBody,
  type VariableRule,
} from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { PhraseField } from '../editor/phrase-field';
import { Api } from '../shared/api';
import { ConditionField } from '../shared/condition-field';
import { Deletion } from '../shared/deletion';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { Bindings } from '../shared/bindings';
import { KeyDialog } from '../shared/key-dialog';
import { Session } from '../shared/session';
import { UsesPanel } from '../shared/uses-panel';

/** What is changed of a variable, each part by itself. */
interface VariableParts {
  readonly title: string;
  readonly default: ContentNode | null;
  readonly rules: readonly VariableRule[];
}

/** One variable: its default, and the values it has in particular cases. */
@Component({
  selector: 'al-variable-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    FormsModule,
    RouterLink,
    Button,
    InputText,
    ConditionField,
    EditingBands,
    KeyDialog,
    PhraseField,
    UsesPanel,
  ],
  template: `
    <div class="top">
      <div class="place-head">
        <h2>{{ component().title }}</h2>
        <span class="grow"></span>
        @if (session.mayWrite()) {
          <span class="state" aria-live="polite">{{ editing.dirty() ? 'not saved' : 'saved' }}</span>
          <p-button
            label="Save"
            icon="pi pi-check"
            [disabled]="!editing.dirty()"
            [loading]="editing.saving()"
            (onClick)="save()"
          />
        }
        <p-button icon="pi pi-times" ariaLabel="Close" [text]="true" severity="secondary" (onClick)="closed.emit()" />
      </div>
      <al-editing-bands [editing]="editing" [newest]="component()" [names]="partNames" (saved)="saved.emit($event)" />
    </div>
    <div class="fields">
      <div class="field">
        <label for="variable-title">Title</label>
        <input
          pInputText
          id="variable-title"
          [ngModel]="parts().title"
          (ngModelChange)="editing.change({ title: $event })"
          [readonly]="!session.mayWrite()"
        />
      </div>
      <div class="field">
        <span class="label">Default value</span>
        <al-phrase-field
          label="Default value"
          [own]="component()"
          [value]="parts().default"
          (changed)="setDefault($event)"
        />
        <small>Used where no case applies. Empty: no value.</small>
      </div>
      @if (session.mayWrite()) {
        <p class="key">
          Key
          <button
            type="button"
            class="mono"
            title="Change the key"
            [disabled]="editing.dirty()"
            (click)="keyOpen.set(true)"
          >
            {{ component().key }}
          </button>
        </p>
        <al-key-dialog [component]="component()" [(open)]="keyOpen" (changed)="rekeyed.emit($event)" />
      }
      <h3>Cases <small>the first that applies is used</small></h3>
      @for (rule of parts().rules; track numbers()[index]; let index = $index) {
        <div class="rule">
          <div class="head">
            <b>Case {{ index + 1 }}</b>
            <label
              >Language
              <input
                pInputText
                pSize="small"
                class="language"
                placeholder="any"
                [ngModel]="rule.language ?? ''"
                (ngModelChange)="change(index, { language: $event.trim() || null })"
            /></label>
            <span class="grow"></span>
            <p-button
              icon="pi pi-arrow-up"
              ariaLabel="Move up"
              size="small"
              [text]="true"
              [disabled]="index === 0"
              (onClick)="move(index, -1)"
            />
            <p-button
              icon="pi pi-trash"
              ariaLabel="Delete the case"
              size="small"
              [text]="true"
              severity="danger"
              (onClick)="drop(index)"
            />
          </div>
          <al-phrase-field
            [label]="'Value of case ' + (index + 1)"
            [own]="component()"
            [value]="rule.value"
            (changed)="change(index, { value: $event })"
          />
          <al-condition-field
            [fieldId]="'case-' + numbers()[index]"
            [value]="rule.when"
            (changed)="change(index, { when: $event })"
          />
        </div>
      }
      @if (session.mayWrite()) {
        <p-button label="Add a case" icon="pi pi-plus" size="small" [outlined]="true" (onClick)="add()" />
        <div class="end">
          <p-button label="Delete variable" severity="danger" [text]="true" (onClick)="remove()" />
        </div>
      }
      <h3>Where used</h3>
      <p class="typed-in">
        Text that spells its values out instead:
        <a routerLink="/replace" [queryParams]="{ variable: component().key }">typed-in text</a>
      </p>
      <al-uses-panel [component]="component().key" [revision]="component().revision" />
    </div>
  `,
  styles: `
    h2 {
      font: 600 1.25rem/1.2 var(--serif);
      margin: 0;
    }
    h3 {
      font: 600 1.05rem/1.2 var(--sans);
      margin: 1.2rem 0 0.5rem;
    }
    .typed-in {
      margin: 0 0 0.4rem;
    }
    .typed-in a {
      color: var(--accent);
    }
    h3 small {
      color: var(--soft);
      font-weight: 400;
    }
    .top {
      position: sticky;
      top: 0;
      z-index: 2;
      background: var(--paper-deep);
    }
    .fields {
      padding: 0.6rem 1.2rem 2rem;
    }
    .label {
      font-weight: 600;
    }
    .state {
      color: var(--soft);
    }
    .rule {
      background: var(--sheet);
      border: 1px solid var(--line);
      border-radius: 4px;
      padding: 0.4rem 0.8rem 0.8rem;
      margin-bottom: 0.8rem;
    }
    .head {
      display: flex;
      align-items: center;
      gap: 0.7rem;
      margin-bottom: 0.3rem;
    }
    .head .grow {
      flex: 1;
    }
    .language {
      width: 4rem;
    }
    al-condition-field {
      display: block;
      margin-top: 0.7rem;
    }
    .end {
      display: flex;
      justify-content: space-between;
      margin-top: 1.2rem;
    }
  `,
})
export class VariableEditor {
  private readonly api = inject(Api);
  private readonly bindings = inject(Bindings);
  private readonly deletion = inject(Deletion);
  protected readonly session = inject(Session);

  readonly component = input.required<LibraryComponent>();
  readonly saved = output<LibraryComponent>();
  readonly closed = output<void>();
  /** It has another key now. */
  readonly rekeyed = output<LibraryComponent>();
  protected readonly keyOpen = signal(false);
  readonly changing = output<boolean>();
  protected readonly editing = inject(Edits).of<LibraryComponent, VariableParts>({
    nameOf: ({ key }) => `variable ${key}`,
    titleOf: ({ title }) => title,
    partsOf: ({ title, body }) => {
      const { default: otherwise, rules } = body as VariableBody;
      return { title, default: otherwise, rules };
    },
    save: ({ key, revision }, { title, ...values }) =>
      this.api.saveComponent(key, { base: revision, title: title.trim(), body: { type: 'variable', ...values } }),
  });
  protected readonly partNames = { title: 'the title', default: 'the default value', rules: 'the cases' };
  protected readonly parts = computed<VariableParts>(
    () => this.editing.parts() ?? { title: '', default: null, rules: [] },
  );
  /** Tells cases apart while they are moved and removed. */
  protected readonly numbers = linkedSignal<{ readonly key: string; readonly count: number }, readonly number[]>({
    source: () => ({ key: this.editing.base()?.key ?? '', count: this.parts().rules.length }),
    computation: ({ key, count }, before) =>
      before?.source.key === key && before.value.length === count
        ? before.value
        : Array.from({ length: count }, () => (this.lastNumber += 1)),
  });
  private lastNumber = 0;

  constructor() {
    effect(() => {
      const component = this.component();
      untracked(() => void this.editing.show(component));
    });
    effect(() => this.changing.emit(this.editing.dirty()));
  }

  @HostListener('document:keydown', ['$event'])
  protected keys(event: KeyboardEvent): void {
    if (event.defaultPrevented || this.bindings.meant(event) !== 'save') return;
    event.preventDefault();
    this.save();
  }

  protected setDefault(value: ContentNode): void {
    this.editing.change({ default: (value.content?.length ?? 0) > 0 ? value : null });
  }

  protected change(index: number, change: Partial<VariableRule>): void {
    this.setRules(this.parts().rules.map((rule, at) => (at === index ? { ...rule, ...change } : rule)));
  }

  protected add(): void {
    const rules = [...this.parts().rules, { when: null, language: null, value: makeNode('phrase') }];
    this.setRules(rules, [...this.numbers(), (this.lastNumber += 1)]);
  }

  protected drop(index: number): void {
    const without = <Item>(list: readonly Item[]): readonly Item[] => list.filter((_, at) => at !== index);
    this.setRules(without(this.parts().rules), without(this.numbers()));
  }

  protected move(index: number, by: number): void {
    const moved = <Item>(list: readonly Item[]): readonly Item[] => {
      const changed = [...list];
      changed.splice(index + by, 0, ...changed.splice(index, 1));
      return changed;
    };
    this.setRules(moved(this.parts().rules), moved(this.numbers()));
  }

  discard(): void {
    this.editing.discard();
  }

  protected save(): void {
    this.editing.save((saved) => this.saved.emit(saved));
  }

  protected remove(): void {
    const done = (): void => {
      this.editing.discard();
      this.closed.emit();
      this.saved.emit(this.component());
    };
    this.deletion.component(this.component(), done, (component) => this.saved.emit(component));
  }

  private setRules(rules: readonly VariableRule[], numbers = this.numbers()): void {
    this.editing.change({ rules });
    this.numbers.set(numbers);
  }
}
