import { makeText, type ContentNode } from '../content/node.js';
import { partsOf, prepareBody } from '../content/prepared.js';
import { contentBody, type Component, type Library } from '../library/component.js';
import { ProblemList } from '../problems/problem.js';
import type { OutlineEntry, Publication, Recipe } from '../publication/publication.js';
import type { Axis } from '../variation/axis.js';
import { ContentAssembler, ValuesInForce, type Scope } from './assemble-content.js';
import type { AssembledEntry, AssembledNode, AssembledPublication } from './assembled.js';
import { Trace } from './trace.js';

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
 * @param earlier gives an entry as it was assembled before, where it is known to be the same again
 */
export function assemblePublication(
  source: Source,
  recipe: Recipe,
  earlier?: (id: string) => AssembledEntry | undefined,
): AssembledPublication {
  const assembler = new OutlineAssembler(source, recipe, earlier);
  const { title, trace } = assembler.title();
  const entries = assembler.entries(recipe.publication.entries, assembler.root, '', [recipe.publication.key]);
  const problems = new ProblemList();
  trace.problems.forEach((problem) => problems.add(problem));
  assembler.outline.problems.forEach((problem) => problems.add(problem));
  const addProblems = (list: readonly AssembledEntry[]): void => {
    for (const each of list) {
      each.trace.problems.forEach((problem) => problems.add(problem));
      addProblems(each.entries);
    }
  };
  addProblems(entries);
  return { title, trace, entries, problems: problems.all, decisions: assembler.decisions };
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
  const assembler = new ContentAssembler(source, recipe);
  const written = contentBody(component);
  const body = written && prepareBody(written);
  const scope: Scope = { ...rootScope(recipe), component: component.key };
  const content = body
    ? body.type === 'phrase'
      ? assembler.phrase(body, scope)
      : assembler.flow(partsOf(body), scope)
    : [];
  return { content, problems: assembler.trace.problems };
}

function rootScope({ publication, values }: Recipe): Scope {
  return { values: new ValuesInForce([values, publication.values]), stack: [], component: null, entry: null };
}

class OutlineAssembler {
  readonly root: Scope;
  /** What was come upon in the outline itself. */
  readonly outline = new Trace();
  private readonly content: ContentAssembler;

  constructor(
    private readonly source: Source,
    private readonly recipe: Recipe,
    private readonly earlier?: (id: string) => AssembledEntry | undefined,
  ) {
    this.content = new ContentAssembler(source, recipe);
    this.root = rootScope(recipe);
  }

  get decisions(): ReadonlyMap<string, boolean> {
    return this.content.selector.decisions;
  }

  title(): Pick<AssembledPublication, 'title' | 'trace'> {
    const trace = new Trace();
    this.content.trace = trace;
    return { title: this.content.phrase(prepareBody(this.recipe.publication.title), this.root), trace };
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
    this.content.trace = this.outline;
    this.content.checkCondition(entry.when ?? null, { ...outer, entry: id });
    if (!this.content.selector.holds(entry.when ?? null)) return [];
    const hasValues = entry.values && Object.keys(entry.values).length > 0;
    const values = hasValues ? new ValuesInForce([entry.values ?? {}, ...outer.values.records]) : outer.values;
    const scope: Scope = { ...outer, values, entry: id };
    if (entry.publication !== undefined) return this.nested(entry, entry.publication, scope, id, publications);

    const below = this.entries(entry.entries ?? [], scope, prefix, publications);
    if (entry.topic === undefined) return below;
    const kept = this.earlier?.(id);
    if (kept) return [kept.entries.length === 0 && below.length === 0 ? kept : { ...kept, entries: below }];
    this.content.trace = this.outline;
    const topic = this.content.component(entry.topic, ['topic'], { ...outer, entry: id });
    return topic ? this.topic(entry, topic, scope, id, below) : below;
  }

  private topic(
    entry: OutlineEntry,
    topic: Component,
    scope: Scope,
    id: string,
    below: readonly AssembledEntry[],
  ): readonly AssembledEntry[] {
    const { content } = this;
    const trace = new Trace();
    content.trace = trace;
    trace.use(topic);
    const inTopic: Scope = { ...scope, component: topic.key, stack: [topic.key] };
    content.checkConditions(topic, inTopic);
    const body = prepareBody(contentBody(topic) as ContentNode);
    const [title] = partsOf(body);
    const blocks = content.topic(body, inTopic);
    if (blocks.length === 0 && below.length === 0) {
      const message = `Nothing is left of the topic “${topic.title}” but its title.`;
      content.report('warning', 'empty-topic', message, inTopic);
      if (this.recipe.leaveOutEmpty) {
        this.outline.include(trace);
        return [];
      }
    }
    const ownTitle = entry.title ? [makeText(entry.title)] : title ? content.inlineContent(title, inTopic) : [];
    return [{ id, topic: topic.key, role: entry.role ?? 'auto', title: ownTitle, blocks, entries: below, trace }];
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
      this.content.report('error', 'missing-component', `The publication “${key}” does not exist.`, scope);
      return [];
    }
    if (publications.includes(key)) {
      const path = [...publications, key].join(' › ');
      this.content.report('error', 'placement-cycle', `The publication contains itself: ${path}.`, scope);
      return [];
    }
    const within = { ...scope, values: new ValuesInForce([...scope.values.records, inner.values]) };
    return [
      ...this.entries(inner.entries, within, `${id}.`, [...publications, key]),
      ...this.entries(entry.entries ?? [], scope, `${id}.`, publications),
    ];
  }
}
