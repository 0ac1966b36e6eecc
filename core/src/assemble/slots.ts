import { textAttr, type ContentNode } from '../content/node.js';
import type { Component, Library } from '../library/component.js';

/**
 * The snippets that may stand in a slot of a topic: those of the slot's collection, and where it matches
 * by a tag, only those that share a value of this tag with the topic. In the order of their keys.
 */
export function candidatesOf(library: Library, slot: ContentNode, topic: Component | undefined): readonly Component[] {
  const tag = textAttr(slot, 'matching');
  const members = library.collection(textAttr(slot, 'collection') ?? '');
  if (tag === null) return members;
  const wanted = new Set(topic?.labels?.tags[tag] ?? []);
  return members.filter((member) => member.labels?.tags[tag]?.some((value) => wanted.has(value)) ?? false);
}

/** Names what a slot asks for in a topic: equal names have equal candidates in one library. */
export function slotRule(slot: ContentNode, topic: Component | undefined): string {
  const tag = textAttr(slot, 'matching');
  const values = tag === null ? null : [...(topic?.labels?.tags[tag] ?? [])].sort();
  return JSON.stringify([textAttr(slot, 'collection') ?? '', tag, values]);
}

/** The candidates for the name of a slot's rule, as `slotRule` makes it. */
export function candidatesByRule(library: Library, rule: string): readonly string[] {
  const [collection, tag, values] = JSON.parse(rule) as [string, string | null, readonly string[] | null];
  return library
    .collection(collection)
    .filter((member) => tag === null || member.labels?.tags[tag]?.some((value) => values?.includes(value)))
    .map((member) => member.key);
}
