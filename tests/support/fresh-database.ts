import { randomBytes } from 'node:crypto';
import pg from 'pg';

/**
 * A database on the cluster that the tests were given, and how to drop it.
 * @param like the name of the one it is a copy of; empty without it
 */
export async function freshDatabase(
  like?: string,
): Promise<{ readonly name: string; readonly url: string; drop(): Promise<void> }> {
  const admin = process.env['TEST_DATABASE_URL'];
  if (!admin) throw new Error('TEST_DATABASE_URL is not set; run “npm test”, which starts a cluster.');
  const name = `test_${randomBytes(6).toString('hex')}`;
  const run = async (sql: string): Promise<void> => {
    const client = new pg.Client({ connectionString: admin });
    await client.connect();
    try {
      await client.query(sql);
    } finally {
      await client.end();
    }
  };
  await run(`create database ${name}${like === undefined ? '' : ` template ${like}`}`);
  const url = new URL(admin);
  url.pathname = `/${name}`;
  // Whoever is about to leave may do so: to cut connections off would be an error in them.
  const drop = async (tries = 100): Promise<void> => {
    try {
      await run(`drop database if exists ${name}${tries > 0 ? '' : ' with (force)'}`);
    } catch (error) {
      // The database is being accessed by other users (PostgreSQL, appendix A).
      if (!(error instanceof pg.DatabaseError) || error.code !== '55006') throw error;
      await new Promise((resolve) => setTimeout(resolve, 50));
      await drop(tries - 1);
    }
  };
  return { name, url: url.href, drop: () => drop() };
}
