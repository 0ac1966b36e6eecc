import { known } from '../model/known.js';
import { handlerFor, type ForEachInlineKind } from '../model/kinds.js';
import { limits } from '../model/limits.js';
import { isLeftOut, textAttr, type ContentMark } from '../model/node.js';
import { isBuiltInVariable } from '../model/references.js';
import { conditionOn } from '../variation/stamps.js';
import type { Assembly } from './assembly.js';
import { checkFormula, isUnwritten } from './check-formula.js';
import { preparedComponent, type Inline } from './memory.js';
import { chosenFile } from './pictures.js';
import type { Place } from './place.js';
import { resolvedAddress } from './resolve-address.js';
import { deriveMarked, makePrepared, partsOf, preparedText, type PreparedNode } from './prepared.js';
import { builtInValue, variableValue } from './variables.js';

/**
 * Assembles inline nodes.
 * @returns null when every one of them stays as it is
 */
export function assembleInline(assembly: Assembly, nodes: readonly PreparedNode[], place: Place): Inline | null {
  let result: { nodes: PreparedNode[]; gaps: number[] } | null = null;
  let last: PreparedNode | null = null;
  for (let index = 0; index < nodes.length; index += 1) {
    const node = known(nodes[index]);
    if ((node.marks || node.when !== null) && !assembly.reading.nodeHolds(node)) {
      result ??= { nodes: nodes.slice(0, index), gaps: [] };
      result.gaps.push(result.nodes.length);
      continue;
    }
    const kept: Inline | null = inlineNode(assembly, node, place);
    if (runsTogether(assembly, last, node, place)) {
      result ??= { nodes: nodes.slice(0, index), gaps: [] };
      result.nodes.push(preparedText(' '));
    }
    last = node;
    if (kept === null) {
      result?.nodes.push(node);
      continue;
    }
    result ??= { nodes: nodes.slice(0, index), gaps: [] };
    const offset = result.nodes.length;
    for (const gap of kept.gaps) result.gaps.push(gap + offset);
    for (const each of kept.nodes) result.nodes.push(each);
  }
  return result;
}

/**
 * Whether two neighbours are alternatives that are both in, because the profile leaves their axis open: this is
 * reported, and a space is to keep them apart where they were written without one.
 */
function runsTogether(assembly: Assembly, before: PreparedNode | null, after: PreparedNode, place: Place): boolean {
  const [first, second] = [limitsOf(before), limitsOf(after)];
  if (!before || first.length === 0 || second.length === 0) return false;
  for (const a of first) {
    for (const b of second) {
      const axis = a === b ? null : assembly.reading.alternatives(a, b);
      if (axis === null) continue;
      const message = `Words for “${a}” and for “${b}” are both in: the profile does not choose on the axis “${axis}”.`;
      assembly.report('warning', 'alternatives-together', message, place);
      return !/\s$/.test(before.text ?? 'x') && !/^\s/.test(after.text ?? 'x');
    }
  }
  return false;
}

const noLimits: readonly string[] = [];

function limitsOf(node: PreparedNode | null): readonly string[] {
  return node?.marks?.flatMap((mark) => conditionOn(mark) ?? []) ?? noLimits;
}

/** What an inline node becomes; null: it stays. */
function inlineNode(assembly: Assembly, node: PreparedNode, place: Place): Inline | null {
  const marks = node.marks?.some(isOpenLink) ? resolvedMarks(assembly, node.marks, place) : node.marks;
  const becomes = handlerFor(inlineHandlers, node.type)(assembly, node, place);
  if (becomes === null) return marks === node.marks ? null : one(deriveMarked(node, marks ?? []));
  return marks && marks.length > 0 ? withMarks(becomes, marks) : becomes;
}

type InlineHandler = (assembly: Assembly, node: PreparedNode, place: Place) => Inline | null;

