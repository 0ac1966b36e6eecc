import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { rxResource, takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { FormsModule } from '@angular/forms';
import { Router, RouterLink } from '@angular/router';
import type { PublicationRow } from '@allomorph/core';
import { Button } from 'primeng/button';
import { Dialog } from 'primeng/dialog';
import { InputText } from 'primeng/inputtext';
import { Api, problemText } from '../shared/api';
import { latest } from '../shared/latest';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { Sending } from '../shared/sending';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { ImportDialog } from './import-dialog';

/** All publications, each with its variants. */
@Component({
  selector: 'al-publications',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [FormsModule, RouterLink, Button, Dialog, InputText, ImportDialog],
  template: `
    <div class="place-head">
      <h1>Publications</h1>
      <span class="grow"></span>
      @if (session.mayKeep()) {
        <p-button label="Import a manual" icon="pi pi-upload" [outlined]="true" (onClick)="importOpen.set(true)" />
        <p-button label="New publication" icon="pi pi-plus" (onClick)="show(true)" />
      }
    </div>
    @if (publications.error(); as error) {
      <p class="empty">{{ text(error) }}</p>
    }
    <div class="books">
      @for (book of books(); track book.key) {
        <article>
          <h2>
            <a [routerLink]="['/publications', book.key]">{{ book.title }}</a>
          </h2>
          <p class="soft">
            {{ book.entries }} {{ book.entries === 1 ? 'entry' : 'entries' }}
            @if (book.over; as over) {
              <br />another outline over “{{ over }}”
            }
          </p>
          <ul>
            @for (variant of book.list; track variant.id) {
              <li>
                <span class="title">{{ variant.title }}</span>
                <span class="soft">{{ variant.language }}, {{ designTitle(variant.design) }}</span>
              </li>
            } @empty {
              <li class="soft">No variants yet.</li>
            }
          </ul>
          @if (session.mayWrite() && book.list.length > 0) {
            <p-button
              label="Build all variants"
              size="small"
              icon="pi pi-box"
              [outlined]="true"
              (onClick)="buildAll(book.key)"
            />
          }
        </article>
      } @empty {
        @if (isRead()) {
          <p class="empty">
            No publication yet. A keeper makes one and puts topics into its outline, or imports a manual.
          </p>
        }
      }
    </div>
    <p-dialog
      header="New publication"
      [modal]="true"
      [visible]="newOpen()"
      (visibleChange)="show($event)"
      [style]="{ width: '26rem' }"
    >
      <form (ngSubmit)="create()">
        <div class="field">
          <label for="publication-title">Title</label>
          <input pInputText id="publication-title" name="title" [(ngModel)]="title" autocomplete="off" />
        </div>
        @if (sending.problem(); as text) {
          <p class="problem-text" role="alert">{{ text }}</p>
        }
        <p-button type="submit" label="Create" [loading]="sending.busy()" />
      </form>
    </p-dialog>
    <al-import-dialog [(open)]="importOpen" (imported)="reload()" />
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      overflow: auto;
    }
    .books {
      display: grid;
      grid-template-columns: repeat(auto-fill, minmax(22rem, 1fr));
      gap: 1.2rem;
      padding: 0.4rem 1.2rem 2rem;
      align-items: start;
    }
    article {
      background: var(--sheet);
      border: 1px solid var(--line);
      border-left: 6px solid var(--accent);
      padding: 1.1rem 1.3rem 1.2rem;
    }
    h2 {
      font: 600 1.45rem/1.15 var(--serif);
      margin: 0;
    }
    h2 a {
      color: inherit;
      text-decoration: none;
    }
    h2 a:hover {
      text-decoration: underline;
    }
    p {
      margin: 0.2rem 0 0.8rem;
    }
    .soft {
      color: var(--soft);
    }
    ul {
      list-style: none;
      padding: 0;
      margin: 0 0 0.9rem;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 1rem;
      border-top: 1px solid var(--line);
      padding: 0.25rem 0;
    }
  `,
})
export class PublicationsPlace {
  private readonly api = inject(Api);
  private readonly lens = inject(Lens);
  private readonly router = inject(Router);
  private readonly notices = inject(Notices);
  protected readonly session = inject(Session);

  protected readonly newOpen = signal(false);
  protected readonly sending = new Sending(this.newOpen);
  protected readonly importOpen = signal(false);
  protected title = '';
  private readonly readings = signal(0);
  protected readonly publications = rxResource({
    params: () => this.readings(),
    stream: () => this.api.publications(),
  });
  private readonly read = latest<readonly PublicationRow[] | null>(this.publications, null);
  protected readonly isRead = computed(() => this.read() !== null);
  protected readonly books = computed(() =>
    (this.read() ?? []).map((book) => ({
      ...book,
      over: book.outlineOf === null ? null : (this.lens.publicationTitles().get(book.outlineOf) ?? book.outlineOf),
      list: this.lens.variants().filter((variant) => variant.publication === book.key),
    })),
  );
  protected readonly text = problemText;

  protected designTitle(key: string): string {
    return this.lens.designTitle(key);
  }

  constructor() {
    this.lens.hidden.set(null);
    // That publications are made, deleted or brought back is told with what content is looked at through.
    inject(ServerEvents)
      .of('publication', 'variation', 'missed')
      .pipe(takeUntilDestroyed())
      .subscribe(() => this.reload());
  }

  protected show(isOpen: boolean): void {
    this.title = '';
    this.newOpen.set(isOpen);
  }

  protected create(): void {
    const title = this.title.trim();
    if (title === '') {
      this.sending.problem.set('Give it a title.');
      return;
    }
    this.sending.send(this.api.createPublication(title), ({ key }) => {
      this.lens.refresh().subscribe({ error: () => undefined });
      void this.router.navigate(['/publications', key]);
    });
  }

  protected buildAll(publication: string): void {
    const ids = this.lens
      .variants()
      .filter((variant) => variant.publication === publication)
      .map((variant) => variant.id);
    this.api.startBuilds(ids).subscribe({
      next: ({ builds }) => void this.router.navigate(['/builds'], { queryParams: { build: builds[0] } }),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  protected reload(): void {
    this.readings.update((count) => count + 1);
    this.lens.refresh().subscribe({ error: (error: unknown) => this.notices.failed(error) });
  }
}
