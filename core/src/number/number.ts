import type { AssembledEntry, AssembledNode, AssembledPublication } from '../assemble/assembled.js';
import { topicHeading } from '../assemble/assemble-content.js';
import type { Source } from '../assemble/assemble.js';
import { childrenOf, textAttr, type ContentNode } from '../content/node.js';
import { contentBody } from '../library/component.js';
import { ProblemList, type Problem } from '../problems/problem.js';
import { plainText } from './plain-text.js';
import { fillTemplate, formatNumber, type Design, type LabelKind } from './design.js';
import {
  flattenPages,
  type Label,
  type NumberedPage,
  type NumberedPublication,
  type ReferencePlace,
  type ResolvedReference,
} from './numbered.js';
import { danglingIndexReferences } from './generated-lists.js';
import { anchorFor, notesOf, type FoundReference, type Landmark } from './page-notes.js';

/**
 * Numbers an assembled publication by its design, works out the text of every cross-reference, and
 * reports references that lead into content which is not in.
 * @param source tells, for a reference that leads nowhere, whether its target exists at all
 */
export function numberPublication(
  assembled: AssembledPublication,
  options: { readonly design: Design; readonly language: string; readonly source: Source },
): NumberedPublication {
  const numberer = new Numberer(options.design);
  const pages = numberer.pages(assembled.entries);
  const resolver = new Resolver(pages, options.design);
  const anchors = new Map<string, Set<string>>();
  const dangling: FoundReference[] = [];
  for (const page of flattenPages(pages)) {
    for (const reference of page.notes.references) {
      const { node, component, placements } = reference;
      const resolved = resolver.resolve({ entry: page.entry, placements, component }, node);
      if (!resolved) {
        dangling.push(reference);
        continue;
      }
      const { label } = resolved;
      if (label.kind !== 'block' || label.anchor === null) continue;
      const onPage = anchors.get(label.page);
      if (onPage) onPage.add(label.anchor);
      else anchors.set(label.page, new Set([label.anchor]));
    }
  }
  const numbered: NumberedPublication = {
    title: assembled.title,
    design: options.design,
    language: options.language,
    pages,
    reference: (at, node) => resolver.resolve(at, node),
    anchors,
    dangling,
    problems: [],
  };
  return { ...numbered, problems: problemsOf(assembled, numbered, options.source) };
}

/** The problems of assembly, of references, and of references in the index. */
export function problemsOf(
  assembled: AssembledPublication,
  numbered: NumberedPublication,
  source: Source,
): readonly Problem[] {
  const problems = new ProblemList();
  assembled.problems.forEach((problem) => problems.add(problem));
  numbered.dangling.forEach((reference) => problems.add(danglingReference(source, reference)));
  danglingIndexReferences(numbered).forEach((problem) => problems.add(problem));
  return problems.all;
}

function danglingReference(source: Source, { node, component, block }: FoundReference): Problem {
  const target = textAttr(node, 'component') ?? component;
  const id = textAttr(node, 'target');
  const exists = targetExists(source, target, id);
  const what = id === null ? `“${target}”` : `the block “${id}” of “${target}”`;
  return {
    severity: 'error',
    code: exists ? 'left-out-reference' : 'missing-target',
    message: exists
      ? `A reference leads to ${what}, which this variant leaves out.`
      : `A reference leads to ${what}, which does not exist.`,
    place: { component, block, entry: null },
  };
}

interface Target {
  readonly label: Label;
  /** The page's entry, then the placements down to the target. */
  readonly path: readonly string[];
}

/** Targets by component and block id (`key#id`; the component itself: `key#`). */
type Targets = ReadonlyMap<string, readonly Target[]>;

/** Counters that begin again with each chapter. */
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
  readonly kind: LabelKind;
  readonly number: string;
  readonly numbered: boolean;
  readonly depth: number;
  sections: number;
}

/** The files that a site has beside its pages. */
const otherFiles = ['index', 'list-of-figures', 'list-of-tables', 'list-of-examples', 'glossary', 'index-of-terms'];

