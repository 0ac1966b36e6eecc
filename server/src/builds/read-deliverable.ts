import { createHash } from 'node:crypto';
import { slotScript } from '@allomorph/core';
import { Router } from 'express';
import { oneRow, type Database } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { readBlob } from '../images/blobs.js';
import { readTicket } from './deliverable-address.js';

/** By which the policy of deliverables lets the script of slots run, and no other. */
const slotScriptHash = `sha256-${createHash('sha256').update(slotScript).digest('base64')}`;

/** Where deliverables are read. Outside the API, where no session goes. */
export const deliverablesPath = '/deliverables';

/**
 * Serves the files of deliverables. What authors wrote stands in an origin of its own that is nobody's (a sandbox), reaches
 * nothing but its own files and runs nothing but the one script that we know.
 */
export function deliverableFiles(db: Database, secret: string): Router {
  const router = Router();
  router.get('/:ticket/:format/*path', async (request, response) => {
    const { ticket: given, format, path } = request.params;
    const ticket = readTicket(given, secret);
    if (!ticket)
      throw new HttpProblem(403, 'This address opened the deliverable for a while; open it from Builds again.');
    const file = await oneRow<{ media_type: string; digest: string }>(
      db,
      `select f.media_type, f.digest from deliverable_files f join builds b on b.id = f.build
         join people p on p.workspace = b.workspace and p.id = $3 and p.is_active
        where f.build = $1 and f.format = $4 and f.path = $2`,
      [ticket.build, path.join('/'), ticket.person, format],
    );
    const bytes = file && (await readBlob(db, file.digest));
    if (!bytes) throw new HttpProblem(404, 'The deliverable has no such file.');
    const hasSlot = bytes.includes('data-slot=');
    response
      .set({
        'Content-Security-Policy':
          `default-src 'none'; ${hasSlot ? `script-src '${slotScriptHash}'; ` : ''}img-src 'self'; media-src 'self' https:; style-src 'self'; font-src 'self'; ` +
          `form-action 'none'; base-uri 'none'; frame-ancestors 'self'; ` +
          `sandbox ${hasSlot ? 'allow-scripts ' : ''}allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation`,
        'X-Content-Type-Options': 'nosniff',
        'Referrer-Policy': 'no-referrer',
        // Pages in the sandbox have no origin of their own, so that their own files come from another one.
        'Cross-Origin-Resource-Policy': 'cross-origin',
        'Access-Control-Allow-Origin': '*',
        'Cache-Control': 'private, max-age=3600',
      })
      .type(file.media_type)
      .send(bytes);
  });
  return router;
}
