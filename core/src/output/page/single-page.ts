import { contentsOf, type ContentsEntry } from '../../number/contents.js';
import { flattenPages, picturesOn, type NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { imageFileName, recordingFileName } from '../file-names.js';
import { formatFacts } from '../format-facts.js';
import type { Capabilities, Format, Rendition } from '../format.js';
import { lookText } from '../looks/cover.js';
import { writtenIn, familyList, webFonts } from '../looks/web-fonts.js';
import { element, escapeHtml, startTag } from '../markup.js';
import { ownPages, pageFile } from '../web/addresses.js';
import { coverMarkup, coverPictures } from '../web/cover-markup.js';
import { labelLine, listPages } from '../web/lists.js';
import type { PageForm } from '../web/page-form.js';
import { PageWriter } from '../web/page-writer.js';
import { siteStyle } from '../web/style.js';
import { directionOf, wordsOf } from '../words.js';

/** One page that holds a whole publication with all that it shows, for mailing. It needs no script. */
export const singlePage: Format = {
  ...formatFacts.page,
  capabilities: {
    pageNumbers: false,
    allCandidates: false,
    playsRecordings: true,
    carriesRecording: () => false,
    relativeAddresses: false,
    hasLooks: true,
  },
  version: 4,
  render,
};

const capabilities: Capabilities = singlePage.capabilities;

/** Pages of a site become parts of one page; the names of their files tell their places apart. */
function partId(page: string): string {
  return pageFile(page).replace(/\.html$/, '');
}

const form: PageForm = {
  capabilities,
  address: ({ page, anchor }) => `#${encodeURIComponent(anchor === null ? partId(page) : form.id(page, anchor))}`,
  picture: imageFileName,
  recording: recordingFileName,
  // No file has a dot before its ending: two names never come to one.
  id: (page, anchor) => `${partId(page)}.${anchor}`,
  // The publication's title is the first heading.
  level: (depth) => depth + 2,
  wide: { tabindex: 0 },
};

/** @param labels the families of labels */
const ownStyle = (labels: string): string => `
.whole{max-width:52rem;margin:0 auto;padding:2.5rem 2rem 5rem}
.whole>.contents{position:static;max-height:none;padding:1rem 0 2rem;columns:2 18rem}
.whole>.variant{color:var(--soft);font:1.05rem/1.4 ${labels};margin:0 0 2rem}
.whole>.part{border-top:1px solid var(--line);margin-top:2.5rem;padding-top:.5rem}
@media (max-width:40rem){.whole{padding:1.25rem}}
`;

function render(publication: NumberedPublication): Rendition {
  const { facts, design } = publication;
  const words = wordsOf(publication);
  const title = escapeHtml(plainText(publication.title, words));
  const pages = flattenPages(publication.pages);
  const parts = pages.map((page) => {
    const content = new PageWriter(publication, page, form).content();
    return `${element('section', { class: 'part', id: partId(page.name) }, `\n${content}`)}\n`;
  });
  const lists = listPages(publication, form).map(({ name, title: heading, body }) => {
    const inner = `\n${element('h2', undefined, escapeHtml(heading))}\n${body}`;
    return `${element('section', { class: 'part generated', id: ownPages[name] }, inner)}\n`;
  });
  const contents = list(publication, contentsOf(publication, design.lists.contentsDepth));
  const nav = `${element('nav', { class: 'contents', 'aria-label': words.contents }, `\n${contents}`)}\n`;
  const footer = lookText(publication, 'web.footer');
  const body = `<body>
<main class="whole">
${coverMarkup(publication, form)}${nav}${parts.join('')}${lists.join('')}</main>
${footer === '' ? '' : `${element('footer', { class: 'site-foot' }, escapeHtml(footer))}\n`}</body>
`;
  const fonts = webFonts(design, writtenIn([{ path: '', mediaType: '', text: body, pictures: [] }]));
  const text = `<!DOCTYPE html>
${startTag('html', { lang: facts.language, dir: directionOf(facts.language) })}
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>${title}</title>
<style>${siteStyle(design, fonts.css)}${ownStyle(familyList(design, design.type.labels))}</style>
</head>
${body}</html>
`;
  const shown = [...pages.flatMap((page) => picturesOn(page)), ...coverPictures(publication)];
  const files = new Map(shown.map((file) => [file.digest, file]));
  const pictures = [...files.values()].map((file) => ({ path: imageFileName(file), file }));
  return {
    files: [{ path: singlePage.start, mediaType: 'text/html; charset=utf-8', text, pictures }],
    fonts: fonts.files,
  };
}

function list(publication: NumberedPublication, entries: readonly ContentsEntry[]): string {
  if (entries.length === 0) return '';
  const items = entries.map(({ label, page, entries: below }) => {
    const link = element('a', { href: form.address(label) }, labelLine(publication, label, page, form));
    return `<li>${link}${below.length > 0 ? `\n${list(publication, below)}` : ''}</li>\n`;
  });
  return `<ul>\n${items.join('')}</ul>\n`;
}
