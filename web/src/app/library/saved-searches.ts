import { ChangeDetectionStrategy, Component, inject, input, signal } from '@angular/core';
import { FormsModule } from '@angular/forms';
import type { SavedSearch } from '@allomorph/core';
import { InputText } from 'primeng/inputtext';
import { Popover } from 'primeng/popover';
import type { Observable } from 'rxjs';
import { Api } from '../shared/api';
import { Notices } from '../shared/notices';
import type { LibraryFilter } from './library-filter';

/** What a person looks for often: kept under a name, shown again, deleted. */
@Component({
  selector: 'al-saved-searches',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, InputText, Popover],
  template: `
    <button
      type="button"
      class="opens"
      aria-haspopup="dialog"
      aria-label="Saved searches"
      (click)="read(); panel.toggle($event)"
    >
      <i class="pi pi-bookmark" aria-hidden="true"></i> Saved
    </button>
    <p-popover #panel ariaLabel="Saved searches">
      <div class="panel">
        @for (each of searches(); track each.name) {
          <div class="row">
            <button
              type="button"
              class="name"
              [attr.aria-current]="each.query === filter().query()"
              (click)="filter().show(each.query); panel.hide()"
            >
              {{ each.name }}
            </button>
            <button
              type="button"
              class="plain-button"
              [attr.aria-label]="'Delete the search ' + each.name"
              (click)="remove(each)"
            >
              <i class="pi pi-trash" aria-hidden="true"></i>
            </button>
          </div>
        } @empty {
          <p>
            {{ searches() ? 'None yet. Set filters or type words, then keep them here under a name.' : 'Reading …' }}
          </p>
        }
        @if (filter().isOn()) {
          <form (submit)="$event.preventDefault(); keep(name.value); name.value = ''">
            <input #name pInputText aria-label="Name of this search" placeholder="Name of this search" maxlength="80" />
            <button type="submit" class="opens">Keep it</button>
          </form>
        }
      </div>
    </p-popover>
  `,
  styles: `
    .opens {
      font: inherit;
      color: var(--accent);
      background: none;
      border: 0;
      padding: 0.2rem 0.3rem;
      cursor: pointer;
      white-space: nowrap;
    }
    .panel {
      width: min(19rem, 80vw);
    }
    .panel p {
      margin: 0;
      color: var(--soft);
    }
    .row {
      display: flex;
      justify-content: space-between;
      gap: 0.5rem;
    }
    .name {
      flex: 1;
      min-width: 0;
      text-align: left;
      overflow-wrap: anywhere;
      font: inherit;
      color: inherit;
      background: none;
      border: 0;
      padding: 0.3rem;
      border-radius: 3px;
      cursor: pointer;
    }
    .name:hover,
    .name[aria-current='true'] {
      background: var(--tint);
    }
    form {
      display: flex;
      gap: 0.4rem;
      margin-top: 0.5rem;
      padding-top: 0.5rem;
      border-top: 1px solid var(--line);
    }
    form input {
      flex: 1;
      min-width: 0;
    }
  `,
})
export class SavedSearches {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);

  readonly filter = input.required<LibraryFilter>();
  /** Null: not read yet. */
  protected readonly searches = signal<readonly SavedSearch[] | null>(null);

  protected read(): void {
    this.take(this.api.savedSearches());
  }

  protected keep(name: string): void {
    if (name.trim() === '') return;
    this.take(this.api.saveSearch({ name: name.trim(), query: this.filter().query() }));
  }

  protected remove({ name }: SavedSearch): void {
    this.take(this.api.deleteSearch(name));
  }

  private take(answer: Observable<readonly SavedSearch[]>): void {
    answer.subscribe({
      next: (searches) => this.searches.set(searches),
      error: (error: unknown) => this.notices.failed(error),
    });
  }
}
