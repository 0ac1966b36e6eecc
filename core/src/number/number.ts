import type { AssembledEntry, AssembledNode, AssembledPublication } from '../assemble/assembled.js';
import { topicHeading, type Source } from '../assemble/assemble.js';
import { childrenOf, textAttr, type ContentNode } from '../content/node.js';
import { contentBody } from '../library/component.js';
import { ProblemList } from '../problems/problem.js';
import { plainText } from './plain-text.js';
import { fillTemplate, formatNumber, type Design, type LabelKind } from './design.js';
import {
  anchorKey,
  flattenPages,
  type Label,
  type NumberedPage,
  type NumberedPublication,
  type ReferencePlace,
  type ResolvedReference,
} from './numbered.js';

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
  const problems = new ProblemList();
  assembled.problems.forEach((problem) => problems.add(problem));
  const resolver = new Resolver(numberer.targets, options.design);
  const anchors = new Set<string>();
  for (const page of flattenPages(pages)) {
    visitReferences(page, (at, block, node) => {
      const resolved = resolver.resolve(at, node);
      if (resolved) {
        anchors.add(anchorKey(resolved.label));
        return;
      }
      const { component } = at;
      const target = textAttr(node, 'component') ?? component;
      const id = textAttr(node, 'target');
      const exists = targetExists(options.source, target, id);
      const what = id === null ? `“${target}”` : `the block “${id}” of “${target}”`;
      problems.add({
        severity: 'error',
        code: exists ? 'left-out-reference' : 'missing-target',
        message: exists
          ? `A reference leads to ${what}, which this variant leaves out.`
          : `A reference leads to ${what}, which does not exist.`,
        place: { component, block, entry: null },
      });
    });
  }
  return {
    title: assembled.title,
    design: options.design,
    language: options.language,
    pages,
    reference: (at, node) => resolver.resolve(at, node),
    anchors,
    problems: problems.all,
  };
}

interface Target {
  readonly label: Label;
  /** The page's entry, then the placements down to the target. */
  readonly path: readonly string[];
}

interface PageDraft {
  readonly file: string;
  readonly path: readonly string[];
  readonly counters: CounterSet;
  readonly labels: Label[];
}

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

