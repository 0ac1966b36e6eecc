import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  signal,
  untracked,
} from '@angular/core';
import { FormsModule } from '@angular/forms';
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
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { UsesPanel } from '../shared/uses-panel';

interface EditedRule extends VariableRule {
  /** Tells rules apart while they are moved and removed. */
  readonly number: number;
}

/** One variable: its default, and the values it has in particular cases. */
@Component({
  selector: 'al-variable-editor',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText, ConditionField, PhraseField, UsesPanel],
  template: `
    <div class="place-head">
      <h2>{{ component().title }}</h2>
      <span class="grow"></span>
      <p-button icon="pi pi-times" ariaLabel="Close" [text]="true" severity="secondary" (onClick)="closed.emit()" />
    </div>
    <div class="fields">
      <div class="field">
        <label for="variable-title">Title</label>
        <input
          pInputText
          id="variable-title"
          [ngModel]="title()"
          (ngModelChange)="title.set($event); touch()"
          [readonly]="!session.mayWrite()"
        />
      </div>
      <div class="field">
        <span class="label">Default value</span>
        <al-phrase-field
          label="Default value"
          [own]="component()"
          [value]="otherwise()"
          (changed)="setDefault($event)"
        />
        <small>Used where no case applies. Empty: no value.</small>
      </div>
      <h3>Cases <small>the first that applies is used</small></h3>
      @for (rule of rules(); track rule.number; let index = $index) {
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
            [fieldId]="'case-' + rule.number"
            [value]="rule.when"
            (changed)="change(index, { when: $event })"
          />
        </div>
      }
      @if (session.mayWrite()) {
        <p-button label="Add a case" icon="pi pi-plus" size="small" [outlined]="true" (onClick)="add()" />
        <div class="end">
          <p-button label="Delete variable" severity="danger" [text]="true" (onClick)="remove()" />
          <p-button label="Save" icon="pi pi-check" [disabled]="!changed()" [loading]="saving()" (onClick)="save()" />
        </div>
      }
      <h3>Where used</h3>
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
    h3 small {
      color: var(--soft);
      font-weight: 400;
    }
    .fields {
      padding: 0 1.2rem 2rem;
    }
    .label {
      font-weight: 600;
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
  private readonly notices = inject(Notices);
  private readonly deletion = inject(Deletion);
  protected readonly session = inject(Session);

  readonly component = input.required<LibraryComponent>();
  readonly saved = output<LibraryComponent>();
  readonly closed = output<void>();
  readonly changing = output<boolean>();
  protected readonly title = signal('');
  protected readonly otherwise = signal<ContentNode | null>(null);
  protected readonly rules = signal<readonly EditedRule[]>([]);
  protected readonly changed = signal(false);
  protected readonly saving = signal(false);
  private numbers = 0;
  private shownKey = '';
  private readonly shownRevision = computed(() => `${this.component().key}@${this.component().revision}`);

  constructor() {
    effect(() => {
      this.shownRevision();
      untracked(() => this.show(this.component()));
    });
  }

  private show(component: LibraryComponent): void {
    // Somebody else's save does not take away what is being written here; saving will say so.
    if (this.changed() && this.shownKey === component.key) return;
    this.shownKey = component.key;
    const body = component.body as VariableBody;
    this.title.set(component.title);
    this.otherwise.set(body.default);
    this.rules.set(body.rules.map((rule) => ({ ...rule, number: (this.numbers += 1) })));
    this.setChanged(false);
  }

  protected touch(): void {
    this.setChanged(true);
  }

  protected setDefault(value: ContentNode): void {
    this.otherwise.set((value.content?.length ?? 0) > 0 ? value : null);
    this.touch();
  }

  protected change(index: number, change: Partial<VariableRule>): void {
    this.rules.update((rules) => rules.map((rule, at) => (at === index ? { ...rule, ...change } : rule)));
    this.touch();
  }

  protected add(): void {
    this.rules.update((rules) => [
      ...rules,
      { when: null, language: null, value: makeNode('phrase'), number: (this.numbers += 1) },
    ]);
    this.touch();
  }

  protected drop(index: number): void {
    this.rules.update((rules) => rules.filter((_, at) => at !== index));
    this.touch();
  }

  protected move(index: number, by: number): void {
    const rules = [...this.rules()];
    const [moved] = rules.splice(index, 1);
    if (moved) rules.splice(index + by, 0, moved);
    this.rules.set(rules);
    this.touch();
  }

  protected save(): void {
    const rules = this.rules().map(({ when, language, value }) => ({ when, language, value }));
    const { key, revision } = this.component();
    this.saving.set(true);
    this.api
      .saveComponent(key, {
        base: revision,
        title: this.title().trim(),
        body: { type: 'variable', default: this.otherwise(), rules },
      })
      .subscribe({
        next: (saved) => {
          this.saving.set(false);
          this.setChanged(false);
          this.notices.done(`“${saved.title}” saved as revision ${saved.revision}.`);
          this.saved.emit(saved);
        },
        error: (error: unknown) => {
          this.saving.set(false);
          this.notices.failed(error);
        },
      });
  }

  protected remove(): void {
    const done = (): void => {
      this.setChanged(false);
      this.closed.emit();
      this.saved.emit(this.component());
    };
    const facts = 'As long as something uses it, this is refused and the users are named.';
    this.deletion.component(this.component(), facts, done, (component) => this.saved.emit(component));
  }

  private setChanged(changed: boolean): void {
    this.changed.set(changed);
    this.changing.emit(changed);
  }
}
