import { textAttr, type AnyNode } from '../model/node.js';
import type { Component, Library } from '../model/component.js';

/**
 * The snippets that may stand in a slot of a topic: those of the slot's collection, and where it matches
 * by a tag, only those that share a value of this tag with the topic. In the order of their keys.
 * @param topic the topic of the page; undefined: none is known
 */
export function candidatesOf(library: Library, slot: AnyNode, topic: Component | undefined): readonly Component[] {
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
export function slotRule(slot: AnyNode, topic: string | null): string {
  const tag = textAttr(slot, 'matching');
  return JSON.stringify([textAttr(slot, 'collection') ?? '', tag, tag === null ? '' : (topic ?? '')]);
}

/** The candidates for a rule, as `slotRule` makes it. */
export function candidatesByRule(library: Library, rule: string): readonly Component[] {
  const [collection, tag = null, topic] = readRule(rule);
  return fitting(library, collection ?? '', tag, library.component(topic ?? ''));
}

/** The collection that a rule asks for. */
export function collectionOfRule(rule: string): string {
  return readRule(rule)[0] ?? '';
}

function readRule(rule: string): readonly (string | null)[] {
  const parts: unknown = JSON.parse(rule);
  return Array.isArray(parts) ? parts.map((part: unknown) => (typeof part === 'string' ? part : null)) : [];
}
