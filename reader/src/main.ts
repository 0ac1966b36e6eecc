import { wholeContents } from './contents.js';
import { copyButtons, headingLinks, largeFigures, madeAt, scrollable } from './helpers.js';
import { notesInPlace } from './notes.js';
import { otherVariants } from './others.js';
import { markFound, searchField } from './search.js';
import { turnSlots } from './slots.js';
import { termsInPlace } from './terms.js';

// What pages of a site do besides being read. Each part works alone: where one cannot, the others do.
const parts = [
  turnSlots,
  wholeContents,
  madeAt,
  otherVariants,
  searchField,
  copyButtons,
  largeFigures,
  notesInPlace,
  termsInPlace,
  scrollable,
  headingLinks,
  () => void markFound().catch(() => undefined),
];
for (const part of parts) {
  try {
    part();
  } catch (error) {
    console.error(error);
  }
}
