import { known } from '../model/known.js';
import { assemblePublication, EntryAssembler, type EntryAlone } from '../assemble/assemble.js';
import type { Question } from '../assemble/memo.js';
import type { Memory, Questions } from '../assemble/memory.js';
import { headingName, keepEntries, pageNames, type OutlinePlace } from '../assemble/outline.js';
import type { ValuesInForce } from '../assemble/place.js';
import { isRecipePart, type Reading, type RecipePart } from '../assemble/reading.js';
import type { Component } from '../model/component.js';
import { digestOf } from '../model/digest.js';
import type { Recipe } from '../model/publication.js';
import type { Source } from '../model/source.js';
import { flattenTree } from '../model/tree.js';
import { numberPublication } from '../number/number.js';
import type { Format } from '../output/format.js';
import { collectionOfRule } from '../select/slots.js';
import { digestsOf, exactDigest, wordsDigest, type Digest, type EntryDigests } from './content-digest.js';
import {
  outlineDigest,
  recipeDigests,
  recordVersion,
  renditionDigest,
  revisionIn,
  structureOf,
  type BuildRecord,
  type PageRecord,
} from './record.js';

/** What of a recipe, or of all recipes, can make a deliverable stale. */
export type RecipeCause = RecipePart | 'design' | 'formats' | 'values' | 'vocabulary' | 'application';

/** Why building a deliverable again would give something else. */
export type StaleCause =
  | { readonly kind: 'component'; readonly component: string; readonly from: number; readonly to: number }
  | { readonly kind: 'recipe'; readonly part: RecipeCause }
  | { readonly kind: 'outline' }
  /** The condition that a component bears wherever it stands. */
  | { readonly kind: 'own condition'; readonly component: string }
  | { readonly kind: 'condition'; readonly when: string }
  | { readonly kind: 'slot'; readonly collection: string };

/** What freshness is told by. */
export interface FreshnessTools {
  readonly memory: Memory;
  /** The formats of the deliverable. */
  readonly formats: readonly Format[];
  /** How the digests of the record were made. */
  readonly digest?: Digest;
}

/** Whether a deliverable would come out differently, and why. */
export interface Staleness {
  /** None: it is fresh. */
  readonly causes: readonly StaleCause[];
  /** The formats that would come out differently, or are not made yet. */
  readonly formats: readonly string[];
}

/**
 * The reasons why a deliverable would come out differently, and which of its formats would. A change to what the
 * variant leaves out is no reason. What was read for the deliverable is asked again; entries of which anything
 * reads otherwise are assembled, and where their words are the same and something else is not, the whole is built in
 * memory and its bytes are compared.
 * @param source the library as it is now; where it has the revisions of the record, too, changes that do
 *   not matter are told from those that do
 * @param recipe the variant's recipe as it is now
 */
export function staleness(record: BuildRecord, source: Source, recipe: Recipe, tools: FreshnessTools): Staleness {
  // What an older version of the application kept cannot be compared.
  if (record.version !== recordVersion)
    return { causes: [{ kind: 'recipe', part: 'application' }], formats: tools.formats.map(({ name }) => name) };
  return new Comparison(record, source, recipe, tools).staleness();
}

const fresh: Staleness = { causes: [], formats: [] };

/** An entry as it is now: as it was recorded, or assembled. */
interface PageNow {
  readonly entry: string;
  readonly bare: boolean;
  readonly before: PageRecord | undefined;
  /** Null: as before. */
  readonly now: EntryDigests | null;
}

/** An entry that stays, with those below it. */
interface KeptPage {
  readonly page: PageNow;
  readonly entries: readonly KeptPage[];
}

/** A record's reads as numbers of a memory. */
interface NumberedReads {
  readonly questions: Questions;
  readonly asked: readonly Question[];
  readonly answers: readonly number[];
}

const numberedReads = new WeakMap<BuildRecord, NumberedReads>();

/** How a read is answered now; by values: that depends on what is in force at the place. */
const [asBefore, otherwise, byValues] = [0, 1, 2];

