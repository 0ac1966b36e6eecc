import type { ContentNode } from '../content/node.js';
import type { Profile } from '../variation/profile.js';
import type { Design } from '../number/design.js';

/** What an entry is in the book; `auto` follows from where it stands. */
export const entryRoles = ['auto', 'front', 'part', 'chapter', 'appendix', 'section'] as const;
export type EntryRole = (typeof entryRoles)[number];

/** Values of variables by key, each a `phrase` node. */
export type VariableValues = Readonly<Record<string, ContentNode>>;

/** One node of an outline: a topic, or another publication whose outline stands here. */
export interface OutlineEntry {
  readonly id: string;
  readonly topic?: string | undefined;
  readonly publication?: string | undefined;
  /** Used instead of the topic's own title. */
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
