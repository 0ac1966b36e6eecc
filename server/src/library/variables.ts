import { referencesOf, type VariableList } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { readClosure } from './closure.js';
import { readComponents } from './components.js';

/** All variables of a workspace with how often each is used, and whatever else their values hold, in one answer. */
export async function listVariables(db: Queryable, workspace: string): Promise<VariableList> {
  const { rows } = await db.query<{ key: string; uses: number }>(
    `select c.key, count(f.target)::integer as uses from components c
       left join component_references f on f.workspace = c.workspace and f.target = c.key
      where c.workspace = $1 and c.kind = 'variable' and c.deleted_at is null
      group by c.key, c.title order by lower(c.title), c.key`,
    [workspace],
  );
  const read = await readComponents(
    db,
    workspace,
    rows.map(({ key }) => key),
  );
  const byKey = new Map(read.map((component) => [component.key, component]));
  const held = await readClosure(
    db,
    workspace,
    read.flatMap(({ body }) => referencesOf(body)),
    (key) => byKey.get(key),
  );
  return {
    variables: rows.flatMap(({ key, uses }) => {
      const component = byKey.get(key);
      return component ? [{ component, uses }] : [];
    }),
    components: held.components.filter(({ key }) => !byKey.has(key)),
  };
}
