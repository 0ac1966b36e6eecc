import { computed, DestroyRef, effect, inject, Injectable, signal } from '@angular/core';
import { TitleStrategy, type RouterStateSnapshot } from '@angular/router';

/** Names the browser's tab after what is open: the thing, the place, the application. */
@Injectable({ providedIn: 'root' })
export class PageTitle extends TitleStrategy {
  private readonly place = signal('');
  private readonly thing = signal<(() => string) | null>(null);
  private readonly text = computed(() =>
    [this.thing()?.() ?? '', this.place(), 'Allomorph'].filter((part) => part !== '').join(' · '),
  );

  constructor() {
    super();
    effect(() => {
      document.title = this.text();
    });
  }

  override updateTitle(snapshot: RouterStateSnapshot): void {
    this.place.set(this.buildTitle(snapshot) ?? '');
  }

  /** Names what is open as long as whoever asks is shown. */
  name(thing: () => string): void {
    this.thing.set(thing);
    inject(DestroyRef).onDestroy(() => {
      if (this.thing() === thing) this.thing.set(null);
    });
  }
}
