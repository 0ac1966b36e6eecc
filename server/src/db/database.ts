import pg from 'pg';

/** What queries run on: the pool, or one client inside a transaction. */
export interface Queryable {
  query<Row extends pg.QueryResultRow>(text: string, values?: readonly unknown[]): Promise<pg.QueryResult<Row>>;
}

/** A pool of connections, and transactions on one of them. */
export class Database implements Queryable {
  readonly pool: pg.Pool;

  /** @param connections how many at most */
  constructor(
    readonly url: string,
    connections = 12,
  ) {
    // Queries are short: compiling one takes longer than running it.
    this.pool = new pg.Pool({ connectionString: url, max: connections, options: '-c jit=off' });
    // A lost idle connection is replaced at the next query; without a listener it would end the process.
    this.pool.on('error', () => undefined);
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

const lostConnection = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', '57P01', '57P02', '57P03']);

/** Whether something failed because there is no connection to the database, or none any more (PostgreSQL, appendix A). */
export function isDatabaseAway(error: unknown): boolean {
  if (!(error instanceof Error)) return false;
  const code = 'code' in error ? String(error.code) : '';
  // A socket file that is not there; a file of ours that is not there is another matter.
  if (code === 'ENOENT') return 'syscall' in error && error.syscall === 'connect';
  return (
    lostConnection.has(code) ||
    code.startsWith('08') ||
    /^Connection terminated|timeout exceeded when|is not queryable$/.test(error.message)
  );
}

/**
 * Does something as soon as the database can be reached, after waits that grow.
 * @param tell called before each wait, with its length
 */
export async function whenThere<T>(act: () => Promise<T>, tell: (seconds: number) => void): Promise<T> {
  for (let seconds = 1; ; seconds = Math.min(2 * seconds, 30)) {
    try {
      return await act();
    } catch (error) {
      if (!isDatabaseAway(error)) throw error;
      tell(seconds);
      await new Promise((resolve) => setTimeout(resolve, seconds * 1000));
    }
  }
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

/** A pattern for `like` that finds a text anywhere, its own signs taken as they are. */
export function likePattern(text: string): string {
  return `%${text.trim().replace(/[\\%_]/g, '\\$&')}%`;
}