class Numberer {
  /** Targets by component and block id (`key#id`; the topic itself: `key#`). */
  readonly targets = new Map<string, Target[]>();
  private readonly files = new Set<string>(['index.html']);
  private readonly top = { part: 0, chapter: 0, appendix: 0 };
  private readonly through = { figure: 0, table: 0, example: 0 };

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
    const draft: PageDraft = { file, path: [entry.id], counters: own.counters, labels: [] };
    this.addTarget(entry.topic, '', { label, path: draft.path });
    this.blocks(entry.blocks, { draft, level, component: entry.topic, placements: [] });
    const pages = entry.entries.map((below) => this.page(below, level, kind === 'part' ? null : own, depth + 1));
    return {
      entry: entry.id,
      topic: entry.topic,
      label,
      depth,
      blocks: entry.blocks,
      labels: draft.labels,
      pages,
      chapter: own.label,
    };
  }

  private topNumber(kind: 'front' | 'part' | 'chapter' | 'appendix'): string {
    if (kind === 'front') return '';
    this.top[kind] += 1;
    return formatNumber(this.top[kind], this.design.numerals[kind]);
  }

  private fileFor(topic: string): string {
    const safe = topic.replace(/[^\p{L}\p{N}._-]+/gu, '-');
    let file = `${safe}.html`;
    for (let copy = 2; this.files.has(file); copy += 1) file = `${safe}-${copy}.html`;
    this.files.add(file);
    return file;
  }

  private blocks(nodes: readonly ContentNode[], place: Place): void {
    for (const node of nodes) this.block(node, place);
  }

  private block(node: ContentNode, place: Place): void {
    switch (node.type) {
      case 'paragraph':
      case 'code_block':
        this.plainTarget(node, place);
        return;
      case 'placed': {
        const component = textAttr(node, 'component') ?? '';
        const placements = [...place.placements, textAttr(node, 'placement') ?? ''];
        const inner = { ...place, component, placements };
        const [only] = childrenOf(node);
        if (only?.type !== 'section' || textAttr(only, 'id') !== topicHeading) {
          // Placed without its title: a reference to the topic leads to where its content begins.
          const anchor = anchorFor(placements, topicHeading);
          const label: Label = { kind: 'block', number: '', title: [], page: place.draft.file, anchor };
          this.addTarget(component, '', { label, path: [...place.draft.path, ...placements] });
        }
        this.blocks(childrenOf(node), inner);
        return;
      }
      case 'section':
        this.section(node, place);
        return;
      case 'figure':
      case 'table':
      case 'example':
        this.captioned(node, node.type, place);
        return;
      case 'steps':
        this.steps(node, place);
        return;
      default:
        this.plainTarget(node, place);
        if (node.content) this.blocks(node.content, place);
    }
  }

  private section(node: ContentNode, place: Place): void {
    const { level, draft } = place;
    const numbered = node.attrs?.['numbered'] !== false && level.numbered;
    const number = numbered ? nextSection(level, this.design) : '';
    const [title] = childrenOf(node);
    const label = this.target(node, 'section', number, title?.type === 'title' ? childrenOf(title) : [], place);
    draft.labels.push(label);
    const inner: Level = {
      kind: 'section',
      number,
      numbered: numbered && number !== '',
      depth: level.depth + 1,
      sections: 0,
    };
    this.blocks(childrenOf(node), { ...place, level: inner });
  }

  private captioned(node: ContentNode, kind: 'figure' | 'table' | 'example', place: Place): void {
    const caption = childrenOf(node).find((child) => child.type === 'caption' || child.type === 'title');
    const scheme = this.design.numerals[kind];
    let number = '';
    if (caption && scheme !== 'none') {
      const counters = scheme === 'through' ? this.through : place.draft.counters;
      counters[kind] += 1;
      const prefix = scheme === 'through' ? '' : place.draft.counters.prefix;
      number = prefix ? `${prefix}.${counters[kind]}` : String(counters[kind]);
    }
    place.draft.labels.push(this.target(node, kind, number, caption ? childrenOf(caption) : [], place));
    this.blocks(childrenOf(node), place);
  }

  private steps(node: ContentNode, place: Place): void {
    this.plainTarget(node, place);
    childrenOf(node).forEach((step, index) => {
      const number = place.step ? `${place.step}.${index + 1}` : String(index + 1);
      place.draft.labels.push(this.target(step, 'step', number, [], place));
      this.blocks(childrenOf(step), { ...place, step: number });
    });
  }

  private plainTarget(node: ContentNode, place: Place): void {
    const id = textAttr(node, 'id');
    if (id === null) return;
    const anchor = anchorFor(place.placements, id);
    const label: Label = { kind: 'block', number: '', title: [], page: place.draft.file, anchor };
    this.addTarget(place.component, id, { label, path: [...place.draft.path, ...place.placements] });
  }

  private target(
    node: ContentNode,
    kind: LabelKind,
    number: string,
    title: readonly AssembledNode[],
    place: Place,
  ): Label {
    const id = textAttr(node, 'id');
    const anchor = anchorFor(place.placements, id ?? `n${place.draft.labels.length + 1}`);
    const label: Label = { kind, number, title, page: place.draft.file, anchor };
    if (id !== null) {
      const key = id === topicHeading ? '' : id;
      this.addTarget(place.component, key, { label, path: [...place.draft.path, ...place.placements] });
    }
    return label;
  }

  private addTarget(component: string, id: string, target: Target): void {
    const key = `${component}#${id}`;
    const known = this.targets.get(key);
    if (known) known.push(target);
    else this.targets.set(key, [target]);
  }
}

interface Place {
  readonly draft: PageDraft;
  readonly level: Level;
  readonly component: string;
  readonly placements: readonly string[];
  readonly step?: string;
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

/** The HTML id of a block under the placements that it stands in. */
export function anchorFor(placements: readonly string[], id: string): string {
  const own = id === topicHeading ? 'topic' : id;
  return placements.length === 0 ? own : `${placements.join('--')}--${own}`;
}

/** Calls back for every cross-reference of a page, with the placements and the block it stands in. */
function visitReferences(
  page: NumberedPage,
  found: (at: ReferencePlace, block: string | null, node: AssembledNode) => void,
): void {
  const visit = (node: AssembledNode, placements: readonly string[], component: string, block: string | null): void => {
    if (node.type === 'cross_reference') found({ entry: page.entry, placements, component }, block, node);
    if (!node.content) return;
    const inner = node.type === 'placed' ? [...placements, textAttr(node, 'placement') ?? ''] : placements;
    const owner = node.type === 'placed' ? (textAttr(node, 'component') ?? '') : component;
    const id = textAttr(node, 'id') ?? block;
    for (const child of node.content) visit(child, inner, owner, id);
  };
  for (const node of page.label.title) visit(node, [], page.topic, null);
  for (const block of page.blocks) visit(block, [], page.topic, null);
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
  constructor(
    private readonly targets: ReadonlyMap<string, readonly Target[]>,
    private readonly design: Design,
  ) {}

  resolve(at: ReferencePlace, node: AssembledNode): ResolvedReference | undefined {
    const component = textAttr(node, 'component') ?? at.component;
    const candidates = this.targets.get(`${component}#${textAttr(node, 'target') ?? ''}`);
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
