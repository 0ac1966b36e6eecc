import { HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { KeptDraft } from '@allomorph/core';
import { catchError, firstValueFrom, of } from 'rxjs';
import { Api } from './api';
import { Session } from './session';

/** What the server is still to be told of one draft; null: that there is none any more. */
interface Change {
  /** Who wrote it. */
  readonly person: string;
  readonly thing: string;
  readonly window: string;
  readonly draft: string | null;
}

/** How long changes are gathered before they are sent, and the longest wait after the server could not be reached; ms. */
const pause = 2_000;
const longestWait = 60_000;

/** Sends drafts to the server, the last state of each, in the background; tries again when the server is away. */
@Injectable({ providedIn: 'root' })
export class DraftsOnServer {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly waiting = new Map<string, Change>();
  /** Things of which the server has a draft of this window. */
  private readonly held = new Set<string>();
  /** Drafts that were given up here: until the server knows, it may still tell of them. */
  private readonly gone = new Set<string>();
  private timer: ReturnType<typeof setTimeout> | undefined;
  private wait = pause;
  private sending = false;

  constructor() {
    window.addEventListener('pagehide', () => this.sendLast());
    window.addEventListener('online', () => this.soon(0));
  }

  /** What the person has written of a thing, the latest first; nothing where the server cannot be reached. */
  async read(thing: string): Promise<readonly KeptDraft[]> {
    const none: readonly KeptDraft[] = [];
    if (!this.session.mayWrite()) return none;
    const kept = await firstValueFrom(this.api.drafts(thing).pipe(catchError(() => of(none))));
    return kept.filter(({ window }) => !this.gone.has(this.nameOf(thing, window)));
  }

  keep(thing: string, window: string, draft: string): void {
    this.held.add(thing);
    this.gone.delete(this.nameOf(thing, window));
    this.change({ thing, window, draft });
  }

  drop(thing: string, window: string): void {
    this.held.delete(thing);
    this.gone.add(this.nameOf(thing, window));
    this.change({ thing, window, draft: null });
  }

  /** Whether the server has, or is about to have, a draft of this window. */
  has(thing: string): boolean {
    return this.held.has(thing);
  }

  private change(change: Omit<Change, 'person'>): void {
    const person = this.session.person()?.id;
    if (person === undefined) return;
    this.waiting.set(this.nameOf(change.thing, change.window), { ...change, person });
    if (this.timer === undefined) this.soon(this.wait);
  }

  private nameOf(thing: string, window: string): string {
    return JSON.stringify([this.session.person()?.id, window, thing]);
  }

  private soon(ms: number): void {
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), ms);
  }

  private async send(): Promise<void> {
    if (this.sending) return;
    this.sending = true;
    try {
      for (const [name, change] of [...this.waiting]) {
        await this.tell(change, false);
        if (this.waiting.get(name) === change) this.waiting.delete(name);
      }
      this.wait = pause;
    } catch {
      this.wait = Math.min(2 * this.wait, longestWait);
    }
    this.sending = false;
    this.timer = undefined;
    if (this.waiting.size > 0) this.soon(this.wait);
  }

  /** @throws where it may go better later */
  private async tell({ person, thing, window, draft }: Change, keepalive: boolean): Promise<void> {
    // Somebody else has signed in meanwhile: what the other one wrote is none of theirs.
    if (person !== this.session.person()?.id) return;
    try {
      const request: Parameters<typeof firstValueFrom>[0] =
        draft === null
          ? this.api.dropDraft(thing, window, keepalive)
          : this.api.keepDraft({ thing, window, draft }, keepalive);
      await firstValueFrom(request, { defaultValue: undefined });
    } catch (error) {
      // What the server refuses for good stays in the browser alone.
      const status = error instanceof HttpErrorResponse ? error.status : 0;
      if (status < 400 || status >= 500 || status === 401 || status === 429) throw error;
    }
  }

  /** The page goes: what waits is sent on its own way. */
  private sendLast(): void {
    for (const change of this.waiting.values()) this.tell(change, true).catch(() => undefined);
  }
}
