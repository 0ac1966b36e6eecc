import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, output } from '@angular/core';
import { rxResource } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import type { Component as LibraryComponent } from '@allomorph/core';
import { Button } from 'primeng/button';
import { InputText } from 'primeng/inputtext';
import { catchError, of } from 'rxjs';
import { collectionText } from '../library/collection-rows';
import { Api } from '../shared/api';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';

/** Tags as people type them: “subject: rain, wind; season: winter”. */
export function tagsText(tags: Readonly<Record<string, readonly string[]>>): string {
  return Object.entries(tags)
    .map(([tag, values]) => `${tag}: ${values.join(', ')}`)
    .join('; ');
}

/** Reads what `tagsText` writes; null where a tag has no name or no value. */
export function readTags(text: string): Record<string, string[]> | null {
  const tags: Record<string, string[]> = {};
  for (const part of text.split(';').filter((each) => each.trim() !== '')) {
    const [name = '', list = ''] = part.split(/:(.*)/s);
    const values = list
      .split(',')
      .map((value) => value.trim())
      .filter((value) => value !== '');
    if (name.trim() === '' || values.length === 0) return null;
    tags[name.trim()] = values;
  }
  return tags;
}

/** What slots find a component by: its collection and its tags. They are saved at once, without a revision. */
@Component({
  selector: 'al-labels-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, Button, InputText],
  template: `
    <h3>Labels</h3>
    <p>Slots find snippets by their collection, and by tags that they share with the topic.</p>
    <div class="field">
      <label for="label-collection">Collection</label>
      <input
        pInputText
        id="label-collection"
        placeholder="Legal / Europe"
        list="label-collections"
        autocomplete="off"
        [disabled]="!session.mayWrite()"
        [(ngModel)]="collection"
      />
      <datalist id="label-collections">
        @for (each of known(); track each) {
          <option [value]="each"></option>
        }
      </datalist>
    </div>
    <div class="field">
      <label for="label-tags">Tags</label>
      <input
        pInputText
        id="label-tags"
        placeholder="subject: rain, wind; season: winter"
        [disabled]="!session.mayWrite()"
        [(ngModel)]="tags"
      />
    </div>
    @if (session.mayWrite()) {
      <p-button size="small" [outlined]="true" label="Save the labels" (onClick)="save()" />
    }
  `,
  styles: `
    :host {
      display: block;
      border-top: 1px solid var(--line);
      margin-top: 1.2rem;
    }
    h3 {
      font: 600 0.95rem/1.2 var(--sans);
      margin: 0.9rem 0 0.4rem;
    }
    p {
      margin: 0 0 0.6rem;
    }
  `,
})
export class LabelsPanel {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);

  readonly component = input.required<LibraryComponent>();
  readonly labelled = output<LibraryComponent>();
  private readonly savedCollection = computed(() => collectionText(this.component().labels?.collection ?? ''));
  private readonly savedTags = computed(() => tagsText(this.component().labels?.tags ?? {}));
  // What is written here stays when something else of the component is saved.
  protected readonly collection = linkedSignal(() => this.savedCollection());
  protected readonly tags = linkedSignal(() => this.savedTags());
  private readonly labels = rxResource({ stream: () => this.api.labels().pipe(catchError(() => of(null))) });
  protected readonly known = computed(() =>
    ((this.labels.hasValue() ? this.labels.value()?.collections : undefined) ?? []).map(({ name }) =>
      collectionText(name),
    ),
  );

  protected save(): void {
    const tags = readTags(this.tags());
    if (!tags) {
      this.notices.failed(new Error('Tags are written as “name: value, value”, several of them with “;” between.'));
      return;
    }
    const collection = this.collection().trim() || null;
    this.api.label(this.component().key, { collection, tags }).subscribe({
      next: (component) => {
        this.labelled.emit(component);
        this.notices.done('The labels are saved.');
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }
}
