import { assemblePublication, EntryAssembler, type EntryAlone } from '../assemble/assemble.js';
import { Memory } from '../assemble/memory.js';
import { comparePassages, type PassageChange } from '../compare/compare.js';
import { unitsOf } from '../compare/units.js';
import type { Component, ComponentBody } from '../model/component.js';
import { flattenEntries, type Recipe, type VariableValues } from '../model/publication.js';
import { collectionTarget, referencesOf, type Reference } from '../model/references.js';
import type { Source } from '../model/source.js';
import { digestOf } from '../model/digest.js';
import { ownCondition } from '../select/select.js';
import { numberPublication } from '../number/number.js';
import { plainText } from '../number/plain-text.js';
import { inWords } from '../number/untitled.js';
import type { Format } from '../output/format.js';
import { web } from '../output/web/web.js';
import { outputWords } from '../output/words.js';
import { digestsOf } from './content-digest.js';
import { renditionDigest } from './record.js';
import { ReferenceGraph, type Edge } from './reference-graph.js';

/** One topic that comes out differently, with the passages that read so; none where only its markup differs. */
export interface AlteredTopic {
  readonly topic: string;
  readonly title: string;
  readonly passages: readonly PassageChange[];
}

/** Variants in which a change alters the same passages in the same way. */
export interface ReachGroup {
  /** Positions in the list of recipes. */
  readonly variants: readonly number[];
  readonly topics: readonly AlteredTopic[];
}

/**
 * Which variants a new body of a component would alter, and how they would read: the passages before and
 * after, equal ones folded into one group.
 * @param before the library as it is
 * @param after the same library with the component as it would be
 * @param component the component as it would be
 * @param components the library's components, to find what shows it
 * @param recipes those of the variants to look at, of whatever publications
 * @param tools by formats it is told whether a change that alters no words shows at all
 */
export function reachOf(
  before: Source,
  after: Source,
  component: Component,
  components: readonly Component[],
  recipes: readonly Recipe[],
  { memory = new Memory(), formats = [web] }: { readonly memory?: Memory; readonly formats?: readonly Format[] } = {},
): readonly ReachGroup[] {
  const topics = showing(component.key, components, recipes, before);
  const isLimitedAnew = ownCondition(before.library.component(component.key)) !== ownCondition(component);
  const groups = new Map<string, { variants: number[]; topics: readonly AlteredTopic[] }>();
  const compared = new Comparisons();
  recipes.forEach((recipe, position) => {
    const [was, is] = [new EntryAssembler(before, recipe, memory), new EntryAssembler(after, recipe, memory)];
    const altered: Altered[] = [];
    const title = compared.pair(titleOf(recipe, was), titleOf(recipe, is));
    if (title) altered.push(title);
    // A title may stand on any page, and what stands below an entry goes with it.
    const isWanted = ({ topic }: { readonly topic: string | null }): boolean =>
      isLimitedAnew || title !== null || topic === null || topics.has(topic);
    const wanted = (assembler: EntryAssembler): ReadonlyMap<string, EntryAlone> =>
      new Map(assembler.wanted(isWanted).map((entry) => [entry.id, entry]));
    const [old, fresh] = [wanted(was), wanted(is)];
    for (const id of new Set([...old.keys(), ...fresh.keys()])) {
      const found = compared.pair(old.get(id), fresh.get(id));
      if (found) altered.push(found);
    }
    if (altered.length === 0) return;
    const shows = altered.some(({ inWords }) => inWords);
    if (!shows && formats.every((format) => comesOutTheSame(before, after, recipe, format, memory))) return;
    const sign = altered.map((each) => each.sign).join();
    const group = groups.get(sign);
    if (group) group.variants.push(position);
    else groups.set(sign, { variants: [position], topics: altered.map((each) => each.topic) });
  });
  return [...groups.values()];
}

/** The title of the publication as every format shows it: without marks, spaces folded. */
function titleOf({ publication, language }: Recipe, assembler: EntryAssembler): Shown {
  const text = plainText(inWords(assembler.title), outputWords(language));
  return { topic: publication.key, title: [{ type: 'text', text }], blocks: [], role: 'auto' };
}

