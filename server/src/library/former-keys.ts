import { bodyWithKey, referencesOf, type ComponentBody } from '@allomorph/core';
import type { Queryable } from '../db/database.js';

/** The keys that components have now, by those that they had, of some. */
export async function keysNow(
  db: Queryable,
  workspace: string,
  keys: readonly string[],
): Promise<ReadonlyMap<string, string>> {
  if (keys.length === 0) return new Map();
  const { rows } = await db.query<{ former: string; key: string }>(
    'select former, key from former_keys where workspace = $1 and former = any($2)',
    [workspace, [...new Set(keys)]],
  );
  return new Map(rows.map(({ former, key }) => [former, key]));
}

/** A body that was written before some components got other keys, such as a draft or an old revision, as it would be written now. */
export async function withKeysOfNow(db: Queryable, workspace: string, body: ComponentBody): Promise<ComponentBody> {
  const now = await keysNow(
    db,
    workspace,
    referencesOf(body).map(({ target }) => target),
  );
  return [...now].reduce((changed, [former, key]) => bodyWithKey(changed, former, key), body);
}
