import { randomBytes } from 'node:crypto';
import pg from 'pg';

/** An empty database on the cluster that the tests were given, and how to drop it. */
export async function freshDatabase(): Promise<{ readonly url: string; drop(): Promise<void> }> {
  const admin = process.env['TEST_DATABASE_URL'];
  if (!admin) throw new Error('TEST_DATABASE_URL is not set; run “npm test”, which starts a cluster.');
  const name = `test_${randomBytes(6).toString('hex')}`;
  const run = async (sql: string): Promise<void> => {
    const client = new pg.Client({ connectionString: admin });
    await client.connect();
    await client.query(sql);
    await client.end();
  };
  await run(`create database ${name}`);
  const url = new URL(admin);
  url.pathname = `/${name}`;
  return { url: url.href, drop: () => run(`drop database if exists ${name} with (force)`) };
}
