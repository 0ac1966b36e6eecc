import { ChangeDetectionStrategy, Component, computed, HostListener, inject, signal, viewChild } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { ActivatedRoute, NavigationEnd, Router, RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';
import type { MenuItem } from 'primeng/api';
import { Dialog } from 'primeng/dialog';
import { Menu } from 'primeng/menu';
import { catchError, debounceTime, EMPTY, filter, startWith, switchMap, type Observable } from 'rxjs';
import { Bindings, keyText, type EverywhereKey } from '../shared/bindings';
import { Lens } from '../shared/lens';
import { Notices } from '../shared/notices';
import { laneColours } from '../shared/lanes';
import { ServerEvents } from '../shared/server-events';
import { Session } from '../shared/session';
import { Viewport } from '../shared/viewport';
import { Appearance } from './appearance';
import { FindBox } from './find-box';
import { KeyList } from './key-list';
import { LensAddress } from './lens-address';
import { LensChip } from './lens-chip';
import { LensStrip } from './lens-strip';
import { SignInAgainDialog } from './sign-in-again-dialog';

/** What surrounds every place: the rail, the top bar and the lens. */
@Component({
  selector: 'al-frame',
  changeDetection: ChangeDetectionStrategy.OnPush,
  imports: [
    RouterOutlet,
    RouterLink,
    RouterLinkActive,
    Menu,
    Dialog,
    FindBox,
    KeyList,
    LensChip,
    LensStrip,
    SignInAgainDialog,
  ],
  providers: [LensAddress],
  templateUrl: './frame.html',
  styleUrl: './frame.css',
})
export class Frame {
  protected readonly session = inject(Session);
  protected readonly lens = inject(Lens);
  protected readonly viewport = inject(Viewport);
  private readonly appearance = inject(Appearance);
  private readonly bindings = inject(Bindings);
  private readonly notices = inject(Notices);
  private readonly router = inject(Router);
  private readonly route = inject(ActivatedRoute);
  private readonly findBox = viewChild.required(FindBox);

  protected readonly ready = signal(false);
  protected readonly keysShown = signal(false);
  /** Whether content is read through the lens in this place; elsewhere the lens is a chip. */
  private readonly readsThroughLens = signal(false);
  protected readonly hasStrip = computed(() => this.readsThroughLens() && !this.viewport.slim());
  protected readonly places = [
    { path: '/library', title: 'Library', icon: 'pi pi-th-large' },
    { path: '/variables', title: 'Variables', icon: 'pi pi-percentage' },
    { path: '/variation', title: 'Variation', icon: 'pi pi-sitemap' },
    { path: '/publications', title: 'Publications', icon: 'pi pi-book' },
    { path: '/design', title: 'Design', icon: 'pi pi-palette' },
    { path: '/builds', title: 'Builds', icon: 'pi pi-box' },
    { path: '/compare', title: 'Compare', icon: 'pi pi-arrows-h' },
  ];
  protected readonly keysKey = computed(() => keyText(this.bindings.keyFor('keys')));
  protected readonly firstName = computed(() => this.session.person()?.name.split(' ')[0] ?? '');
  protected readonly initials = computed(() =>
    (this.session.person()?.name ?? '')
      .split(' ')
      .map((part) => part.charAt(0))
      .slice(0, 2)
      .join(''),
  );
  protected readonly colour = computed(() => laneColours[this.session.person()?.settings.colour ?? 0] ?? '');
  protected readonly personMenu = computed<MenuItem[]>(() => {
    const person = this.session.person();
    const to = (label: string, icon: string, path: string): MenuItem => ({
      label,
      icon: `pi pi-${icon}`,
      command: () => void this.router.navigate([path]),
    });
    return [
      { label: `${person?.name ?? ''}, ${person?.role ?? ''}`, disabled: true },
      to('My settings', 'user-edit', '/settings'),
      ...(this.session.mayKeep()
        ? [
            to('People', 'users', '/people'),
            to('Checks', 'list-check', '/checks'),
            to('First hour', 'compass', '/first-hour'),
          ]
        : []),
      ...(this.session.mayWrite() ? [to('Bin', 'trash', '/bin')] : []),
      {
        label: this.appearance.dark() ? 'Light' : 'Dark',
        icon: this.appearance.dark() ? 'pi pi-sun' : 'pi pi-moon',
        command: () => this.turnAppearance(),
      },
      { label: 'Keys', icon: 'pi pi-info-circle', command: () => this.keysShown.set(true) },
      { label: 'Sign out', icon: 'pi pi-sign-out', command: () => this.signOut() },
    ];
  });

  constructor() {
    inject(LensAddress);
    // What is looked through is read again whenever somebody changes it.
    const failed = (error: unknown): Observable<never> => {
      if (!this.ready()) this.notices.failed(error);
      return EMPTY;
    };
    inject(ServerEvents)
      .of('variation', 'missed')
      .pipe(
        debounceTime(300),
        startWith(null),
        switchMap(() => this.lens.refresh().pipe(catchError(failed))),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.ready.set(true));
    this.router.events
      .pipe(
        filter((event) => event instanceof NavigationEnd),
        startWith(null),
        takeUntilDestroyed(),
      )
      .subscribe(() => this.readsThroughLens.set(this.route.snapshot.firstChild?.data['lens'] === true));
  }

  @HostListener('document:keydown', ['$event'])
  protected key(event: KeyboardEvent): void {
    const acts: Readonly<Record<EverywhereKey, (() => void) | null>> = {
      find: () => this.findBox().focus(),
      lens: () => this.lens.toggle(),
      keys: () => this.keysShown.set(true),
      // What is open saves itself.
      save: null,
    };
    const meant = this.bindings.meant(event);
    const act = meant && acts[meant];
    if (!act) return;
    event.preventDefault();
    act();
  }

  /** Goes past what surrounds the place. */
  protected skip(event: Event): void {
    event.preventDefault();
    document.getElementById('place')?.focus();
  }

  private turnAppearance(): void {
    const person = this.session.person();
    if (!person) return;
    const appearance = this.appearance.dark() ? 'light' : 'dark';
    this.session
      .saveOwn(person.name, { ...person.settings, appearance })
      .subscribe({ error: (error: unknown) => this.notices.failed(error) });
  }

  private signOut(): void {
    // What is not saved is asked for before the session ends.
    void this.router.navigate(['/sign-in']).then((left) => {
      if (left) this.session.signOut().subscribe({ error: (error: unknown) => this.notices.failed(error) });
    });
  }
}
