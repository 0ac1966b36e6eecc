import { epub } from './epub/epub.js';
import { isFormat, type FormatName } from './format-facts.js';
import type { Format } from './format.js';
import { markdown } from './markdown/markdown.js';
import { word } from './paged/word.js';
import { singlePage } from './page/single-page.js';
import { pdf } from './paged/pdf.js';
import { web } from './web/web.js';

const formats: Readonly<Record<FormatName, Format>> = { html: web, page: singlePage, pdf, epub, docx: word, markdown };

/** The formats of a recipe; names that no format has any more are passed over. */
export function formatsOf(names: readonly string[]): readonly Format[] {
  return names.filter(isFormat).map((name) => formats[name]);
}
