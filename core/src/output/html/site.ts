import { flattenPages, type Label, type NumberedPage, type NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { outputWords } from '../words.js';
import { escapeHtml } from './escape.js';
import { headingNumber, renderInline, renderPageContent } from './render-page.js';
import { siteStyle } from './site-style.js';

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
 * Renders a publication as a small site: an index with the contents, one page a topic, a style sheet.
 * It needs no server. Content stands in `<main>`; everything else stands outside it.
 */
export function renderSite(publication: NumberedPublication): readonly SiteFile[] {
  const pages = flattenPages(publication.pages);
  return [
    { path: 'index.html', text: indexPage(publication, pages) },
    ...pages.map((page, index) => ({
      path: page.label.page,
      text: sitePage(publication, page, pages[index - 1], pages[index + 1]),
    })),
    { path: 'style.css', text: siteStyle(publication.design) },
  ];
}

function indexPage(publication: NumberedPublication, pages: readonly NumberedPage[]): string {
  const title = plainText(publication.title);
  const words = outputWords(publication.language);
  const [first] = pages;
  const contents = `<nav class="contents" aria-label="${words.contents}">\n<h2>${words.contents}</h2>\n${contentsList(publication, publication.pages, null)}</nav>\n`;
  const next = first ? `<a rel="next" href="${encodeURIComponent(first.label.page)}">${words.next}</a>` : '';
  return document(publication, title, {
    aside: '',
    header: '',
    main: '',
    after: `<div class="cover">\n<p class="cover-title">${escapeHtml(title)}</p>\n${contents}<p class="turn">${next}</p>\n</div>\n`,
  });
}

function sitePage(
  publication: NumberedPublication,
  page: NumberedPage,
  previous: NumberedPage | undefined,
  next: NumberedPage | undefined,
): string {
  const words = outputWords(publication.language);
  const number = headingNumber(publication, page.label);
  const title = `${number === '' ? '' : `${number} `}${plainText(page.label.title)} – ${plainText(publication.title)}`;
  const turn =
    `<nav class="turn" aria-label="${words.previous}, ${words.next}">` +
    (previous
      ? `<a rel="prev" href="${encodeURIComponent(previous.label.page)}"><span>${words.previous}</span> ${shortTitle(publication, previous.label)}</a>`
      : '') +
    (next
      ? `<a rel="next" href="${encodeURIComponent(next.label.page)}"><span>${words.next}</span> ${shortTitle(publication, next.label)}</a>`
      : '') +
    '</nav>\n';
  return document(publication, title, {
    header: `<header><a href="index.html">${escapeHtml(plainText(publication.title))}</a></header>\n`,
    aside: `<nav class="contents" aria-label="${words.contents}">\n${contentsList(publication, publication.pages, page)}</nav>\n`,
    main: renderPageContent(publication, page),
    after: turn,
  });
}

function shortTitle(publication: NumberedPublication, label: Label): string {
  return escapeHtml(`${headingNumber(publication, label)} ${plainText(label.title)}`.trim());
}

/** The contents as nested lists; beside a page, only the branch that the page stands in is opened. */
function contentsList(
  publication: NumberedPublication,
  pages: readonly NumberedPage[],
  current: NumberedPage | null,
): string {
  const items = pages.map((page) => {
    const number = headingNumber(publication, page.label);
    const here = page === current ? ' aria-current="page"' : '';
    const opened = current === null || page === current || flattenPages(page.pages).includes(current);
    const below = opened && page.pages.length > 0 ? `\n${contentsList(publication, page.pages, current)}` : '';
    const text = `${number === '' ? '' : `<span class="number">${escapeHtml(number)}</span> `}${renderInline(publication, page, page.label.title)}`;
    return `<li><a href="${encodeURIComponent(page.label.page)}"${here}>${text}</a>${below}</li>\n`;
  });
  return `<ul>\n${items.join('')}</ul>\n`;
}

function document(
  publication: NumberedPublication,
  title: string,
  parts: { readonly header: string; readonly aside: string; readonly main: string; readonly after: string },
): string {
  const main = parts.main === '' ? '' : `<main>\n${parts.main}</main>\n`;
  return `<!DOCTYPE html>
<html lang="${escapeHtml(publication.language)}">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${escapeHtml(title)}</title>
<link rel="stylesheet" href="style.css">
</head>
<body>
${parts.header}<div class="sheet">
${parts.aside}<div class="page">
${main}${parts.after}</div>
</div>
</body>
</html>
`;
}
