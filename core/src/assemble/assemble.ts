import { columnsOf } from '../content/body.js';
import {
  childrenOf,
  isInlineContainer,
  makeNode,
  makeText,
  numberAttr,
  textAttr,
  walk,
  withContent,
  type ContentMark,
  type ContentNode,
} from '../content/node.js';
import {
  contentBody,
  type Component,
  type ImageBody,
  type Library,
  type LinkBody,
  type VariableBody,
} from '../library/component.js';
import { conditionsOf, hrefExpression, isBuiltInVariable } from '../library/references.js';
import { ProblemList, type ProblemCode } from '../problems/problem.js';
import type { OutlineEntry, Publication, Recipe, VariableValues } from '../publication/publication.js';
import type { Axis } from '../variation/axis.js';
import { Selector } from '../variation/selector.js';
import { describeUndefined, undefinedIn } from '../variation/undefined-keys.js';
import type { AssembledEntry, AssembledNode, AssembledPublication } from './assembled.js';
import { filterGrid } from './filter-table.js';
import { joinSpaces } from './join-spaces.js';

/** What assembly needs besides the recipe. */
export interface Source {
  readonly library: Library;
  readonly axes: readonly Axis[];
  /** Publications that stand in the outline of another one, by key. */
  readonly publications: ReadonlyMap<string, Publication>;
}

/**
 * Selects and assembles a publication for one recipe: applies conditions, replaces placements, variables
 * and choices, and tidies what filtering leaves behind. Faults become problems, never exceptions; the
 * place of a missing piece shows a visible marker.
 */
export function assemblePublication(source: Source, recipe: Recipe): AssembledPublication {
  const assembler = new Assembler(source, recipe);
  const scope = assembler.rootScope();
  return {
    title: assembler.phrase(recipe.publication.title, { ...scope, component: null, entry: null }),
    entries: assembler.entries(recipe.publication.entries, scope, '', [recipe.publication.key]),
    problems: assembler.problems.all,
  };
}

/**
 * Assembles one body as it reads where no outline surrounds it, for previews and the editor.
 * @returns the blocks (or inline content) and the problems found on the way
 */
export function assembleBody(
  source: Source,
  recipe: Recipe,
  component: Component,
): { readonly content: readonly AssembledNode[]; readonly problems: AssembledPublication['problems'] } {
  const assembler = new Assembler(source, recipe);
  const body = contentBody(component);
  const scope = { ...assembler.rootScope(), component: component.key, entry: null };
  const content = body
    ? body.type === 'phrase'
      ? assembler.phrase(body, scope)
      : assembler.flow(childrenOf(body), scope)
    : [];
  return { content, problems: assembler.problems.all };
}

/** Values in force from the outermost publication to the entry, and the place that is being assembled. */
interface Scope {
  /** From the nearest to the farthest: entries, then the variant, then publications. */
  readonly values: readonly VariableValues[];
  /** Equal for scopes with the same values: assembled placements are shared within one. */
  readonly valuesKey: string;
  readonly stack: readonly string[];
  readonly component: string | null;
  readonly block?: string | null;
  readonly entry: string | null;
}

interface Inline {
  readonly nodes: ContentNode[];
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

class Assembler {
  readonly problems = new ProblemList();
  private readonly selector: Selector;
  private readonly placed = new Map<string, readonly ContentNode[]>();
  private readonly checked = new Set<string>();
  private readonly variableStack: string[] = [];

  constructor(
    private readonly source: Source,
    private readonly recipe: Recipe,
  ) {
    this.selector = new Selector(source.axes, recipe.profile);
  }

  rootScope(): Scope {
    const { publication, values } = this.recipe;
    return { values: [values, publication.values], valuesKey: '', stack: [], component: null, entry: null };
  }

  entries(
    entries: readonly OutlineEntry[],
    scope: Scope,
    prefix: string,
    publications: readonly string[],
  ): readonly AssembledEntry[] {
    return entries.flatMap((entry) => this.entry(entry, scope, prefix, publications));
  }

