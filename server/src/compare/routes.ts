import { routes } from '@allomorph/core';
import type { Router } from 'express';
import { oneRow, type Database } from '../db/database.js';
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { readVariants } from '../publications/variants.js';
import type { Analyses } from '../threads/analyses.js';

/** The id of a build that is known by what it was made of. */
async function requireSource(db: Database, workspace: string, build: string): Promise<string> {
  const row = await oneRow(db, 'select from builds where workspace = $1 and id = $2 and source is not null', [
    workspace,
    build,
  ]);
  if (!row) throw new HttpProblem(404, 'Nothing was kept of what this build was made of.');
  return build;
}

/** Two variants side by side as their content stands now, or what a build was made of and a variant. */
export function compareRoutes(router: Router, db: Database, analyses: Analyses): void {
  serve(router, routes.compare, async ({ person, query, signal }) => {
    const variants = await readVariants(db, person.workspace);
    const [before, after] = [query.before, query.after].map((id) => variants.find((variant) => variant.id === id));
    const built = query.build === undefined ? null : await requireSource(db, person.workspace, query.build);
    if (!after || (!before && built === null))
      throw new HttpProblem(404, 'One of the variants does not exist any more.');
    const entries = await analyses.compare(person.workspace, { before: before ?? after, after, built }, signal);
    return { entries };
  });
}
