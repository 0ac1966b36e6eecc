import { columnsOf } from '../content/body.js';
import {
  isInlineContainer,
  makeNode,
  makeText,
  numberAttr,
  textAttr,
  type ContentMark,
  type ContentNode,
} from '../content/node.js';
import {
  derive,
  deriveMarked,
  makePrepared,
  partsOf,
  prepareBody,
  prepareNode,
  varies,
  type PreparedNode,
} from '../content/prepared.js';
import { contentBody, type Component, type ImageBody, type LinkBody, type VariableBody } from '../library/component.js';
import { conditionsOf, hrefExpression, isBuiltInVariable } from '../library/references.js';
import type { Problem, ProblemCode, ProblemPlace } from '../problems/problem.js';
import type { Recipe, VariableValues } from '../publication/publication.js';
import type { Axis } from '../variation/axis.js';
import { Selector } from '../variation/selector.js';
import { describeUndefined, undefinedIn } from '../variation/undefined-keys.js';
import type { Source } from './assemble.js';
import { candidatesOf, slotRule } from './slots.js';
import { Trace } from './trace.js';
import { conditionAt, formsOf, knownForm, rememberForm, type Forms } from './forms.js';
import { filterGrid } from './filter-table.js';
import { joinSpaces } from './join-spaces.js';

/** Values of variables in force at a place, and what was assembled under them and reads the same again. */
export class ValuesInForce {
  readonly placed = new Map<string, { readonly content: readonly PreparedNode[]; readonly trace: Trace }>();
  readonly variables = new Map<string, PlainValue | null>();

  /** @param records from the nearest to the farthest: entries, then the variant, then publications */
  constructor(readonly records: readonly VariableValues[]) {}

  /** The value that an entry, the variant or a publication gives a variable. */
  own(key: string): PreparedNode | null {
    for (const record of this.records) {
      const value = record[key];
      if (value) return prepareBody(value);
    }
    return null;
  }
}

/** A value that holds nothing to look up: it reads the same wherever these values are in force. */
interface PlainValue {
  readonly inline: Inline;
  /** Names the value: equal for equal content. */
  readonly serial: number;
  /** The variable whose own value it is; null for a value of an entry, the variant or a publication. */
  readonly component: Component | null;
}

/** The place that is being assembled. */
export interface Scope {
  readonly values: ValuesInForce;
  /** The components around the place, outermost first. */
  readonly stack: readonly string[];
  readonly component: string | null;
  readonly entry: string | null;
}

export interface Inline {
  readonly nodes: PreparedNode[];
  readonly gaps: number[];
}

const containersThatMayEmpty = new Set([
  'bullet_list',
  'ordered_list',
  'list_item',
  'steps',
  'step',
  'definition_list',
  'definition',
  'description',
  'table',
  'figure',
  'admonition',
  'quotation',
  'example',
  'footnote',
]);
const titles = new Set(['title', 'caption', 'term']);

const noValues: readonly number[] = [];

/** What is undefined in the conditions of components, by the axes that they were checked with. */
const checkedWith = new WeakMap<readonly Axis[], WeakMap<Component, readonly Problem[]>>();

/**
 * Assembles bodies for one recipe. Content that nothing in the recipe can change comes back as the very
 * same objects.
 */
export class ContentAssembler {
  readonly selector: Selector;
  /** Of the piece that is being assembled. */
  trace = new Trace();
  /** Answers of conditions by their position. */
  private readonly answers: boolean[] = [];
  private readonly checked: WeakMap<Component, readonly Problem[]>;
  private readonly undefinedIn = new Map<string, readonly string[]>();
  private readonly variableStack: string[] = [];
  /** How many problems were reported so far, repeats included. */
  private reports = 0;
  /** The id of the nearest block around the place. */
  private at: string | null = null;

  constructor(
    private readonly source: Source,
    private readonly recipe: Recipe,
  ) {
    this.selector = new Selector(source.axes, recipe.profile);
    let checked = checkedWith.get(source.axes);
    if (!checked) checkedWith.set(source.axes, (checked = new WeakMap()));
    this.checked = checked;
  }