  private entry(
    entry: OutlineEntry,
    outer: Scope,
    prefix: string,
    publications: readonly string[],
  ): readonly AssembledEntry[] {
    const id = prefix + entry.id;
    const place = { ...outer, component: null, entry: id };
    this.checkCondition(entry.when ?? null, place);
    if (!this.selector.holds(entry.when ?? null)) return [];
    const hasValues = entry.values && Object.keys(entry.values).length > 0;
    const scope: Scope = hasValues
      ? { ...outer, values: [entry.values ?? {}, ...outer.values], valuesKey: id, entry: id }
      : { ...outer, entry: id };
    if (entry.publication !== undefined) return this.nested(entry, entry.publication, scope, id, publications);

    const below = this.entries(entry.entries ?? [], scope, prefix, publications);
    const topic = entry.topic === undefined ? undefined : this.component(entry.topic, ['topic'], place);
    if (!topic) return below;
    const body = contentBody(topic) as ContentNode;
    const inTopic: Scope = { ...scope, component: topic.key, stack: [topic.key] };
    this.checkConditions(topic, inTopic);
    const [title, ...flow] = childrenOf(body);
    const blocks = this.flow(flow, inTopic);
    if (blocks.length === 0 && below.length === 0) {
      this.report('warning', 'empty-topic', `Nothing is left of the topic “${topic.title}” but its title.`, inTopic);
      if (this.recipe.leaveOutEmpty) return [];
    }
    const ownTitle = entry.title ? [makeText(entry.title)] : title ? this.inlineContent(title, inTopic) : [];
    return [{ id, topic: topic.key, role: entry.role ?? 'auto', title: ownTitle, blocks, entries: below }];
  }

  private nested(
    entry: OutlineEntry,
    key: string,
    scope: Scope,
    id: string,
    publications: readonly string[],
  ): readonly AssembledEntry[] {
    const inner = this.source.publications.get(key);
    if (!inner) {
      this.report('error', 'missing-component', `The publication “${key}” does not exist.`, scope);
      return [];
    }
    if (publications.includes(key)) {
      const path = [...publications, key].join(' › ');
      this.report('error', 'placement-cycle', `The publication contains itself: ${path}.`, scope);
      return [];
    }
    const values = [...scope.values, inner.values];
    const within = { ...scope, values, valuesKey: `${scope.valuesKey}>${key}` };
    return [
      ...this.entries(inner.entries, within, `${id}.`, [...publications, key]),
      ...this.entries(entry.entries ?? [], scope, `${id}.`, publications),
    ];
  }

  /** Blocks and sections in order. The result is the same array where nothing changes. */
  flow(nodes: readonly ContentNode[], scope: Scope): readonly ContentNode[] {
    let changed: ContentNode[] | null = null;
    for (let index = 0; index < nodes.length; index += 1) {
      const node = nodes[index] as ContentNode;
      const result = this.block(node, scope);
      if (result === node) {
        changed?.push(node);
        continue;
      }
      changed ??= nodes.slice(0, index);
      if (result === null) continue;
      if (Array.isArray(result)) for (const each of result as readonly ContentNode[]) changed.push(each);
      else changed.push(result as ContentNode);
    }
    return changed ?? nodes;
  }

  private block(node: ContentNode, scope: Scope): ContentNode | readonly ContentNode[] | null {
    const when = textAttr(node, 'when');
    if (when !== null && !this.selector.holds(when)) return null;
    const id = textAttr(node, 'id');
    const here = id === null ? scope : { ...scope, block: id };
    switch (node.type) {
      case 'paragraph':
      case 'code_block':
        return this.leafBlock(node, here);
      case 'title':
      case 'caption':
      case 'term':
        return withContent(node, this.inlineContent(node, here));
      case 'section':
        return this.section(node, here);
      case 'table_grid':
        return this.grid(node, here);
      case 'picture':
        return this.picture(node, here);
      case 'choice':
        return this.choice(node, here);
      case 'copied':
        return this.flow(childrenOf(node), here);
      case 'placement':
        return this.placement(node, here);
      case 'slot':
        return [];
      default:
        return this.container(node, here);
    }
  }

  private leafBlock(node: ContentNode, scope: Scope): ContentNode | null {
    const content = this.inlineContent(node, scope);
    if (content === node.content || (content.length === 0 && !node.content)) return node;
    return content.length === 0 ? null : { ...node, content };
  }

  private container(node: ContentNode, scope: Scope): ContentNode | null {
    const content = this.flow(childrenOf(node), scope);
    if (content === node.content) return node;
    if (containersThatMayEmpty.has(node.type) && isEmptied(node, content)) return null;
    return { ...node, content };
  }

  private section(node: ContentNode, scope: Scope): ContentNode | null {
    const content = this.flow(childrenOf(node), scope);
    const empty = content.every((child) => child.type === 'title');
    if (empty) {
      const [title] = content;
      const text = title ? plainText(title) : '';
      this.report('warning', 'empty-section', `Nothing is left of the section “${text}” but its title.`, scope);
      if (this.recipe.leaveOutEmpty) return null;
    }
    return withContent(node, content);
  }

