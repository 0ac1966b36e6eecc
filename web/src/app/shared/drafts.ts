import { inject, Injectable } from '@angular/core';
import { keptOfVersion, schemaVersion } from '@allomorph/core';
import { DraftsOnServer } from './drafts-on-server';
import { readStored, removeStored, writeStored } from './long-text-store';
import { OpenWindow } from './open-window';
import { Session } from './session';

/**
 * Keeps what is being written, so that a closed window, a lost server or an ended session loses nothing: by person, thing and
 * window, so that nobody sees what another wrote, and no window writes over another's. It is kept in the browser at once
 * and, a moment later, on the server, for whoever goes on at another computer.
 */
@Injectable({ providedIn: 'root' })
export class Drafts {
  private readonly session = inject(Session);
  private readonly window = inject(OpenWindow);
  private readonly server = inject(DraftsOnServer);

  keep(key: string, draft: object): void {
    this.keepText(key, JSON.stringify(draft));
  }

  /** @param text the draft as JSON */
  keepText(key: string, text: string): void {
    const versioned = `{"version":${schemaVersion},"draft":${text}}`;
    writeStored(this.name(key), versioned);
    this.server.keep(key, this.window.id(), versioned);
  }

  /** The draft of this window, or else one of a window that is not open any more, which this window takes over. */
  async read<Draft>(key: string): Promise<Draft | null> {
    const own = parsed<Draft>(readStored(this.name(key)));
    if (own) return own;
    const open = await this.window.allOpen();
    for (const [name, id] of this.ofAllWindows(key)) {
      const left = open.has(id) ? null : parsed<Draft & object>(readStored(name));
      if (!left) continue;
      this.keep(key, left);
      removeStored(name);
      this.server.drop(key, id);
      return left;
    }
    return this.fromServer<Draft & object>(key, open);
  }

  drop(key: string): void {
    const name = this.name(key);
    if (localStorage.getItem(name) === null && !this.server.has(key)) return;
    removeStored(name);
    this.server.drop(key, this.window.id());
  }

  /** What was written at another computer, or here before the browser forgot it. */
  private async fromServer<Draft extends object>(key: string, open: ReadonlySet<string>): Promise<Draft | null> {
    const kept = await this.server.read(key);
    const own = this.window.id();
    const left = kept.find(({ window }) => window === own) ?? kept.find(({ window }) => !open.has(window));
    const draft = left ? parsed<Draft>(left.draft) : null;
    if (!left || !draft) return null;
    this.keep(key, draft);
    if (left.window !== own) this.server.drop(key, left.window);
    return draft;
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

/** A draft as the content schema of today has it; null: there is none, or none that this version of the program can read. */
function parsed<Draft>(text: string | null): Draft | null {
  try {
    if (text === null) return null;
    const kept = JSON.parse(text) as Draft | { readonly version: number; readonly draft: Draft };
    const isVersioned = typeof kept === 'object' && kept !== null && 'version' in kept && 'draft' in kept;
    // Those of before drafts said their version were written with the second.
    return isVersioned ? keptOfVersion(kept.draft, kept.version) : keptOfVersion(kept, 2);
  } catch {
    return null;
  }
}
