import { oneRow, type Database } from '../db/database.js';

/** How many looks are kept for a person: those of a few windows. */
const mostKept = 12;

/**
 * Keeps what is shown to one person for a while, see `read-deliverable`.
 * @returns its id
 */
export async function keepPreview(
  db: Database,
  person: string,
  { mediaType, content }: { readonly mediaType: string; readonly content: string },
): Promise<string | null> {
  return db.transaction(async (client) => {
    await client.query(
      `delete from previews where person = $1 and id not in
         (select id from previews where person = $1 order by made_at desc limit $2)`,
      [person, mostKept - 1],
    );
    const row = await oneRow<{ id: string }>(
      client,
      'insert into previews (person, media_type, content) values ($1, $2, $3) returning id',
      [person, mediaType, content],
    );
    return row?.id ?? null;
  });
}
