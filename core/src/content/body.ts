import { parseCondition } from '../variation/condition-syntax.js';
import { conditionOn, stampCondition } from '../variation/stamps.js';
import { childrenOf, textAttr, walk, type AnyNode, type ContentMark, type ContentNode } from '../model/node.js';
import type { AttributeSpec } from '../model/attributes.js';
import { isNodeKind, kinds, markKinds, type MarkKind } from '../model/kinds.js';
import { contentSchema } from './schema.js';

/** A fault in a body: what is wrong and the chain of node types down to the place. */
export interface BodyFault {
  readonly message: string;
  readonly path: readonly string[];
}

/**
 * Checks a body as it is stored: as `checkContent` does, and that each id is used once.
 * @returns the faults, none when the body is good
 */
export function checkBody(body: ContentNode): readonly BodyFault[] {
  const faults = checkContent(body);
  return faults.length > 0 ? faults : repeatedIds(body);
}

function repeatedIds(body: ContentNode): readonly BodyFault[] {
  const faults: BodyFault[] = [];
  const ids = new Set<string>();
  walk(body, (node, path) => {
    const id = textAttr(node, 'id');
    if (id === null) return;
    const message = `The id “${id}” is used twice.`;
    if (ids.has(id)) faults.push({ message, path: [...path.map((each) => each.type), node.type] });
    ids.add(id);
  });
  return faults;
}

/**
 * Checks a body against the content schema: structure, attributes, conditions that can be parsed. Ids are given and mended
 * by `assignIds`.
 * @returns the faults, none when the body is good
 */
export function checkContent(body: ContentNode): readonly BodyFault[] {
  const faults: BodyFault[] = [];
  try {
    contentSchema.nodeFromJSON(body).check();
  } catch (error) {
    return [{ message: error instanceof Error ? error.message : String(error), path: [body.type] }];
  }
  walk(body, (node, path) => {
    const add = (message: string): void => {
      faults.push({ message, path: [...path.map((each) => each.type), node.type] });
    };
    checkAttributes(node.type, node.attrs, kinds[node.type].attributes).forEach(add);
    for (const mark of node.marks ?? []) {
      checkAttributes(mark.type, mark.attrs, markKinds[mark.type].attributes).forEach(add);
    }
    for (const when of conditionsOn(node)) {
      const parsed = parseCondition(when);
      if (!parsed.ok) add(`Condition “${when}”: ${parsed.message}`);
    }
  });
  return faults;
}

function checkAttributes(
  name: string,
  attrs: ContentNode['attrs'],
  specs: Readonly<Record<string, AttributeSpec>>,
): readonly string[] {
  return Object.entries(attrs ?? {}).flatMap(([attribute, value]) => {
    const spec = Object.hasOwn(specs, attribute) ? specs[attribute] : undefined;
    // What the schema does not know never reaches a document.
    if (!spec || value === undefined || spec.allows(value)) return [];
    return [`The attribute “${attribute}” of “${name}” must be ${spec.wanted}.`];
  });
}

/** The text forms of the conditions that stand on a node itself: its own, its stamp's, its columns' and its marks'. */
export function conditionsOn(node: AnyNode): readonly string[] {
  const found: string[] = [];
  const own = textAttr(node, 'when');
  if (own) found.push(own);
  const stamp = textAttr(node, 'stamp');
  if (stamp) found.push(stampCondition(stamp));
  for (const column of columnsOf(node)) if (column.when) found.push(column.when);
  for (const mark of node.marks ?? []) {
    const when = conditionOn(mark);
    if (when) found.push(when);
  }
  return found;
}

/** One column of a table: its share of the width and its condition. */
export interface TableColumn {
  readonly width?: number | null;
  readonly when?: string | null;
}

/** The columns that a table grid describes; none where it says nothing about them. */
export function columnsOf(node: Pick<AnyNode, 'attrs'>): readonly TableColumn[] {
  const columns = node.attrs?.['columns'];
  return Array.isArray(columns) ? columns.filter(isTableColumn) : [];
}

