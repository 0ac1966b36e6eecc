import { known } from '../model/known.js';
import { perContent } from '../model/per-content.js';
import { topicHeading } from '../assemble/sections.js';
import { referenceForms, type ReferenceForm } from '../model/kinds.js';
import { isLeftOut, textAttr, type AssembledNode } from '../model/node.js';
import { anchorFor } from './anchors.js';
import { flattenPages, labelAt, type NumberedPage, type ReferencePlace, type ResolvedReference } from './numbered.js';
import { positionOf, type FoundReference, type Label, type Landmark } from './notes.js';
import { untitled } from './untitled.js';

interface Target {
  readonly page: string;
  readonly anchor: string | null;
  /** The label of the target; null: a block without one. */
  readonly label: Label | null;
  /** The nearest heading around the target. */
  readonly heading: Label;
  /** The page's entry, then the placements down to the target. */
  readonly path: readonly string[];
}

/** Targets by component and block id (`key#id`; the component itself: `key#`). */
type Targets = ReadonlyMap<string, readonly Target[]>;

/** A block without a label, by its component and id. */
interface PlainBlock {
  readonly key: string;
  readonly anchor: string;
  readonly placements: readonly string[];
  /** The occurrence of the nearest section around it. */
  readonly section: string | null;
  /** The occurrence of the footnote that it is or stands in. */
  readonly footnote: string | null;
}

/** Finds what references lead to. Of several occurrences of a target the nearest is taken. */
export class ReferenceResolver {
  private readonly flat: readonly NumberedPage[];
  private labelled: Targets | null = null;
  private plain: Targets | null = null;

  constructor(pages: readonly NumberedPage[]) {
    this.flat = flattenPages(pages);
  }

  resolve(at: ReferencePlace, node: AssembledNode): ResolvedReference | undefined {
    const target = this.find(at, node);
    return target && inParts(target, node);
  }

  /**
   * What all references of the publication come to.
   * @param withIndex whether index terms lead to where they stand
   */
  survey(withIndex: boolean): {
    readonly anchors: ReadonlyMap<string, ReadonlySet<string>>;
    readonly dangling: readonly FoundReference[];
    readonly unnamed: readonly FoundReference[];
  } {
    const anchors = new Map<string, Set<string>>();
    const dangling: FoundReference[] = [];
    const unnamed: FoundReference[] = [];
    const want = (page: string, anchor: string): void => {
      const onPage = anchors.get(page);
      if (onPage) onPage.add(anchor);
      else anchors.set(page, new Set([anchor]));
    };
    for (const page of this.flat) {
      for (const reference of page.notes.references) {
        const { node, component, placements } = reference;
        const target = this.find({ entry: page.entry, placements, component }, node);
        if (!target) {
          dangling.push(reference);
          continue;
        }
        const { text, label } = inParts(target, node);
        if (text === null && !isNamed(label)) unnamed.push(reference);
        if (target.label === null && target.anchor !== null) want(target.page, target.anchor);
      }
      if (!withIndex) continue;
      for (const { anchor } of page.notes.markers) if (anchor !== null) want(page.name, anchor);
    }
    return { anchors, dangling, unnamed };
  }

  private find(at: ReferencePlace, node: AssembledNode): Target | undefined {
    const component = textAttr(node, 'component') ?? at.component;
    const key = targetKey(component, textAttr(node, 'target') ?? '');
    this.labelled ??= labelledTargets(this.flat);
    const candidates = this.labelled.get(key) ?? this.plainTargets().get(key);
    if (!candidates) return undefined;
    const from = [at.entry, ...at.placements];
    let best = known(candidates[0]);
    let closest = -1;
    for (const candidate of candidates) {
      const near = sharedLength(from, candidate.path);
      if (near > closest) [best, closest] = [candidate, near];
    }
    return best;
  }

  /** Few references lead to blocks that carry no label, so they are only looked for when one does. */
  private plainTargets(): Targets {
    if (this.plain) return this.plain;
    const found = new Map<string, Target[]>();
    for (const page of this.flat) {
      for (const { key, anchor: own, placements, section, footnote } of plainBlocks(page.blocks, page.topic ?? '')) {
        const anchor = shownAnchor(page, own, footnote);
        const heading = headingAt(page, section === null ? null : landmarkAt(page, section));
        addTarget(found, key, { page: page.name, anchor, label: null, heading, path: [page.entry, ...placements] });
      }
    }
    return (this.plain = found);
  }
}

function inParts({ page, anchor, label, heading }: Target, node: AssembledNode): ResolvedReference {
  const form = referenceForms.find((each) => each === textAttr(node, 'form')) ?? 'title';
  const text = textAttr(node, 'text') || null;
  return { form: formOf(form, text), text, page, anchor, label: isNamed(label) ? label : heading };
}

