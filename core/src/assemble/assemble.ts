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
  earlier?: (id: string, topic: string) => AssembledEntry | undefined,
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

/**
 * Assembles only some entries of a publication, each as it is in the whole.
 * @param wanted tells by the id of an entry and the key of its topic whether it is wanted
 * @param most how many are wanted at most: the first ones
 * @returns the wanted entries that are in, in order, without those below them
 */
export function assembleTopics(
  source: Source,
  recipe: Recipe,
  wanted: (id: string, topic: string) => boolean,
  most = Infinity,
): readonly AssembledEntry[] {
  const assembler = new OutlineAssembler(source, recipe);
  const found: AssembledEntry[] = [];
  assembler.visit(recipe.publication.entries, assembler.root, '', [recipe.publication.key], (entry, scope, id) => {
    if (entry.topic !== undefined && wanted(id, entry.topic)) found.push(...assembler.alone(entry, scope, id));
    return found.length < most;
  });
  return found;
}

function rootScope({ publication, values }: Recipe): Scope {
  return { values: new ValuesInForce([values, publication.values]), stack: [], component: null, entry: null };
}

function withValues(scope: Scope, publication: Publication): Scope {
  return { ...scope, values: new ValuesInForce([...scope.values.records, publication.values]) };
}

const noEntries: readonly AssembledEntry[] = [];

class OutlineAssembler {
  readonly root: Scope;
  /** What was come upon in the outline itself. */
  readonly outline = new Trace();
  private readonly content: ContentAssembler;

  constructor(
    private readonly source: Source,
    private readonly recipe: Recipe,
    private readonly earlier?: (id: string, topic: string) => AssembledEntry | undefined,
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

  /** What is in of the entries and of those below them. */
  entries(
    entries: readonly OutlineEntry[],
    scope: Scope,
    prefix: string,
    publications: readonly string[],
  ): readonly AssembledEntry[] {
    const found: AssembledEntry[] = [];
    for (const entry of entries) {
      const id = prefix + entry.id;
      const inner = this.enter(entry, scope, id);
      if (!inner) continue;
      if (entry.publication !== undefined) {
        found.push(...this.nested(entry, entry.publication, inner, id, publications));
        continue;
      }
      const below = entry.entries ? this.entries(entry.entries, inner, prefix, publications) : noEntries;
      const kept = entry.topic === undefined ? undefined : this.earlier?.(id, entry.topic);
      if (kept) found.push(kept.entries.length === 0 && below.length === 0 ? kept : { ...kept, entries: below });
      else found.push(...this.topic(entry, inner, id, below));
    }
    return found;
  }

  /**
   * Calls back for every entry that is in, parents first, as long as the call returns true.
   * @returns whether it went through to the end
   */
  visit(
    entries: readonly OutlineEntry[],
    scope: Scope,
    prefix: string,
    publications: readonly string[],
    found: (entry: OutlineEntry, scope: Scope, id: string) => boolean,
  ): boolean {
    for (const entry of entries) {
      const id = prefix + entry.id;
      const inner = this.enter(entry, scope, id);
      if (!inner) continue;
      if (!found(entry, inner, id)) return false;
      const publication = entry.publication === undefined ? null : this.source.publications.get(entry.publication);
      const place = publication === null ? prefix : `${id}.`;
      if (publication && !publications.includes(publication.key)) {
        const within = withValues(inner, publication);
        const path = [...publications, publication.key];
        if (!this.visit(publication.entries, within, place, path, found)) return false;
      }
      if (entry.entries && !this.visit(entry.entries, inner, place, publications, found)) return false;
    }
    return true;
  }

  /** One entry without those below it. */
  alone(entry: OutlineEntry, scope: Scope, id: string): readonly AssembledEntry[] {
    const alone = this.topic(entry, scope, id, noEntries);
    if (alone[0]?.blocks.length !== 0 && alone.length > 0) return alone;
    // With nothing but a title it stays for what stands below it.
    const below = this.entries(entry.entries ?? [], scope, '', []);
    return this.topic(entry, scope, id, below).map((each) => ({ ...each, entries: noEntries }));
  }

  /** The scope inside an entry; null where it is out. */
  private enter(entry: OutlineEntry, outer: Scope, id: string): Scope | null {
    const { when } = entry;
    if (when) {
      this.content.trace = this.outline;
      this.content.checkCondition(when, { ...outer, entry: id });
      if (!this.content.selector.holds(when)) return null;
    }
    const own = entry.values;
    const hasValues = own !== undefined && Object.keys(own).length > 0;
    const values = hasValues ? new ValuesInForce([own, ...outer.values.records]) : outer.values;
    return { values, stack: outer.stack, component: outer.component, entry: id };
  }

  private topic(
    entry: OutlineEntry,
    scope: Scope,
    id: string,
    below: readonly AssembledEntry[],
  ): readonly AssembledEntry[] {
    const { content } = this;
    content.trace = this.outline;
    const topic = entry.topic === undefined ? null : content.component(entry.topic, ['topic'], scope);
    if (!topic) return below;
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
    this.content.trace = this.outline;
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
    return [
      ...this.entries(inner.entries, withValues(scope, inner), `${id}.`, [...publications, key]),
      ...this.entries(entry.entries ?? [], scope, `${id}.`, publications),
    ];
  }
}
