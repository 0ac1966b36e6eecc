import { keyOrder } from '../model/publication.js';
import type { EntryRole, OutlineEntry, Publication, VariableValues } from '../model/publication.js';
import type { Source } from '../model/source.js';
import type { AddedValues } from './place.js';

/** What an outline asks of its surroundings. */
export interface OutlineReading {
  /** Whether the condition of an entry and that of its topic hold. */
  isIn(entry: OutlineEntry, id: string): boolean;
}

/** Why a publication that stands in an outline brings nothing. */
export type NestedFault = 'missing' | 'cycle';

/** One entry that is in, before its topic is assembled. */
export interface OutlinePlace {
  /** Unique in the publication, also where a publication stands in another one more than once. */
  readonly id: string;
  readonly entry: OutlineEntry;
  /** What it has of its own: a topic, a link, a heading without one, or nothing but what stands below it. */
  readonly topic: string | null;
  readonly link: string | null;
  readonly heading: string | null;
  /** The title of a nested publication, which heads it where the entry has no title. */
  readonly nested: Publication | null;
  readonly role: EntryRole;
  /** The values that the outline adds to those around it. */
  readonly values: AddedValues | null;
  readonly below: readonly OutlinePlace[];
  readonly fault: { readonly kind: NestedFault; readonly path: readonly string[] } | null;
}

/**
 * Walks an outline: the entries that are in, each with the values that it adds, publications that stand in it
 * included. Whoever must know what an outline holds walks it here.
 */
export function walkOutline(
  publications: Source['publications'],
  publication: Publication,
  reading: OutlineReading,
): readonly OutlinePlace[] {
  const visit = (
    entries: readonly OutlineEntry[],
    values: AddedValues | null,
    prefix: string,
    around: readonly string[],
  ): readonly OutlinePlace[] => {
    const found: OutlinePlace[] = [];
    for (const entry of entries) {
      const id = prefix + entry.id;
      if (!reading.isIn(entry, id)) continue;
      const inside = hasValues(entry) ? { around: values, nearer: entry.values } : values;
      const heading = entry.title ?? null;
      const role = entry.role ?? 'auto';
      if (entry.publication === undefined) {
        const topic = entry.topic ?? null;
        const link = topic === null ? (entry.link ?? null) : null;
        const below = entry.entries ? visit(entry.entries, inside, prefix, around) : [];
        found.push({ id, entry, topic, link, heading, nested: null, role, values: inside, below, fault: null });
        continue;
      }
      const path = [...around, entry.publication];
      const nested = publications.get(entry.publication);
      const kind: NestedFault | null = !nested ? 'missing' : around.includes(entry.publication) ? 'cycle' : null;
      const inner = { around: inside, farther: nested?.values ?? {} };
      const below = [
        ...(nested && kind === null ? visit(nested.entries, inner, `${id}.`, path) : []),
        ...visit(entry.entries ?? [], inside, prefix, around),
      ];
      const fault = kind && { kind, path };
      const none = { topic: null, link: null };
      found.push({ id, entry, ...none, heading, nested: nested ?? null, role, values: inside, below, fault });
    }
    return found;
  };
  return visit(publication.entries, null, '', [publication.key]);
}

function hasValues(entry: OutlineEntry): entry is OutlineEntry & { readonly values: VariableValues } {
  return entry.values !== undefined && Object.keys(entry.values).length > 0;
}

/**
 * Which entries stay: what shows nothing of its own gives way to what stands below it; what is left with its title
 * and has nothing below may go.
 * @param on.page what an entry shows of its own; undefined: nothing
 * @param on.isBare whether that is no more than a title
 * @param on.staysBare asked for an entry with a title and nothing else
 * @param on.kept makes an entry that stays of what it shows and those that stay below it
 */
export function keepEntries<Page, Kept>(
  places: readonly OutlinePlace[],
  on: {
    page(place: OutlinePlace): Page | undefined;
    isBare(page: Page): boolean;
    staysBare(place: OutlinePlace, page: Page): boolean;
    kept(place: OutlinePlace, page: Page, below: readonly Kept[]): Kept;
  },
): readonly Kept[] {
  const kept: Kept[] = [];
  for (const place of places) {
    const page = on.page(place);
    const below = place.below.length > 0 ? keepEntries(place.below, on) : noEntries;
    if (page === undefined) for (const entry of below) kept.push(entry);
    else if (!on.isBare(page) || below.length > 0 || on.staysBare(place, page)) kept.push(on.kept(place, page, below));
  }
  return kept;
}

const noEntries: readonly never[] = [];

const named = new WeakMap<
  Publication,
  { readonly publications: Source['publications']; readonly names: ReadonlyMap<string, string> }
>();

/** The names of the pages of an outline. An outline never changes, so its pages are named once. */
export function pageNames(source: Source, publication: Publication): ReadonlyMap<string, string> {
  const known = named.get(publication);
  if (known?.publications === source.publications) return known.names;
  const names = namePages(source, publication);
  named.set(publication, { publications: source.publications, names });
  return names;
}

/**
 * Names for the pages of an outline that last: a topic's first entry is named after the topic, by the order in which
 * entries were made, the others after topic and entry. What a variant leaves out, and where entries stand,
 * changes no name.
 */
function namePages(source: Source, publication: Publication): ReadonlyMap<string, string> {
  const byTopic = new Map<string, string[]>();
  const visit = (entries: readonly OutlineEntry[], prefix: string, publications: readonly string[]): void => {
    for (const entry of entries) {
      const id = prefix + entry.id;
      if (entry.topic !== undefined) byTopic.set(entry.topic, [...(byTopic.get(entry.topic) ?? []), id]);
      const nested = entry.publication === undefined ? undefined : source.publications.get(entry.publication);
      if (nested && !publications.includes(nested.key)) visit(nested.entries, `${id}.`, [...publications, nested.key]);
      visit(entry.entries ?? [], prefix, publications);
    }
  };
  visit(publication.entries, '', [publication.key]);
  const names = new Map<string, string>();
  for (const [topic, ids] of byTopic) {
    ids.sort(keyOrder).forEach((id, at) => names.set(id, at === 0 ? topic : `${topic} ${id}`));
  }
  return names;
}

/** The name of the page of an entry without a topic. */
export function headingName(id: string): string {
  return ` ${id}`;
}
