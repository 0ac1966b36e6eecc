import { known } from './known.js';
import { conditionsOn } from '../content/body.js';
import { numberAttr, textAttr, walk, type ContentNode } from './node.js';
import type { OutlineEntry, Publication } from './publication.js';
import { isVariableBody, isLinkBody, isImageBody, type ComponentBody, type VariableBody } from './component.js';

export const referenceKinds = [
  'placement',
  'inline placement',
  'variable',
  'image',
  'link',
  'cross-reference',
  'outline entry',
  'slot',
  'stamp',
] as const;
export type ReferenceKind = (typeof referenceKinds)[number];

/** One place where a body or an outline refers to a component. */
export interface Reference {
  readonly target: string;
  readonly kind: ReferenceKind;
  /** The id of the nearest block (or outline entry) that the reference stands in. */
  readonly place: string | null;
  /** The block inside the target that a cross-reference or a section placement names. */
  readonly targetBlock: string | null;
  /** The revision that a held placement stays at; null for live ones. */
  readonly held: number | null;
}

/** Every reference that a body makes, in document order, repeats included. */
export function referencesOf(body: ComponentBody): readonly Reference[] {
  if (isVariableBody(body)) return referencesOfVariable(body);
  if (isImageBody(body)) return [];
  if (isLinkBody(body)) return hrefVariables(body.href).map((key) => reference(key, 'variable', null));
  return referencesOfContent(body);
}

function referencesOfVariable(body: VariableBody): readonly Reference[] {
  const values = [...body.rules.map((rule) => rule.value), ...(body.default ? [body.default] : [])];
  return values.flatMap((value) => referencesOfContent(value));
}

function reference(
  target: string,
  kind: ReferenceKind,
  place: string | null,
  more: { targetBlock?: string | null; held?: number | null } = {},
): Reference {
  return { target, kind, place, targetBlock: more.targetBlock ?? null, held: more.held ?? null };
}

const placementKinds: Readonly<Record<string, ReferenceKind>> = {
  placement: 'placement',
  inline_placement: 'inline placement',
  picture: 'image',
  image: 'image',
  external_link: 'link',
};

function referencesOfContent(body: ContentNode): readonly Reference[] {
  const found: Reference[] = [];
  walk(body, (node, path) => {
    const place =
      textAttr(node, 'id') ?? path.map((each) => textAttr(each, 'id')).findLast((id) => id !== null) ?? null;
    for (const each of [node, ...(node.marks ?? [])]) {
      const stamp = textAttr(each, 'stamp');
      if (stamp) found.push(reference(stampTarget(stamp), 'stamp', place));
    }
    for (const mark of node.marks ?? []) {
      if (mark.type !== 'link') continue;
      for (const key of hrefVariables(textAttr(mark, 'href') ?? '')) found.push(reference(key, 'variable', place));
    }
    const poster = node.type === 'media' ? textAttr(node, 'poster') : null;
    if (poster) found.push(reference(poster, 'image', place));
    if (node.type === 'media') {
      for (const key of hrefVariables(textAttr(node, 'address') ?? '')) found.push(reference(key, 'variable', place));
    }
    const kind = placementKinds[node.type];
    const component = textAttr(node, 'component');
    if (kind && component) {
      const held = textAttr(node, 'mode') === 'held' ? numberAttr(node, 'revision', 0) || null : null;
      found.push(reference(component, kind, place, { held, targetBlock: textAttr(node, 'section') }));
    } else if (node.type === 'cross_reference' && component) {
      found.push(reference(component, 'cross-reference', place, { targetBlock: textAttr(node, 'target') }));
    } else if (node.type === 'slot') {
      const collection = textAttr(node, 'collection');
      if (collection) found.push(reference(collectionTarget(collection), 'slot', place));
    } else if (node.type === 'variable') {
      const key = textAttr(node, 'key') ?? '';
      if (key !== '' && !isBuiltInVariable(key)) found.push(reference(key, 'variable', place));
    }
  });
  return found;
}

/** What a slot refers to: a collection of snippets. No component's key begins with the same sign. */
export function collectionTarget(collection: string): string {
  return `@collection/${collection}`;
}

/** What refers to a stamp. */
export function stampTarget(stamp: string): string {
  return `@stamp/${stamp}`;
}

/** The collection that such a target names; null for a component's key. */
export function collectionOf(target: string): string | null {
  return target.startsWith('@collection/') ? target.slice('@collection/'.length) : null;
}

/** Every topic and link that an outline places, and every variable that its entries and it override. */
export function referencesOfPublication(publication: Publication): readonly Reference[] {
  const found: Reference[] = [];
  const values = (record: Readonly<Record<string, ContentNode>> | undefined, place: string | null): void => {
    for (const [key, value] of Object.entries(record ?? {})) {
      found.push(reference(key, 'variable', place), ...referencesOfContent(value).map((each) => ({ ...each, place })));
    }
  };
  const visit = (entries: readonly OutlineEntry[]): void => {
    for (const entry of entries) {
      const shown = entry.topic ?? entry.link;
      if (shown) found.push(reference(shown, 'outline entry', entry.id));
      values(entry.values, entry.id);
      if (entry.entries) visit(entry.entries);
    }
  };
  values(publication.values, null);
  visit(publication.entries);
  return found;
}

/** The texts of all conditions in a body, repeats included, each with the id of its nearest block. */
export function conditionsOf(body: ComponentBody): readonly PlacedCondition[] {
  let found = conditionsByBody.get(body);
  if (!found) conditionsByBody.set(body, (found = collectConditions(body)));
  return found;
}

interface PlacedCondition {
  readonly when: string;
  readonly place: string | null;
}

/** Bodies never change, so each is searched once. */
const conditionsByBody = new WeakMap<ComponentBody, readonly PlacedCondition[]>();

function collectConditions(body: ComponentBody): readonly PlacedCondition[] {
  const found: PlacedCondition[] = [];
  const content = (root: ContentNode): void => {
    walk(root, (node, path) => {
      const whens = conditionsOn(node);
      if (whens.length === 0) return;
      const place =
        textAttr(node, 'id') ?? path.map((each) => textAttr(each, 'id')).findLast((id) => id !== null) ?? null;
      for (const when of whens) found.push({ when, place });
    });
  };
  if (isVariableBody(body)) {
    for (const rule of body.rules) {
      if (rule.when) found.push({ when: rule.when, place: null });
      content(rule.value);
    }
    if (body.default) content(body.default);
  } else if (isImageBody(body)) {
    for (const { when } of body.versions) found.push({ when, place: null });
  } else if (!isLinkBody(body)) content(body);
  return found;
}

/** Built-in variables have keys that start with `@`, which no component's key does. */
export function isBuiltInVariable(key: string): boolean {
  return key.startsWith('@');
}

/** The keys of the built-in variables. */
export const builtInVariables = [
  '@publication-title',
  '@variant-title',
  '@build-date',
  '@revision',
  '@language',
  '@chapter-title',
  '@page-number',
] as const;

/** The variables that an address names: the `{+key}` expressions of RFC 6570, section 3.2.3. */
export function hrefVariables(href: string): readonly string[] {
  return [...href.matchAll(hrefExpression)].map((match) => known(match[1]));
}

/** An expression of reserved expansion in an address. */
export const hrefExpression = /\{\+([^{}]+)\}/g;
