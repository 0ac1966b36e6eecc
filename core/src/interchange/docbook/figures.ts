import { keyFromTitle } from '../../model/component.js';
import { childrenOf, makeNode, makeText, type ContentNode } from '../../model/node.js';
import { bothConditions } from '../../variation/condition-syntax.js';
import { baseName, captionAsTitle, isElement, xmlText } from './elements.js';
import { pathBeside } from './entities.js';
import { onlyBlocks } from './parts.js';
import type { Context, Flow, ImportSession } from './session.js';
import { titleNode } from './titles.js';
import type { XmlElement, XmlNode } from './xml.js';

/** A figure: its pictures and whatever else stands in it, with its title as the caption. */
export function figureBlocks(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  const shown = shownIn(session, element, context);
  if (shown.length === 0) return [];
  const hasCaption = element.children.some((node) => isElement(node, 'title', 'caption'));
  // Without a picture, a caption is what makes a figure of it.
  if (!hasCaption && !shown.some(({ type }) => type === 'picture')) return shown;
  const named = { ...element, children: element.children.map(captionAsTitle) };
  const caption = hasCaption ? [makeNode('caption', null, childrenOf(titleNode(session, named, context)))] : [];
  return [makeNode('figure', session.idAttr(element, context), [...shown, ...caption])];
}

const mediaElements: ReadonlySet<string> = new Set(['mediaobject', 'inlinemediaobject', 'graphic', 'inlinegraphic']);

function shownIn(session: ImportSession, element: XmlElement, context: Context): readonly Flow[] {
  if (mediaElements.has(element.name)) return picturesOf(session, element);
  const content = element.children.filter(
    (node) => !isElement(node, 'title', 'titleabbrev', 'caption', 'info', 'blockinfo', 'objectinfo', 'screeninfo'),
  );
  return onlyBlocks(session, session.flow(content, context), element).flatMap((block) =>
    block.type === 'figure' && childrenOf(block).every(({ type }) => type === 'picture') ? childrenOf(block) : [block],
  );
}

interface Alternative {
  readonly data: XmlElement;
  readonly when: string | null;
}

/** The pictures of a media object: of alternatives for one case the one that suits a screen best. */
function picturesOf(session: ImportSession, element: XmlElement): readonly Flow[] {
  const alternatives: Alternative[] = [];
  const collect = (node: XmlElement, when: string | null): void => {
    const own = bothConditions(when, node === element ? null : session.conditionOn(node));
    if (node.name === 'imagedata' || node.name === 'graphic' || node.name === 'inlinegraphic') {
      if (session.attribute(node, 'fileref')) alternatives.push({ data: node, when: own });
      return;
    }
    for (const child of node.children) if (child.kind === 'element') collect(child, own);
  };
  collect(element, null);
  if (alternatives.length === 0) return textInstead(session, element);
  const cases = [...new Set(alternatives.map(({ when }) => when))];
  return cases.flatMap((when) => {
    const [best] = alternatives
      .filter((each) => each.when === when)
      .sort((a, b) => suitability(session, b.data) - suitability(session, a.data));
    const picture = best && pictureNode(session, best.data, altOf(element), when);
    return picture ? [picture] : [];
  });
}

/** How well a picture's format suits a screen. */
function suitability(session: ImportSession, data: XmlElement): number {
  const ending = /\.([a-z0-9]+)$/i.exec(session.attribute(data, 'fileref') ?? '')?.[1]?.toLowerCase() ?? '';
  return ['svg', 'png', 'webp', 'gif', 'jpg', 'jpeg'].includes(ending) ? 1 : 0;
}

/** The text that stands for what cannot be shown. */
function textInstead(session: ImportSession, element: XmlElement): readonly Flow[] {
  const text = session.expandedText(element).replace(/\s+/g, ' ').trim();
  if (text === '') return [];
  session.note('text instead', 'A picture that cannot be shown: the text that stands for it was kept.', element);
  return [makeNode('paragraph', null, [makeText(text)])];
}

function altOf(element: XmlElement): string | null {
  let alt: string | null = null;
  const visit = (node: XmlNode): void => {
    if (node.kind !== 'element' || alt !== null) return;
    if (node.name === 'phrase' || node.name === 'alt' || node.name === 'textobject')
      alt = xmlText(node).replace(/\s+/g, ' ').trim() || null;
    else node.children.forEach(visit);
  };
  visit(element);
  return alt;
}

function pictureNode(
  session: ImportSession,
  data: XmlElement,
  alt: string | null,
  when: string | null,
): ContentNode | null {
  const reference = session.attribute(data, 'fileref');
  if (!reference) return null;
  const path = pathBeside(data.file, reference, data.line);
  let image = session.images.get(path);
  if (!image) {
    const title = baseName(path);
    image = { key: session.newKey(keyFromTitle(title)), title, alt: alt ?? title, path };
    session.images.set(path, image);
  }
  const width = /^(\d{1,3})(?:\.\d+)?%$/.exec(data.attrs['width'] ?? data.attrs['contentwidth'] ?? '')?.[1];
  const share = width === undefined ? null : Math.min(100, Math.max(1, Number(width)));
  return makeNode('picture', { component: image.key, alt, when, width: share });
}
