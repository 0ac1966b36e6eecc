import { staticText } from '../../design/fields.js';
import type { NumberedPublication } from '../../number/numbered.js';
import { plainText } from '../../number/plain-text.js';
import { wordsOf } from '../words.js';

/** What stands on the cover, from the top down; empty: nothing stands there. */
export interface CoverTexts {
  readonly over: string;
  readonly title: string;
  readonly under: string;
  readonly foot: string;
}

export function coverTexts(publication: NumberedPublication): CoverTexts {
  const text = (name: string): string => lookText(publication, `cover.${name}`);
  const title = plainText(publication.title, wordsOf(publication));
  return { over: text('over'), title: text('title') || title, under: text('under'), foot: text('foot') };
}

/** A text of the design as it stands where there are no pages; empty where there is none. */
export function lookText({ look }: NumberedPublication, path: string): string {
  return staticText(look.texts.get(path) ?? []);
}
