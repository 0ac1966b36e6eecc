import type { ImageFile } from '../../model/component.js';
import type { AssembledNode } from '../../model/node.js';
import { contentsOf, type ContentsEntry } from '../../number/contents.js';
import {
  flattenPages,
  type NumberedPage,
  type NumberedPublication,
  type ResolvedReference,
} from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { imageFileName } from '../file-names.js';
import { shownOn } from '../shown-files.js';
import { formatFacts } from '../format-facts.js';
import type { Format, FormatFile, Rendition } from '../format.js';
import { digestOf } from '../../model/digest.js';
import { headingKey, headingNumber, referenceText } from '../labels.js';
import { lookText } from '../looks/cover.js';
import { writtenIn, webFonts } from '../looks/web-fonts.js';
import { element, escapeHtml, startTag } from '../markup.js';
import { directionOf, wordsOf, type OutputWords } from '../words.js';
import { addressOf, listFile, pageFile } from './addresses.js';
import { capabilities } from './capabilities.js';
import { coverMarkup, coverPictures } from './cover-markup.js';
import { ContentsBeside } from './contents-beside.js';
import { labelLine, labelText, listPages, type ListPage } from './lists.js';
import { siteForm } from './page-form.js';
import { PageWriter } from './page-writer.js';
import { isAlike, type PageHead } from './per-page.js';
import { searchFile, searchText } from './search.js';
import { glossaryFile, glossaryText, othersFile, othersText, siteDataFile, siteDataText } from './site-data.js';
import { siteStyle } from './style.js';

/** A small site that needs no server: a page a topic, contents, generated lists, a style sheet. */
export const web: Format = {
  ...formatFacts.html,
  capabilities,
  version: 8,
  render: (publication) => new Site(publication).render(),
};

const htmlType = 'text/html; charset=utf-8';
const scriptType = 'text/javascript; charset=utf-8';

/** What a page may do wherever it lies: nothing but show and run what lies beside it (Content Security Policy Level 3). */
const policy =
  "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self'; font-src 'self'; media-src 'self' https:; base-uri 'none'; form-action 'none'";

/** A script that follows from the pages, made when it is read: whoever compares sites does not need it. */
function derived(path: string, write: () => string): FormatFile {
  let text: string | undefined;
  // What it is made from is let go of then.
  let make: (() => string) | undefined = write;
  return {
    path,
    mediaType: scriptType,
    isDerived: true,
    pictures: [],
    get text() {
      text ??= make?.() ?? '';
      make = undefined;
      return text;
    },
  };
}

/** By the first page of a site: all its pages, and what followed from them. */
const lastDerived = new WeakMap<
  FormatFile,
  { readonly pages: readonly FormatFile[]; readonly files: readonly FormatFile[] }
>();

/** What was made of a page's blocks: their HTML by the numbers and references in it, and files by what stands around it. */
interface MadePage {
  readonly contents: Map<string, string>;
  readonly files: Map<string, FormatFile>;
  /** The file that was taken last, of a page that shows nothing of others, with what it shows besides its blocks. */
  last: (PageHead & { readonly common: string; readonly file: FormatFile }) | null;
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
  private readonly logo: string;
  private readonly headerText: string;
  private readonly footer: string;
  private readonly lines = new Map<NumberedPage, string>();
  /** Names what the content of all pages depends on, and what stands around it. */
  private readonly look: string;
  private readonly common: string;

  constructor(private readonly publication: NumberedPublication) {
    const { facts, design } = publication;
    this.pages = flattenPages(publication.pages);
    this.words = wordsOf(publication);
    this.title = escapeHtml(plainText(publication.title, this.words));
    this.variant = escapeHtml(facts.variantTitle);
    this.description = `${plainText(publication.title, this.words)}, ${facts.variantTitle}`;
    const [logo, header, footer] = [
      publication.look.pictures.get('web.logo'),
      lookText(publication, 'web.header'),
      lookText(publication, 'web.footer'),
    ];
    this.logo = logo
      ? startTag('img', { class: 'logo', src: imageFileName(logo.file), alt: logo.alt, height: 28 })
      : '';
    this.headerText = header === '' ? '' : ` ${element('span', { class: 'beside' }, escapeHtml(header))}`;
    this.footer = footer === '' ? '' : `${element('footer', { class: 'site-foot' }, escapeHtml(footer))}\n`;
    this.lists = listPages(publication);
    const links = this.lists.map(({ name, title }) => `<li>${element('a', { href: listFile(name) }, title)}</li>\n`);
    // As they stand below the contents.
    this.listLinks = links.length === 0 ? '' : `<ul class="lists">\n${links.join('')}</ul>\n`;
    this.contents = new ContentsBeside(publication.pages, (page) => this.line(page), this.words.more);
    this.look = digestOf(JSON.stringify([facts.language, design]));
    // Titles stand as they are in the contents, and as words beside other pages: one may change without the other.
    const way = this.pages
      .map((page) => `${page.depth} ${page.name} ${this.line(page)}\0${labelText(publication, page.label)}`)
      .join('\n');
    this.common = digestOf(
      JSON.stringify([
        this.look,
        this.logo,
        this.headerText,
        this.footer,
        this.title,
        this.variant,
        this.listLinks,
        way,
      ]),
    );
  }