  /**
   * Blocks and sections in order. The result is the same array where nothing changes.
   * @param from how many nodes at the start are passed over
   */
  flow(nodes: readonly PreparedNode[], scope: Scope, from = 0): readonly PreparedNode[] {
    let changed: PreparedNode[] | null = from > 0 ? [] : null;
    for (let index = from; index < nodes.length; index += 1) {
      const node = nodes[index] as PreparedNode;
      const result = this.block(node, scope);
      if (result === node) {
        changed?.push(node);
        continue;
      }
      changed ??= nodes.slice(0, index);
      if (result === null) continue;
      if (Array.isArray(result)) for (const each of result as readonly PreparedNode[]) changed.push(each);
      else changed.push(result as PreparedNode);
    }
    return changed ?? nodes;
  }

  private block(node: PreparedNode, scope: Scope): PreparedNode | readonly PreparedNode[] | null {
    if ((node.traits & varies) === 0) return node;
    if (node.when !== null && !this.selector.holds(node.when)) return null;
    const forms = formsOf(node, this.source);
    const values = forms ? this.valuesFor(forms, scope) : null;
    if (!forms || !values) return this.varyingAt(node, scope);
    const answers = this.answersFor(forms);
    for (const component of forms.components) this.trace.use(component);
    const form = knownForm(forms, answers, values);
    if (form) return form.result;
    const { reports } = this;
    const result = this.varyingAt(node, scope);
    if (reports === this.reports) rememberForm(forms, { answers, values, result });
    return result;
  }

  /** The blocks and sections of a topic, without its title. */
  topic(body: PreparedNode, scope: Scope): readonly PreparedNode[] {
    if ((body.traits & varies) === 0) return this.flow(partsOf(body), scope, 1);
    return this.block(body, scope) as readonly PreparedNode[];
  }

  private varyingAt(node: PreparedNode, scope: Scope): PreparedNode | readonly PreparedNode[] | null {
    const around = this.at;
    this.at = node.id ?? around;
    const result = this.varyingBlock(node, scope);
    this.at = around;
    return result;
  }

  private answersFor({ conditions }: Forms): number {
    let bits = 0;
    for (let at = 0; at < conditions.length; at += 1) {
      const position = conditions[at] as number;
      const answer = (this.answers[position] ??= this.selector.holds(conditionAt(position)));
      if (answer) bits |= 1 << at;
    }
    return bits;
  }

  /** Names of the values of a block's variables; null where one of them has no plain value. */
  private valuesFor({ variables }: Forms, scope: Scope): readonly number[] | null {
    if (variables.length === 0) return noValues;
    const values: number[] = [];
    for (const variable of variables) {
      const value = this.plainValue(variable, scope);
      if (!value) return null;
      values.push(value.serial);
    }
    return values;
  }

  /** The value of a variable where it is a plain one; null, and nothing is reported, where it is not. */
  private plainValue(key: string, scope: Scope): PlainValue | null {
    let known = scope.values.variables.get(key);
    if (known === undefined) {
      known = this.findPlainValue(key, scope);
      scope.values.variables.set(key, known);
    }
    if (known?.component) this.trace.use(known.component);
    return known;
  }

  private findPlainValue(key: string, scope: Scope): PlainValue | null {
    const own = scope.values.own(key);
    const component = own ? null : (this.source.library.component(key) ?? null);
    const isSound = component?.kind === 'variable' && this.undefinedOf(component, scope).length === 0;
    const value = own ?? (component && isSound ? this.chosenValue(component) : null);
    if (!value || (value.traits & varies) !== 0) return null;
    return { inline: this.value(value, scope), serial: value.serial, component };
  }

  private varyingBlock(node: PreparedNode, scope: Scope): PreparedNode | readonly PreparedNode[] | null {
    switch (node.type) {
      case 'paragraph':
      case 'code_block':
        return this.leafBlock(node, scope);
      case 'title':
      case 'caption':
      case 'term':
        return derive(node, this.inlineContent(node, scope));
      case 'topic':
        return this.flow(partsOf(node), scope, 1);
      case 'section':
        return this.section(node, scope);
      case 'table_grid':
        return this.grid(node, scope);
      case 'picture':
        return this.picture(node, scope);
      case 'choice':
        return this.choice(node, scope);
      case 'copied':
        return this.flow(partsOf(node), scope);
      case 'placement':
        return this.placement(node, scope);
      case 'slot':
        return this.slot(node, scope);
      default:
        return this.container(node, scope);
    }
  }

