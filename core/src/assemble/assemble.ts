import { limits } from '../model/limits.js';
import { contentBody, type Component } from '../model/component.js';
import type { AssembledNode } from '../model/node.js';
import { ProblemList, type Problem } from '../model/problem.js';
import type { OutlineEntry, Recipe } from '../model/publication.js';
import type { Source } from '../model/source.js';
import { flattenAssembled, type AssembledEntry, type AssembledPublication, type LeftOutEntry } from './assembled.js';
import { conditionOfTopic } from '../select/select.js';
import { Assembly } from './assembly.js';
import { problemOf, type Finding } from './finding.js';
import { assembleLook, type AssembledLook } from './look.js';
import type { Piece } from './memo.js';
import {
  Memory,
  outlineMemo,
  preparedComponent,
  preparedPhrase,
  type PageContent,
  type PreparedComponent,
} from './memory.js';
import { headingName, keepEntries, pageNames, walkOutline, type OutlinePlace } from './outline.js';
import { OutlineValues, ValuesInForce, type Place } from './place.js';
import { assembled, makePrepared, missingBlock, partsOf, preparedText, weightOf } from './prepared.js';
import type { Reading } from './reading.js';
import { resolvedAddress } from './resolve-address.js';

/**
 * Selects and assembles a publication for one recipe: applies conditions, replaces placements, variables
 * and choices, and tidies what filtering leaves behind. Faults become problems, never exceptions; the
 * place of a missing piece shows a neutral marker.
 * @param memory what was assembled before with it need not be assembled again
 */
