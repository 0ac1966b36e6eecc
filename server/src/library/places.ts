import type { PlaceRow } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { askedWords, searchQueries } from './find-words.js';
import { languagesOf } from './languages.js';

const mostPlaces = 40;
/** So many that have a word are looked at. */
const mostLookedAt = 2_000;

/**
 * Finds what cross-references can lead to inside topics and snippets by words, as the library's search understands them. What begins
 * with them comes first, then what is in components that are referred to most.
 */
export async function findPlaces(db: Queryable, workspace: string, find: string): Promise<readonly PlaceRow[]> {
  const asked = await askedWords(db, workspace, find, await languagesOf(db, workspace));
  if (asked.length === 0 || asked.some(({ isNowhere }) => isNowhere)) return [];
  const each = asked.map((word) => `(${searchQueries(word).any} | '${word.word}':*)`);
  const { rows } = await db.query<PlaceRow>(
    `with found as (
       select p.component, p.id, p.kind, p.title, p.position, p.words, c.title as of
         from places p join components c on c.workspace = $1 and c.key = p.component and c.deleted_at is null and c.archived_at is null
        where p.workspace = $1 and p.words @@ $2::tsquery
          and (p.words || search_words_in(c.title)) @@ $3::tsquery
        limit ${mostLookedAt})
     select f.component, f.id, f.kind, f.title, f.of as "componentTitle"
       from found f
      order by (f.words @@ $3::tsquery) desc, starts_with(lower(f.title), lower(btrim($4))) desc,
               (select count(*) from component_references r where r.workspace = $1 and r.target = f.component) desc,
               lower(f.of), f.position
      limit ${mostPlaces}`,
    [workspace, each.join(' | '), each.join(' & '), find],
  );
  return rows;
}