  render(): Rendition {
    const file = (path: string, text: string): FormatFile => ({ path, mediaType: htmlType, text, pictures: [] });
    const { design } = this.publication;
    const pages = this.pages.map((page, at) => this.page(page, at));
    const texts = [
      this.cover(),
      file('404.html', this.nothingHere()),
      ...pages,
      ...this.lists.map((list) => file(listFile(list.name), this.listFile(list))),
    ];
    const fonts = webFonts(design, writtenIn(texts));
    const other = (path: string, mediaType: string, text: string): FormatFile => ({
      path,
      mediaType,
      text,
      pictures: [],
    });
    return {
      files: [
        ...texts,
        other('style.css', 'text/css; charset=utf-8', siteStyle(design, fonts.css)),
        ...this.derivedFrom(pages),
        other('icon.svg', 'image/svg+xml', this.icon()),
        ...this.siteMap(texts),
      ],
      fonts: fonts.files,
      script: 'site.js',
    };
  }

  /** What follows from the pages. Where all of them are the files that they were, it is as it was. */
  private derivedFrom(pages: readonly FormatFile[]): readonly FormatFile[] {
    const [first] = pages;
    const before = first && lastDerived.get(first);
    if (before?.pages.length === pages.length && before.pages.every((page, at) => page === pages[at]))
      return before.files;
    const files = [
      derived(siteDataFile, () => siteDataText(this.publication, this.look)),
      derived(othersFile, () => othersText([])),
      ...(this.hasTerms() ? [derived(glossaryFile, () => glossaryText(this.publication))] : []),
      derived(searchFile, () => searchText(this.publication, this.look)),
    ];
    if (first) lastDerived.set(first, { pages, files });
    return files;
  }

  private hasTerms(): boolean {
    return this.pages.some(({ notes }) => notes.terms.length > 0);
  }

  private page(page: NumberedPage, at: number): FormatFile {
    let made = madePages.get(page.blocks);
    if (!made) madePages.set(page.blocks, (made = { contents: new Map(), files: new Map(), last: null }));
    const { contents, files, last } = made;
    const { common } = this;
    const { name, label, labels } = page;
    const showsOthers = this.showsOthers(page);
    if (last?.common === common && isAlike(last, page) && !showsOthers) return last.file;
    const shown = this.shown(page);
    const file = remember(files, `${common} ${name}\0${shown}`, () => {
      const content = remember(contents, `${this.look} ${shown}`, () =>
        new PageWriter(this.publication, page).content(),
      );
      return this.write(page, at, content);
    });
    made.last = showsOthers ? null : { common, name, label, labels, file };
    return file;
  }

  /** Whether a page shows more than its blocks and labels, or is written otherwise for what leads there. */
  private showsOthers({ name, notes }: NumberedPage): boolean {
    return notes.references.length > 0 || notes.showsChapterTitle || this.publication.anchors.has(name);
  }

  /** All that the content of a page shows besides its blocks. */
  private shown(page: NumberedPage): string {
    const { publication } = this;
    const { notes, labels, entry } = page;
    let key = `${page.name}\0${this.line(page)}`;
    for (const label of labels) key += `\0${headingKey(publication.design, label)}`;
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
    const shown = shownOn(page, capabilities);
    const logos = this.logos().map((file) => ({ path: imageFileName(file), file }));
    const turn = this.turn(this.pages[at - 1], this.pages[at + 1]);
    const text = this.document(labelText(this.publication, page.label), {
      aside: this.navigation(this.contents.of(page)),
      crumbs: this.crumbs(page),
      main: content,
      beside: this.onThisPage(page),
      after: turn,
    });
    return { path: pageFile(page.name), mediaType: htmlType, text, ...shown, pictures: [...shown.pictures, ...logos] };
  }

