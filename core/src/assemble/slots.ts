import { textAttr, type ContentNode } from '../content/node.js';
import type { Component, Library } from '../library/component.js';

/**
 * The snippets that may stand in a slot of a topic: those of the slot's collection, and where it matches
 * by a tag, only those that share a value of this tag with the topic. In the order of their keys.
 */
export function candidatesOf(library: Library, slot: ContentNode, topic: Component | undefined): readonly Component[] {
  return fitting(library, textAttr(slot, 'collection') ?? '', textAttr(slot, 'matching'), topic);
}

function fitting(
  library: Library,
  collection: string,
  tag: string | null,
  topic: Component | undefined,
): readonly Component[] {
  const members = library.collection(collection);
  if (tag === null) return members;
  const wanted = new Set(topic?.labels?.tags[tag] ?? []);
  return members.filter((member) => member.labels?.tags[tag]?.some((value) => wanted.has(value)) ?? false);
}

/** Names what a slot asks for in a topic, so that it can be asked again of another state of the library. */
export function slotRule(slot: ContentNode, topic: string): string {
  const tag = textAttr(slot, 'matching');
  return JSON.stringify([textAttr(slot, 'collection') ?? '', tag, tag === null ? '' : topic]);
}

/** The candidates for a rule, as `slotRule` makes it. */
export function candidatesByRule(library: Library, rule: string): readonly string[] {
  const [collection, tag, topic] = JSON.parse(rule) as [string, string | null, string];
  return fitting(library, collection, tag, library.component(topic)).map((member) => member.key);
}