/** How each read of a record is answered now. Records never change: each is numbered once. */
function readStates(record: BuildRecord, reading: Reading): Uint8Array {
  const { questions } = reading.remembered;
  let numbered = numberedReads.get(record);
  if (numbered?.questions !== questions) {
    numbered = {
      questions,
      asked: record.reads.map(([kind, name]) => (kind === 'value' ? -1 : questions.of(kind, name))),
      answers: record.reads.map(([kind, , answer]) =>
        kind === 'condition' ? Number(answer !== '') : questions.answer(answer),
      ),
    };
    numberedReads.set(record, numbered);
  }
  const { asked, answers } = numbered;
  const states = new Uint8Array(asked.length);
  asked.forEach((question, at) => {
    states[at] = question < 0 ? byValues : reading.answer(question, null) === answers[at] ? asBefore : otherwise;
  });
  return states;
}

/** The pages of a record by their entries. Most are asked for in the order in which they stand. */
class PagesByEntry {
  private next = 0;
  private positions: ReadonlyMap<string, number> | undefined;

  constructor(private readonly pages: readonly PageRecord[]) {}

  of(entry: string): PageRecord | undefined {
    if (this.pages[this.next]?.entry !== entry) {
      this.positions ??= new Map(this.pages.map((page, at) => [page.entry, at]));
      const at = this.positions.get(entry);
      if (at === undefined) return undefined;
      this.next = at;
    }
    this.next += 1;
    return this.pages[this.next - 1];
  }
}

class Comparison {
  private readonly assembler: EntryAssembler;
  private readonly outlineDiffers: boolean;
  private readonly states: Uint8Array;
  /** The reads that are answered otherwise everywhere. */
  private readonly changed: readonly number[];
  private readonly before: PagesByEntry;

  constructor(
    private readonly record: BuildRecord,
    private readonly source: Source,
    private readonly recipe: Recipe,
    private readonly tools: FreshnessTools,
  ) {
    this.assembler = new EntryAssembler(source, recipe, tools.memory);
    this.outlineDiffers = outlineDigest(this.assembler.places, this.digest) !== record.outline;
    this.states = readStates(record, this.assembler.reading);
    this.changed = record.reads.flatMap((_, at) => (this.states[at] === otherwise ? [at] : []));
    this.before = new PagesByEntry(record.pages);
  }

  private get root(): ValuesInForce {
    return this.assembler.rootValues;
  }

  staleness(): Staleness {
    const all = this.tools.formats.map(({ name }) => name);
    const recipe = this.recipeCauses();
    const isTouched = recipe.length > 0 || this.outlineDiffers || this.changed.length > 0;
    if (!isTouched && !this.valuesDiffer(this.assembler.places)) return fresh;
    const few = recipe.length === 0 && !this.outlineDiffers ? this.fromFewPages() : null;
    if (few) return { causes: few, formats: all };
    const pages = this.pagesNow();
    const surely = this.differsSurely(pages);
    if (!surely && recipe.length === 0 && this.isSame(pages)) return fresh;
    // Where words differ, they differ in every format.
    const formats = surely ? all : this.formatsThatDiffer();
    if (formats.length === 0) return fresh;
    const altered = pages.all.filter(({ now, before }) => now?.exact !== before?.exact && now !== null);
    const shown = new Set(pages.all.map(({ entry }) => entry));
    const gone = this.record.pages.filter(({ entry }) => !shown.has(entry));
    return { causes: this.named(recipe, altered, gone), formats };
  }

  private recipeCauses(): readonly StaleCause[] {
    const now = recipeDigests(this.recipe, this.digest);
    const { recipe, formats } = this.record;
    const parts: RecipeCause[] = [];
    if (now.language !== recipe.language) parts.push('language');
    // What a design says goes by the language: another language is no other design.
    else if (now.design !== recipe.design) parts.push('design');
    if (now.title !== recipe.title) parts.push('variant title');
    const versions = this.tools.formats.map(({ name, version }) => `${name} ${version}`);
    if (
      versions.sort().join() !==
      Object.entries(formats)
        .map(([name, { version }]) => `${name} ${version}`)
        .sort()
        .join()
    )
      parts.push('formats');
    return parts.map((part) => ({ kind: 'recipe', part }));
  }