const stays: InlineHandler = () => null;
const inlineHandlers: ForEachInlineKind<InlineHandler> = {
  text: stays,
  line_break: stays,
  cross_reference: stays,
  index_marker: stays,
  footnote_reference: stays,
  variable: (assembly, node, place) => {
    const key = textAttr(node, 'key') ?? '';
    return isBuiltInVariable(key) ? builtInValue(assembly, key, place) : variableValue(assembly, key, place);
  },
  inline_placement: (assembly, node, place) => {
    const component = assembly.component(node, ['snippet'], place);
    if (!component) return missing();
    const { reading } = assembly;
    const prepared = preparedComponent(reading.remembered, component);
    if (prepared.body.type !== 'phrase') {
      const message = `“${component.title}” holds blocks and cannot be placed inside a line.`;
      assembly.report('error', 'wrong-kind', message, place);
      return missing();
    }
    const cycle = reading.cycleAround(component.key, place);
    if (cycle !== null) {
      assembly.report('error', 'placement-cycle', `Placements form a cycle: ${cycle}.`, place);
      return { nodes: [], gaps: [0] };
    }
    const inside: Place = { ...place, component, around: { key: component.key, outer: place.around } };
    const piece = reading.piece(place.evaluating === null ? prepared.inLine : prepared.inValue, inside, () =>
      assembly.inside(() => {
        reading.checkConditions(prepared);
        return reading.nodeHolds(prepared.body) ? valueOf(assembly, prepared.body, inside) : { nodes: [], gaps: [0] };
      }),
    );
    reading.include(piece, component.key);
    return piece.result;
  },
  image: (assembly, node, place) => {
    const chosen = chosenFile(assembly, node, place);
    return chosen ? one(makePrepared('image', { ...node.attrs, ...chosen })) : missing();
  },
  external_link: (assembly, node, place) => {
    const link = assembly.component(node, ['link'], place);
    if (!link) return missing();
    const href = resolvedAddress(assembly, link.body.href, place);
    const marks: readonly ContentMark[] = [{ type: 'link', attrs: { href } }];
    return one(preparedText(link.body.label || href, marks));
  },
  formula: (assembly, node, place) => {
    checkFormula(assembly, node, place);
    return isUnwritten(node) ? missing() : null;
  },
};

function one(node: PreparedNode): Inline {
  return { nodes: [node], gaps: [] };
}

function missing(): Inline {
  return one(makePrepared('missing'));
}

/** Assembles inline content that is put into other inline content. */
export function valueOf(assembly: Assembly, phrase: PreparedNode, place: Place): Inline {
  const content = partsOf(phrase);
  const inline = assembleInline(assembly, content, place) ?? { nodes: content, gaps: [] };
  if (inline.nodes.length > limits.lineNodes) {
    const message = `A value comes to more than ${limits.lineNodes} pieces of text; it was left out.`;
    assembly.report('error', 'too-large', message, place);
    return missing();
  }
  if (inline.gaps.length === 0 && inline.nodes.length > 0) return inline;
  // Where something went inside a value, its edges may meet spaces of the text around it.
  return { nodes: inline.nodes, gaps: [0, ...inline.gaps, inline.nodes.length] };
}

function isOpenLink(mark: ContentMark): boolean {
  return mark.type === 'link' && (textAttr(mark, 'href')?.includes('{') ?? false);
}

function resolvedMarks(assembly: Assembly, marks: readonly ContentMark[], place: Place): readonly ContentMark[] {
  return marks.map((mark) => {
    if (!isOpenLink(mark)) return mark;
    return { type: mark.type, attrs: { href: resolvedAddress(assembly, textAttr(mark, 'href') ?? '', place) } };
  });
}

function withMarks(inline: Inline, marks: readonly ContentMark[]): Inline {
  const outer = marks.filter((mark) => mark.type !== 'condition' || isLeftOut(mark));
  if (outer.length === 0) return inline;
  const nodes = inline.nodes.map((node) => {
    const own = node.marks ?? [];
    const added = outer.filter((mark) => isLeftOut(mark) || !own.some((each) => each.type === mark.type));
    return added.length === 0 ? node : deriveMarked(node, [...added, ...own]);
  });
  return { nodes, gaps: inline.gaps };
}
