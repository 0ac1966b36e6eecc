import type MiniSearch from 'minisearch';
import { searchWords } from '../search-words.js';

/** A passage that can be found: a page up to its first section, or a section. */
export interface Passage {
  /** Its number and title. */
  readonly title: string;
  /** The titles of what it stands in, from the chapter down. */
  readonly within: readonly string[];
  readonly href: string;
  readonly text: string;
}

/** A passage as the index has it. */
export interface IndexedPassage extends Omit<Passage, 'within'> {
  readonly id: number;
  readonly within: string;
}

/** How a site is searched: the same for whoever makes the index and for the reader's browser. */
export function searchOptions(language: string): ConstructorParameters<typeof MiniSearch<IndexedPassage>>[0] {
  return {
    fields: ['title', 'text'],
    storeFields: ['title', 'within', 'href', 'text'],
    tokenize: (text) => searchWords(text, language),
    processTerm: (term) => term,
    searchOptions: {
      boost: { title: 3 },
      prefix: true,
      fuzzy: (term) => (term.length > 4 ? 0.2 : false),
      combineWith: 'AND',
    },
  };
}
