import { effect, Injectable, signal } from '@angular/core';

const stored = 'allomorph.appearance';

/** Light or dark: the person's choice, else the system's. */
@Injectable({ providedIn: 'root' })
export class Appearance {
  readonly dark = signal(
    (localStorage.getItem(stored) ?? (matchMedia('(prefers-color-scheme: dark)').matches ? 'dark' : 'light')) ===
      'dark',
  );

  constructor() {
    effect(() => {
      document.documentElement.classList.toggle('dark', this.dark());
      localStorage.setItem(stored, this.dark() ? 'dark' : 'light');
    });
  }
}