function isTableColumn(value: unknown): value is TableColumn {
  return typeof value === 'object' && value !== null;
}

/**
 * The same body in its shortest form: attributes with default values left out, empty text dropped,
 * neighbouring text with equal marks joined. Tidying twice changes nothing more.
 */
export function tidyBody(node: ContentNode): ContentNode {
  const attrs = tidyAttrs(attributesOf(node.type), node.attrs);
  const marks = node.marks?.map((mark): ContentMark => {
    const kept = tidyAttrs(attributesOfMark(mark.type), mark.attrs);
    return kept ? { type: mark.type, attrs: kept } : { type: mark.type };
  });
  const content: ContentNode[] = [];
  for (const child of childrenOf(node)) {
    if (child.text === '') continue;
    const tidied = tidyBody(child);
    const last = content.at(-1);
    if (last?.text !== undefined && tidied.text !== undefined && sameMarks(last.marks, tidied.marks)) {
      content[content.length - 1] = { ...last, text: last.text + tidied.text };
    } else content.push(tidied);
  }
  return {
    type: node.type,
    ...(attrs ? { attrs } : {}),
    ...(content.length > 0 ? { content } : {}),
    ...(node.text !== undefined ? { text: node.text } : {}),
    ...(marks && marks.length > 0 ? { marks } : {}),
  };
}

function tidyAttrs(
  specs: Readonly<Record<string, AttributeSpec>>,
  attrs: ContentNode['attrs'],
): Readonly<Record<string, unknown>> | undefined {
  if (!attrs) return undefined;
  const kept = Object.entries(attrs).filter(
    ([name, value]) => value !== undefined && JSON.stringify(value) !== JSON.stringify(specs[name]?.default ?? null),
  );
  return kept.length > 0 ? Object.fromEntries(kept) : undefined;
}

const noAttributes = {};

/** The attributes of a kind of node; none for an unknown kind. */
export function attributesOf(kind: string): Readonly<Record<string, AttributeSpec>> {
  return isNodeKind(kind) ? kinds[kind].attributes : noAttributes;
}

function attributesOfMark(kind: MarkKind): Readonly<Record<string, AttributeSpec>> {
  return Object.hasOwn(markKinds, kind) ? markKinds[kind].attributes : noAttributes;
}

/** Whether two lists of marks are equal, order included. */
export function sameMarks(a: readonly ContentMark[] | undefined, b: readonly ContentMark[] | undefined): boolean {
  if (a === b) return true;
  if ((a?.length ?? 0) !== (b?.length ?? 0)) return false;
  return JSON.stringify(a ?? []) === JSON.stringify(b ?? []);
}

/**
 * Gives an id to every block that can carry one and has none, and a new one to each later block that
 * repeats an earlier one's.
 * @param makeId returns an id that was never used before
 */
export function assignIds(body: ContentNode, makeId: () => string): ContentNode {
  const used = new Set<string>();
  const assign = (node: ContentNode): ContentNode => {
    let result = node;
    if ('id' in attributesOf(node.type)) {
      const id = textAttr(node, 'id');
      if (id === null || used.has(id)) {
        let fresh = makeId();
        while (used.has(fresh)) fresh = makeId();
        result = { ...node, attrs: { ...node.attrs, id: fresh } };
      }
      used.add(textAttr(result, 'id') ?? '');
    }
    return node.content ? { ...result, content: node.content.map(assign) } : result;
  };
  return assign(body);
}

/** A maker of ids `b1`, `b2`, ... that passes over those a body already uses. */
export function idsAfter(body: ContentNode): () => string {
  let highest = 0;
  walk(body, (node) => {
    const match = /^b(\d+)$/.exec(textAttr(node, 'id') ?? '');
    if (match) highest = Math.max(highest, Number(match[1]));
  });
  return () => `b${++highest}`;
}
