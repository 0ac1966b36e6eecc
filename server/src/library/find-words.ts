import { isSlipOf, type WantedWords } from '@allomorph/core';
import type { Queryable } from '../db/database.js';

/** A word that is looked for, with the words of the library that it may mean. */
export interface AskedWord {
  readonly word: string;
  /** Words of the library of the same stem; where it is none itself, also those with it inside. */
  readonly kin: readonly string[];
  /** Words of the library that it may be a slip of; only where nothing else is found. */
  readonly near: readonly string[];
  /** Whether the library has no word that it could mean. */
  readonly isNowhere: boolean;
}

/** So many words of a question are looked for; who types more has said enough. */
const mostWords = 8;
const mostKin = 30;
/** Shorter beginnings are looked for in titles and keys only: as texts go, they would be in most. */
export const leastBeginning = 3;

/**
 * The words of a question as the library may have them.
 * @param languages by whose rules words are cut to their stems (ISO 639-1)
 */
export async function askedWords(
  db: Queryable,
  workspace: string,
  question: string,
  languages: readonly string[],
): Promise<readonly AskedWord[]> {
  const { rows } = await db.query<{ word: string; has_it: boolean; kin: string[] | null }>(
    `with asked as (
       select word, min(at) as at from unnest(string_to_array(btrim(search_plain($2)), ' ')) with ordinality split (word, at)
        where word <> '' group by word order by 2 limit ${mostWords})
     select asked.word,
            exists (select from search_words v where v.workspace = $1 and v.word like asked.word || '%') as has_it,
            (select array_agg(kin.word) from (
               (select v.word from search_words v where v.workspace = $1 and v.stems && array(
                  select stem from unnest(word_stems(asked.word)) stem where split_part(stem, ':', 1) = any($3))
                 limit ${mostKin})
               union
               (select v.word from search_words v
                 where v.workspace = $1 and length(asked.word) > 2 and v.word like '%' || asked.word || '%'
                   and not exists (select from search_words w where w.workspace = $1 and w.word = asked.word)
                 order by length(v.word), v.word limit ${mostKin})) kin) as kin
       from asked order by at`,
    [workspace, question, languages],
  );
  const asked: AskedWord[] = [];
  for (const { word, has_it, kin } of rows) {
    const isKnown = has_it || kin !== null;
    const near = isKnown || word.length < 4 ? [] : await wordsNear(db, workspace, word);
    asked.push({ word, kin: kin ?? [], near, isNowhere: !isKnown && near.length === 0 });
  }
  return asked;
}

/** The words of the library that a word may be a slip of, the nearest ones only. */
async function wordsNear(db: Queryable, workspace: string, word: string): Promise<readonly string[]> {
  const { rows } = await db.query<{ word: string; distance: number }>(
    `select word, distance from (
       select word, levenshtein_less_equal(word, $2, 3) as distance from search_words
        where workspace = $1 and length(word) between length($2) - 2 and length($2) + 2) near
      where distance <= 3 order by distance, word limit 200`,
    [workspace, word.slice(0, 60)],
  );
  const near = rows.filter((row) => isSlipOf(word, row.word));
  const least = Math.min(...near.map(({ distance }) => distance));
  return near.filter(({ distance }) => distance <= least + 1).map((row) => row.word);
}

/**
 * A word, and what it may mean, as questions to the database's search; all words are letters and digits only.
 * @param weight A: in titles only; B: in keys only; none: anywhere
 */
export function searchQueries(
  { word, kin, near }: AskedWord,
  weight: 'A' | 'B' | '' = '',
): { readonly exact: string; readonly any: string } {
  const lexemes = (words: readonly string[]): string[] =>
    [...new Set(words)].map((each) => (weight === '' ? `'${each}'` : `'${each}':${weight}`));
  const any = lexemes([word, ...kin, ...near]);
  if (weight !== '' || word.length >= leastBeginning) any.push(`'${word}':*${weight}`);
  return { exact: lexemes([word]).join(), any: any.join(' | ') };
}

/** What is marked in titles and passages. */
export function wantedWords(asked: readonly AskedWord[]): WantedWords {
  return {
    words: asked.flatMap(({ word, kin, near }) => [word, ...kin, ...near]),
    beginnings: asked.map(({ word }) => word),
  };
}
