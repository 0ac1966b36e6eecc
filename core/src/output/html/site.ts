import {
  captionsOf,
  contentsOf,
  glossaryOf,
  indexOf,
  type ContentsEntry,
  type GlossaryEntry,
  type IndexEntry,
} from '../../number/generated-lists.js';
import { flattenPages, type Label, type NumberedPage, type NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { outputWords, type OutputWords } from '../words.js';
import { escapeHtml } from './escape.js';
import { headingNumber, renderBlocks, renderLinkText, renderPageContent } from './render-page.js';
import { siteStyle } from './site-style.js';
import { slotScript } from './slot-script.js';

/** A text file of a site. Images and fonts are added by the caller, under the names the pages use. */
export interface SiteFile {
  readonly path: string;
  readonly text: string;
}

/** The fonts that the style sheet of a site names, to be put beside it. */
export const siteFonts = [
  'fonts/serif.woff2',
  'fonts/serif-italic.woff2',
  'fonts/sans.woff2',
  'fonts/mono.woff2',
] as const;

/**
 * Renders a publication as a small site: an index with the contents, one page a topic, the generated lists
 * of the design, a style sheet. It needs no server. Content stands in `<main>`; everything else stands
 * outside it.
 * @param lists the generated lists, as `listsOf` gives them
 */
export function renderSite(
  publication: NumberedPublication,
  lists: readonly ListPage[] = listsOf(publication),
): readonly SiteFile[] {
  return new SiteRenderer(publication, lists).files();
}

/**
 * Renders the pages of some entries again.
 * @param lists the generated lists, as `listsOf` gives them
 */
export function renderPages(
  publication: NumberedPublication,
  entries: ReadonlySet<string>,
  lists: readonly ListPage[],
): readonly SiteFile[] {
  const site = new SiteRenderer(publication, lists);
  return site.pages.flatMap((page, index) => (entries.has(page.entry) ? [site.page(index)] : []));
}

/** A generated list that stands on a page of its own. */
export interface ListPage {
  readonly path: string;
  readonly title: string;
  readonly body: string;
}

// A label belongs to one numbering and reads the same all over it.
const texts = new WeakMap<Label, string>();
const lines = new WeakMap<Label, string>();

interface ClosedItems {
  readonly all: string;
  readonly starts: readonly number[];
}

class SiteRenderer {
  private readonly closed = new Map<readonly NumberedPage[], ClosedItems>();
  readonly pages: readonly NumberedPage[];
  private readonly words: OutputWords;
  private readonly title: string;
  private readonly listLinks: string;

  constructor(
    private readonly publication: NumberedPublication,
    private readonly lists: readonly ListPage[],
  ) {
    this.pages = flattenPages(publication.pages);
    this.words = outputWords(publication.language);
    this.title = escapeHtml(plainText(publication.title));
    const links = lists.map(({ path, title }) => `<li><a href="${path}">${title}</a></li>\n`);
    // As they stand below the contents.
    this.listLinks = links.length === 0 ? '' : `<ul class="lists">\n${links.join('')}</ul>\n`;
  }

  files(): readonly SiteFile[] {
    return [
      { path: 'index.html', text: this.cover() },
      ...this.pages.map((_, index) => this.page(index)),
      ...this.lists.map((list) => this.listFile(list)),
      { path: 'style.css', text: siteStyle(this.publication.design) },
    ];
  }

  /** The file of the page at a position in reading order. */
  page(index: number): SiteFile {
    const page = this.pages[index] as NumberedPage;
    const { words } = this;
    const [previous, next] = [this.pages[index - 1], this.pages[index + 1]];
    const turn =
      `<nav class="turn" aria-label="${words.previous}, ${words.next}">` +
      (previous ? this.turn('prev', words.previous, previous) : '') +
      (next ? this.turn('next', words.next, next) : '') +
      '</nav>\n';
    const text = this.document(this.titleOf(page), {
      aside: this.contentsBeside(index),
      main: renderPageContent(this.publication, page),
      after: turn + (page.notes.hasSlot ? `<script>${slotScript}</script>\n` : ''),
    });
    return { path: page.label.page, text };
  }

  private turn(rel: string, word: string, page: NumberedPage): string {
    return `<a rel="${rel}" href="${encodeURIComponent(page.label.page)}"><span>${word}</span> ${this.titleOf(page)}</a>`;
  }

  /** A page's number and title without markup. */
  private titleOf(page: NumberedPage): string {
    return textOf(this.publication, page.label);
  }

  private cover(): string {
    const { words } = this;
    const [first] = this.pages;
    const { contentsDepth } = this.publication.design.lists;
    const contents =
      `<nav class="contents" aria-label="${words.contents}">\n<h2>${words.contents}</h2>\n` +
      `${this.contents(contentsOf(this.publication, contentsDepth))}` +
      `${this.listLinks}</nav>\n`;
    const next = first ? `<a rel="next" href="${encodeURIComponent(first.label.page)}">${words.next}</a>` : '';
    const after = `<div class="cover">\n<p class="cover-title">${this.title}</p>\n${contents}<p class="turn">${next}</p>\n</div>\n`;
    return this.document('', { aside: '', main: '', after });
  }

  private contents(entries: readonly ContentsEntry[]): string {
    const items = entries.map(
      ({ label, page, entries: below }) =>
        `<li><a href="${hrefOf(label)}">${lineOf(this.publication, label, page)}</a>${below.length > 0 ? `\n${this.contents(below)}` : ''}</li>\n`,
    );
    return `<ul>\n${items.join('')}</ul>\n`;
  }

  /** The contents beside a page: the branch that it stands in is opened. */
  private contentsBeside(index: number): string {
    const current = this.pages[index] as NumberedPage;
    const opened = new Set<NumberedPage>([current]);
    // The nearest page before it that is less deep is the one it stands under.
    for (let at = index, { depth } = current; depth > 0 && at >= 0; at -= 1) {
      const page = this.pages[at] as NumberedPage;
      if (page.depth >= depth) continue;
      opened.add(page);
      depth = page.depth;
    }
    const list = (pages: readonly NumberedPage[]): string => {
      const at = pages.findIndex((page) => opened.has(page));
      const page = pages[at];
      if (!page) return `<ul>\n${this.closedItems(pages).all}</ul>\n`;
      const here = page === current ? ' aria-current="page"' : '';
      const below = page.pages.length > 0 ? `\n${list(page.pages)}` : '';
      const item = `<li><a href="${hrefOf(page.label)}"${here}>${lineOf(this.publication, page.label, page)}</a>${below}</li>\n`;
      const { all, starts } = this.closedItems(pages);
      return `<ul>\n${all.slice(0, starts[at])}${item}${all.slice(starts[at + 1])}</ul>\n`;
    };
    return `<nav class="contents" aria-label="${this.words.contents}">\n${list(this.publication.pages)}${this.listLinks}</nav>\n`;
  }

  /** The pages of one level as items of the contents, with nothing opened, and where each begins. */
  private closedItems(pages: readonly NumberedPage[]): ClosedItems {
    let items = this.closed.get(pages);
    if (!items) {
      let all = '';
      const starts = [0];
      for (const page of pages) {
        all += `<li><a href="${hrefOf(page.label)}">${lineOf(this.publication, page.label, page)}</a></li>\n`;
        starts.push(all.length);
      }
      this.closed.set(pages, (items = { all, starts }));
    }
    return items;
  }

  private listFile({ path, title, body }: ListPage): SiteFile {
    const after = `<div class="generated">\n<h1>${escapeHtml(title)}</h1>\n${body}</div>\n`;
    const aside =
      `<nav class="contents" aria-label="${this.words.contents}">\n<ul>\n` +
      `${this.closedItems(this.publication.pages).all}</ul>\n${this.listLinks}</nav>\n`;
    return { path, text: this.document(escapeHtml(title), { aside, main: '', after }) };
  }

  /** @param title what the page is called, as HTML text; empty for the cover */
  private document(
    title: string,
    parts: { readonly aside: string; readonly main: string; readonly after: string },
  ): string {
    const header = title === '' ? '' : `<header><a href="index.html">${this.title}</a></header>\n`;
    const main = parts.main === '' ? '' : `<main>\n${parts.main}</main>\n`;
    return `<!DOCTYPE html>
<html lang="${escapeHtml(this.publication.language)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title === '' ? '' : `${title} – `}${this.title}</title>
<link rel="stylesheet" href="style.css">
</head>
<body>
${header}<div class="sheet">
${parts.aside}<div class="page">
${main}${parts.after}</div>
</div>
</body>
</html>
`;
  }
}

/** A label's number and title without markup. */
function textOf(publication: NumberedPublication, label: Label): string {
  let text = texts.get(label);
  if (text === undefined) {
    text = escapeHtml(`${headingNumber(publication, label)} ${plainText(label.title)}`.trim());
    texts.set(label, text);
  }
  return text;
}

/** A label's number and title with markup. */
function lineOf(publication: NumberedPublication, label: Label, page: NumberedPage): string {
  let line = lines.get(label);
  if (line === undefined) {
    const number = headingNumber(publication, label);
    const before = number === '' ? '' : `<span class="number">${escapeHtml(number)}</span> `;
    line = before + renderLinkText(publication, page, label.title);
    lines.set(label, line);
  }
  return line;
}

function hrefOf({ page, anchor }: Label): string {
  return encodeURIComponent(page) + (anchor === null ? '' : `#${encodeURIComponent(anchor)}`);
}

/** The generated lists that the design asks for and that have something to list. */
export function listsOf(publication: NumberedPublication): readonly ListPage[] {
  const words = outputWords(publication.language);
  const { lists } = publication.design;
  const captions = (kind: 'figure' | 'table' | 'example', path: string, title: string): readonly ListPage[] => {
    const found = captionsOf(publication, kind);
    const items = found.map(
      ({ label, page }) => `<li><a href="${hrefOf(label)}">${lineOf(publication, label, page)}</a></li>\n`,
    );
    return found.length === 0 ? [] : [{ path, title, body: `<ul class="captions">\n${items.join('')}</ul>\n` }];
  };
  const glossary = lists.glossary ? glossaryOf(publication) : [];
  const index = lists.index ? indexOf(publication) : [];
  return [
    ...(lists.figures ? captions('figure', 'list-of-figures.html', words.figures) : []),
    ...(lists.tables ? captions('table', 'list-of-tables.html', words.tables) : []),
    ...(lists.examples ? captions('example', 'list-of-examples.html', words.examples) : []),
    ...(glossary.length === 0
      ? []
      : [{ path: 'glossary.html', title: words.glossary, body: glossaryList(publication, glossary) }]),
    ...(index.length === 0
      ? []
      : [
          {
            path: 'index-of-terms.html',
            title: words.index,
            body: index
              .map(
                ({ letter, entries }) =>
                  `<section class="letter">\n<h2>${escapeHtml(letter === '' ? words.symbols : letter)}</h2>\n${indexList(publication, entries)}</section>\n`,
              )
              .join(''),
          },
        ]),
  ];
}

function glossaryList(publication: NumberedPublication, entries: readonly GlossaryEntry[]): string {
  const items = entries.map((entry) => {
    const { term, definition, page, heading, component, placements } = entry;
    const blocks = renderBlocks(publication, page, definition, { component, placements });
    return `<dt>${escapeHtml(term)}</dt>\n<dd>${blocks}<p class="source"><a href="${hrefOf(heading)}">${textOf(publication, heading)}</a></p>\n</dd>\n`;
  });
  return `<dl>\n${items.join('')}</dl>\n`;
}

function indexList(publication: NumberedPublication, entries: readonly IndexEntry[]): string {
  const words = outputWords(publication.language);
  const items = entries.map(({ heading, locators, see, seeAlso, entries: below }) => {
    const places = locators.map(({ page, heading: at, anchor }) => {
      const href = anchor === null ? hrefOf(at) : `${encodeURIComponent(page.label.page)}#${anchor}`;
      return `<a href="${href}">${textOf(publication, at)}</a>`;
    });
    const others = [
      ...(see.length > 0 ? [`<i>${words.see}</i> ${escapeHtml(see.join('; '))}`] : []),
      ...(seeAlso.length > 0 ? [`<i>${words.seeAlso}</i> ${escapeHtml(seeAlso.join('; '))}`] : []),
    ];
    const rest = [...places, ...others].join(', ');
    return `<li><span>${escapeHtml(heading)}</span>${rest === '' ? '' : `, ${rest}`}${below.length > 0 ? `\n${indexList(publication, below)}` : ''}</li>\n`;
  });
  return `<ul>\n${items.join('')}</ul>\n`;
}
