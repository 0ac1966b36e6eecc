import type { AssembledNode } from '../../model/node.js';
import { contentsOf, type ContentsEntry } from '../../number/contents.js';
import {
  flattenPages,
  picturesOn,
  type NumberedPage,
  type NumberedPublication,
  type ResolvedReference,
} from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { imageFileName } from '../file-names.js';
import { formatFacts } from '../format-facts.js';
import type { Format, FormatFile, Rendition } from '../format.js';
import { digestOf } from '../../model/digest.js';
import { headingNumber, referenceText } from '../labels.js';
import { element, escapeHtml, startTag } from '../markup.js';
import { directionOf, outputWords, type OutputWords } from '../words.js';
import { addressOf, listFile, pageFile } from './addresses.js';
import { capabilities } from './capabilities.js';
import { ContentsBeside } from './contents-beside.js';
import { labelLine, labelText, listPages, type ListPage } from './lists.js';
import { PageWriter } from './page-writer.js';
import { slotScript } from './slot-script.js';
import { siteFonts, siteStyle } from './style.js';

/** A small site that needs no server: a page a topic, contents, generated lists, a style sheet. */
export const web: Format = {
  ...formatFacts.html,
  capabilities,
  version: 3,
  render: (publication) => new Site(publication).render(),
};

const htmlType = 'text/html; charset=utf-8';

/** What was made of a page's blocks: their HTML by the numbers and references in it, and files by what stands around it. */
interface MadePage {
  readonly contents: Map<string, string>;
  readonly files: Map<string, FormatFile>;
}

const madePages = new WeakMap<readonly AssembledNode[], MadePage>();
const mostMade = 8;

function remember<Value>(made: Map<string, Value>, key: string, make: () => Value): Value {
  let value = made.get(key);
  if (value === undefined) {
    if (made.size >= mostMade) made.clear();
    made.set(key, (value = make()));
  }
  return value;
}

/**
 * The content of topics stands in `<main>`; what is made of it, such as contents and lists, in a `<main>` of the class
 * `generated`; everything else stands outside.
 */
class Site {
  private readonly pages: readonly NumberedPage[];
  private readonly words: OutputWords;
  private readonly title: string;
  private readonly variant: string;
  private readonly description: string;
  private readonly lists: readonly ListPage[];
  private readonly listLinks: string;
  private readonly contents: ContentsBeside;
  private readonly lines = new Map<NumberedPage, string>();
  /** Names what the content of all pages depends on, and what stands around it. */
  private readonly look: string;
  private readonly common: string;

  constructor(private readonly publication: NumberedPublication) {
    const { facts, design } = publication;
    this.pages = flattenPages(publication.pages);
    this.words = outputWords(facts.language);
    this.title = escapeHtml(plainText(publication.title, this.words));
    this.variant = escapeHtml(facts.variantTitle);
    this.description = `${plainText(publication.title, this.words)}, ${facts.variantTitle}`;
    this.lists = listPages(publication);
    const links = this.lists.map(({ name, title }) => `<li>${element('a', { href: listFile(name) }, title)}</li>\n`);
    // As they stand below the contents.
    this.listLinks = links.length === 0 ? '' : `<ul class="lists">\n${links.join('')}</ul>\n`;
    this.contents = new ContentsBeside(publication.pages, (page) => this.line(page), this.words.more);
    this.look = digestOf(JSON.stringify([facts.language, design]));
    const way = this.pages.map((page) => `${page.depth} ${page.name} ${this.line(page)}`).join('\n');
    this.common = digestOf(JSON.stringify([this.look, this.title, this.variant, this.listLinks, way]));
  }

  render(): Rendition {
    const file = (path: string, text: string): FormatFile => ({ path, mediaType: htmlType, text, pictures: [] });
    return {
      files: [
        file(web.start, this.cover()),
        file('404.html', this.nothingHere()),
        ...this.pages.map((page, at) => this.page(page, at)),
        ...this.lists.map((list) => file(listFile(list.name), this.listFile(list))),
        {
          path: 'style.css',
          mediaType: 'text/css; charset=utf-8',
          text: siteStyle(this.publication.design),
          pictures: [],
        },
      ],
      fonts: siteFonts,
    };
  }

  private page(page: NumberedPage, at: number): FormatFile {
    let made = madePages.get(page.blocks);
    if (!made) madePages.set(page.blocks, (made = { contents: new Map(), files: new Map() }));
    const { contents, files } = made;
    const shown = this.shown(page);
    return remember(files, `${this.common} ${page.name}\0${shown}`, () => {
      const content = remember(contents, `${this.look} ${shown}`, () =>
        new PageWriter(this.publication, page).content(),
      );
      return this.write(page, at, content);
    });
  }

