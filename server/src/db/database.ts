import pg from 'pg';

/** What queries run on: the pool, or one client inside a transaction. */
export interface Queryable {
  query<Row extends pg.QueryResultRow>(text: string, values?: readonly unknown[]): Promise<pg.QueryResult<Row>>;
}

/** A pool of connections, and transactions on one of them. */
export class Database implements Queryable {
  readonly pool: pg.Pool;

  constructor(readonly url: string) {
    this.pool = new pg.Pool({ connectionString: url, max: 12 });
    // A lost idle connection is replaced at the next query; without a listener it would end the process.
    this.pool.on('error', (error) => console.error(`A database connection was lost: ${error.message}`));
  }

  query<Row extends pg.QueryResultRow>(text: string, values: readonly unknown[] = []): Promise<pg.QueryResult<Row>> {
    return this.pool.query<Row>(text, [...values]);
  }

  /** Runs work in one transaction: all of it is kept, or, when it throws, nothing. */
  async transaction<T>(work: (client: Queryable) => Promise<T>, mode = ''): Promise<T> {
    const client = await this.pool.connect();
    // A connection that is lost between two queries tells it as an event; the next query fails and says so.
    const lost = (): void => undefined;
    client.on('error', lost);
    try {
      await client.query(`begin ${mode}`);
      const result = await work({ query: (text, values = []) => client.query(text, [...values]) });
      await client.query('commit');
      client.off('error', lost);
      client.release();
      return result;
    } catch (error) {
      // A broken connection is destroyed, which rolls back as well.
      const rolledBack = await client.query('rollback').then(
        () => true,
        () => false,
      );
      if (rolledBack) client.off('error', lost);
      client.release(!rolledBack);
      throw error;
    }
  }

  /** A transaction that sees one state of the database throughout and writes nothing. */
  snapshot<T>(work: (client: Queryable) => Promise<T>): Promise<T> {
    return this.transaction(work, 'isolation level repeatable read read only');
  }

  close(): Promise<void> {
    return this.pool.end();
  }
}

const lostConnection = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'ENOENT',
  'EPIPE',
  'ETIMEDOUT',
  '57P01',
  '57P02',
  '57P03',
]);

/** Whether something failed because there is no connection to the database, or none any more (PostgreSQL, appendix A). */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const code = 'code' in error ? String(error.code) : '';
  return (
    lostConnection.has(code) ||
    code.startsWith('08') ||
    /^Connection terminated|timeout exceeded when/.test(error.message)
  );
}

/** The first row, or undefined. */
export async function oneRow<Row extends pg.QueryResultRow>(
  db: Queryable,
  text: string,
  values: readonly unknown[] = [],
): Promise<Row | undefined> {
  const { rows } = await db.query<Row>(text, values);
  return rows[0];
}