class Numberer {
  private readonly files = new Set<string>(otherFiles.map((name) => `${name}.html`));
  private readonly top = { front: 0, part: 0, chapter: 0, appendix: 0 };
  private readonly through: CounterSet = { prefix: '', figure: 0, table: 0, example: 0 };

  constructor(private readonly design: Design) {}

  pages(entries: readonly AssembledEntry[]): readonly NumberedPage[] {
    return entries.map((entry) => this.page(entry, null, null, 0));
  }

  private page(entry: AssembledEntry, parent: Level | null, chapter: Chapter | null, depth: number): NumberedPage {
    const kind = roleOf(entry, parent);
    const number = kind === 'section' ? nextSection(parent, this.design) : this.topNumber(kind);
    const file = this.fileFor(entry.topic);
    const label: Label = { kind, number, title: entry.title, page: file, anchor: null };
    const own: Chapter =
      kind === 'section' && chapter
        ? chapter
        : { label, counters: { prefix: number, figure: 0, table: 0, example: 0 } };
    const level: Level = {
      kind,
      number,
      numbered: number !== '' && kind !== 'part',
      depth: kind === 'section' ? (parent?.depth ?? 0) + 1 : 0,
      sections: 0,
    };
    const notes = notesOf(entry);
    const labels = this.labels(file, notes.landmarks, level, own.counters);
    const pages = entry.entries.map((below) => this.page(below, level, kind === 'part' ? null : own, depth + 1));
    const { id, topic, blocks } = entry;
    return { entry: id, topic, label, depth, blocks, notes, labels, pages, chapter: own.label };
  }

  private topNumber(kind: 'front' | 'part' | 'chapter' | 'appendix'): string {
    this.top[kind] += 1;
    if (kind === 'part' && this.design.chapters === 'per-part') this.top.chapter = 0;
    return formatNumber(this.top[kind], this.design.numerals[kind]);
  }

  private fileFor(topic: string): string {
    const safe = /^[a-z0-9._-]+$/i.test(topic) ? topic : topic.replace(/[^\p{L}\p{N}._-]+/gu, '-');
    let file = `${safe}.html`;
    for (let copy = 2; this.files.has(file); copy += 1) file = `${safe}-${copy}.html`;
    this.files.add(file);
    return file;
  }

