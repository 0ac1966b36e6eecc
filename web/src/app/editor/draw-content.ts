import {
  chosenImage,
  conditionOn,
  contentBody,
  contentSchema,
  formulaMarkup,
  paragraphOf,
  ownCondition,
  placedPart,
  readFormula,
  type Component,
  type ContentNode,
  type Limits,
  type ConditionTest,
  type OpenSelector,
  recordingOf,
} from '@allomorph/core';
import { DOMSerializer, type DOMOutputSpec, type Node } from 'prosemirror-model';
import { mediaSpec } from './media-view';
import type { LensMode } from '../shared/lens';
import { imageAddress } from '../shared/file-addresses';
import { branchStates } from './taken-branch';
import type { EditorLibrary } from './editor-library';

/** What content is drawn with. */
export interface Drawing {
  readonly library: EditorLibrary;
  readonly selector: ConditionTest | null;
  /** Where the lens leaves axes open. */
  readonly open?: OpenSelector | null;
  readonly mode: LensMode;
  /** The component whose page this is. */
  readonly own: Component | null;
}

const deepest = 12;

/** Draws the inline leaves and placements that stand for something else; shared by page and seams. */
export function drawLeaf(node: Node, drawing: Drawing, stack: readonly string[]): HTMLElement | null {
  switch (node.type.name) {
    case 'variable':
      return drawVariable(node, drawing);
    case 'cross_reference':
      return drawReference(node, drawing);
    case 'external_link':
      return leaf('reference', drawing.library.linkText(String(node.attrs['component'])), 'Link from the library');
    case 'inline_placement':
      return drawInlinePlacement(node, drawing, stack);
    case 'picture':
    case 'image':
      return drawPicture(node, drawing);
    case 'index_marker':
      return leaf('marker', 'ix', `In the index: ${String(node.attrs['primary'])}`);
    case 'footnote_reference':
      return leaf('marker', '*', `Footnote ${String(node.attrs['target'])}`);
    case 'placement':
      return drawSeam(node, drawing, stack);
    case 'formula':
    case 'display_formula':
      return drawFormula(node);
    case 'slot':
      return drawSlot(node, drawing, stack);
    default:
      return null;
  }
}

function leaf(name: string, text: string, title: string): HTMLElement {
  const element = document.createElement('span');
  element.className = name;
  element.textContent = text;
  element.title = title;
  return element;
}

function drawFormula(node: Node): HTMLElement {
  const source = String(node.attrs['source']);
  if (source.trim() === '') return leaf('marker', 'Formula', 'A formula that is not written yet');
  const { fault } = readFormula(source, !node.isInline);
  if (fault !== null) return leaf('missing', source, `This formula cannot be drawn: ${fault}.`);
  const element = leaf('formula', '', 'Formula');
  // Markup of our own, in which every character of the source is escaped.
  element.innerHTML = formulaMarkup(source, !node.isInline);
  return element;
}

function drawVariable(node: Node, { library }: Drawing): HTMLElement {
  const key = String(node.attrs['key']);
  const title = library.get(key)?.title ?? key;
  if (!key.startsWith('@') && !library.get(key)) return leaf('missing', `[${key}]`, 'This variable does not exist.');
  const text = library.variableText(key);
  const element = leaf('variable', text ?? title, `Variable “${title}” (${key})`);
  if (text === null) element.classList.add('by-name');
  return element;
}

function drawReference(node: Node, { library, own }: Drawing): HTMLElement {
  const { component, target, form, text } = node.attrs as {
    component: string | null;
    target: string | null;
    form: string;
    text: string | null;
  };
  const title = library.targetTitle(component, target, own);
  return leaf('reference', form === 'text' && text ? text : title, `Cross-reference to “${title}”, form: ${form}`);
}

/** What a recording is, where it is found, and the picture that stands for it. */
export function drawMediaHead(node: Node, drawing: Drawing): HTMLElement {
  const { medium, address, poster } = node.attrs as { medium: string; address: string; poster: string | null };
  const recording = recordingOf(node);
  const head = document.createElement('div');
  head.className = 'media-head';
  head.contentEditable = 'false';
  const what = document.createElement('b');
  what.textContent = medium === 'audio' ? 'Audio' : 'Video';
  const where = document.createElement('span');
  const shown = recording?.name ?? address;
  where.textContent = shown === '' ? 'no file and no address yet: choose one beside the page' : shown;
  where.className = shown === '' ? 'missing' : 'address';
  head.append(what, where);
  if (medium === 'video' && poster) head.append(drawImage(poster, drawing));
  return head;
}

