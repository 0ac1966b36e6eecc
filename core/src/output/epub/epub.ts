import { contentsOf, type ContentsEntry } from '../../number/contents.js';
import { flattenPages, type NumberedPage, type NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { digestOf } from '../../model/digest.js';
import { fileNameFor, imageFileName, recordingFileName } from '../file-names.js';
import { formatFacts } from '../format-facts.js';
import type { FontFile, Format, FormatFile, Picture, Rendition } from '../format.js';
import { element, escapeHtml, startTag, xmlCharacters, xmlSyntax, type Attributes } from '../markup.js';
import { ownPages } from '../web/addresses.js';
import { labelLine, listPages, type ListPage } from '../web/lists.js';
import type { PageForm, PagePlace } from '../web/page-form.js';
import { PageWriter } from '../web/page-writer.js';
import { directionOf, wordsOf, type OutputWords } from '../words.js';
import { coverMarkup, coverPictures } from '../web/cover-markup.js';
import { writtenIn, webFonts } from '../looks/web-fonts.js';
import { shownOn } from '../shown-files.js';
import { hasFormulas } from '../write-formula.js';
import { bookStyle } from './style.js';

/** A book for reading devices (EPUB 3.3): a file a topic, with the navigation that readers know. */
export const epub: Format = {
  ...formatFacts.epub,
  capabilities: {
    pageNumbers: false,
    allCandidates: false,
    playsRecordings: false,
    // Films may be of any kind; of sounds these are for all reading devices (EPUB 3.3, 3.2 and 3.4).
    carriesRecording: (type) => type.startsWith('video/') || type === 'audio/mpeg' || type === 'audio/mp4',
    relativeAddresses: false,
    hasLooks: true,
  },
  version: 4,
  render: (publication) => new Book(publication).render(),
};

const ownFiles = { ...ownPages, start: 'title-page', nav: 'nav' } as const;
const taken: ReadonlySet<string> = new Set(Object.values(ownFiles));

const pageFile = (name: string): string => `${fileNameFor(name, taken)}.xhtml`;

const form: PageForm = {
  capabilities: epub.capabilities,
  address: ({ page, anchor }: PagePlace) =>
    encodeURIComponent(pageFile(page)) + (anchor === null ? '' : `#${encodeURIComponent(anchor)}`),
  picture: imageFileName,
  recording: recordingFileName,
  id: (_page, anchor) => anchor,
  level: () => 1,
  noteCall: { 'epub:type': 'noteref', role: 'doc-noteref' },
  note: { 'epub:type': 'footnote', role: 'doc-footnote' },
};

const xhtml = 'application/xhtml+xml';

/** What a list or a page is, by the vocabulary of the standard (EPUB 3 Structural Semantics Vocabulary). */
const listTypes: Readonly<Record<ListPage['name'], { readonly type: string; readonly role?: string }>> = {
  figures: { type: 'loi' },
  tables: { type: 'lot' },
  examples: { type: 'toc' },
  glossary: { type: 'glossary', role: 'doc-glossary' },
  index: { type: 'index', role: 'doc-index' },
};

/** One resource of the book, as its package names it. */
interface Item {
  readonly href: string;
  readonly mediaType: string;
  readonly properties?: string;
}

class Book {
  private readonly words: OutputWords;
  private readonly title: string;
  private readonly pages: readonly NumberedPage[];
  private readonly lists: readonly ListPage[];

  constructor(private readonly publication: NumberedPublication) {
    this.words = wordsOf(publication);
    this.title = plainText(publication.title, this.words);
    this.pages = flattenPages(publication.pages);
    this.lists = listPages(publication, form);
  }

  render(): Rendition {
    const texts = [
      this.file(`${ownFiles.start}.xhtml`, this.titlePage(), this.coverPictures()),
      this.file(`${ownFiles.nav}.xhtml`, this.navigation()),
      ...this.pages.map((page) => this.page(page)),
      ...this.lists.map((list) => this.file(`${ownFiles[list.name]}.xhtml`, this.list(list))),
    ];
    const { design } = this.publication;
    const fonts = webFonts(design, writtenIn(texts));
    const style = { path: 'style.css', mediaType: 'text/css', text: bookStyle(design, fonts.css), pictures: [] };
    const all = [...texts, style];
    return { files: [...all, this.packageFile(all, fonts.files)], fonts: fonts.files };
  }

  private file(path: string, text: string, pictures: readonly Picture[] = []): FormatFile {
    return { path, mediaType: xhtml, text, pictures };
  }

  private page(page: NumberedPage): FormatFile {
    const content = new PageWriter(this.publication, page, form).content();
    const { kind } = page.label;
    const type =
      page.depth > 0
        ? 'subchapter'
        : page.matter === 'back'
          ? 'afterword'
          : ({ front: 'preface', appendix: 'appendix' }[kind as string] ?? 'chapter');
    const role = {
      preface: 'doc-preface',
      afterword: 'doc-afterword',
      appendix: 'doc-appendix',
      chapter: 'doc-chapter',
    }[type];
    const body = element('section', { 'epub:type': type, role: role ?? null }, `\n${content}`);
    const title = plainText(page.label.title, this.words) || this.title;
    return { ...this.file(pageFile(page.name), this.document(title, body)), ...shownOn(page, epub.capabilities) };
  }

  private titlePage(): string {
    const inner = `\n${coverMarkup(this.publication, form)}`;
    return this.document(this.title, element('section', { 'epub:type': 'titlepage' }, inner));
  }

  private coverPictures(): readonly Picture[] {
    return coverPictures(this.publication).map((file) => ({ path: imageFileName(file), file }));
  }

  private list({ name, title, body }: ListPage): string {
    const { type, role } = listTypes[name];
    const inner = `\n${element('h1', undefined, escapeHtml(title))}\n${body}`;
    return this.document(
      title,
      element('section', { class: 'generated', 'epub:type': type, role: role ?? null }, inner),
    );
  }

  /** The navigation document (EPUB 3.3, section 7). */
  private navigation(): string {
    const { words } = this;
    const link = (href: string, text: string, attrs: Attributes = {}): string =>
      `<li>${element('a', { ...attrs, href }, text)}</li>\n`;
    const contents = this.contents(
      contentsOf(this.publication, Math.max(1, this.publication.design.lists.contentsDepth)),
    );
    const lists = this.lists.map(({ name, title }) => link(`${ownFiles[name]}.xhtml`, escapeHtml(title))).join('');
    const toc = element(
      'nav',
      { 'epub:type': 'toc', role: 'doc-toc', id: 'toc' },
      `\n${element('h1', undefined, words.contents)}\n<ol>\n${contents}${lists}</ol>\n`,
    );
    const [first] = this.pages;
    const marks = [
      link(`${ownFiles.start}.xhtml`, escapeHtml(this.title), { 'epub:type': 'titlepage' }),
      link('#toc', words.contents, { 'epub:type': 'toc' }),
      first ? link(form.address(first.label), words.start, { 'epub:type': 'bodymatter' }) : '',
    ];
    const landmarks = element(
      'nav',
      { 'epub:type': 'landmarks', 'aria-label': words.landmarks, hidden: true },
      `\n<ol>\n${marks.join('')}</ol>\n`,
    );
    return this.document(words.contents, `${toc}\n${landmarks}`);
  }

  private contents(entries: readonly ContentsEntry[]): string {
    return entries
      .map(({ label, page, entries: below }) => {
        const line = labelLine(this.publication, label, page, form);
        const link = element('a', { href: form.address(label) }, line === '' ? escapeHtml(this.title) : line);
        return `<li>${link}${below.length > 0 ? `\n<ol>\n${this.contents(below)}</ol>\n` : ''}</li>\n`;
      })
      .join('');
  }

  private document(title: string, body: string): string {
    const { language } = this.publication.facts;
    const lang = escapeHtml(language);
    return xmlSyntax(`<?xml version="1.0" encoding="UTF-8"?>
<!DOCTYPE html>
<html xmlns="http://www.w3.org/1999/xhtml" xmlns:epub="http://www.idpf.org/2007/ops" lang="${lang}" xml:lang="${lang}" dir="${directionOf(language)}">
<head>
<meta charset="utf-8">
<title>${escapeHtml(title)}</title>
<link rel="stylesheet" type="text/css" href="style.css">
</head>
<body>
${body}
</body>
</html>
`);
  }

  /** The package document (EPUB 3.3, section 5). When it was made stands in the packed book only. */
  private packageFile(files: readonly FormatFile[], fonts: readonly FontFile[]): FormatFile {
    const { facts } = this.publication;
    const typesOf = (files: readonly { readonly path: string; readonly file: { readonly mediaType: string } }[]) =>
      files.map(({ path, file: { mediaType } }) => [path, mediaType] as const);
    const pictures = new Map(files.flatMap((file) => typesOf(file.pictures)));
    const shown = new Map([...pictures, ...files.flatMap((file) => typesOf(file.recordings ?? []))]);
    const items: readonly Item[] = [
      ...files.map(({ path, mediaType, text }): Item => {
        const isNavigation = path === `${ownFiles.nav}.xhtml`;
        const properties = [...(isNavigation ? ['nav'] : []), ...(hasFormulas(text) ? ['mathml'] : [])];
        return {
          href: encodeURIComponent(path),
          mediaType,
          ...(properties.length > 0 ? { properties: properties.join(' ') } : {}),
        };
      }),
      ...[...shown].map(([href, mediaType]): Item => ({ href, mediaType })),
      ...fonts.map((font): Item => {
        const own = font.path.endsWith('.ttf') ? 'font/ttf' : 'font/woff2';
        return { href: font.path, mediaType: 'file' in font ? font.file.mediaType : own };
      }),
    ];
    const manifest = items.map(({ href, mediaType, properties }, at) =>
      startTag('item', { id: `i${at}`, href, 'media-type': mediaType, properties }).replace(/>$/, '/>'),
    );
    const spine = files.flatMap(({ mediaType }, at) => (mediaType === xhtml ? [`<itemref idref="i${at}"/>`] : []));
    const hasPictures = pictures.size > 0;
    const meta = (property: string, value: string): string => element('meta', { property }, escapeHtml(value));
    const lines = [
      element(
        'dc:identifier',
        { id: 'id' },
        `urn:uuid:${uuidOf(JSON.stringify([facts.key, facts.variantTitle, facts.language]))}`,
      ),
      element('dc:title', undefined, escapeHtml(this.title || facts.key)),
      element('dc:language', undefined, escapeHtml(facts.language)),
      element('dc:description', undefined, escapeHtml(facts.variantTitle)),
      modifiedPlaceholder,
      meta('schema:accessMode', 'textual'),
      ...(hasPictures ? [meta('schema:accessMode', 'visual')] : []),
      meta('schema:accessModeSufficient', hasPictures ? 'textual,visual' : 'textual'),
      meta('schema:accessibilityFeature', 'structuralNavigation'),
      meta('schema:accessibilityFeature', 'tableOfContents'),
      ...(hasPictures ? [meta('schema:accessibilityFeature', 'alternativeText')] : []),
      ...(files.some(({ text }) => hasFormulas(text)) ? [meta('schema:accessibilityFeature', 'MathML')] : []),
      meta('schema:accessibilityHazard', 'none'),
      meta('schema:accessibilitySummary', this.words.accessibility),
    ];
    const text = xmlCharacters(`<?xml version="1.0" encoding="UTF-8"?>
<package xmlns="http://www.idpf.org/2007/opf" version="3.0" unique-identifier="id" xml:lang="${escapeHtml(facts.language)}">
<metadata xmlns:dc="http://purl.org/dc/elements/1.1/">
${lines.join('\n')}
</metadata>
<manifest>
${manifest.join('\n')}
</manifest>
<spine>
${spine.join('\n')}
</spine>
</package>
`);
    return { path: packagePath, mediaType: 'application/oebps-package+xml', text, pictures: [] };
  }
}

/** The file of the package, and what whoever packs the book replaces by the time of the build. */
export const packagePath = 'package.opf';
export const modifiedPlaceholder = '<!-- modified -->';

/** A name of a publication in a variant that stays: a UUID from its digest (RFC 9562, section 5.8). */
function uuidOf(text: string): string {
  const hex = digestOf(text).padEnd(32, '0').slice(0, 32);
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-8${hex.slice(13, 16)}-8${hex.slice(17, 20)}-${hex.slice(20)}`;
}