function comesOutTheSame(before: Source, after: Source, recipe: Recipe, format: Format, memory: Memory): boolean {
  const [was, is] = [before, after].map((source) =>
    renditionDigest(format.render(numberPublication(assemblePublication(source, recipe, memory), recipe)), digestOf),
  );
  return was === is;
}

type Shown = Pick<EntryAlone, 'topic' | 'title' | 'blocks' | 'role'>;

interface Altered {
  readonly topic: AlteredTopic;
  readonly sign: number;
  /** Whether it reads otherwise in words that every format shows. */
  readonly inWords: boolean;
}

/** Compares entries, equal pairs once: most variants have the same before and the same after. */
class Comparisons {
  private readonly known = new Map<string, Altered | null>();
  private readonly signs = new Map<string, number>();

  /** @returns null where both are the same */
  pair(old: Shown | undefined, fresh: Shown | undefined): Altered | null {
    const shown = fresh ?? old;
    if (!shown || (old && fresh && old.blocks === fresh.blocks && old.title === fresh.title)) return null;
    const [before, after] = [old && digestsOf(old), fresh && digestsOf(fresh)];
    if (before?.exact === after?.exact) return null;
    const key = `${shown.topic ?? ''} ${before?.exact ?? ''} ${after?.exact ?? ''}`;
    let found = this.known.get(key);
    if (found === undefined) {
      const units = (entry: Shown | undefined) => (entry ? unitsOf(entry) : []);
      const passages = comparePassages(units(old), units(fresh)).filter(({ kind }) => kind !== 'same');
      const topic = { topic: shown.topic ?? '', title: unitsOf(shown)[0]?.text ?? '', passages };
      const text = JSON.stringify([topic.topic, passages]);
      const sign = this.signs.get(text) ?? this.signs.size;
      this.signs.set(text, sign);
      this.known.set(key, (found = { topic, sign, inWords: before?.words !== after?.words }));
    }
    return found;
  }
}

const knownReferences = new WeakMap<ComponentBody, readonly Reference[]>();

/** What a stored body refers to. While somebody writes in one, all others are asked again and again. */
function referencesIn(body: ComponentBody): readonly Reference[] {
  let references = knownReferences.get(body);
  if (!references) knownReferences.set(body, (references = referencesOf(body)));
  return references;
}

/**
 * The components that show a component, directly or through others, itself included. Values of variables
 * that variants, publications and entries give lead on like the variables themselves.
 */
function showing(
  key: string,
  components: readonly Component[],
  recipes: readonly Recipe[],
  { publications, library }: Source,
): ReadonlySet<string> {
  const edges: Edge[] = [];
  const olderOnes = new Set<string>();
  const add = (user: string, references: readonly Reference[]): void => {
    for (const { target, kind, held } of references) {
      if (kind === 'cross-reference') continue;
      // What a held revision places live follows, too.
      const used = held === null ? target : `${target}@${held}`;
      edges.push({ user, used });
      const older = held === null || olderOnes.has(used) ? undefined : library.revision(target, held);
      if (!older) continue;
      olderOnes.add(used);
      add(used, referencesIn(older.body));
    }
  };
  const addValues = (values: VariableValues | undefined): void => {
    for (const [variable, value] of Object.entries(values ?? {})) add(variable, referencesOf(value));
  };
  for (const each of components) {
    add(each.key, referencesIn(each.body));
    const { collection } = each.labels ?? {};
    if (collection) edges.push({ user: collectionTarget(collection), used: each.key });
  }
  for (const publication of new Set([...recipes.map((recipe) => recipe.publication), ...publications.values()])) {
    addValues(publication.values);
    for (const { entry } of flattenEntries(publication.entries)) addValues(entry.values);
  }
  for (const { values } of recipes) addValues(values);
  return new Set([key, ...new ReferenceGraph(edges).usersOf(key).map((user) => user.key)]);
}
