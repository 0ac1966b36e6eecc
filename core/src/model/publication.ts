import type { ContentNode } from './node.js';
import type { Profile } from './profile.js';
import type { Design } from '../design/design.js';

/**
 * What an entry is in the whole; `auto` follows from where it stands. In a `book` of a set all numbering begins anew; `front` and
 * `back` matter takes no part in it.
 */
export const entryRoles = ['auto', 'book', 'front', 'part', 'chapter', 'appendix', 'back', 'section'] as const;
export type EntryRole = (typeof entryRoles)[number];

/** Values of variables by key, each a `phrase` node. */
export type VariableValues = Readonly<Record<string, ContentNode>>;

/**
 * One node of an outline: a topic, another publication whose outline stands here, an outside address, or only a
 * heading. It is one of them.
 */
export interface OutlineEntry {
  readonly id: string;
  readonly topic?: string | undefined;
  readonly publication?: string | undefined;
  /** The key of a link: its page says the address. */
  readonly link?: string | undefined;
  /** Used instead of the topic's own title, or the label of the link. */
  readonly title?: string | null | undefined;
  readonly when?: string | null | undefined;
  readonly role?: EntryRole | undefined;
  readonly values?: VariableValues | undefined;
  readonly entries?: readonly OutlineEntry[] | undefined;
}

export interface Publication {
  readonly key: string;
  /** A `phrase` node: titles may contain variables. */
  readonly title: ContentNode;
  readonly values: VariableValues;
  readonly entries: readonly OutlineEntry[];
}

/** The recipe of a deliverable. */
export interface Recipe {
  readonly publication: Publication;
  readonly variantTitle: string;
  readonly profile: Profile;
  readonly values: VariableValues;
  /** A language tag (BCP 47). */
  readonly language: string;
  readonly design: Design;
  /** The date that `@build-date` shows, as ISO 8601. */
  readonly buildDate: string;
  /** Whether sections and topics with a title and nothing below are left out (they are reported either way). */
  readonly leaveOutEmpty: boolean;
}

/** All entries of an outline, parents first, each with its depth (0 at the top). */
export function flattenEntries(
  entries: readonly OutlineEntry[],
  depth = 0,
): readonly { readonly entry: OutlineEntry; readonly depth: number }[] {
  return entries.flatMap((entry) => [{ entry, depth }, ...flattenEntries(entry.entries ?? [], depth + 1)]);
}

/** Compares ids of entries by the order in which they were made: numbers in them count as numbers. */
export function keyOrder(a: string, b: string): number {
  const parts = (id: string): readonly string[] =>
    id.split('.').flatMap((part) => part.split(/(?<=\D)(?=\d)|(?<=\d)(?=\D)/));
  const [first, second] = [parts(a), parts(b)];
  for (let at = 0; at < Math.max(first.length, second.length); at += 1) {
    const [x = '', y = ''] = [first[at], second[at]];
    if (x === y) continue;
    const [m, n] = [Number(x), Number(y)];
    if (x !== '' && y !== '' && Number.isFinite(m) && Number.isFinite(n) && m !== n) return m - n;
    return x < y ? -1 : 1;
  }
  return a < b ? -1 : a > b ? 1 : 0;
}
