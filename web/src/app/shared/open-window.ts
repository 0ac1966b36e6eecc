import { Injectable, signal } from '@angular/core';

const prefix = 'allomorph.window.';

/** Names this window of the browser, also after it was loaded anew, and knows which others are open. */
@Injectable({ providedIn: 'root' })
export class OpenWindow {
  readonly id = signal(nameOfWindow());
  private readonly named: Promise<void>;

  constructor() {
    this.named = this.hold();
  }

  /** The windows that are open in this browser. */
  async allOpen(): Promise<ReadonlySet<string>> {
    await this.named;
    const { held = [] } = await navigator.locks.query();
    return new Set(held.flatMap(({ name }) => (name?.startsWith(prefix) ? [name.slice(prefix.length)] : [])));
  }

  /** Holds the name for as long as the window is open; a window that was made as a copy of another takes a new one. */
  private hold(): Promise<void> {
    return new Promise((resolve) => {
      void navigator.locks.request(`${prefix}${this.id()}`, { ifAvailable: true }, (lock) => {
        if (!lock) {
          this.id.set(newName());
          void this.hold().then(resolve);
          return undefined;
        }
        resolve();
        return new Promise(() => undefined);
      });
    });
  }
}

function nameOfWindow(): string {
  return sessionStorage.getItem('allomorph.window') ?? newName();
}

function newName(): string {
  const name = crypto.randomUUID();
  sessionStorage.setItem('allomorph.window', name);
  return name;
}
