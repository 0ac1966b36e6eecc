import { known } from '../model/known.js';
import { diffArrays, diffWordsWithSpace } from 'diff';
import type { AssembledEntry, AssembledPublication } from '../assemble/assembled.js';
import { unitsOf, type Unit } from './units.js';

/** What became of an entry or a passage on the way from the first publication to the second. */
export type ChangeKind = 'same' | 'changed' | 'added' | 'removed' | 'moved';

/** A run of words that both have, or only one of them. */
export interface WordRun {
  readonly kind: 'same' | 'added' | 'removed';
  readonly text: string;
}

export interface PassageChange {
  readonly kind: ChangeKind;
  readonly before: Unit | null;
  readonly after: Unit | null;
  /** For changed passages: word by word. */
  readonly words: readonly WordRun[];
}

export interface EntryChange {
  readonly kind: ChangeKind;
  readonly topic: string;
  /** How often the topic came before in the same publication. */
  readonly occurrence: number;
  readonly titleBefore: string | null;
  readonly titleAfter: string | null;
  /** Whether it stands elsewhere in the outline, too, when it is `changed`. */
  readonly moved: boolean;
  /** All passages in reading order; equal ones included, so that what changed can be seen in its place. */
  readonly passages: readonly PassageChange[];
}

interface Flat {
  readonly entry: AssembledEntry;
  readonly occurrence: number;
  /** The topic with its occurrence, and those above it: where it stands. */
  readonly name: string;
  readonly place: string;
}

/**
 * Compares two assembled publications, two variants or two builds: which entries are only in one, stand
 * elsewhere or read differently, and what of their passages. Entries are matched by topic, passages by
 * their text and, where that differs, by the block that they were written in.
 */
export function comparePublications(before: AssembledPublication, after: AssembledPublication): readonly EntryChange[] {
  const [first, second] = [flatten(before.entries), flatten(after.entries)];
  const firstByName = new Map(first.map((each) => [each.name, each]));
  const secondByName = new Map(second.map((each) => [each.name, each]));
  // What keeps its order among all the others has not moved, whatever came or went around it.
  const common = (list: readonly Flat[], other: ReadonlyMap<string, Flat>): Flat[] =>
    list.filter((each) => other.has(each.name));
  const kept = new Set(
    diffArrays(
      common(first, secondByName).map((each) => each.name),
      common(second, firstByName).map((each) => each.name),
    ).flatMap((part) => (part.added || part.removed ? [] : part.value)),
  );
  const changes = second.map((each): EntryChange => {
    const earlier = firstByName.get(each.name);
    const base = { topic: topicOf(each.entry), occurrence: each.occurrence };
    const units = unitsOf(each.entry);
    const titleAfter = units[0]?.text ?? '';
    if (!earlier) {
      return { ...base, kind: 'added', titleBefore: null, titleAfter, moved: false, passages: units.map(added) };
    }
    const passages = passagesOf(earlier.entry, each.entry);
    const moved = !kept.has(each.name) || earlier.place !== each.place;
    const differs = passages.some((passage) => passage.kind !== 'same');
    const kind = differs ? 'changed' : moved ? 'moved' : 'same';
    return { ...base, kind, titleBefore: unitsOf(earlier.entry)[0]?.text ?? '', titleAfter, moved, passages };
  });
  // What is gone stands behind what it stood behind.
  let place = 0;
  for (const each of first) {
    const at = changes.findIndex(
      (change) => change.topic === topicOf(each.entry) && change.occurrence === each.occurrence,
    );
    if (at >= 0) {
      place = at + 1;
      continue;
    }
    const passages = unitsOf(each.entry).map(removed);
    const titleBefore = passages[0]?.before?.text ?? '';
    const gone: EntryChange = {
      kind: 'removed',
      topic: topicOf(each.entry),
      occurrence: each.occurrence,
      titleBefore,
      titleAfter: null,
      moved: false,
      passages,
    };
    changes.splice(place, 0, gone);
    place += 1;
  }
  return changes;
}

/** What the passages of an entry are made from. */
type AssembledContent = Pick<AssembledEntry, 'topic' | 'title' | 'blocks'>;

/** By the earlier blocks: what they were compared with last, and what came of it. */
const lastCompared = new WeakMap<
  AssembledContent['blocks'],
  { readonly before: AssembledContent; readonly after: AssembledContent; readonly passages: readonly PassageChange[] }
>();

