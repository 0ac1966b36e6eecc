import type { Algebra } from '../select/algebra.js';
import type { Condition } from './condition-syntax.js';
import { valueStates, type Profile } from '../model/profile.js';
import type { Stamp, Vocabulary } from '../model/stamp.js';
import { readCondition } from './stamps.js';

/**
 * A set of variants as bits, by their position in a list. Equal sets of one `VariantSets` are the same
 * object, so that comparing them is comparing references.
 */
export interface VariantSet {
  readonly id: number;
  readonly words: Uint32Array;
  /** How many variants are in it. */
  readonly size: number;
}

/**
 * Sets of variants: those that a condition lets through, and their combinations. Every condition is
 * decided for all variants at once, and every combination is worked out once and then remembered, so
 * that the number of variants hardly matters for a walk over content.
 */
export class VariantSets implements Algebra<VariantSet> {
  readonly none: VariantSet;
  readonly all: VariantSet;
  private readonly interned = new Map<string, VariantSet>();
  private readonly conditions = new Map<string, VariantSet>();
  private readonly combined = new Map<string, VariantSet>();
  private readonly leaves: ReadonlyMap<string, ReadonlyMap<string, VariantSet>>;

  private readonly stamps: readonly Stamp[];

  /** @param profiles the profile of each variant, in the order of their positions */
  constructor(
    { axes, stamps }: Vocabulary,
    readonly profiles: readonly Profile[],
  ) {
    this.stamps = stamps;
    this.none = this.make(() => false);
    this.all = this.make(() => true);
    this.leaves = new Map(
      axes.map((axis) => {
        const states = profiles.map((profile) => valueStates(axis, profile.axes[axis.key]));
        const keys = [...valueStates(axis, undefined).keys()];
        return [axis.key, new Map(keys.map((key) => [key, this.make((at) => states[at]?.get(key) ?? false)]))];
      }),
    );
  }

  /** The variants in which a condition holds; null stands for “always”. */
  holds(when: string | null): VariantSet {
    if (!when) return this.all;
    let set = this.conditions.get(when);
    if (!set) {
      const condition = readCondition(when, this.stamps);
      set = condition ? this.decide(condition) : this.none;
      this.conditions.set(when, set);
    }
    return set;
  }

  has(set: VariantSet, at: number): boolean {
    return (((set.words[at >>> 5] ?? 0) >>> (at & 31)) & 1) === 1;
  }

  /** The positions of the variants in a set, ascending. */
  positions(set: VariantSet): readonly number[] {
    return this.profiles.map((_, at) => at).filter((at) => this.has(set, at));
  }

  and(a: VariantSet, b: VariantSet): VariantSet {
    if (a === b || b === this.all || a === this.none) return a;
    if (a === this.all || b === this.none) return b;
    return this.combine('&', a, b, (x, y) => x & y);
  }

  or(a: VariantSet, b: VariantSet): VariantSet {
    if (a === b || b === this.none || a === this.all) return a;
    if (a === this.none || b === this.all) return b;
    return this.combine('|', a, b, (x, y) => x | y);
  }

  /** The variants of a that are not in b. */
  minus(a: VariantSet, b: VariantSet): VariantSet {
    if (b === this.none || a === this.none) return a;
    if (a === b || b === this.all) return this.none;
    return this.combine('-', a, b, (x, y) => x & ~y);
  }

  private decide(condition: Condition): VariantSet {
    if ('axis' in condition) {
      const values = this.leaves.get(condition.axis);
      return condition.values.reduce((sum, value) => this.or(sum, values?.get(value) ?? this.none), this.none);
    }
    if ('not' in condition) return this.minus(this.all, this.decide(condition.not));
    if ('all' in condition) return condition.all.reduce((sum, each) => this.and(sum, this.decide(each)), this.all);
    return condition.any.reduce((sum, each) => this.or(sum, this.decide(each)), this.none);
  }

  private combine(sign: string, a: VariantSet, b: VariantSet, bits: (x: number, y: number) => number): VariantSet {
    const key = `${a.id}${sign}${b.id}`;
    let set = this.combined.get(key);
    if (!set) {
      set = this.intern(a.words.map((word, at) => bits(word, b.words[at] ?? 0)));
      this.combined.set(key, set);
    }
    return set;
  }

  private make(isIn: (at: number) => boolean): VariantSet {
    const words = new Uint32Array(Math.ceil(this.profiles.length / 32));
    this.profiles.forEach((_, at) => {
      if (isIn(at)) words[at >>> 5] = (words[at >>> 5] ?? 0) | (1 << (at & 31));
    });
    return this.intern(words);
  }

  private intern(words: Uint32Array): VariantSet {
    const key = words.join(',');
    let set = this.interned.get(key);
    if (!set) {
      set = { id: this.interned.size, words, size: words.reduce((sum, word) => sum + bitsIn(word), 0) };
      this.interned.set(key, set);
    }
    return set;
  }
}

/** How many bits of a word are set (H. S. Warren, “Hacker's Delight”, 5-1). */
function bitsIn(word: number): number {
  let rest = word - ((word >>> 1) & 0x55555555);
  rest = (rest & 0x33333333) + ((rest >>> 2) & 0x33333333);
  rest = (rest + (rest >>> 4)) & 0x0f0f0f0f;
  return Math.imul(rest, 0x01010101) >>> 24;
}
