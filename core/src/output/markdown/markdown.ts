import { contentsOf, type ContentsEntry } from '../../number/contents.js';
import { flattenPages, type NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { fileNameFor, imageFileName } from '../file-names.js';
import { formatFacts } from '../format-facts.js';
import type { Format, FormatFile, Rendition } from '../format.js';
import { headingNumber } from '../labels.js';
import { wordsOf } from '../words.js';
import { shownOn } from '../shown-files.js';
import { capabilities } from './capabilities.js';
import { destination, escapeMarkdown } from './escape.js';
import { MarkdownWriter } from './page-writer.js';

/** One CommonMark file a topic (CommonMark 0.31.2), and one with the contents. */
export const markdown: Format = {
  ...formatFacts.markdown,
  capabilities,
  version: 2,
  render,
};

const mediaType = 'text/markdown; charset=utf-8';
const taken: ReadonlySet<string> = new Set(['index']);

function pageFile(name: string): string {
  return `${fileNameFor(name, taken)}.md`;
}

function addressOf({ page, anchor }: { readonly page: string; readonly anchor: string | null }): string {
  return encodeURIComponent(pageFile(page)) + (anchor === null ? '' : `#${encodeURIComponent(anchor)}`);
}

function render(publication: NumberedPublication): Rendition {
  const pages = flattenPages(publication.pages).map((page): FormatFile => {
    const writer = new MarkdownWriter(publication, page, { page: addressOf, picture: imageFileName });
    return { path: pageFile(page.name), mediaType, text: writer.text(), ...shownOn(page, capabilities) };
  });
  return {
    files: [{ path: markdown.start, mediaType, text: contents(publication), pictures: [] }, ...pages],
    fonts: [],
  };
}

function contents(publication: NumberedPublication): string {
  const words = wordsOf(publication);
  const lines = (entries: readonly ContentsEntry[], depth: number): readonly string[] =>
    entries.flatMap(({ label, entries: below }) => {
      const number = headingNumber(publication.design, label);
      const text = `${number} ${plainText(label.title, words)}`.trim();
      const item = `${'  '.repeat(depth)}- [${escapeMarkdown(text)}](${destination(addressOf(label))})`;
      return [item, ...lines(below, depth + 1)];
    });
  const list = lines(contentsOf(publication, publication.design.lists.contentsDepth), 0);
  return `# ${escapeMarkdown(plainText(publication.title, words))}\n\n${list.join('\n')}\n`;
}
