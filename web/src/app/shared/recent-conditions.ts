import { Injectable, signal } from '@angular/core';

const stored = 'allomorph.recent-conditions';
const kept = 12;

/** The conditions that were applied in this window, the last one first. */
@Injectable({ providedIn: 'root' })
export class RecentConditions {
  private readonly list = signal(read());
  readonly conditions = this.list.asReadonly();

  add(when: string): void {
    const next = [when, ...this.list().filter((each) => each !== when)].slice(0, kept);
    this.list.set(next);
    sessionStorage.setItem(stored, JSON.stringify(next));
  }
}

function read(): readonly string[] {
  try {
    const value: unknown = JSON.parse(sessionStorage.getItem(stored) ?? '[]');
    return Array.isArray(value) ? value.filter((each) => typeof each === 'string').slice(0, kept) : [];
  } catch {
    return [];
  }
}
