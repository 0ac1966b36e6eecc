import { known } from '../model/known.js';
import type { AssembledEntry, AssembledPublication } from '../assemble/assembled.js';
import type { EntryRole, Recipe } from '../model/publication.js';
import { hasList, type Design } from '../design/design.js';
import { formatNumber } from '../design/numerals.js';
import type { Matter, NumberedPage, NumberedPublication } from './numbered.js';
import type { Landmark, PageNotes, Label } from './notes.js';
import { isNotable } from '../assemble/prepared.js';
import { notesOf } from './page-notes.js';
import { numberingProblems } from './problems.js';
import { ReferenceResolver } from './references.js';
import { inWords, readable } from './untitled.js';

/**
 * Numbers an assembled publication by the design of its recipe, works out where every cross-reference leads, and
 * reports references that lead into content which is not in.
 */
export function numberPublication(assembled: AssembledPublication, recipe: Recipe): NumberedPublication {
  const { design } = recipe;
  const pages = new Numberer(design).pages(assembled.entries);
  const resolver = new ReferenceResolver(pages);
  const { anchors, dangling, unnamed } = resolver.survey(hasList(design, 'index'));
  const numbered: NumberedPublication = {
    title: inWords(assembled.title),
    facts: {
      key: recipe.publication.key,
      variantTitle: recipe.variantTitle,
      language: recipe.language,
      date: recipe.buildDate,
    },
    design,
    look: assembled.look,
    pages,
    reference: (at, node) => resolver.resolve(at, node),
    anchors,
    dangling,
    problems: [],
  };
  return { ...numbered, problems: numberingProblems(assembled, numbered, unnamed) };
}

/** Counters of figures, tables and examples; those of a chapter begin again with it. */
interface CounterSet {
  /** The chapter's number, before that of figures and tables. */
  readonly prefix: string;
  figure: number;
  table: number;
  example: number;
}

interface Chapter {
  readonly label: Label;
  readonly counters: CounterSet;
}

interface Level {
  readonly matter: Matter;
  /** Whether what stands below is a chapter by its place. */
  readonly holdsChapters: boolean;
  readonly kind: Label['kind'];
  readonly number: string;
  readonly numbered: boolean;
  readonly depth: number;
  sections: number;
}

const noPages: readonly NumberedPage[] = [];

class Numberer {
  private readonly top = { front: 0, part: 0, chapter: 0, appendix: 0 };
  /** For what counts through the publication, and for chapters without a number: no two read the same. */
  private readonly through: CounterSet = { prefix: '', figure: 0, table: 0, example: 0 };
  private part = '';
  /** By depth, the level of the page that is numbered, then those of the sections around a landmark on it. */
  private readonly levels: Level[] = [];

  constructor(private readonly design: Design) {}

  pages(entries: readonly AssembledEntry[]): readonly NumberedPage[] {
    return this.below(entries, null, null, 0);
  }

  private page(entry: AssembledEntry, parent: Level | null, chapter: Chapter | null, depth: number): NumberedPage {
    const role = roleOf(entry, parent);
    if (role === 'book') this.beginAnew();
    // A book of a set has no number of its own, nor has back matter.
    const isApart = role === 'book' || role === 'back';
    const kind = isApart ? 'front' : role;
    const number = isApart ? '' : role === 'section' ? nextSection(parent, this.design) : this.topNumber(role);
    if (kind === 'part') this.part = number;
    const holdsChapters = role === 'part' || role === 'book';
    const label: Label = { kind, number, title: readable(entry.title, number), page: entry.name, anchor: null };
    const own: Chapter = kind === 'section' && chapter ? chapter : { label, counters: this.countersFor(kind, number) };
    const matter: Matter = role === 'back' ? 'back' : role === 'front' || role === 'book' ? 'front' : 'body';
    const level: Level = {
      holdsChapters,
      matter: parent && !parent.holdsChapters ? parent.matter : matter,
      kind,
      number,
      numbered: number !== '' && kind !== 'part',
      depth: kind === 'section' ? (parent?.depth ?? 0) + 1 : 0,
      sections: 0,
    };
    const notes = pageNotes(entry);
    const labels = this.labels(entry.name, notes, level, own.counters);
    const { id, name, topic, blocks, entries } = entry;
    const pages = this.below(entries, level, holdsChapters ? null : own, depth + 1);
    const footnotes = numberFootnotes(notes);
    return {
      entry: id,
      name,
      topic,
      label,
      depth,
      matter: level.matter,
      blocks,
      notes,
      labels,
      footnotes,
      pages,
      chapter: own.label,
    };
  }

  private below(
    entries: readonly AssembledEntry[],
    level: Level | null,
    chapter: Chapter | null,
    depth: number,
  ): readonly NumberedPage[] {
    return entries.length === 0 ? noPages : entries.map((entry) => this.page(entry, level, chapter, depth));
  }

  private beginAnew(): void {
    Object.assign(this.top, { front: 0, part: 0, chapter: 0, appendix: 0 });
    Object.assign(this.through, { figure: 0, table: 0, example: 0 });
    this.part = '';
  }

  private topNumber(kind: 'front' | 'part' | 'chapter' | 'appendix'): string {
    this.top[kind] += 1;
    if (kind === 'part' && this.design.chapters === 'per-part') this.top.chapter = 0;
    return formatNumber(this.top[kind], this.design.numerals[kind]);
  }

