import type { IRouter } from 'express';
import { isDatabaseAway, type Database } from '../db/database.js';

/** For whoever watches over the server: whether the process lives, and whether it can do its work. */
export function healthRoutes(app: IRouter, db: Database): void {
  app.get('/healthz', (_request, response) => response.json({ alive: true }));
  app.get('/readyz', async (_request, response) => {
    try {
      await db.query('select 1');
      response.json({ ready: true });
    } catch (error) {
      if (!isDatabaseAway(error)) throw error;
      response.status(503).json({ ready: false, why: 'The database cannot be reached.' });
    }
  });
}