export function assemblePublication(source: Source, recipe: Recipe, memory = new Memory()): AssembledPublication {
  const assembler = new OutlineAssembler(source, recipe, memory);
  const titlePiece = assembler.title();
  const lookPiece = assembler.look();
  const outline = assembler.reading.recorded(() => assembler.all());
  const entries = outline.result;
  const problems = new ProblemList();
  const add = ({ findings }: Piece<unknown>): void => findings.forEach((each) => problems.add(problemOf(each)));
  add(titlePiece);
  add(lookPiece);
  for (const { piece } of flattenAssembled(entries)) add(piece);
  add(outline);
  return {
    title: titlePiece.result,
    entries,
    leftOut: assembler.leftOut,
    titlePiece,
    look: lookPiece.result,
    lookPiece,
    outline,
    problems: problems.all,
    places: assembler.places,
    values: assembler.values.root,
    reading: assembler.reading,
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
  memory = new Memory(),
): { readonly content: readonly AssembledNode[]; readonly problems: readonly Problem[] } {
  if (!contentBody(component)) return { content: [], problems: [] };
  const assembly = new Assembly(source, recipe, memory);
  const { body } = preparedComponent(assembly.reading.remembered, component);
  const place: Place = { ...rootPlace(recipe), component };
  const piece = assembly.reading.recorded(() => {
    if (!assembly.reading.nodeHolds(body)) return [];
    return body.type === 'phrase'
      ? assembly.line(body, place)
      : assembly.flow(partsOf(body), place, body.type === 'topic' ? 1 : 0);
  });
  return { content: assembled(piece.result), problems: piece.findings.map(problemOf) };
}

/** An entry of a publication as it is in the whole, without those below it. */
export type EntryAlone = LeftOutEntry;

/** Assembles entries of a publication one by one, each when it is asked for, as it is in the whole. */
export class EntryAssembler {
  private readonly assembler: OutlineAssembler;

  constructor(source: Source, recipe: Recipe, memory = new Memory()) {
    this.assembler = new OutlineAssembler(source, recipe, memory);
  }

  get reading(): Reading {
    return this.assembler.reading;
  }

  /** The values in force in the outline itself. */
  get rootValues(): ValuesInForce {
    return this.assembler.values.root;
  }

  /** The values in force inside an entry. */
  valuesAt({ values }: OutlinePlace): ValuesInForce {
    return this.assembler.values.at(values);
  }

  /** The entries that are in. */
  get places(): readonly OutlinePlace[] {
    return this.assembler.places;
  }

  /** The title of the publication. */
  get title(): readonly AssembledNode[] {
    return this.assembler.title().result;
  }

  /** What an entry shows of its own, whether it stays or not; undefined where it shows nothing. */
  page(place: OutlinePlace): EntryAlone | undefined {
    return this.assembler.reading.recorded(() => this.assembler.alone(place)).result;
  }

  /** The entries that stay, some of them assembled: the first ones that are wanted. */
  wanted(isWanted: (place: OutlinePlace) => boolean): readonly EntryAlone[] {
    const found: EntryAlone[] = [];
    const visit = (places: readonly OutlinePlace[]): void => {
      for (const place of places) {
        if (isWanted(place)) {
          const entry = this.page(place);
          if (entry && (entry.blocks.length > 0 || this.stays(place))) found.push(entry);
        }
        visit(place.below);
      }
    };
    visit(this.places);
    return found;
  }

  /** Whether an entry stays that is left with its title. */
  private stays(place: OutlinePlace): boolean {
    return (
      !this.reading.recipe.leaveOutEmpty ||
      this.assembler.reading.recorded(() => this.assembler.keep([place])).result.length > 0
    );
  }
}

function rootPlace({ publication, values }: Recipe): Place {
  return {
    values: new ValuesInForce([values, publication.values]),
    component: null,
    around: null,
    evaluating: null,
    topic: null,
    entry: null,
  };
}

class OutlineAssembler {
  readonly leftOut: LeftOutEntry[] = [];
  readonly places: readonly OutlinePlace[];
  readonly values: OutlineValues;
  private readonly walked: Piece<readonly OutlinePlace[]>;
  private readonly root: Place;
  private readonly assembly: Assembly;

  constructor(
    source: Source,
    private readonly recipe: Recipe,
    memory: Memory,
  ) {
    this.root = rootPlace(recipe);
    this.values = new OutlineValues(this.root.values);
    this.assembly = new Assembly(source, recipe, memory);
    const { publication } = recipe;
    const { reading, root } = this;
    this.walked = reading.piece(outlineMemo(reading.remembered, source, publication), root, () =>
      walkOutline(source.publications, publication, { isIn: (entry, id) => this.isIn(entry, id) }),
    );
    this.places = this.walked.result;
  }

  /** Whether the condition of an entry and that of its topic hold; what they name and is not defined is reported. */
  private isIn(entry: OutlineEntry, id: string): boolean {
    if (!this.holds(entry.when ?? null, { component: null, block: null, entry: id })) return false;
    const ofTopic = conditionOfTopic(entry, (topic) => this.reading.ownCondition(topic));
    return this.holds(ofTopic, { component: entry.topic ?? null, block: null, entry: null });
  }

  private holds(when: string | null, place: Finding['place']): boolean {
    for (const message of when ? this.reading.undefinedIn(when) : [])
      this.reading.report({ severity: 'error', code: 'undefined-value', message, place });
    return this.reading.holds(when);
  }

  get reading(): Reading {
    return this.assembly.reading;
  }

  title(): Piece<readonly AssembledNode[]> {
    const { reading, assembly } = this;
    return reading.recorded(() => assembled(assembly.line(reading.publicationTitle.phrase, this.root)));
  }

  /** What the design shows of the library. */
  look(): Piece<AssembledLook> {
    const { reading, assembly, recipe, root } = this;
    return reading.recorded(() => assembleLook(assembly, recipe.design, root));
  }

  all(): readonly AssembledEntry[] {
    this.reading.include(this.walked);
    return this.keep(this.places);
  }

  /** The entries of a part of the outline that stay. */
  keep(places: readonly OutlinePlace[]): readonly AssembledEntry[] {
    return keepEntries<Piece<PageContent>, AssembledEntry>(places, {
      page: (place) => this.shownBy(place),
      isBare: ({ result }) => result.blocks.length === 0,
      staysBare: (place, piece) => this.staysBare(place, piece),
      kept: (place, piece, entries) => this.entryOf(place, piece, entries),
    });
  }

  /** Reports what is left with its title only, and leaves it out where the variant says so. */
  private staysBare(entry: OutlinePlace, piece: Piece<PageContent>): boolean {
    const { id, topic, heading } = entry;
    const name = heading ?? (topic === null ? '' : (this.reading.component(topic)?.title ?? ''));
    const message = `Nothing is left of the topic “${name}” but its title.`;
    const place = { component: topic, block: null, entry: topic === null ? id : null };
    this.reading.report({ severity: 'warning', code: 'empty-topic', message, place });
    if (!this.reading.leavesOutEmpty) return true;
    this.reading.include(piece);
    this.leftOut.push(this.entryOf(entry, piece, []));
    return false;
  }

  /** What an entry shows of its own, without those below it; undefined: nothing. */
  alone(place: OutlinePlace): EntryAlone | undefined {
    const piece = this.shownBy(place);
    return piece && this.entryOf(place, piece, []);
  }

  private entryOf(place: OutlinePlace, piece: Piece<PageContent>, entries: readonly AssembledEntry[]): AssembledEntry {
    const { id, topic, role, heading } = place;
    const { title, blocks } = piece.result;
    return {
      id,
      topic,
      role,
      // Its own title, or its topic's.
      title: assembled(heading !== null && topic !== null ? [preparedText(heading)] : title),
      blocks: assembled(blocks),
      piece,
      values: this.values.at(place.values),
      name: pageNames(this.reading.source, this.recipe.publication).get(id) ?? headingName(id),
      entries,
    };
  }

  private shownBy(place: OutlinePlace): Piece<PageContent> | undefined {
    this.reportFaults(place);
    return this.page(place);
  }

  private page(outlinePlace: OutlinePlace): Piece<PageContent> | undefined {
    const { id, topic, link, heading, nested, role } = outlinePlace;
    const { reading, assembly } = this;
    const values = this.values.at(outlinePlace.values);
    if (link !== null) return this.outside(link, outlinePlace);
    if (topic === null) {
      const title = heading !== null ? [preparedText(heading)] : null;
      if (!title && (!nested || role === 'auto')) return undefined;
      const place: Place = { ...this.root, values, topic, entry: id };
      return reading.recorded(() => ({
        title:
          title ??
          assembly.line(preparedPhrase(reading.remembered, (nested ?? this.recipe.publication).title).phrase, place),
        blocks: [],
      }));
    }
    const component = this.topic(topic, values, id);
    if (!component) return undefined;
    const prepared = preparedComponent(reading.remembered, component);
    const around = { key: topic, outer: null };
    const inTopic: Place = { values, component, around, evaluating: null, topic, entry: id };
    // Most are found: only what is made takes functions for it.
    return reading.find(prepared.page, inTopic) ?? this.makePage(prepared, inTopic);
  }

  private makePage(prepared: PreparedComponent, inTopic: Place): Piece<PageContent> {
    const { reading, assembly } = this;
    const { component } = prepared;
    return reading.make(prepared.page, inTopic, () =>
      assembly.inside(() => {
        // The page depends on its topic as on whatever else it reads.
        reading.component(component.key);
        reading.checkConditions(prepared);
        const parts = partsOf(prepared.body);
        const [title] = parts;
        const blocks = assembly.flow(parts, inTopic, 1);
        const isTooLarge = weightOf(blocks) > limits.pageNodes;
        if (isTooLarge) {
          const message = `The topic “${component.title}” comes to more than ${limits.pageNodes} nodes; it was left out.`;
          assembly.report('error', 'too-large', message, inTopic);
        }
        return {
          title: title ? assembly.line(title, inTopic) : [],
          blocks: isTooLarge ? missingBlock() : blocks,
        };
      }),
    );
  }

  /** The page of an outside address: it is called as the link is, and says where that leads. */
  private outside(key: string, { id, heading, values }: OutlinePlace): Piece<PageContent> | undefined {
    const { reading, assembly } = this;
    const place: Place = { ...this.root, values: this.values.at(values), entry: id };
    const named = { type: 'external_link', attrs: { component: key } } as const;
    const link = assembly.component(named, ['link'], place);
    if (!link) return undefined;
    const { label, href: template } = link.body;
    return reading.recorded(() => {
      // The page depends on its link as on whatever else it reads.
      reading.component(key);
      const href = resolvedAddress(assembly, template, place);
      return {
        title: [preparedText(heading ?? (label || href))],
        blocks: [makePrepared('paragraph', undefined, [preparedText(href, [{ type: 'link', attrs: { href } }])])],
      };
    });
  }

  /** The topic of an entry; reported where there is none. */
  private topic(key: string, values: ValuesInForce, entry: string): Component | null {
    const component = this.reading.component(key);
    if (component?.kind === 'topic') return component;
    const place: Place = { ...this.root, values, topic: key, entry };
    return this.assembly.component({ type: 'placement', attrs: { component: key } }, ['topic'], place);
  }

  private reportFaults({ id, fault }: OutlinePlace): void {
    if (!fault) return;
    const place = { component: null, block: null, entry: id };
    const { kind, path } = fault;
    this.reading.report(
      kind === 'missing'
        ? {
            severity: 'error',
            code: 'missing-component',
            message: `The publication “${path.at(-1) ?? ''}” does not exist.`,
            place,
          }
        : {
            severity: 'error',
            code: 'placement-cycle',
            message: `The publication contains itself: ${path.join(' › ')}.`,
            place,
          },
    );
  }
}
