import { isLeftOut, type AssembledNode } from '../../model/node.js';
import { picturesOn, type NumberedPage, type NumberedPublication } from '../../number/numbered.js';
import { passageAnchor } from '../../origin/occurrences.js';
import { imageFileName } from '../file-names.js';
import type { Rendition } from '../format.js';
import { writtenIn, webFonts } from '../looks/web-fonts.js';
import { startTag, type Attributes } from '../markup.js';
import { directionOf } from '../words.js';
import { pageFile } from './addresses.js';
import { siteForm, type PageForm } from './page-form.js';
import { PageWriter } from './page-writer.js';
import { siteStyle } from './style.js';

/** A page of the site whose passages tell their names, and that they are left out where they are only shown. */
const form: PageForm = {
  ...siteForm,
  // It is one page by itself.
  capabilities: { ...siteForm.capabilities, carriesRecording: () => false },
  tell: (node: AssembledNode, placements): Attributes => ({
    'data-passage': passageAnchor(placements, node),
    // What is placed has no tag of its own; what is in it says the same.
    'data-left-out': isLeftOut(node) && node.type !== 'placed' ? '' : null,
  }),
};

/** How passages look that can be asked for, one that was asked for, and what is left out. */
const originStyle = `
.page{margin:0 auto}
[data-passage]{cursor:pointer}
[data-passage]:hover:not(:has([data-passage]:hover)){box-shadow:0 0 0 3px color-mix(in srgb,var(--accent) 22%,transparent);border-radius:2px}
[data-passage]:focus{outline:2px solid var(--accent);outline-offset:2px}
[data-passage][aria-current]{box-shadow:0 0 0 3px color-mix(in srgb,var(--accent) 60%,transparent);border-radius:2px;background:color-mix(in srgb,var(--accent) 9%,transparent)}
[data-left-out]{color:var(--soft);background:repeating-linear-gradient(135deg,transparent 0 7px,color-mix(in srgb,var(--soft) 16%,transparent) 7px 8px);border-radius:2px}
:is(p,div,section,ul,ol,dl,li,table,figure,pre,blockquote)[data-left-out]{border-inline-start:3px dotted var(--soft);padding-inline-start:.7rem}
span[data-left-out]{border-bottom:2px dotted var(--soft);padding:0 .1em}
li[data-left-out]{counter-increment:list-item 0!important;list-style:none}ol.steps>li[data-left-out]::before{content:none}
`;

/**
 * A page of a deliverable for asking where its passages come from: the page as its site has it, whose blocks say their
 * names on the page.
 */
export function originPage(publication: NumberedPublication, page: NumberedPage): Rendition {
  const { facts, design } = publication;
  const content = new PageWriter(publication, page, form).content();
  const body = `<body>\n<div class="page">\n<article>\n${content}</article>\n</div>\n</body>\n`;
  const fonts = webFonts(design, writtenIn([{ path: '', mediaType: '', text: body, pictures: [] }]));
  const text = `<!DOCTYPE html>
${startTag('html', { lang: facts.language, dir: directionOf(facts.language) })}
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<title>.</title>
<style>${siteStyle(design, fonts.css)}${originStyle}</style>
</head>
${body}</html>
`;
  const pictures = picturesOn(page).map((file) => ({ path: imageFileName(file), file }));
  return {
    files: [{ path: pageFile(page.name), mediaType: 'text/html; charset=utf-8', text, pictures }],
    fonts: fonts.files,
  };
}
