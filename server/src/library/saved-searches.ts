import type { Queryable } from '../db/database.js';

/** A search that somebody keeps, and what was looked for before and after a change. */
export interface ChangedSearch {
  readonly person: string;
  readonly name: string;
  readonly was: string;
  readonly is: string;
}

/**
 * Lets the searches that people keep look for what is called otherwise now.
 * @param field the part of the search that names it
 * @param change what it is called now; null: it was not that
 * @returns the searches that look otherwise now
 */
export async function followInSearches(
  db: Queryable,
  workspace: string,
  field: 'collection' | 'value',
  change: (named: string) => string | null,
): Promise<readonly ChangedSearch[]> {
  const { rows } = await db.query<{ person: string; name: string; query: string }>(
    `select s.person, s.name, s.query from saved_searches s join people p on p.id = s.person
      where p.workspace = $1 and position($2 in s.query) > 0 for update of s`,
    [workspace, `${field}=`],
  );
  const changed = rows.flatMap(({ person, name, query }) => {
    const fields = new URLSearchParams(query);
    const now = change(fields.get(field) ?? '');
    if (now === null) return [];
    fields.set(field, now);
    return [{ person, name, was: query, is: fields.toString() }];
  });
  await putSearches(db, changed);
  return changed;
}

/** Lets searches look for what they looked for before, where they were not changed since. */
export async function takeSearchesBack(db: Queryable, changed: readonly ChangedSearch[]): Promise<void> {
  await putSearches(
    db,
    changed.map(({ was, is, ...search }) => ({ ...search, was: is, is: was })),
  );
}

async function putSearches(db: Queryable, changed: readonly ChangedSearch[]): Promise<void> {
  const column = (name: keyof ChangedSearch): readonly string[] => changed.map((search) => search[name]);
  await db.query(
    `update saved_searches s set query = c.after
       from unnest($1::uuid[], $2::text[], $3::text[], $4::text[]) as c (person, name, before, after)
      where s.person = c.person and s.name = c.name and s.query = c.before`,
    [column('person'), column('name'), column('was'), column('is')],
  );
}
