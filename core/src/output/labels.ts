import { safeAddress } from '../assemble/addresses.js';
import { titleCase } from 'title-case';
import { fillTemplate, type Design, type LetterCase } from '../design/design.js';
import type { AssembledNode } from '../model/node.js';
import type { Label } from '../number/notes.js';
import type { ResolvedReference } from '../number/numbered.js';
import { plainText } from '../number/plain-text.js';
import type { Capabilities } from './format.js';
import type { OutputWords } from './words.js';

/** The number part of a heading or caption; empty where there is none. */
export function headingNumber(design: Design, label: Label): string {
  if (label.number === '') return '';
  return fillTemplate(design.templates[label.kind].heading, { number: label.number, title: '' }).trim();
}

/** What of a label decides how its heading reads beside its title: the number as it is shown, and whether there is one. */
export function headingKey(design: Design, label: Label): string {
  return label.number === '' ? '' : `#${headingNumber(design, label)}`;
}

/**
 * The title of a label in words alone. What cannot be shown is left out, as references are that lead nowhere: a page shows
 * both alike, and so must what is made of it. Only where nothing else is there a marker stands.
 */
export function titleWords(design: Design, label: Label, { quotes, missing }: OutputWords): string {
  const words = plainText(label.title, { quotes, missing: '' });
  return words === '' && headingNumber(design, label) === '' ? missing : words;
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

/** Whether headings of any level are written in title case. */
export function hasTitleCase({ letters: { level1, level2, level3 } }: Design): boolean {
  return level1 === 'title' || level2 === 'title' || level3 === 'title';
}

/** How the letters of a heading are written. */
export function lettersAt({ letters }: Design, level: number): LetterCase {
  const { level1, level2, level3 } = letters;
  return [level1, level2, level3][level - 1] ?? 'as-written';
}

/**
 * The title of a heading in title case, where the design wants it. What becomes longer or shorter by it stays as it is. Capitals
 * are for the style sheet: the text stays what it is.
 */
export function headingTitle(design: Design, level: number, nodes: readonly AssembledNode[]): readonly AssembledNode[] {
  if (lettersAt(design, level) !== 'title') return nodes;
  const whole = nodes.map(({ text }) => text ?? '\u{fffc}').join('');
  const cased = titleCase(whole);
  if (cased.length !== whole.length) return nodes;
  let at = 0;
  return nodes.map((node) => {
    const from = at;
    at += node.text?.length ?? 1;
    return node.text === undefined ? node : { ...node, text: cased.slice(from, at) };
  });
}
