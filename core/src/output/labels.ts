import { safeAddress } from '../assemble/addresses.js';
import { fillTemplate, type Design } from '../number/design.js';
import type { Label, ResolvedReference } from '../number/numbered.js';
import { plainText } from '../number/plain-text.js';
import type { Capabilities } from './format.js';
import type { OutputWords } from './words.js';

/** The number part of a heading or caption; empty where there is none. */
export function headingNumber(design: Design, label: Label): string {
  if (label.number === '') return '';
  return fillTemplate(design.templates[label.kind].heading, { number: label.number, title: '' }).trim();
}

/**
 * What a reference reads, in the words of the design and the signs of the language. The page's number is for formats
 * that have one; elsewhere a reference to a page names what stands there.
 */
export function referenceText(
  design: Design,
  { form, text, label }: ResolvedReference,
  words: OutputWords,
  capabilities: Capabilities,
): string {
  if (form === 'text' && text !== null) return text;
  const values = { number: label.number, title: plainText(label.title, words) };
  if (label.number === '') {
    if (values.title === '') return text ?? '';
    return fillTemplate(label.kind === 'section' ? design.unnumberedReference : '{title}', values);
  }
  const templates = design.templates[label.kind];
  if (values.title === '' || form === 'number') return fillTemplate(templates.number, values);
  const withNumber = form === 'number-title' || (form === 'page' && !capabilities.pageNumbers);
  return fillTemplate(withNumber ? templates.numberAndTitle : design.titleReference, values);
}

/** The address that a link of a format leads to; null where it is refused, or leads nowhere from there. */
export function linkAddress(address: string, { relativeAddresses }: Capabilities): string | null {
  const safe = safeAddress(address);
  return safe === null || relativeAddresses || URL.canParse(safe) ? safe : null;
}
