import MiniSearch from 'minisearch';
import { anchorFor } from '../../number/anchors.js';
import { flattenPages, type NumberedPage, type NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { perContent } from '../../model/per-content.js';
import { positionOf } from '../../number/notes.js';
import { childrenOf, textAttr, type AssembledNode } from '../../model/node.js';
import { headingNumber, titleWords } from '../labels.js';
import { wordsOf } from '../words.js';
import { addressOf } from './addresses.js';
import { perPage } from './per-page.js';
import { searchOptions, type IndexedPassage, type Passage } from './search-options.js';

/** The text of a part of a page, and the occurrence of the section that it is; null: before the first one. */
interface Part {
  readonly anchor: string | null;
  text: string;
}

/** The parts of a page, without its footnotes. What a slot does not show at first is found as well. */
const partsIn = perContent((blocks: readonly AssembledNode[]): readonly Part[] => {
  let part: Part = { anchor: null, text: '' };
  const parts: Part[] = [part];
  const visit = (nodes: readonly AssembledNode[], placements: readonly string[]): void => {
    for (const node of nodes) {
      if (node.type === 'section') {
        const around = part;
        parts.push((part = { anchor: anchorFor(placements, textAttr(node, 'id') ?? ''), text: '' }));
        // Its title is its name.
        visit(
          childrenOf(node).filter(({ type }) => type !== 'title'),
          placements,
        );
        part = around;
      } else if (node.type === 'footnote') continue;
      else if (node.type === 'placed') visit(childrenOf(node), [...placements, textAttr(node, 'placement') ?? '']);
      else if (holdsBlocks(node)) visit(childrenOf(node), placements);
      else {
        const text = plainText([node]);
        if (text !== '') part.text += part.text === '' ? text : ` ${text}`;
      }
    }
  };
  visit(blocks, []);
  return parts;
});

/** Whether there are further blocks in a block: words of two blocks are never one. */
function holdsBlocks({ content }: AssembledNode): boolean {
  return content?.some(({ text, content: inner }) => text === undefined && inner !== undefined) ?? false;
}

/** The texts of the footnotes that are called on a page; others do not stand on it. */
function notesOn({ footnotes, notes }: NumberedPage): readonly string[] {
  return [...footnotes.keys()].map((anchor) => {
    const note = notes.footnotes.get(anchor);
    return note ? plainText([note.node]) : '';
  });
}

/** Everything that can be found on a page. */
function passagesOn(publication: NumberedPublication, page: NumberedPage): readonly Passage[] {
  const words = wordsOf(publication);
  const name = (at: number | null): string => {
    const label = at === null ? page.label : page.labels[at];
    return label
      ? `${headingNumber(publication.design, label)} ${titleWords(publication.design, label, words)}`.trim()
      : '';
  };
  const title = name(null);
  const around = page.depth > 0 ? [plainText(page.chapter.title, { quotes: words.quotes, missing: '' })] : [];
  return partsIn(page.blocks, page.topic ?? '').map(({ anchor, text: own }): Passage => {
    const text = anchor === null ? [own, ...notesOn(page)].filter((each) => each !== '').join(' ') : own;
    const at = anchor === null ? null : (positionOf(page.notes, anchor) ?? null);
    const within = at === null ? around : [...around, title];
    return { title: name(at), within, href: addressOf({ page: page.name, anchor }), text };
  });
}

/** The same as JSON, without the brackets around it. */
const textOfPassages = perPage((page, publication: NumberedPublication) =>
  JSON.stringify(passagesOn(publication, page)).slice(1, -1),
);

/**
 * Everything that can be found in a site, in reading order, as JSON: a language and passages.
 * @param look equal only for equal designs and languages
 */
export function searchText(publication: NumberedPublication, look: string): string {
  const parts = flattenPages(publication.pages).flatMap((page) => [textOfPassages(page, look, publication), ',']);
  // Put together in one go, as it is long.
  return [`{"language":${JSON.stringify(publication.facts.language)},"passages":[`, ...parts.slice(0, -1), ']}'].join(
    '',
  );
}

/** The file in which a site has its passages, from which whoever packs it makes the index. */
export const searchFile = 'search.js';

/**
 * The index of a site as a script, which browsers load from a folder, too.
 * @param text the passages as the format wrote them
 */
export function searchIndex(text: string): string {
  // What this module wrote.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  const { language, passages } = JSON.parse(text) as { language: string; passages: readonly Passage[] };
  const index = new MiniSearch<IndexedPassage>(searchOptions(language));
  index.addAll(passages.map(({ within, ...passage }, id) => ({ ...passage, id, within: within.join(' › ') })));
  return `window.siteSearch=${JSON.stringify(JSON.stringify(index))};`;
}
