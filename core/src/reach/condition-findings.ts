import type { Source } from '../model/source.js';
import { columnsOf } from '../content/body.js';
import { childrenOf, textAttr, type ContentNode } from '../model/node.js';
import { contentBody, type Component } from '../model/component.js';
import type { Publication } from '../model/publication.js';
import { flattenValues, type Axis } from '../model/axis.js';
import type { Vocabulary } from '../model/stamp.js';
import type { Condition } from '../variation/condition-syntax.js';
import { Diagrams, type DiagramNode } from '../variation/decision-diagram.js';
import { valueStates } from '../model/profile.js';
import { readCondition, stampCondition } from '../variation/stamps.js';
import type { VariantSet, VariantSets } from '../variation/variant-sets.js';
import { setsOfPublication } from './walk-sets.js';

export const conditionFindingKinds = [
  'never-in',
  'changes-nothing',
  'contradicts',
  'branch-overlaps',
  'branch-unreachable',
  'otherwise-unreachable',
  'axis-never-varied',
  'too-large',
] as const;

/** Something about a condition that its writer should know, seen over the variants of a publication. */
export interface ConditionFinding {
  readonly kind: (typeof conditionFindingKinds)[number];
  /** One sentence. */
  readonly message: string;
  readonly when: string | null;
  /** The component it stands in; null for an outline entry. */
  readonly component: string | null;
  /** The nearest block with an id, or the id of the entry. */
  readonly place: string | null;
}

/**
 * Looks at every condition of a publication, those of placed content included, over its variants: what is
 * never in, what its condition does not change, what contradicts the conditions around it, branches of a
 * choice that overlap or are never reached, and axes that the publication never varies.
 */
export function conditionFindings(
  source: Source,
  sets: VariantSets,
  publication: Publication,
): readonly ConditionFinding[] {
  const finder = new Finder(source, sets);
  // A component that is placed more than once is looked at in all the variants that have it anywhere.
  const reached = new Map<string, VariantSet>();
  const reach = (key: string, set: VariantSet): void => {
    reached.set(key, sets.or(reached.get(key) ?? sets.none, set));
  };
  const entries = setsOfPublication(source, sets, publication);
  for (const { entry, within, pieces } of entries) {
    if (entry.topic !== undefined) reach(entry.topic, within);
    for (const piece of pieces) {
      const placed = piece.kind === 'placement' ? textAttr(piece.node, 'component') : null;
      if (placed !== null) reach(placed, piece.set);
    }
    if (entry.when) finder.check(entry.when, sets.all, finder.diagrams.always, { component: null, place: entry.id });
  }
  for (const [key, within] of reached) {
    const component = source.library.component(key);
    if (component) finder.component(component, within);
  }
  return finder.findings;
}

interface Place {
  readonly component: string | null;
  readonly place: string | null;
}

class Finder {
  readonly findings: ConditionFinding[] = [];
  readonly diagrams = new Diagrams();
  private readonly unvaried: ReadonlySet<string>;

  constructor(
    private readonly vocabulary: Vocabulary,
    private readonly sets: VariantSets,
  ) {
    this.unvaried = new Set(vocabulary.axes.filter((axis) => !varies(axis, sets)).map((axis) => axis.key));
  }

  component(component: Component, within: VariantSet): void {
    const body = contentBody(component);
    if (!body || within.size === 0) return;
    this.nodes([body], within, this.diagrams.always, { component: component.key, place: null });
  }

  private nodes(nodes: readonly ContentNode[], within: VariantSet, outer: DiagramNode, place: Place): void {
    for (const node of nodes) {
      const here = { ...place, place: textAttr(node, 'id') ?? place.place };
      if (node.type === 'choice') {
        const own = textAttr(node, 'when');
        const inner = own ? this.check(own, within, outer, here) : outer;
        this.choice(node, this.sets.and(within, this.sets.holds(own)), inner, here);
        continue;
      }
      for (const column of columnsOf(node)) if (column.when) this.check(column.when, within, outer, here);
      let set = within;
      let diagram = outer;
      for (const when of [textAttr(node, 'when'), ...(node.marks ?? []).map((mark) => textAttr(mark, 'when'))]) {
        if (!when) continue;
        diagram = this.check(when, set, diagram, here);
        set = this.sets.and(set, this.sets.holds(when));
      }
      // What a stamp asks for is said once for all: it is no fault of the place.
      for (const each of [node, ...(node.marks ?? [])]) {
        const stamp = textAttr(each, 'stamp');
        if (stamp) set = this.sets.and(set, this.sets.holds(stampCondition(stamp)));
      }
      if (node.content && set.size > 0) this.nodes(node.content, set, diagram, here);
    }
  }

