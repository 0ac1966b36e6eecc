import { routes } from '@allomorph/core';
import type { Router } from 'express';
import type { Database } from '../db/database.js';
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { readVariants } from '../publications/publications.js';
import type { Analyses } from '../threads/analyses.js';

/** Two variants side by side, as their content stands now. */
export function compareRoutes(router: Router, db: Database, analyses: Analyses): void {
  serve(router, routes.compare, async ({ person, query, signal }) => {
    const variants = await readVariants(db, person.workspace);
    const [before, after] = [query.before, query.after].map((id) => variants.find((variant) => variant.id === id));
    if (!before || !after) throw new HttpProblem(404, 'One of the variants does not exist any more.');
    const entries = await analyses.compare(person.workspace, { before, after }, signal);
    return { entries };
  });
}