  private countersFor(kind: Label['kind'], number: string): CounterSet {
    if (number === '' || kind === 'section') return this.through;
    // Chapters of two parts may have one number: the part's tells their figures apart.
    const part = kind === 'chapter' && this.design.chapters === 'per-part' && this.part !== '' ? `${this.part}.` : '';
    return { prefix: `${part}${number}`, figure: 0, table: 0, example: 0 };
  }

  private labels(page: string, notes: PageNotes, top: Level, counters: CounterSet): readonly Label[] {
    const { number, numbered, depth } = top;
    const sectionDepth = numberedDepth(this.design);
    const before = notes.labels;
    const isAsBefore =
      before?.page === page &&
      before.sectionDepth === sectionDepth &&
      before.number === number &&
      before.numbered === numbered &&
      before.depth === depth;
    if (isAsBefore) {
      top.sections = before.sections;
      return before.labels;
    }
    const labels = this.labelsOf(page, notes.landmarks, top, counters);
    // What counts through several pages takes other numbers when anything before it comes or goes.
    if (notes.landmarks.every(({ kind, counts }) => !counts || kind === 'section' || kind === 'step'))
      notes.labels = { page, sectionDepth, number, numbered, depth, labels, sections: top.sections };
    return labels;
  }

  private labelsOf(page: string, landmarks: readonly Landmark[], top: Level, counters: CounterSet): readonly Label[] {
    const { levels } = this;
    levels[0] = top;
    return landmarks.map((landmark) => {
      const { kind, depth } = landmark;
      const level = known(levels[depth]);
      const number = this.numberOf(landmark, level, counters);
      if (kind === 'section') levels[depth + 1] = number === '' ? unnumbered : sectionLevel(level, number);
      return labelOf(landmark, number, page);
    });
  }

  private numberOf({ kind, counts, step }: Landmark, level: Level, counters: CounterSet): string {
    if (kind === 'step') return step;
    if (!counts) return '';
    if (kind === 'section') return level.numbered ? nextSection(level, this.design) : '';
    const scheme = this.design.numerals[kind];
    if (scheme === 'none') return '';
    const set = scheme === 'through' ? this.through : counters;
    set[kind] += 1;
    return set.prefix ? `${set.prefix}.${set[kind]}` : String(set[kind]);
  }
}

const sectionLevel = ({ matter, depth }: Pick<Level, 'matter' | 'depth'>, number: string): Level => ({
  matter,
  holdsChapters: false,
  kind: 'section',
  number,
  numbered: number !== '',
  depth: depth + 1,
  sections: 0,
});

/** The level of all sections without a number: nothing in them has one. */
const unnumbered = sectionLevel({ matter: 'body', depth: 0 }, '');

/** The label of a landmark; the same object as before where it reads the same. */
function labelOf(landmark: Landmark, number: string, page: string): Label {
  const { kind, anchor, title, label: before } = landmark;
  if (before?.number === number && before.page === page) return before;
  const label = { kind, number, title: kind === 'section' ? readable(title, number) : title, page, anchor };
  landmark.label = label;
  return label;
}

function roleOf(entry: AssembledEntry, parent: Level | null): Exclude<EntryRole, 'auto'> {
  if (entry.role !== 'auto') return entry.role;
  return parent === null || parent.holdsChapters ? 'chapter' : 'section';
}

/** Down to which depth sections take numbers. */
function numberedDepth({ numerals, sectionDepth }: Design): number {
  return numerals.section === 'none' ? 0 : sectionDepth;
}

function nextSection(parent: Level | null, design: Design): string {
  if (!parent?.numbered || parent.depth >= numberedDepth(design)) return '';
  parent.sections += 1;
  return `${parent.number}.${parent.sections}`;
}

/** The notes of an entry, its title first. */
function pageNotes(entry: AssembledEntry): PageNotes {
  const component = entry.topic ?? '';
  const notes = notesOf(entry.blocks, component);
  if (!entry.title.some(isNotable)) return notes;
  const title = notesOf(entry.title, component);
  const { references, markers, terms, calls, pictures } = title;
  const found = [references, markers, terms, calls, pictures].some(({ length }) => length > 0);
  if (!found && !title.showsChapterTitle) return notes;
  return {
    ...notes,
    references: [...references, ...notes.references],
    // Nothing in a title has a place of its own but the page.
    markers: [...markers.map((each) => ({ ...each, anchor: null })), ...notes.markers],
    terms: [...terms, ...notes.terms],
    calls: [...calls, ...notes.calls],
    pictures: [...new Map([...pictures, ...notes.pictures].map((file) => [file.digest, file])).values()],
    showsChapterTitle: title.showsChapterTitle || notes.showsChapterTitle,
  };
}

const noNumbers: ReadonlyMap<string, number> = new Map();

/** Numbers footnotes by their first call; those that are called in footnotes come after all others. */
function numberFootnotes({ footnotes, calls }: PageNotes): ReadonlyMap<string, number> {
  if (footnotes.size === 0) return noNumbers;
  const numbers = new Map<string, number>();
  const call = (anchors: readonly string[]): void => {
    for (const anchor of anchors) {
      if (footnotes.has(anchor) && !numbers.has(anchor)) numbers.set(anchor, numbers.size + 1);
    }
  };
  call(calls);
  // The map grows while it is walked.
  for (const [anchor] of numbers) call(footnotes.get(anchor)?.calls ?? []);
  return numbers;
}
