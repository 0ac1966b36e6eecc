import { Injectable, signal } from '@angular/core';

const prefix = 'allomorph.window.';

/** Not there where the application is served without TLS from another machine (Web Locks API, “secure contexts”). */
const lockManager = (): LockManager | undefined => (navigator as Partial<Navigator>).locks;

/** Names this window of the browser, also after it was loaded anew, and knows which others are open. */
@Injectable({ providedIn: 'root' })
export class OpenWindow {
  readonly id = signal(nameOfWindow());
  private readonly named: Promise<void>;

  constructor() {
    this.named = this.hold();
  }

  /** The windows that are known to be open in this browser. */
  async allOpen(): Promise<ReadonlySet<string>> {
    await this.named;
    const { held = [] } = (await lockManager()?.query()) ?? {};
    return new Set(held.flatMap(({ name }) => (name?.startsWith(prefix) ? [name.slice(prefix.length)] : [])));
  }

  /** Holds the name for as long as the window is open; a window that was made as a copy of another takes a new one. */
  private async hold(): Promise<void> {
    const locks = lockManager();
    if (!locks) return;
    while (!(await isHeld(locks, `${prefix}${this.id()}`))) this.id.set(newName());
  }
}

/** Tries to hold a lock until the window is closed. */
function isHeld(locks: LockManager, name: string): Promise<boolean> {
  return new Promise((resolve) => {
    void locks.request(name, { ifAvailable: true }, (lock) => {
      resolve(lock !== null);
      return lock ? new Promise(() => undefined) : undefined;
    });
  });
}

function nameOfWindow(): string {
  return sessionStorage.getItem('allomorph.window') ?? newName();
}

function newName(): string {
  const name = Array.from(crypto.getRandomValues(new Uint32Array(4)), (part) => part.toString(36)).join('');
  sessionStorage.setItem('allomorph.window', name);
  return name;
}
