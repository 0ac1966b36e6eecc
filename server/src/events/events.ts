import { routes, serverEventSchema, type ServerEvent } from '@allomorph/core';
import type { Router } from 'express';
import * as z from 'zod';
import type { Queryable } from '../db/database.js';
import { LastingClient } from '../db/lasting-client.js';
import { handled, serve } from '../http/context.js';

/** The channel of the database on which events are told; triggers name it as well. */
export const eventChannel = 'allomorph';
const messageSchema = z.union([
  z.object({ workspace: z.string(), event: serverEventSchema }),
  z.object({ ended: z.string() }),
]);

/** Tells all server processes, and through them all open pages of a workspace, that something happened. */
export async function announce(db: Queryable, workspace: string, event: ServerEvent): Promise<void> {
  await db.query('select pg_notify($1, $2)', [eventChannel, JSON.stringify({ workspace, event })]);
}

/** Tells all server processes that the sessions of a person ended: streams that are open under them end too. */
export async function announceEnd(db: Queryable, person: string): Promise<void> {
  await db.query('select pg_notify($1, $2)', [eventChannel, JSON.stringify({ ended: person })]);
}

interface Listener {
  readonly workspace: string;
  readonly person: string;
  readonly send: (event: ServerEvent) => void;
  readonly end: () => void;
}

/** Listens on the database and hands events on to the pages that are open here. */
export class EventHub {
  private readonly listeners = new Set<Listener>();
  private readonly client: LastingClient;

  constructor(url: string) {
    this.client = new LastingClient(url, async (client) => {
      client.on('notification', (message) => this.receive(message.payload ?? ''));
      await client.query(`listen ${eventChannel}`);
      // What was told while there was no connection is lost.
      for (const listener of this.listeners) listener.send({ type: 'missed' });
    });
  }

  start(): Promise<void> {
    return this.client.open();
  }

  private receive(payload: string): void {
    const parsed = messageSchema.safeParse(JSON.parse(payload));
    if (!parsed.success) return;
    const message = parsed.data;
    for (const listener of this.listeners) {
      if ('ended' in message) {
        // A page whose own session goes on opens its stream again.
        if (listener.person === message.ended) listener.end();
      } else if (listener.workspace === message.workspace) listener.send(message.event);
    }
  }

  /** Ends all streams: the process stops. */
  endAll(): void {
    for (const listener of this.listeners) listener.end();
  }

  /** How many pages are open here. */
  get open(): number {
    return this.listeners.size;
  }

  async stop(): Promise<void> {
    await this.client.close();
  }

  routes(router: Router): void {
    serve(router, routes.events, async ({ person, request, response }) => {
      response.set({ 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store', 'X-Accel-Buffering': 'no' });
      response.write(': open\n\n');
      const listener: Listener = {
        workspace: person.workspace,
        person: person.id,
        send: (event) => response.write(`data: ${JSON.stringify(event)}\n\n`),
        end: () => response.end(),
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
