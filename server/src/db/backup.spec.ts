import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { freshDatabase } from '../../../tests/support/fresh-database.js';
import { openWorkspace } from '../workspace.js';
import { Database } from './database.js';

/** How much is in each table, and what search knows of it. */
async function contentOf(url: string): Promise<unknown> {
  const db = new Database(url);
  const { rows: tables } = await db.query<{ name: string }>(
    `select format('%I.%I', schemaname, tablename) as name from pg_tables
      where schemaname not in ('pg_catalog', 'information_schema') order by 1`,
  );
  const counts: string[] = [];
  for (const { name } of tables)
    counts.push(`${name} ${(await db.query<{ count: string }>(`select count(*) from ${name}`)).rows[0]?.count}`);
  const { rows } = await db.query('select key, words::text, title_words::text from components order by key');
  await db.close();
  return { counts, rows };
}

describe('A backup', () => {
  it('is made and restored by the tools of the database, as README says', async () => {
    const [kept, restored] = [await freshDatabase(), await freshDatabase()];
    const folder = mkdtempSync(join(tmpdir(), 'allomorph-backup-'));
    const db = new Database(kept.url);
    await openWorkspace(db, 'demo');
    await db.close();
    const file = join(folder, 'allomorph.dump');
    execFileSync('pg_dump', [kept.url, '-Fc', '-f', file]);
    execFileSync('pg_restore', ['--exit-on-error', '--clean', '--if-exists', '-d', restored.url, file]);
    expect(await contentOf(restored.url)).toEqual(await contentOf(kept.url));
    rmSync(folder, { recursive: true });
    await kept.drop();
    await restored.drop();
  });
});