  private labels(page: string, landmarks: readonly Landmark[], top: Level, counters: CounterSet): readonly Label[] {
    // The level of the page, then those of the sections around the landmark.
    const levels: Level[] = [top];
    return landmarks.map((landmark, position) => {
      const { kind, id, placements, title, depth } = landmark;
      levels.length = depth + 1;
      const level = levels[depth] as Level;
      const number = this.numberOf(landmark, level, counters);
      if (kind === 'section') {
        const numbered = number !== '';
        levels.push({ kind, number, numbered, depth: level.depth + 1, sections: 0 });
      }
      return { kind, number, title, page, anchor: anchorFor(placements, id ?? `n${position + 1}`) };
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

function roleOf(entry: AssembledEntry, parent: Level | null): 'front' | 'part' | 'chapter' | 'appendix' | 'section' {
  if (entry.role !== 'auto') return entry.role;
  return parent === null || parent.kind === 'part' ? 'chapter' : 'section';
}

function nextSection(parent: Level | null, design: Design): string {
  if (!parent?.numbered || design.numerals.section === 'none' || parent.depth >= design.sectionDepth) return '';
  parent.sections += 1;
  return `${parent.number}.${parent.sections}`;
}

function targetExists(source: Source, component: string, id: string | null): boolean {
  const found = source.library.component(component);
  const body = found ? contentBody(found) : undefined;
  if (!body) return false;
  return id === null || containsId(body, id);
}

function containsId(node: ContentNode, id: string): boolean {
  return textAttr(node, 'id') === id || childrenOf(node).some((child) => containsId(child, id));
}

class Resolver {
  private labelled: Targets | null = null;
  private plain: Targets | null = null;

  constructor(
    private readonly pages: readonly NumberedPage[],
    private readonly design: Design,
  ) {}

  resolve(at: ReferencePlace, node: AssembledNode): ResolvedReference | undefined {
    const component = textAttr(node, 'component') ?? at.component;
    const key = `${component}#${textAttr(node, 'target') ?? ''}`;
    this.labelled ??= collectLabelledTargets(this.pages);
    const candidates = this.labelled.get(key) ?? this.plainTargets().get(key);
    if (!candidates) return undefined;
    const from = [at.entry, ...at.placements];
    let best = candidates[0] as Target;
    let closest = -1;
    for (const candidate of candidates) {
      const near = sharedLength(from, candidate.path);
      if (near > closest) [best, closest] = [candidate, near];
    }
    return { label: best.label, text: this.text(node, best.label) };
  }

  /** Blocks that carry no label; few references lead to them, so they are only looked for when one does. */
  private plainTargets(): Targets {
    this.plain ??= collectPlainTargets(this.pages);
    return this.plain;
  }

  private text(node: AssembledNode, label: Label): string {
    const form = textAttr(node, 'form') ?? 'title';
    const custom = textAttr(node, 'text');
    if (form === 'text' && custom) return custom;
    const values = { number: label.number, title: plainText(label.title) };
    if (label.number === '') {
      if (values.title === '') return custom ?? '';
      return fillTemplate(label.kind === 'section' ? this.design.unnumberedReference : '{title}', values);
    }
    const templates = this.design.templates[label.kind];
    const template =
      form === 'number' || form === 'page' || values.title === ''
        ? templates.number
        : form === 'number-title'
          ? templates.numberAndTitle
          : this.design.titleReference;
    return fillTemplate(template, values);
  }
}

function sharedLength(a: readonly string[], b: readonly string[]): number {
  let shared = 0;
  while (shared < a.length && shared < b.length && a[shared] === b[shared]) shared += 1;
  return shared;
}

/** Topics, and everything on their pages that carries a label. */
function collectLabelledTargets(pages: readonly NumberedPage[]): Targets {
  const found = new Map<string, Target[]>();
  for (const { entry, topic, label, labels, notes } of flattenPages(pages)) {
    addTarget(found, topic, '', { label, path: [entry] });
    notes.landmarks.forEach(({ id, component, placements }, at) => {
      if (id === null) return;
      const target = { label: labels[at] as Label, path: [entry, ...placements] };
      addTarget(found, component, id === topicHeading ? '' : id, target);
    });
  }
  return found;
}

function addTarget(targets: Map<string, Target[]>, component: string, id: string, target: Target): void {
  const key = `${component}#${id}`;
  const known = targets.get(key);
  if (known) known.push(target);
  else targets.set(key, [target]);
}

function collectPlainTargets(pages: readonly NumberedPage[]): Targets {
  const found = new Map<string, Target[]>();
  for (const page of flattenPages(pages)) {
    const add = (component: string, id: string, anchor: string, placements: readonly string[]): void => {
      const label: Label = { kind: 'block', number: '', title: [], page: page.label.page, anchor };
      addTarget(found, component, id, { label, path: [page.entry, ...placements] });
    };
    const visit = (nodes: readonly ContentNode[], component: string, placements: readonly string[]): void => {
      for (const node of nodes) {
        const id = textAttr(node, 'id');
        if (id !== null && node.type !== 'slot') add(component, id, anchorFor(placements, id), placements);
        if (!node.content) continue;
        if (node.type !== 'placed') {
          visit(node.content, component, placements);
          continue;
        }
        const inner = [...placements, textAttr(node, 'placement') ?? ''];
        const placed = textAttr(node, 'component') ?? '';
        // Placed without its title: a reference to the component leads to where its content begins.
        add(placed, '', anchorFor(inner, topicHeading), inner);
        visit(node.content, placed, inner);
      }
    };
    visit(page.blocks, page.topic, []);
  }
  return found;
}