  private choice(node: ContentNode, within: VariantSet, outer: DiagramNode, place: Place): void {
    let left = within;
    childrenOf(node).forEach((branch, index) => {
      const when = textAttr(branch, 'when');
      const name = `Branch ${index + 1} of the choice`;
      const wanted = this.sets.and(within, this.sets.holds(when));
      const reached = this.sets.and(left, wanted);
      if (within.size > 0 && reached.size === 0) {
        if (when === null)
          this.add('otherwise-unreachable', 'The “otherwise” branch is reached in no variant.', when, place);
        else this.add('branch-unreachable', `${name} is reached in no variant.`, when, place);
      } else {
        if (when !== null && reached !== wanted) {
          this.add(
            'branch-overlaps',
            `${name} shares variants with a branch before it, which comes first.`,
            when,
            place,
          );
        }
        const inner = this.diagrams.within(
          () => this.diagrams.and(outer, this.diagram(when)),
          () => outer,
        );
        this.nodes(childrenOf(branch), reached, inner, place);
      }
      left = this.sets.minus(left, reached);
    });
  }

  /**
   * Checks one condition in what it stands in.
   * @returns the diagram of both together
   */
  check(when: string, within: VariantSet, outer: DiagramNode, place: Place): DiagramNode {
    const { own, both } = this.diagrams.within(
      () => {
        const diagram = this.diagram(when);
        return { own: diagram, both: this.diagrams.and(outer, diagram) };
      },
      () => {
        const message = 'The condition is too large to tell whether it contradicts itself or what it stands in.';
        this.add('too-large', message, when, place);
        return { own: outer, both: outer };
      },
    );
    const set = this.sets.and(within, this.sets.holds(when));
    if (both === this.diagrams.never) {
      const what = own === this.diagrams.never ? 'contradicts itself' : 'contradicts the conditions that it stands in';
      this.add('contradicts', `The condition ${what}.`, when, place);
    } else if (within.size > 0 && set.size === 0) {
      this.add('never-in', 'No variant of this publication lets this through.', when, place);
    } else if (within.size > 0 && set === within) {
      this.add(
        'changes-nothing',
        'Every variant that gets here lets this through: the condition changes nothing.',
        when,
        place,
      );
    }
    for (const axis of axesIn(readCondition(when, this.vocabulary.stamps))) {
      if (this.unvaried.has(axis)) {
        this.add(
          'axis-never-varied',
          `The variants of this publication all treat the axis “${axis}” alike.`,
          when,
          place,
        );
      }
    }
    return both;
  }

  private diagram(when: string | null): DiagramNode {
    if (!when) return this.diagrams.always;
    const condition = readCondition(when, this.vocabulary.stamps);
    return condition ? this.diagrams.of(condition) : this.diagrams.never;
  }

  private add(kind: ConditionFinding['kind'], message: string, when: string | null, { component, place }: Place): void {
    this.findings.push({ kind, message, when, component, place });
  }
}

function axesIn(condition: Condition | null): ReadonlySet<string> {
  const found = new Set<string>();
  const visit = (part: Condition): void => {
    if ('axis' in part) found.add(part.axis);
    else if ('not' in part) visit(part.not);
    else ('all' in part ? part.all : part.any).forEach(visit);
  };
  if (condition) visit(condition);
  return found;
}

function varies(axis: Axis, sets: VariantSets): boolean {
  const states = sets.profiles.map((profile) => valueStates(axis, profile.axes[axis.key]));
  return flattenValues(axis).some(({ value }) =>
    states.some((each) => each.get(value.key) !== states[0]?.get(value.key)),
  );
}
