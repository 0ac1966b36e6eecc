import type { ServerEvent } from '@allomorph/core';
import type { Client } from './client.js';

/** What the server tells somebody from now on. */
export interface Heard {
  readonly told: readonly ServerEvent[];
  /** Waits until what was told makes something so. */
  until(isSo: () => boolean | Promise<boolean>): Promise<void>;
  end(): Promise<void>;
}

export async function hear(client: Client): Promise<Heard> {
  const told: ServerEvent[] = [];
  const controller = new AbortController();
  let heard: () => void = () => undefined;
  const stream = await client.stream('/events', controller.signal, (event) => {
    told.push(event as ServerEvent);
    heard();
  });
  return {
    told,
    async until(isSo) {
      for (;;) {
        // Whatever is told while it is looked at counts.
        const next = new Promise<void>((resolve) => (heard = resolve));
        if (await isSo()) return;
        await next;
      }
    },
    async end() {
      controller.abort();
      await stream.ended;
    },
  };
}