  /**
   * The causes where one page after the other tells them: most changes show on the first page that they touch.
   * @returns null where that does not tell for sure
   */
  private fromFewPages(): readonly StaleCause[] | null {
    const { states, changed, record } = this;
    const isOtherwise = (at: number): boolean => states[at] === otherwise && !this.isTopic(at);
    if (record.outlineReads.some(isOtherwise) || record.titleReads.some(isOtherwise)) return null;
    const found = new Set<number>();
    let isSure = false;
    for (const place of flatPlaces(this.assembler)) {
      const before = this.before.of(place.id);
      if (!before || before.topic !== place.topic) return null;
      const values = this.assembler.valuesAt(place);
      const differing = before.reads.filter((at) => this.isChanged(at, values));
      if (differing.length === 0 || (isSure && differing.every((at) => found.has(at)))) continue;
      const entry = this.assembler.page(place);
      if (!entry || (entry.blocks.length === 0) !== before.bare) return null;
      const inWords = wordsDigest(entry, this.digest) !== before.words;
      if (!inWords && exactDigest(entry, this.digest) === before.exact) continue;
      isSure ||= inWords && !before.bare;
      for (const at of differing) {
        if (!found.has(at) && (differing.length === 1 || this.matters(at, place))) found.add(at);
      }
      if (isSure && changed.every((at) => found.has(at))) break;
    }
    if (!isSure) return null;
    return distinct([...found].sort((a, b) => a - b).map((at) => this.causeOf(at)));
  }

  /** Whether a read is of a topic of the outline: its page has read it, too. */
  private isTopic(at: number): boolean {
    const [kind, name, answer] = known(this.record.reads[at]);
    return kind === 'component' && answer.startsWith('topic') && this.source.library.component(name)?.kind === 'topic';
  }

  private get digest(): Digest {
    return this.tools.digest ?? digestOf;
  }

  /** Whether a value that was read is given otherwise somewhere. */
  private valuesDiffer(places: readonly OutlinePlace[]): boolean {
    return (
      this.readsDiffer(this.record.outlineReads, this.root) ||
      this.readsDiffer(this.record.titleReads, this.root) ||
      places.some((place) => {
        const page = this.before.of(place.id);
        return (page && this.readsDiffer(page.reads, this.assembler.valuesAt(place))) || this.valuesDiffer(place.below);
      })
    );
  }

  private readsDiffer(reads: readonly number[], values: ValuesInForce): boolean {
    return reads.some((at) => this.isChanged(at, values));
  }

  private isChanged(at: number, values: ValuesInForce): boolean {
    if (this.states[at] !== byValues) return this.states[at] === otherwise;
    const [kind, name, answer] = known(this.record.reads[at]);
    return kind === 'value' && this.assembler.reading.answerText(kind, name, values) !== answer;
  }

  /** The entries that stay now; those of which nothing reads otherwise are as they were. */
  private pagesNow(): { readonly kept: readonly KeptPage[]; readonly all: readonly PageNow[] } {
    const all: PageNow[] = [];
    const kept = keepEntries<PageNow, KeptPage>(this.assembler.places, {
      page: (place) => {
        const page = this.pageNow(place);
        if (page) all.push(page);
        return page;
      },
      isBare: ({ bare }) => bare,
      staysBare: () => !this.recipe.leaveOutEmpty,
      kept: (_, page, entries) => ({ page, entries }),
    });
    return { kept, all };
  }

  private pageNow(place: OutlinePlace): PageNow | undefined {
    const before = this.before.of(place.id);
    // Titles and roles of entries are of the outline.
    const heads = this.outlineDiffers && (place.topic === null || place.heading !== null || place.role !== 'auto');
    if (
      before &&
      before.topic === place.topic &&
      !heads &&
      !this.readsDiffer(before.reads, this.assembler.valuesAt(place))
    ) {
      return { entry: place.id, bare: before.bare, before, now: null };
    }
    const entry = this.assembler.page(place);
    return entry && { entry: place.id, bare: entry.blocks.length === 0, before, now: digestsOf(entry, this.digest) };
  }

  /** Whether pages came, went or changed places, or read otherwise in words that every format shows. */
  private differsSurely({ kept }: { readonly kept: readonly KeptPage[] }): boolean {
    const names = pageNames(this.source, this.recipe.publication);
    const structure = structureOf(
      kept,
      ({ page: { entry } }) => `${entry} ${names.get(entry) ?? headingName(entry)}`,
      this.digest,
    );
    if (structure !== this.record.structure) return true;
    const differs = ({ page: { before, now }, entries }: KeptPage): boolean =>
      (now !== null && now.words !== before?.words) || entries.some(differs);
    return kept.some(differs);
  }

  private isSame({ all }: ReturnType<Comparison['pagesNow']>): boolean {
    return (
      !this.outlineDiffers &&
      all.every(({ now, before }) => now === null || now.exact === before?.exact) &&
      this.titleIsSame()
    );
  }

  private titleIsSame(): boolean {
    return !this.readsDiffer(this.record.titleReads, this.root);
  }

