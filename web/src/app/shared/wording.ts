import { computed, inject, Injectable, Pipe, type PipeTransform } from '@angular/core';
import { Session } from './session';

/** How dates, numbers, lists and plurals are written: in the language that the person chose, else the browser's (ECMA-402). */
@Injectable({ providedIn: 'root' })
export class Wording {
  private readonly session = inject(Session);
  private readonly tags = computed(() => {
    const own = this.session.person()?.settings.language ?? '';
    return own === '' ? [...navigator.languages] : [own, ...navigator.languages];
  });
  private readonly days = computed(() => new Intl.DateTimeFormat(this.tags(), { dateStyle: 'medium' }));
  private readonly times = computed(
    () => new Intl.DateTimeFormat(this.tags(), { dateStyle: 'medium', timeStyle: 'short' }),
  );
  private readonly zoned = computed(
    () => new Intl.DateTimeFormat(this.tags(), { dateStyle: 'full', timeStyle: 'long' }),
  );
  private readonly numbers = computed(() => new Intl.NumberFormat(this.tags()));

  /** A day, such as 22 Nov 2026. */
  day(at: string): string {
    return this.days().format(new Date(at));
  }

  /** A moment to the minute. */
  time(at: string): string {
    return this.times().format(new Date(at));
  }

  /** A moment with its zone. */
  exact(at: string): string {
    return this.zoned().format(new Date(at));
  }

  number(value: number): string {
    return this.numbers().format(value);
  }

  /** Bytes in the unit that reads best. */
  size(bytes: number): string {
    const [unit, divisor] = bytes >= 1e6 ? (['megabyte', 1e6] as const) : (['kilobyte', 1e3] as const);
    const style = { style: 'unit', unit, maximumFractionDigits: bytes >= 1e6 ? 1 : 0 } as const;
    return new Intl.NumberFormat(this.tags(), style).format(Math.max(1, bytes / divisor));
  }

  /** Names in a row. Our sentences are in English, so that their lists are, too. */
  list(items: readonly string[]): string {
    return new Intl.ListFormat('en').format(items);
  }

  /** A count with its noun: one block, 2 blocks. */
  count(value: number, one: string, many: string): string {
    const noun = new Intl.PluralRules('en').select(value) === 'one' ? one : many;
    return `${this.number(value)} ${noun}`;
  }
}

/** Writes a moment: `day`, `time` (to the minute) or `exact` (with its zone). */
@Pipe({ name: 'alTime', pure: false })
export class TimePipe implements PipeTransform {
  private readonly wording = inject(Wording);

  transform(at: string | null | undefined, how: 'day' | 'time' | 'exact' = 'time'): string {
    return at ? this.wording[how](at) : '';
  }
}