  /** All that the content of a page shows besides its blocks. */
  private shown(page: NumberedPage): string {
    const { publication } = this;
    const { notes, labels, entry } = page;
    let key = `${page.name}\0${this.line(page)}`;
    for (const label of labels) key += `\0${headingNumber(publication.design, label)}`;
    for (const { node, component, placements } of notes.references) {
      const found = publication.reference({ entry, component, placements }, node);
      key += found ? `\0${this.reads(found)}` : '\0-';
    }
    if (notes.showsChapterTitle) key += `\0${plainText(page.chapter.title, this.words)}`;
    for (const anchor of publication.anchors.get(page.name) ?? []) key += `\0#${anchor}`;
    return key;
  }

  private reads(found: ResolvedReference): string {
    return `${addressOf(found)} ${referenceText(this.publication.design, found, this.words, capabilities)}`;
  }

  private write(page: NumberedPage, at: number, content: string): FormatFile {
    const pictures = picturesOn(page).map((file) => ({ path: imageFileName(file), file }));
    const turn = this.turn(this.pages[at - 1], this.pages[at + 1]);
    const text = this.document(labelText(this.publication, page.label), {
      aside: this.navigation(this.contents.of(page)),
      main: content,
      after: turn + (page.notes.hasSlot ? `<script>${slotScript}</script>\n` : ''),
    });
    return { path: pageFile(page.name), mediaType: htmlType, text, pictures };
  }

  private line(page: NumberedPage): string {
    let line = this.lines.get(page);
    if (line === undefined) this.lines.set(page, (line = labelLine(this.publication, page.label, page)));
    return line;
  }

  private turn(previous: NumberedPage | undefined, next: NumberedPage | undefined): string {
    const { words } = this;
    const link = (rel: string, word: string, page: NumberedPage): string => {
      const inner = `${element('span', undefined, word)} ${labelText(this.publication, page.label)}`;
      return element('a', { rel, href: addressOf(page.label) }, inner);
    };
    const links =
      (previous ? link('prev', words.previous, previous) : '') + (next ? link('next', words.next, next) : '');
    return `${element('nav', { class: 'turn', 'aria-label': `${words.previous}, ${words.next}` }, links)}\n`;
  }

  private navigation(list: string): string {
    return `${element('nav', { class: 'contents', 'aria-label': this.words.contents }, `\n${list}${this.listLinks}`)}\n`;
  }

  private cover(): string {
    const { words } = this;
    const [first] = this.pages;
    const { contentsDepth } = this.publication.design.lists;
    const list = this.contentsList(contentsOf(this.publication, contentsDepth));
    const contents = this.navigation(`${element('h2', undefined, words.contents)}\n${list}`);
    const next = first ? element('a', { rel: 'next', href: addressOf(first.label) }, words.next) : '';
    const title = `${element('h1', { class: 'cover-title' }, this.title)}\n`;
    const variant = `${element('p', { class: 'variant' }, this.variant)}\n`;
    const main = `<div class="cover">\n${title}${variant}${contents}<p class="turn">${next}</p>\n</div>\n`;
    return this.document('', { aside: '', main, isGenerated: true, after: '' });
  }

  private contentsList(entries: readonly ContentsEntry[]): string {
    if (entries.length === 0) return '';
    const items = entries.map(({ label, page, entries: below }) => {
      const line = label === page.label ? this.line(page) : labelLine(this.publication, label, page);
      const link = element('a', { href: addressOf(label) }, line);
      return `<li>${link}${below.length > 0 ? `\n${this.contentsList(below)}` : ''}</li>\n`;
    });
    return `<ul>\n${items.join('')}</ul>\n`;
  }

  /** Shown by servers for addresses that do not exist. */
  private nothingHere(): string {
    const { words } = this;
    const way = element('a', { href: web.start }, words.more);
    const main = `${element('h1', undefined, words.nothingHere)}\n${element('p', undefined, way)}\n`;
    return this.document(words.nothingHere, { aside: '', main, isGenerated: true, after: '' });
  }

  private listFile({ title, body }: ListPage): string {
    const main = `${element('h1', undefined, escapeHtml(title))}\n${body}`;
    const aside = this.navigation(this.contents.of(null));
    return this.document(escapeHtml(title), { aside, main, isGenerated: true, after: '' });
  }

  /** @param title what the page is called, as HTML text; empty for the cover */
  private document(
    title: string,
    parts: { readonly aside: string; readonly main: string; readonly isGenerated?: true; readonly after: string },
  ): string {
    const { language } = this.publication.facts;
    const variant = element('span', { class: 'variant' }, this.variant);
    const header = title === '' ? '' : `<header><a href="${web.start}">${this.title}</a> ${variant}</header>\n`;
    const mainTag = startTag('main', { id: '_content', class: parts.isGenerated ? 'generated' : null });
    return `<!DOCTYPE html>
${startTag('html', { lang: language, dir: directionOf(language) })}
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title === '' ? '' : `${title} – `}${this.title}</title>
${startTag('meta', { name: 'description', content: this.description })}
<link rel="stylesheet" href="style.css">
</head>
<body>
<a class="skip" href="#_content">${this.words.skip}</a>
${header}<div class="sheet">
${parts.aside}<div class="page">
${mainTag}
${parts.main}</main>
${parts.after}</div>
</div>
</body>
</html>
`;
  }
}