  private grid(node: ContentNode, scope: Scope): ContentNode | null {
    const rows = childrenOf(node);
    const columns = columnsOf(node);
    const keepRow = (index: number): boolean => this.selector.holds(textAttr(rows[index] as ContentNode, 'when'));
    const keepColumn = (index: number): boolean => this.selector.holds(columns[index]?.when ?? null);
    const allStay = rows.every((_, index) => keepRow(index)) && columns.every((_, index) => keepColumn(index));
    const filtered = allStay ? node : filterGrid(node, keepRow, keepColumn);
    if (!filtered) return null;
    // The cells of the rows that stay; cells themselves never go, so spans hold.
    const content = mapSame(childrenOf(filtered), (row) =>
      withContent(
        row,
        mapSame(childrenOf(row), (cell) => {
          const blocks = this.flow(childrenOf(cell), scope);
          return blocks === cell.content ? cell : { ...cell, content: blocks };
        }),
      ),
    );
    return withContent(filtered, content);
  }

  private picture(node: ContentNode, scope: Scope): ContentNode | null {
    const image = this.component(textAttr(node, 'component') ?? '', ['image'], scope, 'missing-image');
    if (!image) return makeNode('paragraph', null, [missingMarker(textAttr(node, 'component') ?? '')]);
    const body = image.body as ImageBody;
    const version = body.versions.find((each) => this.selector.holds(each.when));
    const file = version?.file ?? body.file;
    const attrs = { ...node.attrs, alt: textAttr(node, 'alt') ?? body.alt, file };
    return { type: node.type, attrs };
  }

  private choice(node: ContentNode, scope: Scope): readonly ContentNode[] {
    const branch = childrenOf(node).find((each) => this.selector.holds(textAttr(each, 'when')));
    return branch ? this.flow(childrenOf(branch), scope) : [];
  }

  private placement(node: ContentNode, scope: Scope): readonly ContentNode[] {
    const component = this.component(textAttr(node, 'component') ?? '', ['topic', 'snippet'], scope, undefined, node);
    if (!component) return [makeNode('paragraph', null, [missingMarker(textAttr(node, 'component') ?? '')])];
    const withTitle = node.attrs?.['withTitle'] === true;
    const content = this.placedContent(component, textAttr(node, 'section'), withTitle, scope);
    if (content.length === 0) return [];
    return [
      {
        type: 'placed',
        attrs: {
          placement: textAttr(node, 'id') ?? component.key,
          component: component.key,
          revision: component.revision,
        },
        content,
      },
    ];
  }

  private placedContent(
    component: Component,
    section: string | null,
    withTitle: boolean,
    scope: Scope,
  ): readonly ContentNode[] {
    if (scope.stack.includes(component.key)) {
      const path = [...scope.stack.slice(scope.stack.indexOf(component.key)), component.key].join(' › ');
      this.report('error', 'placement-cycle', `Placements form a cycle: ${path}.`, scope);
      return [];
    }
    const shared = `${component.key}@${component.revision}#${section ?? ''}${withTitle ? '!' : ''}|${scope.valuesKey}`;
    const known = this.placed.get(shared);
    if (known) return known;
    const inside: Scope = { ...scope, component: component.key, block: null, stack: [...scope.stack, component.key] };
    this.checkConditions(component, inside);
    const content = this.bodyToPlace(component, section, withTitle, inside);
    this.placed.set(shared, content);
    return content;
  }

  private bodyToPlace(
    component: Component,
    section: string | null,
    withTitle: boolean,
    scope: Scope,
  ): readonly ContentNode[] {
    const body = contentBody(component) as ContentNode;
    if (body.type === 'phrase') {
      const content = this.phrase(body, scope);
      return content.length > 0 ? [makeNode('paragraph', null, content)] : [];
    }
    if (section !== null) {
      const found = findSection(body, section);
      if (!found) {
        this.report('error', 'missing-target', `“${component.title}” has no section “${section}”.`, scope);
        return [];
      }
      const { conditions, node } = found;
      if (!conditions.every((when) => this.selector.holds(when))) return [];
      return this.flow(withTitle ? [node] : childrenOf(node).slice(1), scope);
    }
    if (body.type === 'topic' && withTitle) {
      const assembled = this.section(
        { type: 'section', attrs: { id: topicHeading }, content: childrenOf(body) },
        scope,
      );
      return assembled ? [assembled] : [];
    }
    return this.flow(body.type === 'topic' ? childrenOf(body).slice(1) : childrenOf(body), scope);
  }

