import { EntryAssembler } from '../assemble/assemble.js';
import { flattenAssembled, type AssembledEntry, type AssembledPublication } from '../assemble/assembled.js';
import { Memory, preparedComponent } from '../assemble/memory.js';
import { partsOf, type PreparedNode } from '../assemble/prepared.js';
import type { OutlinePlace } from '../assemble/outline.js';
import type { Component, ComponentKind } from '../model/component.js';
import { numberAttr, textAttr, textOf } from '../model/node.js';
import { flattenEntries, type OutlineEntry, type Recipe } from '../model/publication.js';
import type { Source } from '../model/source.js';
import { flattenTree } from '../model/tree.js';
import { conditionOfTopic, ownCondition } from '../select/select.js';
import { bothConditions } from '../variation/condition-syntax.js';
import { blockFacts, type BlockFacts, type OriginCondition } from './block-facts.js';
import { occurrencesIn, type PlacedComponent } from './occurrences.js';
import { revealSource } from './reveal.js';
import { showLeftOut } from './show-left-out.js';
import { usesIn, type OriginUse, type UsedIn } from './uses.js';

/** One component on the way from an entry to a passage. */
export interface OriginStep {
  readonly component: string;
  readonly title: string;
  readonly kind: ComponentKind;
  readonly revision: number;
  /** The block in it that leads on, or the passage itself; null: all of it. */
  readonly block: string | null;
  /** What the block is: it places, holds at a revision, leaves a slot open, or is the passage. */
  readonly how: 'passage' | 'placed' | 'held' | 'slot';
  readonly conditions: readonly OriginCondition[];
}

/** Why a passage stands in a deliverable, or does not. */
export interface Origin {
  /** From the topic of the page down to the component that holds the passage. */
  readonly steps: readonly OriginStep[];
  readonly uses: readonly OriginUse[];
  /** Whether it is only shown, see `showingLeftOut`. */
  readonly isLeftOut: boolean;
}

/** An entry on the way down to a page, with its condition. */
export interface OriginEntry {
  readonly entry: string;
  readonly title: string;
  readonly when: string | null;
  readonly holds: boolean;
}

/** An entry of the outline that is not in, with what stands below it. */
export interface LeftOutOutline {
  readonly entry: string;
  readonly title: string;
  readonly topic: string | null;
  /** Null: its condition holds, but nothing was left of its topic, or there is none. */
  readonly when: string | null;
  /** How many entries stand below it. */
  readonly below: number;
}

/** Tells of an assembled publication where its passages come from. */
export class OriginTeller {
  private readonly blocks = new Map<Component, ReadonlyMap<string, BlockFacts>>();
  private readonly entries: ReadonlyMap<string, AssembledEntry>;

  constructor(
    private readonly source: Source,
    private readonly recipe: Recipe,
    private readonly assembled: AssembledPublication,
  ) {
    this.entries = new Map(flattenAssembled(assembled.entries).map((entry) => [entry.id, entry]));
  }

  private get around(): UsedIn {
    const { source, recipe, holds, assembled } = this;
    return { source, recipe, holds, reading: assembled.reading };
  }

  private readonly holds = (when: string | null): boolean => this.assembled.reading.selector.holds(when);

  /**
   * The same publication, in which one page shows what its variant leaves out, too, marked as such.
   * @param entry the page; one that is not there changes nothing
   */
  showingLeftOut(entry: string): AssembledPublication {
    const page = this.entries.get(entry);
    if (page?.topic === undefined || page.topic === null) return this.assembled;
    const recipe = { ...this.recipe, leaveOutEmpty: false };
    const revealed = new EntryAssembler(revealSource(this.source, this.holds), recipe, new Memory());
    const place = placesById(revealed).get(entry);
    const whole = place && revealed.page(place);
    if (!whole) return this.assembled;
    const blocks = showLeftOut(page.blocks, whole.blocks);
    const changed = (entries: readonly AssembledEntry[]): readonly AssembledEntry[] =>
      entries.map((each) => ({
        ...each,
        blocks: each === page ? blocks : each.blocks,
        entries: changed(each.entries),
      }));
    return { ...this.assembled, entries: changed(this.assembled.entries) };
  }

  /**
   * Where the passages of a page come from, by their names on it; that of the page itself under the empty name.
   * @param page the page as it is shown, see `showingLeftOut`
   */
  originsOn(page: AssembledEntry): ReadonlyMap<string, Origin> {
    const origins = new Map<string, Origin>();
    const { topic } = page;
    if (topic === null) return origins;
    const top: readonly PlacedComponent[] = [{ component: topic, revision: null, by: null }];
    origins.set('', this.origin(page, top, null, false));
    for (const { anchor, block, way, isOut } of occurrencesIn(page.blocks, topic))
      if (!origins.has(anchor)) origins.set(anchor, this.origin(page, way, block, isOut));
    return origins;
  }

