import { routes } from '@allomorph/core';
import type { Router } from 'express';
import { ticketFor } from '../builds/deliverable-address.js';
import { previewsPath, type DeliverablesAt } from '../builds/read-deliverable.js';
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import type { Analyses } from '../threads/analyses.js';

/** What a design would look like: made in a thread, and read where deliverables are. */
export function previewRoutes(router: Router, analyses: Analyses, at: DeliverablesAt): void {
  serve(router, routes.previewDesign, async ({ person, body, signal }) => {
    const made = await analyses.preview({ ...body, workspace: person.workspace, person: person.id }, signal);
    if (made.id === null) throw new HttpProblem(404, 'There is no such variant any more.');
    const address = `${at.origin}${previewsPath}/${ticketFor(made.id, person.id, at.secret)}`;
    return { address, pages: made.pages, problems: made.problems };
  });
}
