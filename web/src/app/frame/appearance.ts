import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { appearances, type OwnSettings } from '@allomorph/core';
import { Session } from '../shared/session';

const stored = 'allomorph.appearance';

/** Light, dark or as the system: the person's choice, or the last one made in this browser before anybody is known. */
@Injectable({ providedIn: 'root' })
export class Appearance {
  private readonly session = inject(Session);
  private readonly system = signal(false);
  readonly choice = computed<OwnSettings['appearance']>(
    () => this.session.person()?.settings.appearance ?? remembered(),
  );
  readonly dark = computed(() => (this.choice() === 'system' ? this.system() : this.choice() === 'dark'));

  constructor() {
    const dark = matchMedia('(prefers-color-scheme: dark)');
    this.system.set(dark.matches);
    dark.addEventListener('change', () => this.system.set(dark.matches));
    effect(() => {
      document.documentElement.classList.toggle('dark', this.dark());
      if (this.session.person()) localStorage.setItem(stored, this.choice());
    });
  }
}

function remembered(): OwnSettings['appearance'] {
  return appearances.find((each) => each === localStorage.getItem(stored)) ?? 'system';
}
