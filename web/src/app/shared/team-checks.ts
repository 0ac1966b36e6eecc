import { inject, Injectable, signal } from '@angular/core';
import { firstCheckSettings, type CheckSettings, type StoredChecks } from '@allomorph/core';
import { Api } from './api';

/** What the team wants to be told of when something is saved. */
@Injectable({ providedIn: 'root' })
export class TeamChecks {
  private readonly api = inject(Api);
  readonly settings = signal<CheckSettings>(firstCheckSettings);

  constructor() {
    this.refresh();
  }

  /** Reads them again; what cannot be read stays as it was, as nothing depends on it. */
  refresh(): void {
    this.api.checks().subscribe({ next: (stored) => this.take(stored), error: () => undefined });
  }

  take(stored: StoredChecks): void {
    this.settings.set(stored);
  }
}
