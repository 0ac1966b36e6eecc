import { freeKey, keyFromTitle } from '../model/component.js';
import { flattenValues, type Axis, type AxisValue } from '../model/axis.js';
import type { AxisChoice } from '../model/profile.js';
import type { FormatName } from '../output/format-facts.js';

/** One way in which products, readers or markets differ, as somebody tells it: a value a line, those below it indented. */
export interface ToldAxis {
  readonly title: string;
  readonly values: string;
}

/** Whether a document is made once for each value of an axis, once for all of them, or for some of them together. */
export type MadeFor = 'each' | 'all' | readonly string[];

/** A document that is handed over, as somebody tells it. */
export interface ToldDocument {
  readonly title: string;
  /** Language tags. */
  readonly languages: readonly string[];
  readonly formats: readonly FormatName[];
  /** By the titles of axes; an axis that is not told of: all. Values by their titles. */
  readonly madeFor: Readonly<Record<string, MadeFor>>;
}

export interface PlannedProfile {
  readonly key: string;
  readonly title: string;
  readonly axes: Readonly<Record<string, AxisChoice>>;
}

export interface PlannedVariant {
  readonly title: string;
  readonly profile: PlannedProfile;
  readonly language: string;
}

export interface PlannedDocument {
  readonly title: string;
  readonly formats: readonly FormatName[];
  readonly variants: readonly PlannedVariant[];
}

/** What follows from what was told. */
export interface FirstPlan {
  /** Axes that are new, or have new values. */
  readonly axes: readonly Axis[];
  readonly documents: readonly PlannedDocument[];
  /** Profiles that are new. */
  readonly profiles: readonly PlannedProfile[];
  /** Sentences that say what cannot be made so; empty: all can. */
  readonly faults: readonly string[];
}

/** What is there already: it is taken up, and stays as it is. */
export interface Beginnings {
  readonly axes: readonly Axis[];
  readonly profiles: readonly PlannedProfile[];
  /** Keys that cannot be given again, such as those of what is in the bin. */
  readonly takenKeys?: readonly string[];
}

/** More variants than anybody looks through in a first hour. */
const mostVariants = 100;
const palette = { colours: 8, patterns: 6 } as const;

/**
 * Plans the variants of a library from what is to be handed over: axes with their values, and for each document the
 * variants that follow, with the profile that each of them needs.
 */
export function planFirst(
  toldAxes: readonly ToldAxis[],
  toldDocuments: readonly ToldDocument[],
  known: Beginnings,
): FirstPlan {
  const faults: string[] = [];
  const takenKeys = new Set(known.takenKeys);
  const axes: Axis[] = [];
  const all = [...known.axes];
  for (const told of toldAxes) {
    const title = told.title.trim();
    const lines = linesOf(told.values);
    if (title === '' && lines.length === 0) continue;
    if (title === '') faults.push(`What differs by ${lines[0]?.title ?? ''} has no name.`);
    const before = all.find((axis) => same(axis.title, title));
    const axis = before ?? {
      key: freeKey(keyFromTitle(title), (key) => takenKeys.has(key) || all.some((each) => each.key === key)),
      title,
      values: [],
    };
    const grown = withValues(axis, lines);
    if (lines.length > 0 && (!before || grown !== before)) {
      axes.push(grown);
      if (before) all[all.indexOf(before)] = grown;
      else all.push(grown);
    }
  }
  const profiles = new Map(known.profiles.map((each) => [wordingOf(each.axes), each]));
  const profileKeys = new Set(known.profiles.map(({ key }) => key));
  const fresh: PlannedProfile[] = [];
  const profileFor = (choices: Readonly<Record<string, AxisChoice>>, title: string): PlannedProfile => {
    const wording = wordingOf(choices);
    const found = profiles.get(wording);
    if (found) return found;
    const profile: PlannedProfile = {
      key: freeKey(keyFromTitle(title), (key) => takenKeys.has(key) || profileKeys.has(key)),
      title,
      axes: choices,
    };
    profiles.set(wording, profile);
    profileKeys.add(profile.key);
    fresh.push(profile);
    return profile;
  };
  const documents = toldDocuments
    .filter(({ title }) => title.trim() !== '')
    .map((told) => planDocument(told, all, profileFor, faults));
  const count = documents.reduce((sum, { variants }) => sum + variants.length, 0);
  if (count > mostVariants)
    faults.push(`These are ${count} variants. Begin with no more than ${mostVariants}; more can be added one by one.`);
  const titles = documents.map(({ title }) => title.toLowerCase());
  const twice = titles.find((title, at) => titles.indexOf(title) !== at);
  if (twice !== undefined) faults.push(`Two documents are called “${twice}”.`);
  return { axes, documents, profiles: fresh, faults };
}

const same = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

/** The same for choices that let in the same. */
function wordingOf(choices: Readonly<Record<string, AxisChoice>>): string {
  const said = Object.entries(choices).map(([axis, { default: otherwise, in: inside = [], out = [] }]) =>
    JSON.stringify([axis, otherwise, [...inside].sort(), [...out].sort()]),
  );
  return said.sort().join();
}

interface Line {
  readonly title: string;
  readonly below: Line[];
}

/** The values that were told, those that are indented under the one before. */
function linesOf(text: string): readonly Line[] {
  const top: Line[] = [];
  const open: { readonly indent: number; readonly line: Line }[] = [];
  for (const written of text.split(/\r?\n/)) {
    const title = written.trim().replace(/^[-*•]\s+/, '');
    if (title === '') continue;
    const indent = (/^\s*/.exec(written.replaceAll('\t', '    '))?.[0] ?? '').length;
    while (open.length > 0 && (open.at(-1)?.indent ?? 0) >= indent) open.pop();
    const line: Line = { title, below: [] };
    (open.at(-1)?.line.below ?? top).push(line);
    open.push({ indent, line });
  }
  return top;
}

