import { bodyOfVersion, schemaVersion, type ComponentBody } from '@allomorph/core';
import type { Database } from '../db/database.js';

const batch = 200;

/**
 * Writes stored bodies of earlier schema versions anew, some at a time, until there is none left. They are read as they
 * would be written today in any case; this spares the work at each reading.
 * @returns how many there were
 */
export async function upgradeBodies(db: Database): Promise<number> {
  let count = 0;
  for (let more = true; more;) {
    const done = await db.transaction(async (client) => {
      const { rows } = await client.query<{ at: string; body: ComponentBody; version: number }>(
        `select ctid::text as at, body, schema_version as version from revisions
          where schema_version < $1 limit ${batch} for update skip locked`,
        [schemaVersion],
      );
      for (const { at, body, version } of rows) {
        await client.query('update revisions set body = $2, schema_version = $3 where ctid = $1::tid', [
          at,
          JSON.stringify(bodyOfVersion(body, version)),
          schemaVersion,
        ]);
      }
      return rows.length;
    });
    count += done;
    more = done > 0;
  }
  return count;
}
