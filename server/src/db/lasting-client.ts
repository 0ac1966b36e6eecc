import pg from 'pg';

const waits = { first: 200, most: 10_000 };

/**
 * One connection of its own that is made again whenever it is lost, after waits that grow: for what a pool cannot hold, such as
 * locks and notifications.
 */
export class LastingClient {
  private client: pg.Client | null = null;
  private timer: NodeJS.Timeout | null = null;
  private closed = false;

  /** @param prepare what each connection does first; the connection counts as made when this is done */
  constructor(
    private readonly url: string,
    private readonly prepare: (client: pg.Client) => Promise<void>,
  ) {}

  /** Makes the first connection. */
  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    // A lost connection tells it once as an error and once as its end, in whichever order: the first counts.
    let isLost = false;
    const lost = (): void => {
      if (isLost) return;
      isLost = true;
      if (this.client !== client) return;
      this.client = null;
      this.reopen(waits.first);
    };
    client.on('error', lost);
    client.on('end', lost);
    try {
      await client.connect();
      await this.prepare(client);
    } catch (error) {
      await client.end().catch(() => undefined);
      throw error;
    }
    if (this.closed) await client.end();
    else if (isLost) this.reopen(waits.first);
    else this.client = client;
  }

  private reopen(wait: number): void {
    if (this.closed) return;
    this.timer = setTimeout(() => {
      this.open().catch(() => this.reopen(Math.min(2 * wait, waits.most)));
    }, wait);
  }

  async close(): Promise<void> {
    this.closed = true;
    if (this.timer) clearTimeout(this.timer);
    const { client } = this;
    this.client = null;
    await client?.end();
  }
}
