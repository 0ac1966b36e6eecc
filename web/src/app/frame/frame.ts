import { ChangeDetectionStrategy, Component, computed, HostListener, inject, signal, viewChild } from '@angular/core';
import { Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import type { MenuItem } from 'primeng/api';
import { Dialog } from 'primeng/dialog';
import { Menu } from 'primeng/menu';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { Session } from '../shared/session';
import { Appearance } from './appearance';
import { FindBox } from './find-box';
import { LensStrip } from './lens-strip';
import { SignInAgainDialog } from './sign-in-again-dialog';

/** What surrounds every place: the rail, the top bar and the lens strip. */
@Component({
  selector: 'al-frame',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [RouterOutlet, RouterLink, RouterLinkActive, Menu, Dialog, FindBox, LensStrip, SignInAgainDialog],
  template: `
    <div class="frame" [class.with-lens]="lens.current()" [style.--lens]="lens.colour()">
      <nav class="rail" aria-label="Places">
        <a class="mark" routerLink="/library" aria-label="Allomorph"
          ><img src="mark.svg" alt="" width="34" height="34"
        /></a>
        @for (place of places; track place.path) {
          <a [routerLink]="place.path" routerLinkActive="here" ariaCurrentWhenActive="page">
            <i [class]="place.icon" aria-hidden="true"></i>{{ place.title }}
          </a>
        }
        <button type="button" class="person" (click)="menu.toggle($event)" aria-haspopup="menu">
          <span class="initials" aria-hidden="true">{{ initials() }}</span>
          {{ firstName() }}
        </button>
        <p-menu #menu [model]="personMenu()" [popup]="true" />
      </nav>
      <div class="main">
        <header class="top">
          <span class="workspace">{{ session.workspace() }}</span>
          <al-find-box />
          <button type="button" class="help" (click)="keysShown.set(true)"><kbd>?</kbd> Keys</button>
        </header>
        <al-lens-strip />
        <main class="place">
          @if (ready()) {
            <router-outlet />
          }
        </main>
      </div>
    </div>
    <al-sign-in-again />
    <p-dialog header="Keys" [modal]="true" [(visible)]="keysOpen" [style]="{ width: '34rem' }">
      <table class="keys">
        <tbody>
          @for (key of keys; track key[0]) {
            <tr>
              <th scope="row">
                <kbd>{{ key[0] }}</kbd>
              </th>
              <td>{{ key[1] }}</td>
            </tr>
          }
        </tbody>
      </table>
    </p-dialog>
  `,
  styles: `
    .frame {
      display: flex;
      height: 100vh;
    }
    .frame.with-lens::after {
      content: '';
      position: fixed;
      inset: 0;
      border: 4px solid var(--lens);
      pointer-events: none;
      z-index: 40;
    }
    .rail {
      width: 5.6rem;
      flex: none;
      display: flex;
      flex-direction: column;
      background: var(--accent-deep);
      padding: 0.7rem 0.35rem;
      gap: 0.2rem;
    }
    .rail a,
    .rail button {
      display: flex;
      flex-direction: column;
      align-items: center;
      gap: 0.3rem;
      padding: 0.55rem 0.1rem;
      border: 0;
      border-radius: 4px;
      background: none;
      color: #d9e6e4;
      font: 500 0.74rem/1.2 var(--sans);
      text-decoration: none;
      cursor: pointer;
    }
    .rail a:hover,
    .rail button:hover {
      background: #ffffff1c;
    }
    .rail a.here {
      background: var(--paper);
      color: var(--accent-deep);
      font-weight: 650;
    }
    :host-context(.dark) .rail a.here {
      color: #fff;
    }
    .rail .mark:hover {
      background: none;
    }
    .rail i {
      font-size: 1.15rem;
    }
    .rail .person {
      margin-top: auto;
    }
    .initials {
      width: 2rem;
      height: 2rem;
      line-height: 2rem;
      border-radius: 50%;
      background: #e9a23b;
      color: #20170a;
      font-weight: 700;
      font-size: 0.8rem;
    }
    .main {
      flex: 1;
      min-width: 0;
      display: flex;
      flex-direction: column;
    }
    .top {
      display: flex;
      align-items: center;
      gap: 1rem;
      padding: 0.5rem 1.2rem;
      background: var(--paper);
      border-bottom: 1px solid var(--line);
    }
    .workspace {
      font: 600 1.05rem/1 var(--serif);
      margin-right: auto;
    }
    .help {
      border: 0;
      background: none;
      color: var(--soft);
      font: inherit;
      cursor: pointer;
    }
    .place {
      flex: 1;
      min-height: 0;
      overflow: hidden;
    }
    .keys {
      border-spacing: 0 0.35rem;
    }
    .keys th {
      text-align: left;
      padding-right: 1.5rem;
      white-space: nowrap;
    }
  `,
})
export class Frame {
  protected readonly session = inject(Session);
  protected readonly lens = inject(Lens);
  private readonly appearance = inject(Appearance);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly findBox = viewChild.required(FindBox);

  protected readonly ready = signal(false);
  protected readonly keysShown = signal(false);
  protected readonly places = [
    { path: '/library', title: 'Library', icon: 'pi pi-th-large' },
    { path: '/variables', title: 'Variables', icon: 'pi pi-percentage' },
    { path: '/variation', title: 'Variation', icon: 'pi pi-sitemap' },
    { path: '/publications', title: 'Publications', icon: 'pi pi-book' },
    { path: '/builds', title: 'Builds', icon: 'pi pi-box' },
    { path: '/compare', title: 'Compare', icon: 'pi pi-arrows-h' },
  ];
  protected readonly keys: readonly (readonly [string, string])[] = [
    ['Ctrl K', 'Find anything'],
    ['Alt L', 'Take the lens off, or put the last one on again'],
    ['Ctrl S', 'Save what is open'],
    ['/', 'In the editor, at the start of a paragraph: open the insert menu'],
    ['Ctrl Space', 'In the editor: open the insert menu anywhere'],
    ['Ctrl B, Ctrl I', 'Strong, emphasis'],
    ['Tab, Shift Tab', 'Indent or outdent a list item; next or previous table cell'],
    ['Esc, then Tab', 'Leave the text'],
    ['Ctrl Z, Ctrl Y', 'Undo, redo'],
    ['?', 'This list'],
  ];
  protected readonly firstName = computed(() => this.session.person()?.name.split(' ')[0] ?? '');
  protected readonly initials = computed(() =>
    (this.session.person()?.name ?? '')
      .split(' ')
      .map((part) => part.charAt(0))
      .join(''),
  );
  protected readonly personMenu = computed<MenuItem[]>(() => [
    { label: `${this.session.person()?.name ?? ''}, ${this.session.person()?.role ?? ''}`, disabled: true },
    {
      label: this.appearance.dark() ? 'Light' : 'Dark',
      icon: this.appearance.dark() ? 'pi pi-sun' : 'pi pi-moon',
      command: () => this.appearance.dark.update((dark) => !dark),
    },
    { label: 'Sign out', icon: 'pi pi-sign-out', command: () => this.signOut() },
  ]);

  get keysOpen(): boolean {
    return this.keysShown();
  }

  set keysOpen(open: boolean) {
    this.keysShown.set(open);
  }

  constructor() {
    this.lens.refresh().subscribe({
      next: () => this.ready.set(true),
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    const inText =
      event.target instanceof HTMLElement && event.target.closest('input, textarea, [contenteditable=true]');
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      this.findBox().focus();
    } else if (event.altKey && event.key.toLowerCase() === 'l') {
      event.preventDefault();
      this.lens.toggle();
    } else if (event.key === '?' && !inText) this.keysShown.set(true);
  }

  private signOut(): void {
    // What is not saved is asked for before the session ends.
    void this.router.navigate(['/sign-in']).then((left) => {
      if (left) this.session.signOut().subscribe({ error: (error: unknown) => this.notices.failed(error) });
    });
  }
}
