import { routes } from '@allomorph/core';
import type { Router } from 'express';
import { serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import type { Analyses } from '../threads/analyses.js';
import { ticketFor } from './deliverable-address.js';
import { previewsPath, type DeliverablesAt } from './read-deliverable.js';

/** Where the passages of a deliverable come from: a page of it is made anew from what it was built of. */
export function originRoutes(router: Router, analyses: Analyses, at: DeliverablesAt): void {
  serve(router, routes.buildOrigin, async ({ person, params, body, signal }) => {
    const order = { ...body, build: params.id, workspace: person.workspace, person: person.id };
    const made = await analyses.origin(order, signal);
    if (!made)
      throw new HttpProblem(404, 'What this was built of was not kept, or it has no page; build the variant again.');
    const { preview, ...answer } = made;
    return { ...answer, address: `${at.origin}${previewsPath}/${ticketFor(preview, person.id, at.secret)}` };
  });
}