  /** The sections of a page, where there are a few. */
  private onThisPage(page: NumberedPage): string {
    const writer = new PageWriter(this.publication, page);
    const items = page.notes.landmarks.flatMap(({ kind, depth, aside }, at) => {
      const label = page.labels[at];
      if (kind !== 'section' || depth > 1 || aside || !label) return [];
      const number = headingNumber(this.publication.design, label);
      const before = number === '' ? '' : `${element('span', { class: 'number' }, escapeHtml(number))} `;
      const href = addressOf({ page: page.name, anchor: label.anchor }).replace(/^[^#]*/, '');
      const link = element('a', { href }, before + writer.linkText(label.title));
      return [`${element('li', { class: depth === 1 ? 'deeper' : null }, link)}\n`];
    });
    if (items.length < 2) return '';
    const { onThisPage } = this.words;
    const heading = `${element('p', { class: 'name', 'aria-hidden': 'true' }, onThisPage)}\n`;
    return `${element('nav', { class: 'on-page', 'aria-label': onThisPage }, `\n${heading}<ul>\n${items.join('')}</ul>\n`)}\n`;
  }

  /** The way down to a page that stands below others. */
  private crumbs(page: NumberedPage): string {
    const above = this.contents.above(page);
    if (above.length === 0) return '';
    const links = above.map((each) => element('a', { href: addressOf(each.label) }, this.line(each)));
    return `${element('nav', { class: 'crumbs', 'aria-label': this.words.way }, links.join(' › '))}\n`;
  }

  /** The first letter of the title, on the accent. */
  private icon(): string {
    const letter = escapeHtml([...plainText(this.publication.title, this.words)][0]?.toUpperCase() ?? '');
    const { accent } = this.publication.design.colours;
    const text = `<text x="16" y="23" font-family="sans-serif" font-weight="700" font-size="20" text-anchor="middle" fill="#fff">${letter}</text>`;
    return `<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 32 32"><rect width="32" height="32" rx="6" fill="${accent}"/>${text}</svg>`;
  }

  /** Where each page is (Sitemaps 0.90), where the design says where the site stands. */
  private siteMap(files: readonly FormatFile[]): readonly FormatFile[] {
    const { address } = this.publication.design.web;
    if (address === '') return [];
    const base = address.endsWith('/') ? address : `${address}/`;
    const urls = files
      .filter(({ path }) => path !== '404.html')
      .map(({ path }) => `<url><loc>${escapeHtml(new URL(encodeURIComponent(path), base).href)}</loc></url>\n`);
    const text = `<?xml version="1.0" encoding="UTF-8"?>\n<urlset xmlns="http://www.sitemaps.org/schemas/sitemap/0.9">\n${urls.join('')}</urlset>\n`;
    return [{ path: 'sitemap.xml', mediaType: 'application/xml', text, pictures: [] }];
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

  private cover(): FormatFile {
    const { words, publication } = this;
    const [first] = this.pages;
    const { contentsDepth } = publication.design.lists;
    const list = this.contentsList(contentsOf(publication, contentsDepth));
    const contents = this.navigation(`${element('h2', undefined, words.contents)}\n${list}`);
    const next = first ? element('a', { rel: 'next', href: addressOf(first.label) }, words.next) : '';
    const main = `<div class="cover">\n${coverMarkup(publication, siteForm)}${contents}<p class="turn">${next}</p>\n</div>\n`;
    return {
      path: web.start,
      mediaType: htmlType,
      text: this.document('', { aside: '', main, isGenerated: true, after: '' }),
      pictures: [...coverPictures(publication), ...this.logos()].map((file) => ({ path: imageFileName(file), file })),
    };
  }

  private logos(): readonly ImageFile[] {
    const logo = this.publication.look.pictures.get('web.logo');
    return logo ? [logo.file] : [];
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
    parts: {
      readonly aside: string;
      readonly crumbs?: string;
      readonly main: string;
      readonly isGenerated?: true;
      readonly after: string;
      readonly beside?: string;
    },
  ): string {
    const { language } = this.publication.facts;
    const variant = element('span', { class: 'variant' }, this.variant);
    const header =
      title === ''
        ? ''
        : `<header>${this.logo}<a href="${web.start}">${this.title}</a> ${variant}${this.headerText}</header>\n`;
    const mainTag = startTag('main', { id: '_content', class: parts.isGenerated ? 'generated' : null });
    return `<!DOCTYPE html>
${startTag('html', { lang: language, dir: directionOf(language) })}
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
${startTag('meta', { 'http-equiv': 'Content-Security-Policy', content: policy })}
<title>${title === '' ? '' : `${title} – `}${this.title}</title>
${startTag('meta', { name: 'description', content: this.description })}
<link rel="icon" href="icon.svg">
<link rel="stylesheet" href="style.css">
<script src="${siteDataFile}" defer></script>
<script src="${othersFile}" defer></script>
<script src="site.js" defer></script>
</head>
<body>
<a class="skip" href="#_content">${this.words.skip}</a>
${header}<div class="sheet">
${parts.aside}<div class="page">
${parts.crumbs ?? ''}${mainTag}
${parts.main}</main>
${parts.after}</div>
${parts.beside ?? ''}</div>
${this.footer}</body>
</html>
`;
  }
}
