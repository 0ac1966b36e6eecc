import { formatFacts } from '../format-facts.js';
import type { Format } from '../format.js';
import { capabilities } from './capabilities.js';
import { uploadedFonts } from '../looks/web-fonts.js';
import { documentFile, partFiles } from './document-text.js';
import { template } from './template.js';

/** A printed book: the template of all books, and the publication as data for it. */
export const pdf: Format = {
  ...formatFacts.pdf,
  capabilities,
  version: 5,
  render: (publication) => ({
    files: [
      { path: 'main.typ', mediaType: 'text/plain; charset=utf-8', text: template, pictures: [] },
      documentFile(publication),
      ...(publication.design.paper.parts === 'none' ? [] : partFiles(publication, publication.design.paper.parts)),
    ],
    fonts: uploadedFonts(publication.design),
    standard: publication.design.paper.standard,
  }),
};