  private leafBlock(node: PreparedNode, scope: Scope): PreparedNode | null {
    const content = this.inlineContent(node, scope);
    if (content === node.content || (content.length === 0 && !node.content)) return node;
    return content.length === 0 ? null : derive(node, content);
  }

  private container(node: PreparedNode, scope: Scope): PreparedNode | null {
    const content = this.flow(partsOf(node), scope);
    if (content === node.content) return node;
    if (containersThatMayEmpty.has(node.type) && isEmptied(node, content)) return null;
    return derive(node, content);
  }

  private section(node: PreparedNode, scope: Scope): PreparedNode | null {
    const content = this.flow(partsOf(node), scope);
    const empty = content.every((child) => child.type === 'title');
    if (empty) {
      const [title] = content;
      const text = title ? plainText(title) : '';
      this.report('warning', 'empty-section', `Nothing is left of the section “${text}” but its title.`, scope);
      if (this.recipe.leaveOutEmpty) return null;
    }
    return derive(node, content);
  }

  private grid(node: PreparedNode, scope: Scope): PreparedNode | null {
    const rows = partsOf(node);
    const columns = columnsOf(node);
    const keepRow = (index: number): boolean => this.selector.holds(textAttr(rows[index] as PreparedNode, 'when'));
    const keepColumn = (index: number): boolean => this.selector.holds(columns[index]?.when ?? null);
    const allStay = rows.every((_, index) => keepRow(index)) && columns.every((_, index) => keepColumn(index));
    const rest: ContentNode | null = allStay ? node : filterGrid(node, keepRow, keepColumn);
    if (!rest) return null;
    const filtered = allStay ? node : prepareNode(rest);
    // The cells of the rows that stay; cells themselves never go, so spans hold.
    const content = mapSame(partsOf(filtered), (row) =>
      derive(
        row,
        mapSame(partsOf(row), (cell) => {
          const blocks = this.flow(partsOf(cell), scope);
          return derive(cell, blocks);
        }),
      ),
    );
    return derive(filtered, content);
  }

  private picture(node: PreparedNode, scope: Scope): PreparedNode | null {
    const image = this.component(textAttr(node, 'component') ?? '', ['image'], scope, 'missing-image');
    if (!image) return missingBlock(textAttr(node, 'component') ?? '');
    const body = image.body as ImageBody;
    const version = body.versions.find((each) => this.selector.holds(each.when));
    const file = version?.file ?? body.file;
    const attrs = { ...node.attrs, alt: textAttr(node, 'alt') ?? body.alt, file };
    return prepareNode({ type: node.type, attrs });
  }

  private choice(node: PreparedNode, scope: Scope): readonly PreparedNode[] {
    const branch = partsOf(node).find((each) => this.selector.holds(textAttr(each, 'when')));
    return branch ? this.flow(partsOf(branch), scope) : [];
  }

  /** A slot with what may stand in it: each candidate as if it were placed there. */
  private slot(node: PreparedNode, scope: Scope): readonly PreparedNode[] {
    const id = textAttr(node, 'id') ?? 'slot';
    const topic = scope.stack[0] ?? '';
    const candidates = candidatesOf(this.source.library, node, this.source.library.component(topic));
    this.trace.fill(slotRule(node, topic));
    const content = candidates.flatMap((component): PreparedNode[] => {
      this.trace.use(component);
      const placed = this.placedContent(component, null, false, scope);
      if (placed.length === 0) return [];
      const attrs = { placement: `${id}-${component.key}`, component: component.key, revision: component.revision };
      return [makePrepared('placed', attrs, placed)];
    });
    if (content.length === 0) {
      const collection = textAttr(node, 'collection') ?? '';
      this.report('warning', 'missing-slot-content', `No snippet of “${collection}” fits the slot here.`, scope);
      return [];
    }
    const wanted = textAttr(node, 'stated');
    const stated = content.some((each) => textAttr(each, 'component') === wanted)
      ? wanted
      : textAttr(content[0] as PreparedNode, 'component');
    return [makePrepared('slot', { id, stated }, content)];
  }

