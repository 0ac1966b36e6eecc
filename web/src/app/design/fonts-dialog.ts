import { ChangeDetectionStrategy, Component, inject, input, output, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { FontRow } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Api } from '../shared/api';
import { Deletion } from '../shared/deletion';
import { Sending } from '../shared/sending';

/** The families of fonts that the team has uploaded, and a way to add to them. */
@Component({
  selector: 'al-fonts-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, Dialog, InputText],
  template: `
    <p-dialog
      header="Fonts"
      [modal]="true"
      [visible]="true"
      (visibleChange)="closed.emit()"
      [style]="{ width: '38rem' }"
    >
      <p class="soft">
        Source Serif, Source Sans and JetBrains Mono come with the application: Latin with all its extensions, Greek and
        Cyrillic. For other scripts, or a company’s own face, upload the files of a family.
      </p>
      @for (font of fonts(); track font.key) {
        <div class="font">
          <div>
            <b>{{ font.title }}</b>
            <span class="soft">{{ facesOf(font) }}</span><br />
            <span class="soft">{{ font.licence }}</span>
          </div>
          @if (mayChange()) {
            <p-button
              icon="pi pi-plus"
              [ariaLabel]="'Add a file to ' + font.title"
              [text]="true"
              (onClick)="into.set(font); licence = font.licence"
            />
            <p-button
              icon="pi pi-trash"
              [ariaLabel]="'Delete ' + font.title"
              [text]="true"
              severity="secondary"
              (onClick)="remove(font)"
            />
          }
        </div>
      } @empty {
        <p>No fonts have been uploaded yet.</p>
      }
      @if (mayChange()) {
        <form (ngSubmit)="upload(file)">
          <h3>{{ into() ? 'Another file of ' + into()?.title : 'A new family' }}</h3>
          <div class="field">
            <label for="font-file">File (TTF, OTF or WOFF2)</label>
            <input #file id="font-file" type="file" accept=".ttf,.otf,.woff2" />
          </div>
          <div class="field">
            <label for="font-licence">Licence</label>
            <input
              pInputText
              id="font-licence"
              name="licence"
              placeholder="What allows you to embed it"
              [(ngModel)]="licence"
              autocomplete="off"
            />
          </div>
          @if (sending.problem(); as text) {
            <p class="problem-text" role="alert">{{ text }}</p>
          }
          <div class="end">
            @if (into()) {
              <p-button type="button" label="A new family instead" [text]="true" (onClick)="into.set(null)" />
            }
            <p-button type="submit" label="Upload" icon="pi pi-upload" [loading]="sending.busy()" />
          </div>
        </form>
      }
    </p-dialog>
  `,
  styles: `
    .soft {
      color: var(--soft);
    }
    .font {
      display: flex;
      align-items: flex-start;
      gap: 0.3rem;
      padding: 0.4rem 0;
      border-top: 1px solid var(--line);
    }
    .font > div {
      flex: 1;
      min-width: 0;
    }
    h3 {
      font: 600 1rem/1.2 var(--sans);
      margin: 1rem 0 0.5rem;
    }
  `,
})
export class FontsDialog {
  private readonly api = inject(Api);
  private readonly deletion = inject(Deletion);

  readonly fonts = input.required<readonly FontRow[]>();
  readonly mayChange = input.required<boolean>();
  readonly changed = output();
  readonly closed = output();
  protected readonly into = signal<FontRow | null>(null);
  protected readonly sending = new Sending();
  protected licence = '';

  protected facesOf({ faces }: FontRow): string {
    return faces.map(({ weight, isItalic }) => `${weight}${isItalic ? ' italic' : ''}`).join(', ');
  }

  protected upload(input: HTMLInputElement): void {
    const [file] = input.files ?? [];
    if (!file || this.licence.trim() === '') {
      this.sending.problem.set(
        file ? 'Say what allows you to use it: a note on the licence is needed.' : 'Choose a file.',
      );
      return;
    }
    const request = this.api.uploadFont(file, { key: this.into()?.key ?? '', licence: this.licence });
    this.sending.send(request, (font) => {
      this.into.set(font);
      input.value = '';
      this.changed.emit();
    });
  }

  protected remove(font: FontRow): void {
    this.deletion.ask(
      `Delete the family “${font.title}”?`,
      'Refused as long as a design uses it. Deliverables keep what they hold.',
      () => this.api.deleteFont(font.key),
      () => {
        if (this.into()?.key === font.key) this.into.set(null);
        this.changed.emit();
      },
    );
  }
}
