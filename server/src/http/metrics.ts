import { timingSafeEqual } from 'node:crypto';
import type { IRouter, Request, RequestHandler } from 'express';
import { collectDefaultMetrics, Gauge, Histogram, Registry } from 'prom-client';
import * as z from 'zod';
import type { Database } from '../db/database.js';
import type { EventHub } from '../events/events.js';
import type { Analyses } from '../threads/analyses.js';
import { HttpProblem } from './problem.js';

interface Measured {
  readonly db: Database;
  readonly events: EventHub;
  readonly analyses: Analyses;
}

const routeSchema = z.object({ path: z.string() });

/** Figures about the process in the text format of Prometheus. */
export class Metrics {
  private readonly registry = new Registry();
  private readonly duration = new Histogram({
    name: 'allomorph_request_seconds',
    help: 'How long requests took, by route.',
    labelNames: ['method', 'route', 'status'],
    buckets: [0.005, 0.02, 0.05, 0.1, 0.3, 1, 3, 10],
    registers: [this.registry],
  });

  constructor({ db, events, analyses }: Measured) {
    collectDefaultMetrics({ register: this.registry });
    const gauge = (name: string, help: string, read: () => number): void => {
      new Gauge({
        name: `allomorph_${name}`,
        help,
        registers: [this.registry],
        collect() {
          this.set(read());
        },
      });
    };
    gauge('open_pages', 'Pages that listen for events.', () => events.open);
    gauge('analyses_running', 'What is being worked out in threads.', () => analyses.load.running);
    gauge('analyses_waiting', 'What waits for a thread.', () => analyses.load.waiting);
    gauge('database_connections', 'Connections of the pool.', () => db.pool.totalCount);
    gauge('database_waiting', 'Requests that wait for a connection.', () => db.pool.waitingCount);
  }

  readonly measure: RequestHandler = (request, response, next) => {
    const end = this.duration.startTimer();
    response.on('finish', () => {
      // Express says of its routes that they may be anything.
      const { path } = routeSchema.safeParse(request.route).data ?? { path: 'other' };
      end({ method: request.method, route: path, status: response.statusCode });
    });
    next();
  };

  /** @param token with which others than this machine may read them */
  routes(app: IRouter, token: string | null): void {
    app.get('/metrics', async (request, response) => {
      if (!isAdmitted(request, token))
        throw new HttpProblem(403, 'The metrics are read from this machine, or with their token.');
      response.type(this.registry.contentType).send(await this.registry.metrics());
    });
  }
}

function isAdmitted(request: Request, token: string | null): boolean {
  // A proxy stands on this machine too: what it hands on comes from elsewhere.
  const isForwarded = request.get('X-Forwarded-For') !== undefined || request.get('Forwarded') !== undefined;
  const isLocal = ['127.0.0.1', '::1', '::ffff:127.0.0.1'].includes(request.socket.remoteAddress ?? '');
  if (isLocal && !isForwarded) return true;
  const given = Buffer.from(request.get('Authorization') ?? '');
  const wanted = Buffer.from(`Bearer ${token ?? ''}`);
  return token !== null && given.length === wanted.length && timingSafeEqual(given, wanted);
}
