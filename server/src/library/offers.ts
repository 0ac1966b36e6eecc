import type { WrittenOffer } from '@allomorph/core';
import type { Queryable } from '../db/database.js';

/** How alike a passage and a snippet are to be, from 0 to 1 (trigrams of pg_trgm). */
const alike = 0.75;
/** Shorter words are said by chance, and shorter sentences are no snippets. */
const shortestValue = 3;
const shortestPassage = 20;
const mostOffers = 3;

/**
 * What of the library says the same as what was just written: variables whose value the line ends with, and snippets that
 * say nearly what its last sentence, or all of it, says.
 * @param line what stands in the line up to where it is written; leaves stand as U+FFFC
 */
export async function offersFor(db: Queryable, workspace: string, line: string): Promise<readonly WrittenOffer[]> {
  const { rows: variables } = await db.query<WrittenOffer>(
    `select key, 'variable' as kind, title, value as words, 'words' as covers
       from components c, unnest(string_to_array(c.text, ' · ')) as value
      where workspace = $1 and kind = 'variable' and deleted_at is null and archived_at is null
        and length(value) >= $3 and value !~ '^[\\d\\s.,]+$' and position('[' in value) = 0 and right($2, length(value)) = value
        and (length($2) = length(value) or substr($2, length($2) - length(value), 1) !~ '[[:alnum:]]')
      group by key, title, value order by length(value) desc, key limit $4`,
    [workspace, line, shortestValue, mostOffers],
  );
  const passage = line.replaceAll('\ufffc', ' ').trim();
  const [sentence = ''] = /[^.!?]*[.!?]*$/.exec(passage) ?? [];
  if (passage.length < shortestPassage) return variables;
  const { rows: snippets } = await db.query<WrittenOffer & { readonly likeness: number }>(
    `select * from (
       select c.key, 'snippet' as kind, c.title, w.words, w.covers,
              similarity(c.text, w.words) as likeness, r.body->>'type' = 'phrase' as phrase
         from components c
         join revisions r on r.workspace = c.workspace and r.key = c.key and r.revision = c.revision
        cross join (values ($2::text, 'line'), ($3::text, 'words')) as w (words, covers)
        where c.workspace = $1 and c.kind = 'snippet' and c.deleted_at is null and c.archived_at is null
          and length(w.words) >= $4 and length(c.text) between length(w.words) * 0.88 and length(w.words) * 1.15) as near
      where likeness >= $5 and (phrase or covers = 'line')
      order by likeness desc, key limit $6`,
    [workspace, passage, sentence.trim(), shortestPassage, alike, mostOffers],
  );
  const distinct = new Map<string, WrittenOffer>();
  for (const { key, kind, title, words, covers } of snippets)
    if (!distinct.has(key)) distinct.set(key, { key, kind, title, words, covers });
  return [...variables, ...distinct.values()];
}
