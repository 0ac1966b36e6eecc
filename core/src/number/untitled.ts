import type { AssembledNode } from '../model/node.js';
import { plainText } from './plain-text.js';

const marker: AssembledNode = { type: 'missing' };
/** What a heading reads that has neither number nor title: a marker, so that it can be seen, read out and led to. */
export const untitled: readonly AssembledNode[] = [marker];

/** What reads as something though it holds no text of its own. */
const speaking: ReadonlySet<string> = new Set(['image', 'variable', 'cross_reference', 'missing', 'formula']);

/** The title of a heading; with a marker where it has no number and nothing in the title can be read. */
export function readable(title: readonly AssembledNode[], number: string): readonly AssembledNode[] {
  return number !== '' || title.some(({ type }) => speaking.has(type)) ? title : inWords(title);
}

/** Most titles are text: this tells it without putting them together. */
const word = /\S/;

/** A title that must read as something in words alone, such as the name of a document. */
export function inWords(title: readonly AssembledNode[]): readonly AssembledNode[] {
  if (title.some(({ text }) => text !== undefined && word.test(text))) return title;
  if (plainText(title, { quotes: ['', ''], missing: '-' }) !== '') return title;
  return title.length === 0 ? untitled : [...title, marker];
}
