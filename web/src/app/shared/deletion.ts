import { inject, Injectable } from '@angular/core';
import type { BinKind, Component, Uses } from '@allomorph/core';
import { ConfirmationService } from 'primeng/api';
import type { Observable } from 'rxjs';
import { Api } from './api';
import { Notices } from './notices';

/** What a deletion needs to know of its subject. */
export interface Deletable {
  readonly key: string;
  readonly title: string;
}

/** Asks before something is deleted, and offers to bring back what can be. */
@Injectable({ providedIn: 'root' })
export class Deletion {
  private readonly api = inject(Api);
  private readonly notices = inject(Notices);
  private readonly confirmation = inject(ConfirmationService);

  /**
   * Asks with the facts, then deletes; says why where it is refused.
   * @param what the question, with the name of what goes
   * @param facts what goes with it, or what would refuse it
   */
  ask(what: string, facts: string, act: () => Observable<unknown>, done: () => void, label = 'Delete'): void {
    this.confirmation.confirm({
      header: what,
      message: facts,
      // Said each time: the dialog keeps what the last question said.
      acceptVisible: true,
      acceptLabel: label,
      rejectLabel: 'Keep',
      acceptButtonProps: { severity: 'danger' },
      accept: () => act().subscribe({ next: done, error: (error: unknown) => this.notices.failed(error) }),
    });
  }

  /**
   * Puts something into the bin after asking, and offers to bring it back at once.
   * @param changed called when it has gone, and when it is back
   */
  toBin(kind: BinKind, subject: Deletable, facts: string, act: () => Observable<unknown>, changed: () => void): void {
    const { title } = subject;
    this.ask(`Delete “${title}”?`, `${facts} It goes into the bin and can be brought back.`, act, () => {
      changed();
      this.notices.undoable(`“${title}” is in the bin.`, () => this.bringBack(kind, subject, changed));
    });
  }

  /** Brings something back out of the bin. */
  bringBack(kind: BinKind, { key, title }: Deletable, done: () => void): void {
    this.api.restore(kind, key).subscribe({
      next: () => {
        done();
        this.notices.done(`“${title}” is back.`);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  /** Deletes a component of the library after asking; it can be brought back. What is used is not offered for deletion. */
  component(subject: Deletable, done: () => void, restored: (component: Component) => void): void {
    this.api.uses(subject.key).subscribe({
      next: (uses) => {
        if (uses.directTotal > 0) this.tellUses(subject, uses);
        else this.askForComponent(subject, done, restored);
      },
      error: (error: unknown) => this.notices.failed(error),
    });
  }

  private tellUses({ title }: Deletable, { direct, directTotal }: Uses): void {
    const users = [...new Set(direct.map((use) => `“${use.title}”`))];
    const named = users.slice(0, 5);
    const more = users.length > named.length || directTotal > direct.length ? ' and others' : '';
    this.confirmation.confirm({
      header: `“${title}” is used`,
      message: `${named.join(', ')}${more} would be left without it. Take it out there first; then it can be deleted.`,
      acceptVisible: false,
      rejectLabel: 'Close',
    });
  }

  private askForComponent({ key, title }: Deletable, done: () => void, restored: (component: Component) => void): void {
    this.ask(
      `Delete “${title}”?`,
      'Nothing uses it. It goes into the bin and can be brought back.',
      () => this.api.deleteComponent(key),
      () => {
        done();
        this.notices.undoable(`“${title}” is in the bin.`, () => {
          this.api.restoreComponent(key).subscribe({
            next: (component) => {
              restored(component);
              this.notices.done(`“${title}” is back.`);
            },
            error: (error: unknown) => this.notices.failed(error),
          });
        });
      },
    );
  }
}