  private placement(node: PreparedNode, scope: Scope): readonly PreparedNode[] {
    const component = this.component(textAttr(node, 'component') ?? '', ['topic', 'snippet'], scope, undefined, node);
    if (!component) return [missingBlock(textAttr(node, 'component') ?? '')];
    const withTitle = node.attrs?.['withTitle'] === true;
    const content = this.placedContent(component, textAttr(node, 'section'), withTitle, scope);
    if (content.length === 0) return [];
    const attrs = { placement: node.id ?? component.key, component: component.key, revision: component.revision };
    return [makePrepared('placed', attrs, content)];
  }

  private placedContent(
    component: Component,
    section: string | null,
    withTitle: boolean,
    scope: Scope,
  ): readonly PreparedNode[] {
    if (scope.stack.includes(component.key)) {
      const path = [...scope.stack.slice(scope.stack.indexOf(component.key)), component.key].join(' › ');
      this.report('error', 'placement-cycle', `Placements form a cycle: ${path}.`, scope);
      return [];
    }
    const { placed } = scope.values;
    const plain = section === null && !withTitle && component === this.source.library.component(component.key);
    const name = plain
      ? component.key
      : `${component.key}@${component.revision}#${section ?? ''}${withTitle ? '!' : ''}`;
    let known = placed.get(name);
    if (!known) {
      const outer = this.trace;
      const around = this.at;
      this.trace = new Trace();
      this.at = null;
      const inside: Scope = { ...scope, component: component.key, stack: [...scope.stack, component.key] };
      this.checkConditions(component, inside);
      const content = this.bodyToPlace(component, section, withTitle, inside);
      known = { content, trace: this.trace };
      // What a slot holds depends on the topic around it, too.
      if (!known.trace.hasSlots) placed.set(name, known);
      this.trace = outer;
      this.at = around;
    }
    this.trace.include(known.trace);
    // A part's problems are told again wherever it stands.
    if (known.trace.troubled) this.reports += 1;
    return known.content;
  }

  private bodyToPlace(
    component: Component,
    section: string | null,
    withTitle: boolean,
    scope: Scope,
  ): readonly PreparedNode[] {
    const body = prepareBody(contentBody(component) as ContentNode);
    if (body.type === 'phrase') {
      const content = this.phrase(body, scope);
      return content.length > 0 ? [makePrepared('paragraph', undefined, content)] : [];
    }
    if (section !== null) {
      const found = findSection(body, section);
      if (!found) {
        this.report('error', 'missing-target', `“${component.title}” has no section “${section}”.`, scope);
        return [];
      }
      const { conditions, node } = found;
      if (!conditions.every((when) => this.selector.holds(when))) return [];
      return withTitle ? this.flow([node], scope) : this.flow(partsOf(node), scope, 1);
    }
    if (body.type === 'topic' && withTitle) {
      const assembled = this.section(makePrepared('section', { id: topicHeading }, partsOf(body)), scope);
      return assembled ? [assembled] : [];
    }
    return this.flow(partsOf(body), scope, body.type === 'topic' ? 1 : 0);
  }

  /** The inline content of a block; the same array where nothing changes. */
  inlineContent(node: PreparedNode, scope: Scope): readonly PreparedNode[] {
    const content = partsOf(node);
    if ((node.traits & varies) === 0) return content;
    const inline = this.inline(content, scope);
    if (!inline) return content;
    if (node.type === 'code_block') return inline.nodes;
    return joinSpaces(inline.nodes, inline.gaps) as readonly PreparedNode[];
  }

  phrase(node: PreparedNode, scope: Scope): readonly PreparedNode[] {
    return this.inlineContent(node, scope);
  }

  /** Assembles inline nodes; null when every one of them stays as it is. */
  private inline(nodes: readonly PreparedNode[], scope: Scope): Inline | null {
    let result: Inline | null = null;
    for (let index = 0; index < nodes.length; index += 1) {
      const node = nodes[index] as PreparedNode;
      if (!this.marksHold(node)) {
        result ??= { nodes: nodes.slice(0, index), gaps: [] };
        result.gaps.push(result.nodes.length);
        continue;
      }
      const replaced = this.inlineNode(node, scope);
      if (replaced === null) {
        result?.nodes.push(node);
        continue;
      }
      result ??= { nodes: nodes.slice(0, index), gaps: [] };
      const offset = result.nodes.length;
      for (const gap of replaced.gaps) result.gaps.push(gap + offset);
      for (const each of replaced.nodes) result.nodes.push(each);
    }
    return result;
  }