function drawPicture(node: Node, drawing: Drawing): HTMLElement {
  const element = drawImage(String(node.attrs['component']), drawing);
  const alt: unknown = node.attrs['alt'];
  if (typeof alt === 'string' && element instanceof HTMLImageElement) element.alt = alt;
  const width: unknown = node.attrs['width'];
  if (typeof width === 'number') element.style.width = `${width}%`;
  return element;
}

function drawImage(key: string, { library, selector }: Drawing): HTMLElement {
  const image = library.get(key);
  if (!image || image.kind !== 'image') return leaf('missing', `[${key}]`, 'This image does not exist.');
  const { body } = image;
  const element = document.createElement('img');
  element.src = imageAddress(selector ? chosenImage(body, (when) => selector.holds(when)) : body.file);
  element.alt = body.alt;
  element.title = `Image “${image.title}”`;
  return element;
}

function drawInlinePlacement(node: Node, drawing: Drawing, stack: readonly string[]): HTMLElement {
  const key = String(node.attrs['component']);
  const placed = placedComponent(node, drawing);
  if (!placed) return leaf('missing', `[${key}]`, 'This snippet does not exist.');
  const element = leaf('inline-seam', '', `Snippet “${placed.title}”, ${modeText(node)}`);
  if (stack.includes(key) || stack.length > deepest) element.textContent = '…';
  else element.append(drawNodes(placed.body as ContentNode, drawing, [...stack, key]));
  if (isOut(placed, drawing)) element.classList.add(`out-inline-${drawing.mode === 'fold' ? 'fold' : 'ghost'}`);
  return element;
}

/** Whether the lens leaves a component out by its own condition. */
function isOut(component: Component, { selector }: Drawing): boolean {
  return selector !== null && !selector.holds(ownCondition(component));
}

function placedComponent(node: Node, { library }: Drawing): Component | undefined {
  const { component, mode, revision } = node.attrs as { component: string; mode: string; revision: number | null };
  return library.revision(component, mode === 'held' ? revision : null);
}

function modeText(node: Node): string {
  return node.attrs['mode'] === 'held' ? `held at revision ${String(node.attrs['revision'])}` : 'live';
}

/** Placed content inside its seam: a stitched edge and a tab that says what it is. */
function drawSeam(node: Node, drawing: Drawing, stack: readonly string[]): HTMLElement {
  const key = String(node.attrs['component']);
  const placed = placedComponent(node, drawing);
  const newest = drawing.library.get(key);
  const seam = document.createElement('div');
  seam.className = 'seam';
  seam.contentEditable = 'false';
  const tab = document.createElement('div');
  tab.className = 'seam-tab';
  if (!placed) {
    seam.classList.add('seam-broken');
    tab.textContent = newest
      ? `“${newest.title}” has no revision ${String(node.attrs['revision'])}`
      : `“${key}” does not exist`;
    seam.append(tab);
    return seam;
  }
  const name = document.createElement('b');
  name.textContent = placed.title;
  const how = document.createElement('span');
  const behind = node.attrs['mode'] === 'held' && newest && newest.revision > placed.revision;
  how.textContent = `${placed.kind}, ${modeText(node)}${behind ? `; newest is ${newest.revision}` : ''}`;
  if (behind) seam.classList.add('seam-behind');
  const open = document.createElement('a');
  open.href = `/edit/${encodeURIComponent(key)}`;
  open.textContent = 'open source';
  open.dataset['source'] = key;
  tab.append(name, how, open);
  const content = document.createElement('div');
  content.className = 'seam-content';
  if (stack.includes(key) || stack.length > deepest) content.textContent = 'This placement stands inside itself.';
  else content.append(drawPlaced(placed, node, drawing, [...stack, key]));
  seam.append(tab, content);
  return seam;
}

/** A slot as its first candidate, with what it is and how many others there are. */
function drawSlot(node: Node, drawing: Drawing, stack: readonly string[]): HTMLElement {
  const { collection, matching, stated } = node.attrs as Record<string, string | null>;
  const candidates = drawing.library.candidates(node, drawing.own);
  const shown = candidates.find(({ key }) => key === stated) ?? candidates[0];
  const seam = document.createElement('div');
  seam.className = 'seam';
  seam.contentEditable = 'false';
  const tab = document.createElement('div');
  tab.className = 'seam-tab';
  const name = document.createElement('b');
  name.textContent = 'Slot';
  const how = document.createElement('span');
  const rule = matching ? `those of “${collection ?? ''}” that share “${matching}”` : `all of “${collection ?? ''}”`;
  how.textContent = collection ? `${rule}: ${candidates.length}` : 'choose its collection beside the page';
  tab.append(name, how);
  seam.append(tab);
  if (!shown) {
    seam.classList.add('seam-broken');
    return seam;
  }
  const content = document.createElement('div');
  content.className = 'seam-content';
  content.append(drawNodes(shown.body as ContentNode, drawing, [...stack, shown.key]));
  if (isOut(shown, drawing)) for (const each of content.children) markAsOut(each as HTMLElement, drawing.mode);
  seam.append(content);
  return seam;
}

