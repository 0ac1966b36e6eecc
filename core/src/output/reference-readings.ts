import { referenceForms, type ReferenceForm } from '../model/kinds.js';
import { flattenPages, type NumberedPublication } from '../number/numbered.js';
import { referenceText } from './labels.js';
import { capabilities } from './web/capabilities.js';
import { wordsOf } from './words.js';

/** What a cross-reference reads, by its form; own words read as they are. */
export type ReferenceReadings = Readonly<Record<Exclude<ReferenceForm, 'text'>, string>>;

/**
 * What a cross-reference would read on the pages of a publication's site, in each form. A page's number is known to paper only:
 * the form “page” reads as it does on a screen.
 * @param topic where the reference stands; one that the publication does not have refers as from its beginning
 * @param to the component and the block in it, null: all of it
 * @returns null where it leads nowhere in the publication
 */
export function referenceReadings(
  publication: NumberedPublication,
  topic: string,
  to: { readonly component: string; readonly target: string | null },
): ReferenceReadings | null {
  const entry = flattenPages(publication.pages).find((page) => page.topic === topic)?.entry ?? '';
  const words = wordsOf(publication);
  const readings: Partial<Record<ReferenceForm, string>> = {};
  for (const form of referenceForms) {
    const node = { type: 'cross_reference', attrs: { ...to, form } } as const;
    const found = publication.reference({ entry, component: topic, placements: [] }, node);
    if (!found) return null;
    readings[form] = referenceText(publication.design, found, words, capabilities);
  }
  const { title = '', 'number-title': numberTitle = '', number = '', page = '' } = readings;
  return { title, 'number-title': numberTitle, number, page };
}
