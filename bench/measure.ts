/** Milliseconds of one call. */
export function timeOf(call: () => unknown): number {
  const begun = performance.now();
  call();
  return performance.now() - begun;
}

export interface Spread {
  readonly least: number;
  readonly median: number;
  readonly most: number;
}

export function spreadOf(times: readonly number[]): Spread {
  const sorted = [...times].sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.round(share * (sorted.length - 1))] ?? 0;
  return { least: at(0), median: at(0.5), most: at(1) };
}

/**
 * Measures calls side by side: round by round one of each, so that a busy machine is as busy for all.
 * @param calls what to call with the number of the round, by name
 * @param warmUp rounds that are not counted
 */
export function sideBySide<Name extends string>(
  calls: Readonly<Record<Name, (round: number) => unknown>>,
  rounds: number,
  warmUp: number,
): Readonly<Record<Name, Spread>> {
  const names = Object.keys(calls) as Name[];
  const times = new Map<Name, number[]>(names.map((name) => [name, []]));
  for (let round = 0; round < rounds + warmUp; round += 1) {
    for (let turn = 0; turn < names.length; turn += 1) {
      const name = names[(turn + round) % names.length] as Name;
      const time = timeOf(() => calls[name](round));
      if (round >= warmUp) times.get(name)?.push(time);
    }
  }
  return Object.fromEntries(names.map((name) => [name, spreadOf(times.get(name) ?? [])])) as Record<Name, Spread>;
}

/** A row of a table in the README: times in milliseconds, least, median and most, and a ratio. */
export function row(what: string, { least, median, most }: Spread, ratio: string): string {
  const number = (value: number): string => value.toFixed(value < 10 ? 1 : 0);
  return `| ${what} | ${number(least)} / ${number(median)} / ${number(most)} | ${ratio} |`;
}