  private marksHold(node: PreparedNode): boolean {
    const { marks } = node;
    if (!marks) return true;
    for (const mark of marks) {
      if (mark.type === 'condition' && !this.selector.holds(textAttr(mark, 'when'))) return false;
    }
    return true;
  }

  /** What an inline node becomes; null: it stays. */
  private inlineNode(node: PreparedNode, scope: Scope): Inline | null {
    const marks = node.marks ?? [];
    switch (node.type) {
      case 'text':
        return this.resolveLinks(node, scope);
      case 'variable': {
        const key = textAttr(node, 'key') ?? '';
        const value = this.variable(key, scope);
        return value === null ? null : addMarks(value, marks);
      }
      case 'inline_placement': {
        const key = textAttr(node, 'component') ?? '';
        const component = this.component(key, ['snippet'], scope, undefined, node);
        if (!component) return { nodes: [missingMarker(key)], gaps: [] };
        return addMarks(this.inlinePlacement(component, scope), marks);
      }
      case 'image': {
        if (!this.selector.holds(textAttr(node, 'when'))) return { nodes: [], gaps: [0] };
        const picture = this.picture(node, scope);
        return {
          nodes: [
            picture?.type === 'image' ? deriveMarked(picture, marks) : missingMarker(textAttr(node, 'component') ?? ''),
          ],
          gaps: [],
        };
      }
      case 'external_link': {
        const key = textAttr(node, 'component') ?? '';
        const link = this.component(key, ['link'], scope);
        if (!link) return { nodes: [missingMarker(key)], gaps: [] };
        const { href, label } = link.body as LinkBody;
        const resolved = this.resolveHref(href, scope);
        return {
          nodes: [prepareNode(makeText(label || resolved, [{ type: 'link', attrs: { href: resolved } }, ...marks]))],
          gaps: [],
        };
      }
      default:
        return null;
    }
  }

  private inlinePlacement(component: Component, scope: Scope): Inline {
    const body = prepareBody(contentBody(component) as ContentNode);
    if (body.type !== 'phrase') {
      this.report(
        'error',
        'wrong-kind',
        `“${component.title}” holds blocks and cannot be placed inside a line.`,
        scope,
      );
      return { nodes: [missingMarker(component.key)], gaps: [] };
    }
    if (scope.stack.includes(component.key)) {
      const path = [...scope.stack.slice(scope.stack.indexOf(component.key)), component.key].join(' › ');
      this.report('error', 'placement-cycle', `Placements form a cycle: ${path}.`, scope);
      return { nodes: [], gaps: [] };
    }
    const inside: Scope = { ...scope, component: component.key, stack: [...scope.stack, component.key] };
    const around = this.at;
    this.at = null;
    this.checkConditions(component, inside);
    const value = this.value(body, inside);
    this.at = around;
    return value;
  }

  /** Assembles inline content that is put into other inline content. */
  private value(phrase: PreparedNode, scope: Scope): Inline {
    const content = partsOf(phrase);
    const inline = this.inline(content, scope) ?? { nodes: [...content], gaps: [] };
    if (inline.gaps.length === 0 && inline.nodes.length > 0) return inline;
    // Where something went inside a value, its edges may meet spaces of the text around it.
    return { nodes: inline.nodes, gaps: [0, ...inline.gaps, inline.nodes.length] };
  }

  /** The value of a variable in a scope, or null for one that is only known where it stands in the output. */
  private variable(key: string, scope: Scope): Inline | null {
    if (isBuiltInVariable(key)) return this.builtIn(key, scope);
    const plain = this.plainValue(key, scope);
    if (plain) return plain.inline;
    if (this.variableStack.includes(key)) {
      const path = [...this.variableStack.slice(this.variableStack.indexOf(key)), key].join(' › ');
      this.report('error', 'variable-cycle', `The variable refers to itself: ${path}.`, scope);
      return { nodes: [missingMarker(key)], gaps: [] };
    }
    const value = scope.values.own(key) ?? this.valueOf(key, scope);
    if (!value) return { nodes: [missingMarker(key)], gaps: [] };
    this.variableStack.push(key);
    const inline = this.value(value, scope);
    this.variableStack.pop();
    return inline;
  }

