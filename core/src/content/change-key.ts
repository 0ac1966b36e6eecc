import { referencesOfSetting } from '../assemble/look.js';
import type { DesignSettings } from '../design/resolve.js';
import { settingOf } from '../design/settings.js';
import { isImageBody, isLinkBody, isVariableBody, type ComponentBody } from '../model/component.js';
import { mapNodes, type ContentMark, type ContentNode } from '../model/node.js';
import type { OutlineEntry, VariableValues } from '../model/publication.js';
import { hrefExpression } from '../model/references.js';

/** The attributes of nodes that name a component. */
const naming = ['component', 'poster'] as const;
/** The attributes of nodes and marks that are addresses, in which variables stand. */
const addresses = ['href', 'address'] as const;

type Attrs = Readonly<Record<string, unknown>>;

/**
 * A body in which whatever refers to a component by its key does so by another one: placements, variables, pictures, links,
 * references, what copies remember, and the variables of addresses.
 * @returns the very same body where nothing in it names the key
 */
export function bodyWithKey<Body extends ComponentBody>(body: Body, from: string, to: string): Body;
export function bodyWithKey(body: ComponentBody, from: string, to: string): ComponentBody {
  if (isImageBody(body)) return body;
  if (isLinkBody(body)) {
    const href = addressWithKey(body.href, from, to);
    return href === body.href ? body : { ...body, href };
  }
  if (!isVariableBody(body)) return contentWithKey(body, from, to);
  const otherwise = body.default && contentWithKey(body.default, from, to);
  const rules = body.rules.map((rule) => {
    const value = contentWithKey(rule.value, from, to);
    return value === rule.value ? rule : { ...rule, value };
  });
  const isSame = otherwise === body.default && rules.every((rule, at) => rule === body.rules[at]);
  return isSame ? body : { ...body, default: otherwise, rules };
}

/** The same for what entries of an outline place, and for their values. */
export function entriesWithKey(entries: readonly OutlineEntry[], from: string, to: string): readonly OutlineEntry[] {
  return entries.map((entry) => ({
    ...entry,
    ...(entry.topic === from ? { topic: to } : {}),
    ...(entry.link === from ? { link: to } : {}),
    ...(entry.values ? { values: valuesWithKey(entry.values, from, to) } : {}),
    ...(entry.entries ? { entries: entriesWithKey(entry.entries, from, to) } : {}),
  }));
}

/** The same for values of variables: of the variable itself, and of others that use it. */
export function valuesWithKey(values: VariableValues, from: string, to: string): VariableValues {
  return Object.fromEntries(
    Object.entries(values).map(([key, value]) => [key === from ? to : key, contentWithKey(value, from, to)]),
  );
}

/** The same for what a design refers to: pictures, snippets, and variables in its texts. */
export function settingsWithKey(own: DesignSettings, from: string, to: string): DesignSettings {
  return Object.fromEntries(
    Object.entries(own).map(([name, value]) => {
      const { setting } = settingOf(name) ?? {};
      if (typeof value !== 'string' || !setting) return [name, value];
      if (!referencesOfSetting(setting, value).some(({ target }) => target === from)) return [name, value];
      return [name, setting.kind === 'component' ? to : value.replaceAll(`{${from}}`, `{${to}}`)];
    }),
  );
}

function contentWithKey(content: ContentNode, from: string, to: string): ContentNode {
  return mapNodes(content, (node) => {
    const named = node.type === 'variable' ? [...naming, 'key'] : naming;
    const attrs = attrsWithKey(node.attrs, named, from, to);
    const marks = node.marks?.map((mark): ContentMark => {
      const own = attrsWithKey(mark.attrs, [], from, to);
      return own && own !== mark.attrs ? { ...mark, attrs: own } : mark;
    });
    if (attrs === node.attrs && !marks?.some((mark, at) => mark !== node.marks?.[at])) return node;
    return { ...node, ...(attrs ? { attrs } : {}), ...(marks ? { marks } : {}) };
  });
}

function attrsWithKey(attrs: Attrs | undefined, named: readonly string[], from: string, to: string): Attrs | undefined {
  if (!attrs) return attrs;
  let changed: Record<string, unknown> | null = null;
  for (const name of named) if (attrs[name] === from) (changed ??= { ...attrs })[name] = to;
  for (const name of addresses) {
    const address = attrs[name];
    if (typeof address !== 'string') continue;
    const next = addressWithKey(address, from, to);
    if (next !== address) (changed ??= { ...attrs })[name] = next;
  }
  return changed ?? attrs;
}

function addressWithKey(address: string, from: string, to: string): string {
  return address.replace(hrefExpression, (whole, key: string) => (key === from ? `{+${to}}` : whole));
}
