import { ChangeDetectionStrategy, Component, effect, inject, input, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { formats, newRecipe, type StoredVariant, type VariableValues, type VariantRecipe } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Checkbox } from 'primeng/checkbox';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Select } from 'primeng/select';
import { Api, problemText } from '../shared/api';
import { Lens } from '../shared/lens';
import { ValuesEditor } from './values-editor';

/** The recipe of a variant. */
@Component({
  selector: 'al-variant-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Checkbox, Dialog, InputText, Select, ValuesEditor],
  template: `
    <p-dialog
      [header]="variant() ? 'Variant' : 'New variant'"
      [modal]="true"
      [visible]="true"
      (visibleChange)="closed.emit()"
      [style]="{ width: '42rem' }"
    >
      <form (ngSubmit)="save()">
        <div class="field">
          <label for="variant-title">Title</label>
          <input pInputText id="variant-title" name="title" [(ngModel)]="title" autocomplete="off" />
        </div>
        <div class="two">
          <div class="field">
            <label for="variant-profile">Profile</label>
            <p-select
              inputId="variant-profile"
              name="profile"
              [options]="profiles()"
              optionLabel="title"
              optionValue="key"
              placeholder="What is in"
              appendTo="body"
              [(ngModel)]="profile"
            />
          </div>
          <div class="field">
            <label for="variant-design">Design</label>
            <p-select
              inputId="variant-design"
              name="design"
              [options]="designs()"
              optionLabel="title"
              optionValue="key"
              appendTo="body"
              [(ngModel)]="design"
            />
          </div>
          <div class="field">
            <label for="variant-language">Language</label>
            <input pInputText id="variant-language" name="language" [(ngModel)]="language" placeholder="en" />
          </div>
          <fieldset class="field">
            <legend class="label">Formats</legend>
            @for (format of known; track format.name) {
              <div class="check">
                <p-checkbox
                  [inputId]="'variant-format-' + format.name"
                  name="formats"
                  [value]="format.name"
                  [(ngModel)]="formats"
                />
                <label [for]="'variant-format-' + format.name">{{ format.title }}</label>
              </div>
            }
          </fieldset>
        </div>
        <div class="check">
          <p-checkbox inputId="variant-empty" name="empty" [binary]="true" [(ngModel)]="leaveOutEmpty" />
          <label for="variant-empty">Leave out topics and sections of which only the title is left</label>
        </div>
        <div class="check">
          <p-checkbox inputId="variant-strict" name="strict" [binary]="true" [(ngModel)]="strict" />
          <label for="variant-strict">Strict: refuse to build while there are errors</label>
        </div>
        <h3>Values of this variant</h3>
        <al-values-editor [values]="values()" (changed)="values.set($event)" />
        @if (problem(); as text) {
          <p class="problem-text" role="alert">{{ text }}</p>
        }
        <div class="end">
          <p-button label="Cancel" [text]="true" (onClick)="closed.emit()" />
          <p-button type="submit" label="Save" />
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
  protected title = '';
  protected profile = '';
  protected design: string = newRecipe.design;
  protected language: string = newRecipe.language;
  protected leaveOutEmpty: boolean = newRecipe.leaveOutEmpty;
  protected strict: boolean = newRecipe.strict;
  protected readonly known = formats;
  protected formats: string[] = [...newRecipe.formats];
  protected readonly values = signal<VariableValues>({});
  protected readonly problem = signal('');

  constructor() {
    effect(() => {
      const variant = this.variant();
      untracked(() => {
        if (!variant) return;
        this.title = variant.title;
        this.profile = variant.profile;
        this.design = variant.design;
        this.language = variant.language;
        this.leaveOutEmpty = variant.leaveOutEmpty;
        this.strict = variant.strict;
        this.formats = [...variant.formats];
        this.values.set(variant.values);
      });
    });
  }

  protected profiles(): { key: string; title: string }[] {
    return this.lens.variation().profiles.map(({ key, title }) => ({ key, title }));
  }

  protected designs(): { key: string; title: string }[] {
    return [...this.lens.variation().designs];
  }

  protected save(): void {
    const title = this.title.trim();
    if (title === '' || this.profile === '') {
      this.problem.set('A title and a profile are needed.');
      return;
    }
    if (this.formats.length === 0) {
      this.problem.set('A variant has at least one format.');
      return;
    }
    const recipe: VariantRecipe = {
      title,
      profile: this.profile,
      design: this.design,
      language: this.language.trim(),
      values: this.values(),
      formats: this.formats,
      leaveOutEmpty: this.leaveOutEmpty,
      strict: this.strict,
    };
    const variant = this.variant();
    const request = variant
      ? this.api.saveVariant(variant.id, recipe)
      : this.api.createVariant(this.publication(), recipe);
    request.subscribe({
      next: () => this.saved.emit(),
      error: (error: unknown) => this.problem.set(problemText(error)),
    });
  }
}
