import { routes, serverEventSchema, type ServerEvent } from '@allomorph/core';
import type { Router } from 'express';
import { z } from 'zod';
import type { Queryable } from '../db/database.js';
import { LastingClient } from '../db/lasting-client.js';
import { handled, serve } from '../http/context.js';

/** The channel of the database on which events are told. */
export const eventChannel = 'allomorph';
const messageSchema = z.object({ workspace: z.string(), event: serverEventSchema });

/** Tells all server processes, and through them all open pages of a workspace, that something happened. */
export async function announce(db: Queryable, workspace: string, event: ServerEvent): Promise<void> {
  await db.query('select pg_notify($1, $2)', [eventChannel, JSON.stringify({ workspace, event })]);
}

/** Listens on the database and hands events on to the pages that are open here. */
export class EventHub {
  private readonly listeners = new Set<{ workspace: string; send: (event: ServerEvent) => void }>();
  /** Events are lost while there is no connection; pages read anew when they reconnect. */
  private readonly client: LastingClient;

  constructor(url: string) {
    this.client = new LastingClient(url, async (client) => {
      client.on('notification', (message) => this.receive(message.payload ?? ''));
      await client.query(`listen ${eventChannel}`);
    });
  }

  start(): Promise<void> {
    return this.client.open();
  }

  private receive(payload: string): void {
    const parsed = messageSchema.safeParse(JSON.parse(payload));
    if (!parsed.success) return;
    const { workspace, event } = parsed.data;
    for (const listener of this.listeners) if (listener.workspace === workspace) listener.send(event);
  }

  async stop(): Promise<void> {
    await this.client.close();
  }

  routes(router: Router): void {
    serve(router, routes.events, async ({ person, request, response }) => {
      response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
      response.write(': open\n\n');
      const listener = {
        workspace: person.workspace,
        send: (event: ServerEvent) => response.write(`data: ${JSON.stringify(event)}\n\n`),
      };
      this.listeners.add(listener);
      const beat = setInterval(() => response.write(': beat\n\n'), 25_000);
      request.on('close', () => {
        clearInterval(beat);
        this.listeners.delete(listener);
      });
      return handled;
    });
  }
}
