import { inject, Injectable } from '@angular/core';
import { OpenWindow } from './open-window';
import { Session } from './session';

/**
 * Keeps what is being written in the browser, so that a closed window, a lost server or an ended session loses nothing: by
 * person, thing and window, so that nobody sees what another wrote, and no window writes over another's.
 */
@Injectable({ providedIn: 'root' })
export class Drafts {
  private readonly session = inject(Session);
  private readonly window = inject(OpenWindow);

  keep(key: string, draft: object): void {
    try {
      localStorage.setItem(this.name(key), JSON.stringify(draft));
    } catch {
      // The browser's store is full or shut; the text still stands on the page.
    }
  }

  /** The draft of this window, or else one of a window that is not open any more, which this window takes over. */
  async read<Draft>(key: string): Promise<Draft | null> {
    const own = parsed<Draft>(localStorage.getItem(this.name(key)));
    if (own) return own;
    const open = await this.window.allOpen();
    for (const [name, id] of this.ofAllWindows(key)) {
      const left = open.has(id) ? null : parsed<Draft & object>(localStorage.getItem(name));
      if (!left) continue;
      this.keep(key, left);
      localStorage.removeItem(name);
      return left;
    }
    return null;
  }

  drop(key: string): void {
    localStorage.removeItem(this.name(key));
  }

  private name(key: string): string {
    return `${this.prefix(key)}${this.window.id()}`;
  }

  private prefix(key: string): string {
    return `allomorph.draft.${JSON.stringify([this.session.person()?.signIn ?? '', key])}.`;
  }

  /** The names of the drafts of this person and component, each with its window. */
  private ofAllWindows(key: string): readonly (readonly [string, string])[] {
    const prefix = this.prefix(key);
    return Object.keys(localStorage)
      .filter((name) => name.startsWith(prefix))
      .map((name) => [name, name.slice(prefix.length)] as const);
  }
}

function parsed<Draft>(text: string | null): Draft | null {
  try {
    return text === null ? null : (JSON.parse(text) as Draft);
  } catch {
    return null;
  }
}