/** The part of a component that a placement shows, out where the conditions around a section are. */
function drawPlaced(
  component: Component,
  placement: Node,
  drawing: Drawing,
  stack: readonly string[],
): DocumentFragment {
  const body = contentBody(component);
  const { section, withTitle } = placement.attrs as { section: string | null; withTitle: boolean };
  const part = body && placedPart(body, section, withTitle, paragraphOf);
  const drawn = document.createDocumentFragment();
  if (!part) {
    drawn.append(`“${component.title}” has no section “${String(section)}”.`);
    return drawn;
  }
  drawn.append(drawNodes({ type: 'fragment', content: part.nodes }, drawing, stack));
  const out = part.conditions.find((when) => drawing.selector && !drawing.selector.holds(when));
  if (out !== undefined) for (const each of drawn.children) markAsOut(each as HTMLElement, drawing.mode);
  return drawn;
}

/** Draws stored content that is shown and not edited. */
function drawNodes(body: ContentNode, drawing: Drawing, stack: readonly string[]): DocumentFragment {
  const drawn = document.createDocumentFragment();
  const nodes = (body.content ?? []).map((child) => contentSchema.nodeFromJSON(child));
  const serializer = serializerFor(drawing, stack);
  for (const node of nodes) drawn.append(serializer.serializeNode(node));
  for (const element of drawn.querySelectorAll<HTMLElement>('[data-stamp]')) {
    const title = drawing.library.titleOfStamp(attributesOf(element).stamp ?? '');
    if (element.dataset['mark'] !== undefined) element.title = `Stamp: ${title}`;
    else element.dataset['stampTitle'] = title;
    element.classList.add(element.dataset['mark'] === undefined ? 'stamped' : 'stamped-words');
  }
  markOut(drawn, drawing);
  return drawn;
}

function serializerFor(drawing: Drawing, stack: readonly string[]): DOMSerializer {
  const nodes = DOMSerializer.nodesFromSchema(contentSchema);
  const own: Record<string, (node: Node) => DOMOutputSpec> = {};
  for (const [name, draw] of Object.entries(nodes)) {
    own[name] =
      name === 'media'
        ? (node) => mediaSpec(node, drawMediaHead(node, drawing))
        : (node) => drawLeaf(node, drawing, stack) ?? draw(node);
  }
  return new DOMSerializer(own, DOMSerializer.marksFromSchema(contentSchema));
}

/** Ghosts or folds what the lens leaves out of drawn content: by conditions, and branches after the one that is taken. */
function markOut(drawn: DocumentFragment, { selector, open, mode }: Drawing): void {
  if (!selector) return;
  for (const element of drawn.querySelectorAll<HTMLElement>('[data-when], [data-stamp]')) {
    const when = conditionOn({ attrs: { ...attributesOf(element) } });
    if (!selector.holds(when)) markAsOut(element, mode);
    else if (open?.state(when) === 'open') markAsOpen(element);
  }
  for (const choice of drawn.querySelectorAll<HTMLElement>('[data-node=choice]')) {
    const branches = [...choice.children] as HTMLElement[];
    const states = branchStates(
      branches.map((branch) => attributesOf(branch).when),
      { selector, open },
    );
    branches.forEach((branch, at) => {
      if (states[at] === 'out') markAsOut(branch, mode);
      else if (states[at] === 'open') markAsOpen(branch);
    });
  }
}

/** What limits something drawn, and says what it is. */
function attributesOf({ dataset }: HTMLElement): Limits {
  const read = (text = 'null'): string | null => JSON.parse(text) as string | null;
  return { when: read(dataset['when']), stamp: read(dataset['stamp']) };
}

function markAsOpen(element: HTMLElement): void {
  element.classList.add(element.dataset['mark'] === undefined ? 'open' : 'open-words');
}

function markAsOut(element: HTMLElement, mode: LensMode): void {
  element.classList.add('out', element.dataset['mark'] !== undefined ? `out-inline-${mode}` : `out-${mode}`);
  element.dataset['out'] = 'out of this lens';
}