  /** The inline content of a block; the same array where nothing changes. */
  inlineContent(node: ContentNode, scope: Scope): readonly ContentNode[] {
    const content = childrenOf(node);
    const inline = this.inline(content, scope);
    if (!inline) return content;
    return node.type === 'code_block' ? inline.nodes : joinSpaces(inline.nodes, inline.gaps);
  }

  phrase(node: ContentNode, scope: Scope): readonly ContentNode[] {
    return this.inlineContent(node, scope);
  }

  /** Assembles inline nodes; null when every one of them stays as it is. */
  private inline(nodes: readonly ContentNode[], scope: Scope): Inline | null {
    let result: Inline | null = null;
    for (let index = 0; index < nodes.length; index += 1) {
      const node = nodes[index] as ContentNode;
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

  private marksHold(node: ContentNode): boolean {
    const { marks } = node;
    if (!marks) return true;
    for (const mark of marks) {
      if (mark.type === 'condition' && !this.selector.holds(textAttr(mark, 'when'))) return false;
    }
    return true;
  }

  /** What an inline node becomes; null: it stays. */
  private inlineNode(node: ContentNode, scope: Scope): Inline | null {
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
          nodes: [picture?.type === 'image' ? { ...picture, marks } : missingMarker(textAttr(node, 'component') ?? '')],
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
          nodes: [makeText(label || resolved, [{ type: 'link', attrs: { href: resolved } }, ...marks])],
          gaps: [],
        };
      }
      default:
        return null;
    }
  }

  private inlinePlacement(component: Component, scope: Scope): Inline {
    const body = contentBody(component) as ContentNode;
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
    const inside: Scope = { ...scope, component: component.key, block: null, stack: [...scope.stack, component.key] };
    this.checkConditions(component, inside);
    return this.value(body, inside);
  }

  /** Assembles inline content that is put into other inline content. */
  private value(phrase: ContentNode, scope: Scope): Inline {
    const content = childrenOf(phrase);
    const inline = this.inline(content, scope) ?? { nodes: [...content], gaps: [] };
    if (inline.gaps.length === 0 && inline.nodes.length > 0) return inline;
    // Where something went inside a value, its edges may meet spaces of the text around it.
    return { nodes: inline.nodes, gaps: [0, ...inline.gaps, inline.nodes.length] };
  }

  /** The value of a variable in a scope, or null for one that is only known where it stands in the output. */
  private variable(key: string, scope: Scope): Inline | null {
    if (isBuiltInVariable(key)) return this.builtIn(key, scope);
    if (this.variableStack.includes(key)) {
      const path = [...this.variableStack.slice(this.variableStack.indexOf(key)), key].join(' › ');
      this.report('error', 'variable-cycle', `The variable refers to itself: ${path}.`, scope);
      return { nodes: [missingMarker(key)], gaps: [] };
    }
    const value = this.lookUp(key, scope);
    if (!value) return { nodes: [missingMarker(key)], gaps: [] };
    this.variableStack.push(key);
    const inline = this.value(value, scope);
    this.variableStack.pop();
    return inline;
  }

  private lookUp(key: string, scope: Scope): ContentNode | null {
    for (const values of scope.values) {
      const own = values[key];
      if (own) return own;
    }
    const component = this.source.library.component(key);
    const trail = [...this.variableStack, key].join(' › ');
    if (!component || component.kind !== 'variable') {
      this.report('error', 'missing-variable', `The variable ${trail} does not exist.`, scope);
      return null;
    }
    this.checkConditions(component, { ...scope, component: key, block: null });
    const body = component.body as VariableBody;
    const rule = body.rules.find(
      (each) =>
        this.selector.holds(each.when) &&
        (each.language === null || languageMatches(each.language, this.recipe.language)),
    );
    const value = rule?.value ?? body.default;
    if (!value) this.report('error', 'missing-variable', `The variable ${trail} has no value here.`, scope);
    return value;
  }

