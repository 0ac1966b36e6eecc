import { createHash } from 'node:crypto';
import { extname } from 'node:path';
import { factsOf, opensInBrowser, slotScript } from '@allomorph/core';
import { Router } from 'express';
import { oneRow, type Database } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { readBlob } from '../images/blobs.js';
import { readTicket } from './deliverable-address.js';

/** By which the policy of deliverables lets the script of slots run, and no other. */
const slotScriptHash = `sha256-${createHash('sha256').update(slotScript).digest('base64')}`;

/**
 * What a file of a deliverable may do where it is read. Browsers show no PDF in a sandbox; our documents hold nothing that
 * runs.
 */
function policyFor(mediaType: string, format: string, bytes: Buffer): string {
  const framed = `frame-ancestors 'self'`;
  if (mediaType === 'application/pdf') return framed;
  const hasSlot = format === 'html' && bytes.includes('data-slot=');
  // The single page carries its looks, its fonts and its pictures in itself.
  const own = format === 'page' ? `'self' data:` : `'self'`;
  const style = format === 'page' ? `'unsafe-inline'` : `'self'`;
  return [
    `default-src 'none'`,
    ...(hasSlot ? [`script-src '${slotScriptHash}'`] : []),
    `img-src ${own}`,
    `media-src 'self' https:`,
    `style-src ${style}`,
    `font-src ${own}`,
    `form-action 'none'`,
    `base-uri 'none'`,
    framed,
    `sandbox ${hasSlot ? 'allow-scripts ' : ''}allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation`,
  ].join('; ');
}

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
    const file = await oneRow<{ media_type: string; digest: string; title: string }>(
      db,
      `select f.media_type, f.digest, concat_ws(', ', c.title, b.variant_title) as title
         from deliverable_files f join builds b on b.id = f.build
         join variants v on v.id = b.variant
         join publications c on c.workspace = v.workspace and c.key = v.publication
         join people p on p.workspace = b.workspace and p.id = $3 and p.is_active
        where f.build = $1 and f.format = $4 and f.path = $2`,
      [ticket.build, path.join('/'), ticket.person, format],
    );
    const bytes = file && (await readBlob(db, file.digest));
    if (!bytes) throw new HttpProblem(404, 'The deliverable has no such file.');
    // A file that is all of a deliverable is called after what it is.
    const facts = factsOf(format);
    if (facts?.container !== 'folder') {
      response.attachment(`${file.title}${extname(path.join('/'))}`);
      const named = response.get('Content-Disposition') ?? '';
      if (facts && opensInBrowser(facts)) response.set('Content-Disposition', named.replace(/^attachment/, 'inline'));
    }
    response
      .set({
        'Content-Security-Policy': policyFor(file.media_type, format, bytes),
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
