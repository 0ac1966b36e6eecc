import { ChangeDetectionStrategy, Component, effect, inject, model, output, signal, untracked } from '@angular/core';
import { FormsModule } from '@angular/forms';
import { RouterLink } from '@angular/router';
import type { ImportSummary } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { tap } from 'rxjs';
import { Api } from '../shared/api';
import { Notices } from '../shared/notices';
import { Sending } from '../shared/sending';
import { ImportNotes } from './import-notes';

/** Uploads a DocBook manual as a ZIP and shows what became of it. */
@Component({
  selector: 'al-import-dialog',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, Button, Dialog, InputText, ImportNotes],
  template: `
    <p-dialog header="Import a manual" [modal]="true" [(visible)]="open" [style]="{ width: '40rem' }">
      @if (summary(); as result) {
        <p>
          <b>{{ cameIn(result) }}</b> came into the library.
        </p>
        @if (result.notes.length > 0) {
          <h3>Not taken over as it was</h3>
          <al-import-notes [notes]="result.notes" />
          <p class="soft">The publication keeps these notes.</p>
        }
        <div class="end">
          <p-button label="Close" [text]="true" (onClick)="open.set(false)" />
          <a class="go" [routerLink]="['/publications', result.publication]" (click)="open.set(false)"
            >Open the publication</a
          >
        </div>
      } @else {
        <p class="soft">
          A ZIP with a DocBook 4 or 5 book: every file becomes one component, profiling attributes become conditions,
          entities become variables.
        </p>
        <form (ngSubmit)="start()">
          <div class="field">
            <label for="import-file">ZIP file</label>
            <input id="import-file" type="file" accept=".zip,application/zip" (change)="file = pick($event)" />
          </div>
          <div class="field">
            <label for="import-title">Title of the publication</label>
            <input pInputText id="import-title" name="title" [(ngModel)]="title" autocomplete="off" />
          </div>
          <div class="field">
            <label for="import-main">The book’s file in the ZIP</label>
            <input
              pInputText
              id="import-main"
              name="main"
              [(ngModel)]="main"
              placeholder="found by itself where there is one book"
            />
          </div>
          <div class="field">
            <label for="import-profiles">Profiles (JSON, optional)</label>
            <input
              id="import-profiles"
              type="file"
              accept=".json,application/json"
              (change)="profiles = pick($event)"
            />
            <small>Makes one profile and one variant for each entry.</small>
          </div>
          @if (sending.problem(); as text) {
            <p class="problem-text" role="alert">{{ text }}</p>
          }
          <div class="end">
            <p-button label="Cancel" [text]="true" (onClick)="open.set(false)" />
            <p-button type="submit" label="Import" [loading]="sending.busy()" />
          </div>
        </form>
      }
    </p-dialog>
  `,
  styles: `
    .soft {
      color: var(--soft);
      margin-top: 0;
    }
    .end {
      display: flex;
      justify-content: flex-end;
      align-items: center;
      gap: 0.8rem;
    }
    .go {
      background: var(--accent);
      color: var(--paper);
      font-weight: 600;
      padding: 0.35rem 0.9rem;
      border-radius: 3px;
      text-decoration: none;
    }
  `,
})
export class ImportDialog {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);

  readonly open = model(false);
  readonly imported = output<void>();
  protected file: File | null = null;
  protected profiles: File | null = null;
  protected title = '';
  protected main = '';
  protected readonly sending = new Sending();
  protected readonly summary = signal<ImportSummary | null>(null);

  constructor() {
    effect(() => {
      if (this.open()) untracked(() => this.begin());
    });
  }

  private begin(): void {
    // An import goes on while the dialog is closed.
    if (this.sending.busy()) return;
    this.sending.begin();
    this.summary.set(null);
    // The fields for files are empty again.
    this.file = this.profiles = null;
  }

  /** What there is now that was not there before, counted. */
  protected cameIn({ topics, snippets, variables, images, axes, variants }: ImportSummary): string {
    const counts = [
      [topics, 'topic', 'topics'],
      [snippets, 'snippet', 'snippets'],
      [variables, 'variable', 'variables'],
      [images, 'image', 'images'],
      [axes, 'axis of its conditions', 'axes of its conditions'],
      [variants.length, 'variant', 'variants'],
    ] as const;
    const parts = counts.flatMap(([count, one, many]) => (count > 0 ? [`${count} ${count === 1 ? one : many}`] : []));
    return parts.length > 0 ? new Intl.ListFormat('en').format(parts) : 'Nothing';
  }

  protected pick(event: Event): File | null {
    return (event.target as HTMLInputElement).files?.[0] ?? null;
  }

  protected async start(): Promise<void> {
    if (!this.file || this.title.trim() === '') {
      this.sending.problem.set('Choose a ZIP file and give the publication a title.');
      return;
    }
    const [file, title] = [this.file, this.title.trim()];
    const profiles = this.profiles ? await this.profiles.text() : '';
    const request = this.api
      .importDocbook(file, title, this.main.trim(), profiles)
      .pipe(tap({ error: (error: unknown) => !this.open() && this.notices.failed(error) }));
    this.sending.send(request, (summary) => {
      this.summary.set(summary);
      if (!this.open()) this.notices.done(`“${title}” is imported.`);
      this.imported.emit();
    });
  }
}
