import type { Comparison, EntryChange } from '@allomorph/core';
import type { Router } from 'express';
import { z } from 'zod';
import type { Database } from '../db/database.js';
import { route } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { readVariants } from '../publications/publications.js';
import { runInThread } from '../threads/work-thread.js';
import type { CompareOrder } from './compare-thread.js';

const compareQuery = z.object({ before: z.uuid(), after: z.uuid() });
const limitSeconds = 120;

/** Two variants side by side, as their content stands now. */
export function compareRoutes(router: Router, db: Database): void {
  route(
    router,
    'get',
    '/compare',
    { role: 'reader', query: compareQuery },
    async ({ person, query }): Promise<Comparison> => {
      const variants = await readVariants(db, person.workspace);
      const [before, after] = [query.before, query.after].map((id) => variants.find((variant) => variant.id === id));
      if (!before || !after) throw new HttpProblem(404, 'One of the variants does not exist any more.');
      const order: CompareOrder = {
        url: db.url,
        workspace: person.workspace,
        before,
        after,
        buildDate: new Date().toISOString().slice(0, 10),
      };
      const module = new URL('./compare-thread.ts', import.meta.url);
      const entries = await runInThread<CompareOrder, never, readonly EntryChange[]>(
        module,
        order,
        () => undefined,
        limitSeconds,
      );
      return { entries };
    },
  );
}