/** An axis with values besides those that it has; itself where there are none. */
function withValues(axis: Axis, lines: readonly Line[]): Axis {
  const known = flattenValues(axis).map(({ value }) => value);
  const keys = new Set(known.map(({ key }) => key));
  const codes = new Set(known.map(({ code }) => code));
  let count = known.length;
  const add = (values: readonly AxisValue[], wanted: readonly Line[]): readonly AxisValue[] => {
    let grown = values;
    for (const { title, below } of wanted) {
      const before = grown.find((each) => same(each.title, title));
      if (before) {
        const inside = add(before.values ?? [], below);
        if (inside !== before.values && inside.length > 0)
          grown = grown.map((each) => (each === before ? { ...before, values: inside } : each));
        continue;
      }
      const key = freeKey(keyFromTitle(title), (each) => keys.has(each));
      keys.add(key);
      const code = codeFor(title, codes);
      codes.add(code);
      const value: AxisValue = {
        key,
        title,
        code,
        colour: count % palette.colours,
        pattern: count % palette.patterns,
      };
      count += 1;
      const inside = add([], below);
      grown = [...grown, inside.length > 0 ? { ...value, values: inside } : value];
    }
    return grown;
  };
  const values = add(axis.values, lines);
  return values === axis.values ? axis : { ...axis, values };
}

/** A short code that no other value of the axis has: initials, else the first letters, else with a number. */
function codeFor(title: string, taken: ReadonlySet<string>): string {
  const words = title.toUpperCase().match(/[\p{L}\p{N}]+/gu) ?? ['X'];
  const [first = 'X'] = words;
  const last = words.at(-1) ?? first;
  const candidates = [
    words.length > 1 ? first.slice(0, 1) + last.slice(0, /^\p{N}/u.test(last) ? 2 : 1) : first.slice(0, 2),
    first.slice(0, 2),
    first.slice(0, 3),
  ];
  const free = candidates.find((each) => !taken.has(each));
  if (free !== undefined) return free;
  for (let number = 2; ; number += 1) {
    const code = `${first.slice(0, number < 10 ? 2 : 1)}${number}`;
    if (!taken.has(code)) return code;
  }
}

/** What a document is made for on an axis, with how variants and profiles are called by it; an empty title: not by it. */
interface OnAxis {
  readonly axis: string;
  readonly choice: AxisChoice;
  readonly title: string;
}

function planDocument(
  told: ToldDocument,
  axes: readonly Axis[],
  profileFor: (choices: Readonly<Record<string, AxisChoice>>, title: string) => PlannedProfile,
  faults: string[],
): PlannedDocument {
  const title = told.title.trim();
  const languages = [...new Set(told.languages.map((each) => each.trim()).filter((each) => each !== ''))];
  const wrong = languages.find((each) => !/^[A-Za-z]{2,8}(-[A-Za-z0-9]{1,8})*$/.test(each));
  if (wrong !== undefined) faults.push(`“${title}”: “${wrong}” is no language tag such as “en” or “de-AT”.`);
  if (told.formats.length === 0) faults.push(`“${title}” has no format.`);
  let combinations: readonly (readonly OnAxis[])[] = [[]];
  for (const axis of axes) {
    const madeFor = Object.entries(told.madeFor).find(([name]) => same(name, axis.title))?.[1] ?? 'all';
    const alternatives = alternativesOn(axis, madeFor);
    if (alternatives.length === 0) faults.push(`“${title}” is made for none of “${axis.title}”.`);
    combinations = combinations.flatMap((before) => alternatives.map((each) => [...before, each]));
    // What is refused for its number is not worked out.
    if (combinations.length > mostVariants * 10) break;
  }
  const inLanguages = languages.length === 0 ? ['en'] : languages;
  const variants = combinations.slice(0, mostVariants * 10).flatMap((each) => {
    const named = each.map((part) => part.title).filter((part) => part !== '');
    const profile = profileFor(
      Object.fromEntries(
        each.filter(({ choice }) => choice.default === 'out').map(({ axis, choice }) => [axis, choice]),
      ),
      named.length > 0 ? named.join(', ') : 'Everything',
    );
    return inLanguages.map((language) => ({
      title: [...(named.length > 0 ? named : ['All']), ...(inLanguages.length > 1 ? [language] : [])].join(', '),
      profile,
      language,
    }));
  });
  return { title, formats: told.formats, variants };
}

function alternativesOn(axis: Axis, madeFor: MadeFor): readonly OnAxis[] {
  if (madeFor === 'all') return [{ axis: axis.key, choice: { default: 'in' }, title: '' }];
  const flat = flattenValues(axis).map(({ value }) => value);
  const only = (values: readonly AxisValue[], title: string): OnAxis => ({
    axis: axis.key,
    choice: { default: 'out', in: values.map(({ key }) => key) },
    title,
  });
  // A value with others below it stands for them: each of those is made.
  if (madeFor === 'each')
    return flat.filter(({ values }) => !values?.length).map((value) => only([value], value.title));
  const chosen = flat.filter(({ title }) => madeFor.some((each) => same(each, title)));
  return chosen.length === 0 ? [] : [only(chosen, chosen.map(({ title }) => title).join(' and '))];
}
