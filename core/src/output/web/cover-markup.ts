import type { ImageFile } from '../../model/component.js';
import { flattenPages, picturesIn, type NumberedPublication } from '../../number/numbered.js';
import { coverTexts } from '../looks/cover.js';
import { element, escapeHtml, startTag } from '../markup.js';
import type { PageForm } from './page-form.js';
import { PageWriter } from './page-writer.js';

/** What stands on the cover as HTML, in every format whose pages are HTML. */
export function coverMarkup(publication: NumberedPublication, form: PageForm): string {
  const { over, title, under, foot } = coverTexts(publication);
  const { pictures, snippets } = publication.look;
  const line = (name: string, text: string): string =>
    text === '' ? '' : `${element('p', { class: name }, escapeHtml(text))}\n`;
  const heading = `${element('h1', { class: 'cover-title' }, escapeHtml(title))}\n`;
  const picture = pictures.get('cover.picture');
  const image = picture
    ? `${element('div', undefined, startTag('img', { class: 'cover-picture', src: form.picture(picture.file), alt: picture.alt }))}\n`
    : '';
  const snippet = snippets.get('cover.snippet');
  // Where there is no page, there is nobody to write it.
  const [first] = flattenPages(publication.pages);
  const blocks =
    first && snippet
      ? new PageWriter(publication, first, form).blocksElsewhere(snippet.blocks, { ...snippet, placements: [] })
      : '';
  return `${line('over', over)}${heading}${line('variant', under)}${image}${blocks}${line('over', foot)}`;
}

/** The files of the pictures on the cover. */
export function coverPictures({ look }: NumberedPublication): readonly ImageFile[] {
  const picture = look.pictures.get('cover.picture');
  return [...(picture ? [picture.file] : []), ...picturesIn(look.snippets.get('cover.snippet')?.blocks ?? [])];
}