  /** Builds the whole in memory and compares the bytes, format by format. */
  private formatsThatDiffer(): readonly string[] {
    const { formats, memory } = this.tools;
    const numbered = numberPublication(assemblePublication(this.source, this.recipe, memory), this.recipe);
    return formats
      .filter((format) => {
        const before = this.record.formats[format.name];
        return !before || renditionDigest(format.render(numbered), this.digest) !== before.digest;
      })
      .map(({ name }) => name);
  }

  /** The causes behind the pages that are altered. */
  private named(
    recipe: readonly StaleCause[],
    altered: readonly PageNow[],
    gone: readonly PageRecord[],
  ): readonly StaleCause[] {
    const places = new Map(flatPlaces(this.assembler).map((place) => [place.id, place]));
    const { root } = this;
    const found = new Set<number>();
    const add = (reads: readonly number[], values: ValuesInForce, matters: (at: number) => boolean): void => {
      const differing = reads.filter((at) => this.isChanged(at, values));
      for (const at of differing) if (!found.has(at) && (differing.length === 1 || matters(at))) found.add(at);
    };
    add(this.record.outlineReads, root, () => true);
    add(this.record.titleReads, root, () => true);
    for (const page of gone) add(page.reads, root, () => true);
    for (const { entry, before } of altered) {
      const place = places.get(entry);
      if (before && place) add(before.reads, this.assembler.valuesAt(place), (at) => this.matters(at, place));
    }
    const causes = [...found].sort((a, b) => a - b).map((at) => this.causeOf(at));
    const conditions = causes.some(({ kind }) => kind === 'condition');
    // Entries came, went or moved by themselves, not because a condition answers otherwise.
    const outline: readonly StaleCause[] = this.outlineDiffers && !conditions ? [{ kind: 'outline' }] : [];
    const all = distinct([...recipe, ...outline, ...causes]);
    return all.length > 0 ? all : [{ kind: 'outline' }];
  }

  private causeOf(at: number): StaleCause {
    const [kind, name, answer] = known(this.record.reads[at]);
    const { library } = this.source;
    switch (kind) {
      case 'component':
        return { kind, component: name, from: revisionIn(answer), to: library.component(name)?.revision ?? 0 };
      case 'revision': {
        const key = name.slice(0, name.lastIndexOf('@'));
        return {
          kind: 'component',
          component: key,
          from: answer === '' ? 0 : Number(name.slice(key.length + 1)),
          to: 0,
        };
      }
      case 'own condition':
        return { kind: 'own condition', component: name };
      case 'condition':
        return { kind, when: name };
      case 'slot':
        return { kind, collection: collectionOfRule(name) };
      case 'value':
        return { kind: 'recipe', part: 'values' };
      case 'recipe':
        return { kind, part: isRecipePart(name) ? name : 'vocabulary' };
      default:
        return { kind: 'recipe', part: 'vocabulary' };
    }
  }

  /** Whether one changed component alters an entry: whether the entry reads otherwise without this change. */
  private matters(at: number, place: OutlinePlace): boolean {
    const [kind, name, answer] = known(this.record.reads[at]);
    if (kind !== 'component') return true;
    const revision = revisionIn(answer);
    const older = revision === 0 ? undefined : this.source.library.revision(name, revision);
    if (revision > 0 && !older) return true;
    const without = new EntryAssembler(withComponent(this.source, name, older), this.recipe, this.tools.memory);
    const there = flatPlaces(without).find(({ id }) => id === place.id);
    const [entry, now] = [there && without.page(there), this.assembler.page(place)];
    return exactOf(entry) !== exactOf(now);
  }
}

function exactOf(entry: EntryAlone | undefined): string | undefined {
  return entry && digestsOf(entry).exact;
}

const flatPlaces = ({ places }: EntryAssembler): readonly OutlinePlace[] => flattenTree(places, ({ below }) => below);

function withComponent(source: Source, key: string, component: Component | undefined): Source {
  const { library } = source;
  return {
    ...source,
    library: {
      component: (each) => (each === key ? component : library.component(each)),
      revision: (each, revision) => library.revision(each, revision),
      collection: (name) => library.collection(name).flatMap((each) => (each.key === key ? (component ?? []) : each)),
    },
  };
}

function distinct(causes: readonly StaleCause[]): readonly StaleCause[] {
  return [...new Map(causes.map((cause) => [JSON.stringify(cause), cause])).values()];
}
