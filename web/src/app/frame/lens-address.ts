import { effect, inject, Injectable, untracked } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { NavigationEnd, NavigationStart, Router } from '@angular/router';
import { AddressParams } from '../shared/address-state';
import { Lens } from '../shared/lens';

/** Keeps the lens in every address, so that a colleague who gets one sees the same, and the back button takes it back. */
@Injectable()
export class LensAddress {
  constructor() {
    const [lens, router, params] = [inject(Lens), inject(Router), inject(AddressParams)];
    let isBack = false;
    const inAddress = (): string | null => router.parseUrl(router.url).queryParamMap.get('lens');
    const follow = (): void => {
      const named = inAddress();
      // An address that was gone back to says all; a link that says nothing of the lens leaves it on.
      if (named !== null || isBack) lens.show(named);
      else if (lens.chosenId() !== null) params.set({ lens: lens.chosenId() }, false);
      isBack = false;
    };
    router.events.pipe(takeUntilDestroyed()).subscribe((event) => {
      if (event instanceof NavigationStart) isBack = event.navigationTrigger === 'popstate';
      else if (event instanceof NavigationEnd) follow();
    });
    follow();
    effect(() => {
      const id = lens.chosenId();
      untracked(() => {
        if (id !== inAddress()) params.set({ lens: id }, true);
      });
    });
  }
}
