import { isImageBody, isLinkBody, isVariableBody, type ComponentBody } from '../model/component.js';
import { kinds, markKinds } from '../model/kinds.js';
import type { AttributeSpec } from '../model/attributes.js';
import type { ContentNode } from '../model/node.js';
import type { OutlineEntry, VariableValues } from '../model/publication.js';

/**
 * What leads from each version of the content schema to the next: the first from version 1 to 2. A change of the schema
 * that bodies written before do not meet adds one.
 */
const steps: readonly ((node: ContentNode) => ContentNode)[] = [withCheckedAttributes];

/** The version of the content schema that content is written with; stored beside each body, outline and recipe. */
export const schemaVersion = steps.length + 1;

/**
 * A stored body as it would be written today.
 * @param version the version of the content schema that it was written with
 * @throws RangeError for a version that this program does not know, such as a later one
 */
export function bodyOfVersion(body: ComponentBody, version: number): ComponentBody {
  const bring = stepsFrom(version);
  if (!bring || isImageBody(body) || isLinkBody(body)) return body;
  if (!isVariableBody(body)) return bring(body);
  return {
    ...body,
    default: body.default && bring(body.default),
    rules: body.rules.map((rule) => ({ ...rule, value: bring(rule.value) })),
  };
}

/** Stored values of variables likewise, such as those of a variant. */
export function valuesOfVersion(values: VariableValues, version: number): VariableValues {
  const bring = stepsFrom(version);
  if (!bring) return values;
  return Object.fromEntries(Object.entries(values).map(([key, value]) => [key, bring(value)]));
}

/** What gives values, such as the recipe of a variant, likewise. */
export function recipeOfVersion<Kept extends { readonly values: VariableValues }>(kept: Kept, version: number): Kept {
  const values = valuesOfVersion(kept.values, version);
  return values === kept.values ? kept : { ...kept, values };
}

/** A stored outline likewise: its entries may give values. */
export function entriesOfVersion(entries: readonly OutlineEntry[], version: number): readonly OutlineEntry[] {
  if (!stepsFrom(version)) return entries;
  return entries.map((entry) => ({
    ...entry,
    ...(entry.values ? { values: valuesOfVersion(entry.values, version) } : {}),
    ...(entry.entries ? { entries: entriesOfVersion(entry.entries, version) } : {}),
  }));
}

/**
 * All content that something holds, whatever else it holds, such as a draft of any place.
 * @param kept plain data, as JSON gives it
 * @throws RangeError for a version that this program does not know
 */
export function keptOfVersion<Kept>(kept: Kept, version: number): Kept {
  const bring = stepsFrom(version);
  if (!bring) return kept;
  const walk = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(walk);
    if (typeof value !== 'object' || value === null) return value;
    if (isNode(value)) return bring(value);
    return Object.fromEntries(Object.entries(value).map(([name, each]) => [name, walk(each)]));
  };
  // Steps change what content says, and leave the shape of what holds it.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  return walk(kept) as Kept;
}

/** Whether plain data is a node: the bodies of variables, images and links, which have types by the same names, are none. */
function isNode(value: object): value is ContentNode {
  if (!('type' in value) || typeof value.type !== 'string' || !Object.hasOwn(kinds, value.type)) return false;
  return !['rules', 'versions', 'href'].some((name) => name in value);
}

/** What content of a version has to go through; null: it is of today. */
function stepsFrom(version: number): ((node: ContentNode) => ContentNode) | null {
  if (!Number.isInteger(version) || version < 1 || version > schemaVersion) {
    throw new RangeError(
      `Content of schema version ${version} cannot be read; this program knows the versions 1 to ${schemaVersion}.`,
    );
  }
  const pending = steps.slice(version - 1);
  return pending.length === 0 ? null : (node) => pending.reduce((each, step) => step(each), node);
}

/**
 * Version 1 took any value for an attribute. What version 2 does not allow becomes the default, but for conditions: what
 * is not a condition is kept as a text that cannot be parsed, which is a problem of every build, so that limited content
 * does not silently become content for all.
 */
function withCheckedAttributes(node: ContentNode): ContentNode {
  const attrs = checked(node.attrs, kinds[node.type].attributes);
  const marks = node.marks?.map((mark) => {
    const kept = checked(mark.attrs, markKinds[mark.type].attributes);
    return kept === mark.attrs ? mark : { ...mark, attrs: kept };
  });
  return {
    ...node,
    ...(attrs ? { attrs } : {}),
    ...(marks ? { marks } : {}),
    ...(node.content ? { content: node.content.map(withCheckedAttributes) } : {}),
  };
}

function checked(attrs: ContentNode['attrs'], specs: Readonly<Record<string, AttributeSpec>>): ContentNode['attrs'] {
  if (!attrs) return attrs;
  return Object.fromEntries(
    Object.entries(attrs).flatMap(([name, value]): [string, unknown][] => {
      const spec = Object.hasOwn(specs, name) ? specs[name] : undefined;
      if (!spec) return [];
      if (spec.allows(value)) return [[name, value]];
      if (name === 'when') return [[name, asConditionText(value)]];
      if (name === 'columns' && Array.isArray(value)) return [[name, value.slice(0, 200).map(checkedColumn)]];
      return [[name, spec.default]];
    }),
  );
}

function checkedColumn(column: unknown): { readonly width: number | null; readonly when: string | null } {
  const { width, when } = (typeof column === 'object' ? (column ?? {}) : {}) as { width?: unknown; when?: unknown };
  return {
    width: typeof width === 'number' && width >= 0 && width <= 100 ? width : null,
    when: when === null || when === undefined ? null : asConditionText(when),
  };
}

function asConditionText(value: unknown): string {
  const text = typeof value === 'string' ? value : `${JSON.stringify(value)}?`;
  return text.toWellFormed().replaceAll('\0', '\ufffd').slice(0, 4000);
}