/** The passages of two versions of one entry. Two that did not change since are not compared again. */
function passagesOf(before: AssembledEntry, after: AssembledEntry): readonly PassageChange[] {
  const last = lastCompared.get(before.blocks);
  if (last && isSame(last.before, before) && isSame(last.after, after)) return last.passages;
  const passages = comparePassages(unitsOf(before), unitsOf(after));
  const content = ({ topic, title, blocks }: AssembledEntry): AssembledContent => ({ topic, title, blocks });
  lastCompared.set(before.blocks, { before: content(before), after: content(after), passages });
  return passages;
}

function isSame(a: AssembledContent, b: AssembledContent): boolean {
  return a.topic === b.topic && a.title === b.title && a.blocks === b.blocks;
}

/** Compares the passages of two versions of one entry. */
export function comparePassages(before: readonly Unit[], after: readonly Unit[]): readonly PassageChange[] {
  const sign = (unit: Unit): string => `${unit.type}\0${unit.text}`;
  const changes: PassageChange[] = [];
  let gone: Unit[] = [];
  let come: Unit[] = [];
  let [from, to] = [0, 0];
  const settle = (): void => {
    changes.push(...pair(gone, come));
    [gone, come] = [[], []];
  };
  for (const part of diffArrays(before.map(sign), after.map(sign))) {
    const count = part.value.length;
    if (part.removed) gone.push(...before.slice(from, (from += count)));
    else if (part.added) come.push(...after.slice(to, (to += count)));
    else {
      settle();
      for (let index = 0; index < count; index += 1) {
        changes.push({
          kind: 'same',
          before: before[from + index] ?? null,
          after: after[to + index] ?? null,
          words: [],
        });
      }
      from += count;
      to += count;
    }
  }
  settle();
  return withMoves(changes, sign);
}

/** Pairs passages that were written in the same block: they read differently; the rest came or went. */
function pair(gone: readonly Unit[], come: readonly Unit[]): readonly PassageChange[] {
  const changes: PassageChange[] = [];
  let next = 0;
  for (const unit of gone) {
    const at = come.findIndex(
      (each, index) =>
        index >= next && each.type === unit.type && each.component === unit.component && each.block === unit.block,
    );
    if (at < 0) {
      changes.push(removed(unit));
      continue;
    }
    changes.push(...come.slice(next, at).map(added));
    const other = known(come[at]);
    changes.push({ kind: 'changed', before: unit, after: other, words: compareWords(unit.text, other.text) });
    next = at + 1;
  }
  return [...changes, ...come.slice(next).map(added)];
}

/** A passage that went in one place and came in another, word for word, has moved. */
function withMoves(changes: readonly PassageChange[], sign: (unit: Unit) => string): readonly PassageChange[] {
  const gone = new Map<string, Unit[]>();
  for (const { kind, before } of changes) {
    if (kind === 'removed' && before && before.text !== '')
      gone.set(sign(before), [...(gone.get(sign(before)) ?? []), before]);
  }
  const moved = new Set<Unit>();
  const result = changes.map((change): PassageChange => {
    const earlier = change.kind === 'added' && change.after ? gone.get(sign(change.after))?.shift() : undefined;
    if (!earlier) return change;
    moved.add(earlier);
    return { kind: 'moved', before: earlier, after: change.after, words: [] };
  });
  return result.filter((change) => !(change.kind === 'removed' && change.before && moved.has(change.before)));
}

/** Two texts word by word. Runs that are not added make up the first text, those not removed the second. */
export function compareWords(before: string, after: string): readonly WordRun[] {
  return diffWordsWithSpace(before, after).map(({ value, added: came, removed: went }) => ({
    kind: came ? 'added' : went ? 'removed' : 'same',
    text: value,
  }));
}

function added(after: Unit): PassageChange {
  return { kind: 'added', before: null, after, words: [] };
}

function removed(before: Unit): PassageChange {
  return { kind: 'removed', before, after: null, words: [] };
}

function flatten(entries: readonly AssembledEntry[]): readonly Flat[] {
  const flat: Flat[] = [];
  const counts = new Map<string, number>();
  const visit = (list: readonly AssembledEntry[], place: string): void => {
    for (const entry of list) {
      const occurrence = counts.get(topicOf(entry)) ?? 0;
      counts.set(topicOf(entry), occurrence + 1);
      const name = `${topicOf(entry)}\0${occurrence}`;
      flat.push({ entry, occurrence, name, place });
      visit(entry.entries, `${place}/${topicOf(entry)}`);
    }
  };
  visit(entries, '');
  return flat;
}

/** A heading without a topic has no component's key. */
function topicOf({ topic }: AssembledEntry): string {
  return topic ?? '';
}
