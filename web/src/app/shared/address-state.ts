import { inject, Injectable, linkedSignal, type Signal } from '@angular/core';
import { toSignal } from '@angular/core/rxjs-interop';
import { ActivatedRoute, Router, type Params } from '@angular/router';

/** Puts what a colleague should see into the address: several changes of one moment together. */
@Injectable({ providedIn: 'root' })
export class AddressParams {
  private readonly router = inject(Router);
  private pending: Params | null = null;
  private isStep = false;

  /** @param isStep whether the back button leads to what was before */
  set(change: Params, isStep: boolean): void {
    this.isStep ||= isStep;
    if (this.pending) {
      Object.assign(this.pending, change);
      return;
    }
    this.pending = { ...change };
    queueMicrotask(() => {
      const queryParams = this.pending ?? {};
      const replaceUrl = !this.isStep;
      this.pending = null;
      this.isStep = false;
      void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl });
    });
  }
}

/** A value that stands in the address; as it is at the beginning it does not. */
export interface AddressState {
  readonly value: Signal<string>;
  set(value: string, isStep?: boolean): void;
}

/**
 * A value of a place that is kept in its address, so that it can be sent to a colleague and gone back to.
 * @param name of the parameter
 * @param initial what it is where the address says nothing
 */
export function addressState(name: string, initial = ''): AddressState {
  const params = inject(AddressParams);
  const read = toSignal(inject(ActivatedRoute).queryParamMap);
  const value = linkedSignal(() => read()?.get(name) ?? initial);
  return {
    value: value.asReadonly(),
    set: (next, isStep = false) => {
      if (next === value()) return;
      value.set(next);
      params.set({ [name]: next === initial ? null : next }, isStep);
    },
  };
}
