import { known } from '../model/known.js';
import type { Component, ComponentKind, ComponentOf } from '../model/component.js';
import { handlerFor } from '../model/kinds.js';
import { numberAttr, textAttr, type AnyNode } from '../model/node.js';
import type { ProblemCode, ProblemPlace } from '../model/problem.js';
import type { Recipe } from '../model/publication.js';
import type { Source } from '../model/source.js';
import { truth, type Algebra } from '../select/algebra.js';
import { blockHandlers } from './blocks.js';
import { findingAt, type Finding } from './finding.js';
import { assembleInline, valueOf } from './inline.js';
import { joinSpaces } from './join-spaces.js';
import { Memo, type Piece } from './memo.js';
import type { Inline, Memory } from './memory.js';
import type { Place } from './place.js';
import { deriveText, partsOf, varies, type Becomes, type PreparedNode } from './prepared.js';
import { Reading } from './reading.js';
import { variablePiece } from './variables.js';

/**
 * Assembles content for one recipe: what all rules share. The rules for each kind of node stand beside it, in
 * records of handlers; whatever they ask of the library, the recipe or their surroundings goes through the reading.
 */
export class Assembly {
  readonly reading: Reading;
  /** How the rules of selection choose for one variant. */
  readonly algebra: Algebra<boolean>;
  /** The nearest block around what is being assembled. */
  private at: string | null = null;

  constructor(source: Source, recipe: Recipe, memory: Memory) {
    this.reading = new Reading(source, recipe, memory, (key, place) => variablePiece(this, key, place));
    this.algebra = truth((when) => this.reading.holds(when));
  }

  /**
   * Blocks and sections in order. The result is the same array where nothing changes.
   * @param from how many nodes at the start are passed over
   */
  flow(nodes: readonly PreparedNode[], place: Place, from = 0): readonly PreparedNode[] {
    let changed: PreparedNode[] | null = from > 0 ? [] : null;
    for (let index = from; index < nodes.length; index += 1) {
      const node = known(nodes[index]);
      const result = this.block(node, place);
      if (result === node) {
        changed?.push(node);
        continue;
      }
      changed ??= nodes.slice(0, index);
      if (result === null) continue;
      if ('type' in result) changed.push(result);
      else for (const each of result) changed.push(each);
    }
    return changed ?? nodes;
  }

  /** What a block becomes at a place. */
  block(node: PreparedNode, place: Place): Becomes {
    if ((node.traits & varies) === 0) return node;
    const { reading } = this;
    if (node.when !== null && !reading.nodeHolds(node)) return null;
    if (!node.variesInside) return node;
    const memo = (node.memo ??= new Memo());
    const found = reading.find(memo, place);
    // Most are found: only what is made takes a function for it.
    const piece = found ?? this.make(memo, node, place);
    reading.include(piece);
    return piece.result;
  }

  private make(memo: Memo<Becomes>, node: PreparedNode, place: Place): Piece<Becomes> {
    return this.reading.make(memo, place, () => this.becomes(node, place));
  }

  private becomes(node: PreparedNode, place: Place): Becomes {
    const around = this.at;
    this.at = node.id ?? around;
    const result = handlerFor(blockHandlers, node.type)(this, node, place);
    this.at = around;
    return result;
  }

  /** Runs work in the body of another component, whose blocks have ids of their own. */
  inside<Result>(work: () => Result): Result {
    const around = this.at;
    this.at = null;
    const result = work();
    this.at = around;
    return result;
  }

  /** The inline content of a block; the same array where nothing changes. */
  line(node: PreparedNode, place: Place): readonly PreparedNode[] {
    const content = partsOf(node);
    if (!node.variesInside) return content;
    const inline = assembleInline(this, content, place);
    if (!inline) return content;
    // In a listing every space counts.
    return node.type === 'code_block' ? inline.nodes : joinSpaces(inline.nodes, inline.gaps, deriveText);
  }

  /**
   * The component that a node names, of one of some kinds; reported where there is none.
   * @returns null where there is none
   */
  component<Kind extends ComponentKind>(
    node: AnyNode,
    kinds: readonly Kind[],
    place: Place,
    code: ProblemCode = 'missing-component',
  ): ComponentOf<Kind> | null {
    const key = textAttr(node, 'component') ?? '';
    const held = textAttr(node, 'mode') === 'held' ? numberAttr(node, 'revision', 0) : 0;
    const component = held > 0 ? this.reading.revision(key, held) : this.reading.component(key);
    if (!component) {
      if (held > 0 && this.reading.component(key)) {
        this.report('error', 'missing-revision', `Revision ${held} of “${key}” does not exist.`, place);
      } else this.report('error', code, `The component “${key}” does not exist.`, place);
      return null;
    }
    if (isOf(component, kinds)) return component;
    this.report('error', 'wrong-kind', `“${component.title}” is a ${component.kind} and cannot stand here.`, place);
    return null;
  }

  /** Reports a problem at the place that is being assembled. */
  report(severity: Finding['severity'], code: ProblemCode, message: string, place: Place): void {
    this.reading.report({ severity, code, message, place: this.problemPlace(place) });
  }

  /** Inline content that is put into other inline content. */
  value(phrase: PreparedNode, place: Place): Inline {
    return valueOf(this, phrase, place);
  }

  /** Where a problem stands; null in a value that no component holds: where the value is used. */
  private problemPlace({ component, evaluating, entry }: Place): ProblemPlace | null {
    if (component) return { component: component.key, block: this.at, entry: null };
    return evaluating === null ? { component: null, block: null, entry } : null;
  }

  /** Takes over what was found in a value, with the place where it is used. */
  findHere(findings: readonly Finding[], place: Place): void {
    const here = this.problemPlace(place);
    for (const finding of findings) this.reading.report(here ? findingAt(finding, here) : finding);
  }
}

function isOf<Kind extends ComponentKind>(
  component: Component,
  kinds: readonly Kind[],
): component is ComponentOf<Kind> & Component {
  return (kinds as readonly ComponentKind[]).includes(component.kind);
}
