import type { AssembledEntry } from '../assemble/assembled.js';
import type { Place } from '../assemble/place.js';
import { partsOf, type PreparedNode } from '../assemble/prepared.js';
import type { Reading } from '../assemble/reading.js';
import { kindSpec } from '../model/kinds.js';
import { textAttr, textOf } from '../model/node.js';
import type { Recipe } from '../model/publication.js';
import { isBuiltInVariable } from '../model/references.js';
import type { Source } from '../model/source.js';
import { plainText } from '../number/plain-text.js';
import { chosenRule, type Holds } from '../variation/chosen.js';
import { conditionOn } from '../variation/stamps.js';

/** Something that stands in the lines of a passage and was not written there, or not for every variant. */
export type OriginUse =
  | {
      readonly kind: 'variable';
      readonly key: string;
      readonly title: string;
      readonly reads: string;
      /** Who gives the value: the entry, the variant, the publication, one of its own rules, its default, or the recipe. */
      readonly from: 'entry' | 'variant' | 'publication' | 'rule' | 'default' | 'recipe' | 'nobody';
      /** The condition of the rule. */
      readonly when: string | null;
    }
  | { readonly kind: 'snippet' | 'link' | 'image'; readonly key: string; readonly title: string }
  | { readonly kind: 'words'; readonly text: string; readonly when: string; readonly holds: boolean };

/** What the lines of a page are read with. */
export interface UsedIn {
  readonly source: Source;
  readonly recipe: Recipe;
  readonly reading: Reading;
  readonly holds: Holds;
}

/**
 * What stands in the lines of some blocks, each once, without what stands in blocks inside them that are passages themselves.
 * @param page whose values are in force
 */
export function usesIn(blocks: readonly PreparedNode[], page: AssembledEntry, around: UsedIn): readonly OriginUse[] {
  const uses = new Map<string, OriginUse>();
  const add = (use: OriginUse): void => void uses.set(JSON.stringify(use), use);
  const visit = (node: PreparedNode): void => {
    for (const mark of node.marks ?? []) {
      const when = conditionOn(mark);
      if (when) add({ kind: 'words', text: textOf(node, nameOfLeaf), when, holds: around.holds(when) });
    }
    const kind = usedKinds[node.type];
    const key = textAttr(node, node.type === 'variable' ? 'key' : 'component') ?? '';
    if (kind === 'variable') add(variableUse(key, page, around));
    else if (kind) add({ kind, key, title: around.source.library.component(key)?.title ?? key });
    for (const child of partsOf(node)) if (child.id === null || kindSpec(child.type).inline) visit(child);
  };
  for (const block of blocks) visit(block);
  return [...uses.values()];
}

const usedKinds: Readonly<Partial<Record<PreparedNode['type'], 'variable' | 'snippet' | 'link' | 'image'>>> = {
  variable: 'variable',
  inline_placement: 'snippet',
  external_link: 'link',
  image: 'image',
  picture: 'image',
};

/** How something without text is named among limited words. */
function nameOfLeaf(node: { readonly attrs?: Readonly<Record<string, unknown>> | undefined }): string {
  const key = textAttr(node, 'key') ?? textAttr(node, 'component');
  return key === null ? '' : `{${key}}`;
}

function variableUse(
  key: string,
  { id, topic, values }: AssembledEntry,
  { source, recipe, reading, holds }: UsedIn,
): OriginUse {
  const component = source.library.component(key);
  const about = { kind: 'variable' as const, key, title: component?.title ?? key, when: null };
  if (isBuiltInVariable(key)) return { ...about, reads: '', from: 'recipe' };
  const place: Place = { values, component: null, around: null, evaluating: null, topic, entry: id };
  const piece = reading.recorded(() => reading.useVariable(key, place)).result;
  const reads = plainText(piece.result?.nodes ?? []);
  const record = values.records.find((each) => Object.hasOwn(each, key));
  if (record) {
    const ofPublications = [recipe.publication, ...source.publications.values()].map((each) => each.values);
    const from = record === recipe.values ? 'variant' : ofPublications.includes(record) ? 'publication' : 'entry';
    return { ...about, reads, from };
  }
  if (component?.kind !== 'variable') return { ...about, reads, from: 'nobody' };
  const { rules, default: otherwise } = component.body;
  const rule = rules[chosenRule(component.body, holds, () => recipe.language)];
  if (rule) return { ...about, reads, from: 'rule', when: rule.when };
  return { ...about, reads, from: otherwise ? 'default' : 'nobody' };
}
