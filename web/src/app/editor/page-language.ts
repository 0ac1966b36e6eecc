import { computed, inject, Injectable, signal } from '@angular/core';
import { Lens } from '../shared/lens';

const stored = 'allomorph.page-languages';
const kept = 500;

/** In which language a page is written, for the browser's spelling: as its writer says, else as what is looked through. */
@Injectable({ providedIn: 'root' })
export class PageLanguage {
  private readonly lens = inject(Lens);
  private readonly said = signal(read());

  /** The languages of the team's variants, the most frequent first. */
  readonly choices = computed<readonly string[]>(() => {
    const counts = new Map<string, number>();
    for (const { language } of this.lens.variants()) counts.set(language, (counts.get(language) ?? 0) + 1);
    const languages = [...counts].sort((a, b) => b[1] - a[1]).map(([language]) => language);
    return languages.length > 0 ? languages : ['en'];
  });

  of(key: string): string {
    return this.said().get(key) ?? this.lens.recipe()?.language ?? this.choices()[0] ?? 'en';
  }

  /** Takes a language tag (BCP 47); anything else changes nothing. */
  say(key: string, tag: string): void {
    const language = canonical(tag.trim());
    if (language === null) return;
    const rest = [...this.said()].filter(([each]) => each !== key);
    const next = [...rest, [key, language] as const].slice(-kept);
    this.said.set(new Map(next));
    localStorage.setItem(stored, JSON.stringify(next));
  }
}

function canonical(tag: string): string | null {
  try {
    return Intl.getCanonicalLocales(tag)[0] ?? null;
  } catch {
    return null;
  }
}

function read(): ReadonlyMap<string, string> {
  try {
    const value: unknown = JSON.parse(localStorage.getItem(stored) ?? '[]');
    const pairs = Array.isArray(value) ? (value as readonly unknown[]) : [];
    return new Map(
      pairs.filter(
        (each): each is [string, string] =>
          Array.isArray(each) && typeof each[0] === 'string' && typeof each[1] === 'string',
      ),
    );
  } catch {
    return new Map();
  }
}