/** The text that a writer gives stands for itself; asked for and not given, the title does. */
function formOf(form: ReferenceForm, text: string | null): ReferenceForm {
  if (form !== 'text') return form;
  return text ? 'text' : 'title';
}

function isNamed(label: Label | null): label is Label {
  return label !== null && (label.number !== '' || (label.title.length > 0 && label.title !== untitled));
}

/** The nearest heading around that reads anything: the one of a section, or of those around it, or the page's. */
function headingAt(page: NumberedPage, section: Landmark | null): Label {
  return nearestHeading(page, section, () => true);
}

/** The same for what lists places: headings in footnotes that nothing calls are not on the page. */
export function shownHeadingAt(page: NumberedPage, section: Landmark | null): Label {
  return nearestHeading(page, section, ({ footnote }) => footnote === null || page.footnotes.has(footnote));
}

function nearestHeading(page: NumberedPage, section: Landmark | null, counts: (heading: Landmark) => boolean): Label {
  for (let landmark = section; landmark; landmark = landmark.section) {
    const label = labelAt(page, landmark.anchor);
    if (label && isNamed(label) && counts(landmark)) return label;
  }
  return page.label;
}

function landmarkAt({ notes }: NumberedPage, anchor: string): Landmark | null {
  const position = positionOf(notes, anchor);
  return position === undefined ? null : (notes.landmarks[position] ?? null);
}

/** Names a block of a component. */
export function targetKey(component: string, id: string): string {
  return `${component}#${id}`;
}

function sharedLength(a: readonly string[], b: readonly string[]): number {
  let shared = 0;
  while (shared < a.length && shared < b.length && a[shared] === b[shared]) shared += 1;
  return shared;
}

/** Topics, and everything on their pages that carries a label. */
function labelledTargets(pages: readonly NumberedPage[]): Targets {
  const found = new Map<string, Target[]>();
  for (const page of pages) {
    const { entry, name, topic, label, labels, notes } = page;
    if (topic !== null) {
      addTarget(found, targetKey(topic, ''), { page: name, anchor: null, label, heading: label, path: [entry] });
    }
    notes.landmarks.forEach(({ id, component, placements, anchor, section, footnote, isOut }, at) => {
      if (isOut) return;
      const key = targetKey(component, id === topicHeading ? '' : id);
      addTarget(found, key, {
        page: name,
        anchor: shownAnchor(page, anchor, footnote),
        label: labels[at] ?? null,
        heading: headingAt(page, section),
        path: [entry, ...placements],
      });
    });
  }
  return found;
}

/** A footnote that nothing calls does not show: what leads into it leads to the page. */
function shownAnchor({ footnotes }: NumberedPage, anchor: string, footnote: string | null): string | null {
  return footnote === null || footnotes.has(footnote) ? anchor : null;
}

function addTarget(targets: Map<string, Target[]>, key: string, target: Target): void {
  const known = targets.get(key);
  if (known) known.push(target);
  else targets.set(key, [target]);
}

/** The blocks of a page without a label. */
const plainBlocks = perContent(collectPlainBlocks);

function collectPlainBlocks(blocks: readonly AssembledNode[], topic: string): readonly PlainBlock[] {
  const found: PlainBlock[] = [];
  const visit = (
    nodes: readonly AssembledNode[],
    component: string,
    placements: readonly string[],
    around: string | null,
    outer: string | null,
  ): void => {
    for (const node of nodes) {
      if ((!node.content && node.attrs === undefined) || isLeftOut(node)) continue;
      const id = textAttr(node, 'id');
      let section = around;
      let footnote = outer;
      if (id !== null && node.type !== 'slot') {
        const anchor = anchorFor(placements, id);
        if (node.type === 'footnote') footnote = anchor;
        if (node.type === 'section') section = anchor;
        else found.push({ key: targetKey(component, id), anchor, placements, section, footnote });
      }
      if (!node.content) continue;
      if (node.type !== 'placed') {
        visit(node.content, component, placements, section, footnote);
        continue;
      }
      const inner = [...placements, textAttr(node, 'placement') ?? ''];
      const placed = textAttr(node, 'component') ?? '';
      // Placed without its title: a reference to the component, or to the placement, leads to where its content begins.
      const anchor = anchorFor(inner, topicHeading);
      found.push({ key: targetKey(placed, ''), anchor, placements: inner, section, footnote });
      found.push({
        key: targetKey(component, textAttr(node, 'placement') ?? ''),
        anchor,
        placements,
        section,
        footnote,
      });
      visit(node.content, placed, inner, section, footnote);
    }
  };
  visit(blocks, topic, [], null, null);
  return found;
}