  /** The entries from the top of the outline down to a page, itself included. */
  wayTo(entry: string): readonly OriginEntry[] {
    let way: readonly OriginEntry[] = [];
    this.eachEntry((id, path) => {
      if (id === entry) way = path;
    });
    return way;
  }

  /** The entries of the outline that are not in: the uppermost of each part, in order. */
  leftOutOfOutline(): readonly LeftOutOutline[] {
    const found: LeftOutOutline[] = [];
    this.eachEntry((id, path, entry) => {
      const own = path[path.length - 1];
      if (!own || path.slice(0, -1).some(({ holds }) => !holds)) return;
      const isGone = entry.topic !== undefined && own.holds && !this.entries.has(id);
      if (own.holds && !isGone) return;
      const below = isGone ? 0 : countEntries(entry.entries ?? []);
      found.push({ entry: id, title: own.title, topic: entry.topic ?? null, when: own.holds ? null : own.when, below });
    });
    return found;
  }

  private eachEntry(visit: (id: string, path: readonly OriginEntry[], entry: OutlineEntry) => void): void {
    const { recipe, source } = this;
    const walk = (
      entries: readonly OutlineEntry[],
      prefix: string,
      above: readonly OriginEntry[],
      publications: readonly string[],
    ): void => {
      for (const entry of entries) {
        const id = prefix + entry.id;
        const ofTopic = conditionOfTopic(entry, (topic) => ownCondition(source.library.component(topic)));
        const when = bothConditions(entry.when || null, ofTopic);
        const path = [...above, { entry: id, title: this.titleOf(entry), when, holds: this.holds(when) }];
        visit(id, path, entry);
        const nested = entry.publication === undefined ? undefined : source.publications.get(entry.publication);
        if (nested && !publications.includes(nested.key))
          walk(nested.entries, `${id}.`, path, [...publications, nested.key]);
        walk(entry.entries ?? [], prefix, path, publications);
      }
    };
    walk(recipe.publication.entries, '', [], [recipe.publication.key]);
  }

  private titleOf({ title, topic, link, publication }: OutlineEntry): string {
    if (title) return title;
    const shown = topic ?? link;
    if (shown !== undefined) return this.source.library.component(shown)?.title ?? shown;
    const nested = publication === undefined ? undefined : this.source.publications.get(publication);
    return nested ? textOf(nested.title) : (publication ?? '');
  }

  private componentAt({ component, revision }: PlacedComponent): Component | undefined {
    const { library } = this.source;
    return (revision === null ? undefined : library.revision(component, revision)) ?? library.component(component);
  }

  private factsOf(component: Component): ReadonlyMap<string, BlockFacts> {
    let facts = this.blocks.get(component);
    if (!facts) {
      facts = blockFacts(this.assembled.reading.remembered, component, this.holds);
      this.blocks.set(component, facts);
    }
    return facts;
  }

  private linesOf(component: Component): readonly PreparedNode[] {
    const { body } = preparedComponent(this.assembled.reading.remembered, component);
    return body.type === 'phrase'
      ? [body]
      : partsOf(body)
          .slice(0, 1)
          .filter(({ type }) => type === 'title');
  }

  private origin(
    page: AssembledEntry,
    way: readonly PlacedComponent[],
    block: string | null,
    isLeftOut: boolean,
  ): Origin {
    const steps: OriginStep[] = [];
    let lines: readonly PreparedNode[] = [];
    way.forEach((each, at) => {
      const component = this.componentAt(each);
      if (!component) return;
      const next = way[at + 1];
      const id = next ? next.by : block;
      const facts = id === null ? undefined : this.factsOf(component).get(id);
      // Of a page the title is told, of a snippet that is one line, the line.
      if (!next) lines = facts ? [facts.node] : this.linesOf(component);
      const { key, title, kind, revision } = component;
      const how = next ? howOf(facts?.node) : 'passage';
      steps.push({
        component: key,
        title,
        kind,
        revision,
        block: facts ? id : null,
        how,
        conditions: facts?.conditions ?? [],
      });
    });
    return { steps, uses: usesIn(lines, page, this.around), isLeftOut };
  }
}

function howOf(node: PreparedNode | undefined): OriginStep['how'] {
  if (node?.type === 'slot') return 'slot';
  return node && textAttr(node, 'mode') === 'held' && numberAttr(node, 'revision', 0) > 0 ? 'held' : 'placed';
}

function placesById(assembler: EntryAssembler): ReadonlyMap<string, OutlinePlace> {
  return new Map(flattenTree(assembler.places, ({ below }) => below).map((place) => [place.id, place]));
}

function countEntries(entries: readonly OutlineEntry[]): number {
  return flattenEntries(entries).length;
}