  /** The value that a variable's own rules choose; reports where there is none. */
  private valueOf(key: string, scope: Scope): PreparedNode | null {
    const component = this.source.library.component(key);
    const trail = [...this.variableStack, key].join(' › ');
    if (!component || component.kind !== 'variable') {
      this.trace.useMissing(key);
      this.report('error', 'missing-variable', `The variable ${trail} does not exist.`, scope);
      return null;
    }
    this.trace.use(component);
    this.checkConditions(component, { ...scope, component: key });
    const value = this.chosenValue(component);
    if (!value) this.report('error', 'missing-variable', `The variable ${trail} has no value here.`, scope);
    return value;
  }

  private chosenValue(variable: Component): PreparedNode | null {
    const { rules, default: otherwise } = variable.body as VariableBody;
    const rule = rules.find(
      (each) =>
        this.selector.holds(each.when) &&
        (each.language === null || languageMatches(each.language, this.recipe.language)),
    );
    const value = rule?.value ?? otherwise;
    return value ? prepareBody(value) : null;
  }

  private builtIn(key: string, scope: Scope): Inline | null {
    const { recipe } = this;
    switch (key) {
      case '@publication-title':
        return this.value(prepareBody(recipe.publication.title), { ...scope, component: null });
      case '@variant-title':
        return { nodes: [prepareNode(makeText(recipe.variantTitle))], gaps: [] };
      case '@build-date':
        this.trace.useDate();
        return { nodes: [prepareNode(makeText(recipe.buildDate))], gaps: [] };
      case '@language':
        return { nodes: [prepareNode(makeText(recipe.language))], gaps: [] };
      case '@revision': {
        const revision =
          scope.component === null ? undefined : this.source.library.component(scope.component)?.revision;
        return { nodes: [prepareNode(makeText(String(revision ?? '')))], gaps: [] };
      }
      case '@chapter-title':
      case '@page-number':
        return null;
      default:
        this.report('error', 'missing-variable', `There is no built-in variable ${key}.`, scope);
        return { nodes: [missingMarker(key)], gaps: [] };
    }
  }

  private resolveLinks(node: PreparedNode, scope: Scope): Inline | null {
    const link = node.marks?.find((mark) => mark.type === 'link');
    const href = link ? (textAttr(link, 'href') ?? '') : '';
    if (!href.includes('{')) return null;
    const resolved = { type: 'link', attrs: { href: this.resolveHref(href, scope) } };
    return {
      nodes: [deriveMarked(node, node.marks?.map((mark) => (mark === link ? resolved : mark)) ?? [])],
      gaps: [],
    };
  }

  private resolveHref(href: string, scope: Scope): string {
    return href.replace(hrefExpression, (_, key: string) => {
      const value = this.variable(key, scope);
      return value
        ? value.nodes
            .map((each) => plainText(each))
            .join('')
            .trim()
        : '';
    });
  }

  component(
    key: string,
    kinds: readonly Component['kind'][],
    scope: Scope,
    code: ProblemCode = 'missing-component',
    placement?: PreparedNode,
  ): Component | null {
    const held = placement && textAttr(placement, 'mode') === 'held' ? numberAttr(placement, 'revision', 0) : 0;
    const component = held > 0 ? this.source.library.revision(key, held) : this.source.library.component(key);
    if (held === 0) {
      if (component) this.trace.use(component);
      else this.trace.useMissing(key);
    }
    if (!component) {
      if (held > 0 && this.source.library.component(key)) {
        this.report('error', 'missing-revision', `Revision ${held} of “${key}” does not exist.`, scope);
      } else this.report('error', code, `The component “${key}” does not exist.`, scope);
      return null;
    }
    if (kinds.includes(component.kind)) return component;
    this.report('error', 'wrong-kind', `“${component.title}” is a ${component.kind} and cannot stand here.`, scope);
    return null;
  }

