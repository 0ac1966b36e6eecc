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
import { formatFacts, newRecipe, type StoredVariant, type StopLevel, type VariantRecipe } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { Api } from '../shared/api';
import { Edits } from '../shared/editing';
import { EditingBands } from '../shared/editing-bands';
import { Lens } from '../shared/lens';
import { ValuesEditor } from './values-editor';

/** The recipe of a variant. */
@Component({
  selector: 'al-variant-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, EditingBands, Checkbox, Dialog, InputText, Select, ValuesEditor],
  template: `
    <p-dialog
      [header]="variant() ? 'Variant' : 'New variant'"
      [modal]="true"
      [visible]="true"
      (visibleChange)="closed.emit()"
      [style]="{ width: '42rem' }"
    >
      <al-editing-bands [editing]="editing" [newest]="newest()" [names]="partNames" (saved)="saved.emit()" />
      <form (ngSubmit)="save()">
        <div class="field">
          <label for="variant-title">Title</label>
          <input
            pInputText
            id="variant-title"
            name="title"
            [ngModel]="parts().title"
            (ngModelChange)="editing.change({ title: $event })"
            autocomplete="off"
          />
        </div>
        <div class="two">
          <div class="field">
            <label for="variant-profile">Profile</label>
            <p-select
              inputId="variant-profile"
              ariaLabel="Profile"
              name="profile"
              [options]="profiles()"
              optionLabel="title"
              optionValue="key"
              placeholder="What is in"
              appendTo="body"
              [ngModel]="parts().profile"
              (ngModelChange)="editing.change({ profile: $event })"
            />
          </div>
          <div class="field">
            <label for="variant-design">Design</label>
            <p-select
              inputId="variant-design"
              ariaLabel="Design"
              name="design"
              [options]="designs()"
              optionLabel="title"
              optionValue="key"
              appendTo="body"
              [ngModel]="parts().design"
              (ngModelChange)="editing.change({ design: $event })"
            />
          </div>
          <div class="field">
            <label for="variant-language">Language</label>
            <input
              pInputText
              id="variant-language"
              name="language"
              [ngModel]="parts().language"
              (ngModelChange)="editing.change({ language: $event })"
              placeholder="en"
            />
          </div>
          <fieldset class="field">
            <legend class="label">Formats</legend>
            @for (format of known; track format.name) {
              <div class="check">
                <p-checkbox
                  [inputId]="'variant-format-' + format.name"
                  name="formats"
                  [value]="format.name"
                  [ngModel]="parts().formats"
                  (ngModelChange)="editing.change({ formats: $event })"
                />
                <label [for]="'variant-format-' + format.name">{{ format.title }}</label>
              </div>
            }
          </fieldset>
        </div>
        <div class="check">
          <p-checkbox
            inputId="variant-empty"
            name="empty"
            [binary]="true"
            [ngModel]="parts().leaveOutEmpty"
            (ngModelChange)="editing.change({ leaveOutEmpty: $event })"
          />
          <label for="variant-empty">Leave out topics and sections of which only the title is left</label>
        </div>
        <div class="field">
          <label for="variant-stops">Where a build finds problems</label>
          <p-select
            inputId="variant-stops"
            ariaLabel="Where a build finds problems"
            name="stops"
            [options]="stops"
            optionLabel="title"
            optionValue="value"
            appendTo="body"
            [ngModel]="parts().stopsAt"
            (ngModelChange)="editing.change({ stopsAt: $event })"
          />
        </div>
        <h3>Values of this variant</h3>
        <al-values-editor [values]="parts().values" (changed)="editing.change({ values: $event })" />
        @if (problem(); as text) {
          <p class="problem-text" role="alert">{{ text }}</p>
        }
        <div class="end">
          <p-button label="Cancel" [text]="true" (onClick)="cancel()" />
          <p-button type="submit" label="Save" [loading]="editing.saving()" />
        </div>
      </form>
    </p-dialog>
  `,
  styles: `
    .two {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(min(14rem, 100%), 1fr));
      column-gap: 1.2rem;
    }
    .label {
      font-weight: 600;
    }
    fieldset {
      border: 0;
      margin: 0;
      padding: 0;
      min-width: 0;
    }
    legend {
      padding: 0;
      margin-bottom: 0.4rem;
    }
    .check {
      display: flex;
      gap: 0.5rem;
      align-items: center;
      margin-bottom: 0.4rem;
    }
    h3 {
      font: 600 1rem/1.2 var(--sans);
      margin: 1rem 0 0.5rem;
    }
    .end {
      display: flex;
      justify-content: flex-end;
      gap: 0.6rem;
      margin-top: 1.2rem;
    }
  `,
})
export class VariantDialog {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);

  readonly publication = input.required<string>();
  /** The variant to change; null makes a new one. */
  readonly variant = input<StoredVariant | null>(null);
  readonly saved = output<void>();
  readonly closed = output<void>();
  protected readonly stops: { readonly value: StopLevel; readonly title: string }[] = [
    { value: 'never', title: 'it makes what it can, and tells them' },
    { value: 'errors', title: 'it makes nothing at errors' },
    { value: 'warnings', title: 'it makes nothing at errors or warnings' },
  ];
  protected readonly known = Object.values(formatFacts);
  protected readonly editing = inject(Edits).of<StoredVariant, VariantRecipe>({
    nameOf: ({ id, publication }) => (id === '' ? `new variant of ${publication}` : `variant ${id}`),
    titleOf: ({ title }) => title,
    partsOf: ({ title, profile, design, language, values, formats: names, leaveOutEmpty, stopsAt }) => ({
      title,
      profile,
      design,
      language,
      values,
      formats: names,
      leaveOutEmpty,
      stopsAt,
    }),
    save: ({ id, publication, revision }, parts) => {
      const recipe = { ...parts, title: parts.title.trim(), language: parts.language.trim() };
      return id === '' ? this.api.createVariant(publication, recipe) : this.api.saveVariant(id, revision, recipe);
    },
  });
  protected readonly partNames = {
    title: 'the title',
    profile: 'the profile',
    design: 'the design',
    language: 'the language',
    values: 'the values',
    formats: 'the formats',
    leaveOutEmpty: 'whether empty topics are left out',
    stopsAt: 'at which problems it stops',
  };
  protected readonly newest = computed<StoredVariant>(
    () =>
      this.variant() ?? { ...newRecipe, id: '', publication: this.publication(), title: '', profile: '', revision: 0 },
  );
  protected readonly parts = computed(() => this.editing.parts() ?? this.newest());
  protected readonly problem = signal('');

  constructor() {
    effect(() => {
      const newest = this.newest();
      untracked(() => void this.editing.show(newest));
    });
  }

  protected profiles(): { key: string; title: string }[] {
    return this.lens.variation().profiles.map(({ key, title }) => ({ key, title }));
  }

  protected designs(): { key: string; title: string }[] {
    return [...this.lens.variation().designs];
  }

  protected cancel(): void {
    this.editing.discard();
    this.closed.emit();
  }

  protected save(): void {
    const { title, profile, formats: names } = this.parts();
    this.problem.set(
      title.trim() === '' || profile === ''
        ? 'A title and a profile are needed.'
        : names.length === 0
          ? 'A variant has at least one format.'
          : '',
    );
    if (this.problem() !== '') return;
    if (!this.editing.dirty()) this.closed.emit();
    this.editing.save(() => this.saved.emit());
  }
}
