import { computed, inject, Injectable, signal } from '@angular/core';
import { roles, type OwnSettings, type Role, type SessionInfo } from '@allomorph/core';
import { tap, type Observable } from 'rxjs';
import { Api } from './api';

/** Who is signed in, and what that allows. */
@Injectable({ providedIn: 'root' })
export class Session {
  private readonly api = inject(Api);
  private readonly info = signal<SessionInfo | null>(null);

  readonly person = computed(() => this.info()?.person ?? null);
  readonly workspace = computed(() => this.info()?.workspace ?? '');
  readonly mayWrite = computed(() => this.atLeast('writer'));
  readonly mayKeep = computed(() => this.atLeast('keeper'));
  readonly writersOutline = computed(() => this.info()?.writersOutline ?? false);
  /** Whether outlines may be changed. */
  readonly mayOutline = computed(() => this.mayKeep() || (this.mayWrite() && this.writersOutline()));

  load(): Observable<SessionInfo> {
    return this.taken(this.api.session());
  }

  signIn(name: string, password: string): Observable<SessionInfo> {
    return this.taken(this.api.signIn(name, password));
  }

  /** Comes in by an invitation. */
  accept(own: Parameters<Api['acceptInvitation']>[0]): Observable<SessionInfo> {
    return this.taken(this.api.acceptInvitation(own));
  }

  /** Saves what the person sets for themselves. */
  saveOwn(name: string, settings: OwnSettings): Observable<SessionInfo> {
    return this.taken(this.api.saveOwn(name, settings));
  }

  /** Gives writers the right to change outlines, or takes it. */
  letWritersOutline(allowed: boolean): Observable<SessionInfo> {
    return this.taken(this.api.saveWritersOutline(allowed));
  }

  signOut(): Observable<void> {
    return this.api.signOut().pipe(tap(() => this.info.set(null)));
  }

  private taken(answer: Observable<SessionInfo>): Observable<SessionInfo> {
    return answer.pipe(tap((info) => this.info.set(info)));
  }

  private atLeast(role: Role): boolean {
    const own = this.person()?.role;
    return own !== undefined && roles.indexOf(own) >= roles.indexOf(role);
  }
}