  /** Reports conditions of a component that name what is not defined, once for everything that uses it. */
  checkConditions(component: Component, scope: Scope): void {
    for (const problem of this.undefinedOf(component, scope)) this.trace.report(problem);
  }

  private undefinedOf(component: Component, scope: Scope): readonly Problem[] {
    let found = this.checked.get(component);
    if (!found) {
      const inside = { ...scope, component: component.key };
      found = conditionsOf(component.body).flatMap(({ when, place }) =>
        this.undefinedKeys(when).map((message) => undefinedValue(message, inside, place)),
      );
      this.checked.set(component, found);
    }
    return found;
  }

  /** Reports what a condition of the outline names and is not defined. */
  checkCondition(when: string | null, scope: Scope): void {
    if (!when) return;
    for (const message of this.undefinedKeys(when)) this.trace.report(undefinedValue(message, scope, null));
  }

  private undefinedKeys(when: string): readonly string[] {
    let messages = this.undefinedIn.get(when);
    if (!messages) {
      messages = undefinedIn(when, this.source.axes).map(describeUndefined);
      this.undefinedIn.set(when, messages);
    }
    return messages;
  }

  report(severity: 'error' | 'warning', code: ProblemCode, message: string, scope: Scope): void {
    this.reports += 1;
    this.trace.report({ severity, code, message, place: placeOf(scope, this.at) });
  }
}

function placeOf(scope: Scope, block: string | null): ProblemPlace {
  return { component: scope.component, block, entry: scope.component ? null : scope.entry };
}

function undefinedValue(message: string, scope: Scope, block: string | null): Problem {
  return { severity: 'error', code: 'undefined-value', message, place: placeOf(scope, block) };
}

/** The id under which the heading of a topic stands when the topic is placed with its title. */
export const topicHeading = '@topic';

/** Whether a rule for one language applies to another: equal, or a prefix of it (RFC 4647, 3.3.1 basic filtering). */
export function languageMatches(range: string, language: string): boolean {
  const [wanted, actual] = [range.toLowerCase(), language.toLowerCase()];
  return actual === wanted || actual.startsWith(`${wanted}-`);
}

function isEmptied(node: PreparedNode, content: readonly PreparedNode[]): boolean {
  if (node.type === 'figure') return !content.some((child) => child.type === 'picture');
  if (node.type === 'table') return !content.some((child) => child.type === 'table_grid');
  if (node.type === 'definition') {
    return !content.some((child) => child.type === 'term') || !content.some((child) => child.type === 'description');
  }
  return content.every((child) => titles.has(child.type));
}

interface FoundSection {
  readonly node: PreparedNode;
  /** The section's own condition and those of what it stands in. */
  readonly conditions: readonly (string | null)[];
}

function findSection(body: PreparedNode, id: string, around: readonly (string | null)[] = []): FoundSection | null {
  if (isInlineContainer(body.type)) return null;
  const conditions = [...around, body.when];
  if (body.type === 'section' && body.id === id) return { node: body, conditions };
  for (const part of partsOf(body)) {
    const found = findSection(part, id, conditions);
    if (found) return found;
  }
  return null;
}

function addMarks(inline: Inline, marks: readonly ContentMark[]): Inline {
  const outer = marks.filter((mark) => mark.type !== 'condition');
  if (outer.length === 0) return inline;
  const nodes = inline.nodes.map((node) => {
    const own = node.marks ?? [];
    const added = outer.filter((mark) => !own.some((each) => each.type === mark.type));
    return added.length === 0 ? node : deriveMarked(node, [...added, ...own]);
  });
  return { nodes, gaps: inline.gaps };
}

function missingMarker(key: string): PreparedNode {
  return prepareNode({ type: 'missing', attrs: { key } });
}

function missingBlock(key: string): PreparedNode {
  return prepareNode(makeNode('paragraph', null, [{ type: 'missing', attrs: { key } }]));
}

function mapSame<T>(list: readonly T[], map: (item: T) => T): readonly T[] {
  let changed: T[] | null = null;
  list.forEach((item, index) => {
    const result = map(item);
    if (!changed && result !== item) changed = list.slice(0, index);
    changed?.push(result);
  });
  return changed ?? list;
}

function plainText(node: PreparedNode): string {
  return node.text ?? partsOf(node).map(plainText).join('');
}