  private builtIn(key: string, scope: Scope): Inline | null {
    const { recipe } = this;
    switch (key) {
      case '@publication-title':
        return this.value(recipe.publication.title, { ...scope, component: null });
      case '@variant-title':
        return { nodes: [makeText(recipe.variantTitle)], gaps: [] };
      case '@build-date':
        return { nodes: [makeText(recipe.buildDate)], gaps: [] };
      case '@language':
        return { nodes: [makeText(recipe.language)], gaps: [] };
      case '@revision': {
        const revision =
          scope.component === null ? undefined : this.source.library.component(scope.component)?.revision;
        return { nodes: [makeText(String(revision ?? ''))], gaps: [] };
      }
      case '@chapter-title':
      case '@page-number':
        return null;
      default:
        this.report('error', 'missing-variable', `There is no built-in variable ${key}.`, scope);
        return { nodes: [missingMarker(key)], gaps: [] };
    }
  }

  private resolveLinks(node: ContentNode, scope: Scope): Inline | null {
    const link = node.marks?.find((mark) => mark.type === 'link');
    const href = link ? (textAttr(link, 'href') ?? '') : '';
    if (!href.includes('{')) return null;
    const resolved = { type: 'link', attrs: { href: this.resolveHref(href, scope) } };
    return {
      nodes: [{ ...node, marks: node.marks?.map((mark) => (mark === link ? resolved : mark)) ?? [] }],
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

  private component(
    key: string,
    kinds: readonly Component['kind'][],
    scope: Scope,
    code: ProblemCode = 'missing-component',
    placement?: ContentNode,
  ): Component | null {
    const held = placement && textAttr(placement, 'mode') === 'held' ? numberAttr(placement, 'revision', 0) : 0;
    const component = held > 0 ? this.source.library.revision(key, held) : this.source.library.component(key);
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

  private checkConditions(component: Component, scope: Scope): void {
    const key = `${component.key}@${component.revision}`;
    if (this.checked.has(key)) return;
    this.checked.add(key);
    for (const { when, place } of conditionsOf(component.body)) this.checkCondition(when, { ...scope, block: place });
  }

  private checkCondition(when: string | null, scope: Scope): void {
    if (!when) return;
    for (const key of undefinedIn(when, this.source.axes)) {
      this.report('error', 'undefined-value', describeUndefined(key), scope);
    }
  }

  private report(severity: 'error' | 'warning', code: ProblemCode, message: string, scope: Scope): void {
    this.problems.add({
      severity,
      code,
      message,
      place: { component: scope.component, block: scope.block ?? null, entry: scope.component ? null : scope.entry },
    });
  }
}

/** The id under which the heading of a topic stands when the topic is placed with its title. */
export const topicHeading = '@topic';

/** Whether a rule for one language applies to another: equal, or a prefix of it (RFC 4647, 3.3.1 basic filtering). */
export function languageMatches(range: string, language: string): boolean {
  const [wanted, actual] = [range.toLowerCase(), language.toLowerCase()];
  return actual === wanted || actual.startsWith(`${wanted}-`);
}

function isEmptied(node: ContentNode, content: readonly ContentNode[]): boolean {
  if (node.type === 'figure') return !content.some((child) => child.type === 'picture');
  if (node.type === 'table') return !content.some((child) => child.type === 'table_grid');
  if (node.type === 'definition') {
    return !content.some((child) => child.type === 'term') || !content.some((child) => child.type === 'description');
  }
  return content.every((child) => titles.has(child.type));
}

function findSection(
  body: ContentNode,
  id: string,
): { readonly node: ContentNode; readonly conditions: readonly (string | null)[] } | null {
  let found: { node: ContentNode; conditions: readonly (string | null)[] } | null = null;
  walk(body, (node, path) => {
    if (found || isInlineContainer(node.type)) return false;
    if (node.type === 'section' && textAttr(node, 'id') === id) {
      found = { node, conditions: path.map((each) => textAttr(each, 'when')) };
      return false;
    }
    return true;
  });
  return found;
}

function addMarks(inline: Inline, marks: readonly ContentMark[]): Inline {
  const outer = marks.filter((mark) => mark.type !== 'condition');
  if (outer.length === 0) return inline;
  const nodes = inline.nodes.map((node) => {
    const own = node.marks ?? [];
    const added = outer.filter((mark) => !own.some((each) => each.type === mark.type));
    return added.length === 0 ? node : { ...node, marks: [...added, ...own] };
  });
  return { nodes, gaps: inline.gaps };
}

function missingMarker(key: string): ContentNode {
  return { type: 'missing', attrs: { key } };
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

function plainText(node: ContentNode): string {
  return node.text ?? childrenOf(node).map(plainText).join('');
}
