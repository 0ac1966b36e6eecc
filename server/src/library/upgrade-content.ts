import {
  bodyOfVersion,
  entriesOfVersion,
  recipeOfVersion,
  schemaVersion,
  valuesOfVersion,
  type ComponentBody,
  type OutlineEntry,
  type VariableValues,
  type VariantRecipe,
} from '@allomorph/core';
import type { Database } from '../db/database.js';

const batch = 200;

/** What of a table is content, and what each of its columns becomes. */
interface ContentTable {
  readonly table: string;
  readonly columns: Readonly<Record<string, (value: never, version: number) => unknown>>;
}

const contentTables: readonly ContentTable[] = [
  { table: 'revisions', columns: { body: (body: ComponentBody, version) => bodyOfVersion(body, version) } },
  {
    table: 'publications',
    columns: {
      variable_values: (values: VariableValues, version) => valuesOfVersion(values, version),
      entries: (entries: readonly OutlineEntry[], version) => entriesOfVersion(entries, version),
    },
  },
  { table: 'variants', columns: { recipe: (recipe: VariantRecipe, version) => recipeOfVersion(recipe, version) } },
  { table: 'builds', columns: { recipe: (recipe: VariantRecipe, version) => recipeOfVersion(recipe, version) } },
];

/**
 * Writes stored content of earlier schema versions anew, some at a time, until there is none left. It is read as it would be
 * written today in any case; this spares the work at each reading.
 * @returns how many rows there were
 */
export async function upgradeContent(db: Database): Promise<number> {
  let count = 0;
  for (const table of contentTables) {
    for (let more = true; more;) {
      const done = await upgradeSome(db, table);
      count += done;
      more = done > 0;
    }
  }
  return count;
}

async function upgradeSome(db: Database, { table, columns }: ContentTable): Promise<number> {
  const names = Object.keys(columns);
  const changes = names.map((name, at) => `${name} = $${at + 3}`);
  return db.transaction(async (client) => {
    const { rows } = await client.query<Record<string, never> & { at: string; version: number }>(
      `select ctid::text as at, schema_version as version, ${names.join(', ')} from ${table}
        where schema_version < $1 limit ${batch} for update skip locked`,
      [schemaVersion],
    );
    for (const row of rows) {
      // What the program wrote into this column.
      const values = Object.entries(columns).map(([name, become]) =>
        // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
        JSON.stringify(become(row[name] as never, row.version)),
      );
      await client.query(`update ${table} set schema_version = $2, ${changes.join(', ')} where ctid = $1::tid`, [
        row.at,
        schemaVersion,
        ...values,
      ]);
    }
    return rows.length;
  });
}
