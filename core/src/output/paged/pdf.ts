import { formatFacts } from '../format-facts.js';
import type { Format } from '../format.js';
import { capabilities } from './capabilities.js';
import { documentFile } from './document-text.js';
import { template } from './template.js';

/** A printed book: the template of all books, and the publication as data for it. */
export const pdf: Format = {
  ...formatFacts.pdf,
  capabilities,
  version: 1,
  render: (publication) => ({
    files: [
      { path: 'main.typ', mediaType: 'text/plain; charset=utf-8', text: template, pictures: [] },
      documentFile(publication),
    ],
    fonts: [],
  }),
};
