import { formatFacts } from '../format-facts.js';
import type { Format } from '../format.js';
import { capabilities } from './capabilities.js';
import { uploadedFonts } from '../looks/web-fonts.js';
import { documentFile } from './document-text.js';

/** A file for word processors (Office Open XML, ISO/IEC 29500), to go on working with. */
export const word: Format = {
  ...formatFacts.docx,
  capabilities,
  version: 4,
  render: (publication) => ({ files: [documentFile(publication)], fonts: uploadedFonts(publication.design) }),
};
