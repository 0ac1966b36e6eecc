import { conditionsOn } from '../content/body.js';
import type { ContentNode } from '../content/node.js';
import { open, prepareBody, varies, type PreparedNode } from '../content/prepared.js';
import { contentBody, type Component } from '../library/component.js';
import { conditionsOf } from '../library/references.js';
import type { Axis } from '../variation/axis.js';
import { undefinedIn } from '../variation/undefined-keys.js';
import type { Source } from './assemble.js';

/**
 * What a block becomes, remembered by what it depends on. Most blocks depend on a few conditions and
 * variables only, in themselves and in the snippets that they place. Variants that agree on these, and
 * builds one after the other, share what the block becomes, and the HTML that output makes of it.
 */
export interface Forms {
  /** The components placed in it, however deep. */
  readonly components: readonly Component[];
  /** Positions of its conditions, see `conditionAt`. */
  readonly conditions: readonly number[];
  readonly variables: readonly string[];
  readonly known: Form[];
  readonly source: Pick<Source, 'axes'>;
}

/** One of the things that a block becomes. */
export interface Form {
  /** The answers of the conditions as bits, the first condition lowest. */
  readonly answers: number;
  /** Names of the variables' values. */
  readonly values: readonly number[];
  readonly result: PreparedNode | readonly PreparedNode[] | null;
}

/** What holds parts that are remembered by themselves. */
const gathering = new Set(['topic', 'section']);
const mostConditions = 30;
const mostForms = 32;

/**
 * The forms of a prepared block.
 * @returns null where it depends on more than conditions, variables and placed snippets, or would report
 *   something while it is assembled
 */
export function formsOf(node: PreparedNode, source: Source): Forms | null {
  if ((node.traits & open) !== 0) return null;
  const known = node.forms as Forms | null | undefined;
  if (known === null || (known && isCurrent(known, source))) return known;
  if (known && gathering.has(node.type)) {
    // Its parts know most of it; what it depends on now is only worth finding when it is asked for again.
    node.forms = undefined;
    return null;
  }
  const forms = new DependencyFinder(source).find(node);
  node.forms = forms;
  return forms;
}

function isCurrent({ components, source }: Forms, { axes, library }: Source): boolean {
  if (components.length === 0) return true;
  if (source.axes !== axes) return false;
  for (const component of components) if (library.component(component.key) !== component) return false;
  return true;
}

class DependencyFinder {
  private readonly components = new Set<Component>();
  private readonly conditions = new Set<number>();
  private readonly variables = new Set<string>();
  private readonly stack: string[] = [];
  private closed = true;

  constructor(private readonly source: Source) {}

  find(node: PreparedNode): Forms | null {
    this.visit(node);
    if (!this.closed || this.conditions.size > mostConditions) return null;
    return {
      components: [...this.components],
      conditions: [...this.conditions],
      variables: [...this.variables],
      known: [],
      source: { axes: this.source.axes },
    };
  }

  private visit(node: PreparedNode): void {
    if ((node.traits & open) !== 0) this.closed = false;
    if ((node.traits & varies) === 0 || !this.closed) return;
    for (const when of conditionsOn(node)) this.conditions.add(positionOf(when));
    if (node.type === 'variable') this.variables.add(String(node.attrs?.['key']));
    else if (node.type === 'placement') this.place(node);
    if (node.content) for (const child of node.content) this.part(child);
  }

  /** A part whose dependencies are known already need not be searched. */
  private part(node: PreparedNode): void {
    const known = node.forms as Forms | null | undefined;
    if (!known || !isCurrent(known, this.source)) {
      this.visit(node);
      return;
    }
    for (const component of known.components) this.components.add(component);
    for (const position of known.conditions) this.conditions.add(position);
    for (const variable of known.variables) this.variables.add(variable);
  }

  private place({ attrs }: PreparedNode): void {
    const component = this.source.library.component(String(attrs?.['component']));
    const plain = attrs?.['mode'] !== 'held' && !attrs?.['section'] && attrs?.['withTitle'] !== true;
    const body = component?.kind === 'snippet' && plain ? contentBody(component) : undefined;
    if (!component || !body || body.type === 'phrase' || this.stack.includes(component.key)) {
      this.closed = false;
      return;
    }
    this.components.add(component);
    this.stack.push(component.key);
    const prepared = prepareBody(body as ContentNode);
    prepared.content?.forEach((child) => this.visit(child));
    this.stack.pop();
    // What is undefined in a placed component is reported wherever it is placed.
    if (conditionsOf(body).some(({ when }) => !isDefined(when, this.source.axes))) this.closed = false;
  }
}

const defined = new WeakMap<readonly Axis[], Map<string, boolean>>();

function isDefined(when: string, axes: readonly Axis[]): boolean {
  let known = defined.get(axes);
  if (!known) defined.set(axes, (known = new Map()));
  let answer = known.get(when);
  if (answer === undefined) known.set(when, (answer = undefinedIn(when, axes).length === 0));
  return answer;
}

/** The form that a block had for the same answers and values; undefined where it was not come upon yet. */
export function knownForm(forms: Forms, answers: number, values: readonly number[]): Form | undefined {
  for (const form of forms.known) {
    if (form.answers !== answers) continue;
    let at = 0;
    while (at < values.length && form.values[at] === values[at]) at += 1;
    if (at === values.length) return form;
  }
  return undefined;
}

/** Remembers what a block becomes; of many forms the oldest are forgotten. */
export function rememberForm(forms: Forms, form: Form): void {
  if (forms.known.length >= mostForms) forms.known.shift();
  forms.known.push(form);
}

const conditionTexts: string[] = [];
const conditionPositions = new Map<string, number>();

/** The position of a condition among all that were ever come upon: answers are kept in lists by it. */
function positionOf(when: string): number {
  let position = conditionPositions.get(when);
  if (position === undefined) {
    position = conditionTexts.push(when) - 1;
    conditionPositions.set(when, position);
  }
  return position;
}

/** The text of the condition at a position. */
export function conditionAt(position: number): string {
  return conditionTexts[position] as string;
}
