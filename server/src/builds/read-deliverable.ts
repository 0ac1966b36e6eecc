import { createHash } from 'node:crypto';
import { extname } from 'node:path';
import { factsOf, opensInBrowser, othersFile } from '@allomorph/core';
import { Router } from 'express';
import { oneRow, type Database } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { sendBlob } from '../http/send-blob.js';
import { readTicket, ticketFor } from './deliverable-address.js';
import { otherSites, othersFileText, type Site } from './other-variants.js';
import { passagesScript } from './reader-script.js';

/**
 * What a file of a deliverable may do where it is read. Browsers show no PDF in a sandbox; our documents hold nothing that
 * runs.
 */
function policyFor(mediaType: string, format: string): string {
  const framed = `frame-ancestors 'self'`;
  if (mediaType === 'application/pdf') return framed;
  // The only scripts among the files of a site are ours, and the data that they read: authors cannot add one.
  const runs = format === 'html' && mediaType.startsWith('text/html');
  // The single page carries its looks, its fonts and its pictures in itself.
  const own = format === 'page' ? `'self' data:` : `'self'`;
  const style = format === 'page' ? `'unsafe-inline'` : `'self'`;
  return [
    `default-src 'none'`,
    ...(runs ? [`script-src 'self'`] : []),
    `img-src ${own}`,
    `media-src 'self' https:`,
    `style-src ${style}`,
    `font-src ${own}`,
    `form-action 'none'`,
    `base-uri 'none'`,
    framed,
    `sandbox ${runs ? 'allow-scripts ' : ''}allow-popups allow-popups-to-escape-sandbox allow-top-navigation-by-user-activation`,
  ].join('; ');
}

/**
 * The same for what is shown to one person: it may stand in the application. Only a page that asks for passages runs
 * something: that script, which is known by its bytes.
 */
function previewPolicy(mediaType: string, content: string, application: string): string {
  const shown = policyFor(mediaType, 'page').replace(`frame-ancestors 'self'`, (own) => `${own} ${application}`);
  if (!content.includes(passagesScript().toString())) return shown;
  return shown
    .replace('; img-src', `; script-src 'sha256-${scriptHash()}'; img-src`)
    .replace('sandbox ', 'sandbox allow-scripts ');
}

let hash: string | null = null;

function scriptHash(): string {
  return (hash ??= createHash('sha256').update(passagesScript().toString()).digest('base64'));
}

/** Where deliverables are read. Outside the API, where no session goes. */
export const deliverablesPath = '/deliverables';
/** Where the look of a design is shown. */
export const previewsPath = `${deliverablesPath}/preview`;

/** Where deliverables are read, and by what their addresses are signed. */
export interface DeliverablesAt {
  readonly origin: string;
  readonly secret: string;
}

/**
 * Serves the files of deliverables. What authors wrote stands in an origin of its own that is nobody's (a sandbox), reaches
 * nothing but its own files and runs nothing but the script of our own that lies beside them.
 */
export function deliverableFiles(db: Database, secret: string, application: string): Router {
  const router = Router();
  router.get('/preview/:ticket', async (request, response) => {
    const ticket = readTicket(request.params.ticket, secret);
    const preview =
      ticket &&
      (await oneRow<{ media_type: string; content: string }>(
        db,
        `select media_type, content from previews
          where id = $1 and person = $2 and exists (select from people where id = $2 and is_active)`,
        [ticket.build, ticket.person],
      ));
    if (!preview) throw new HttpProblem(404, 'This look is over; change something, and it is made anew.');
    response
      .set({
        'Content-Security-Policy': previewPolicy(preview.media_type, preview.content, application),
        'X-Content-Type-Options': 'nosniff',
        'Referrer-Policy': 'no-referrer',
        'Cross-Origin-Resource-Policy': 'cross-origin',
        'Cache-Control': 'private, max-age=3600',
      })
      .removeHeader('X-Frame-Options');
    response.type(preview.media_type).send(preview.content);
  });
  router.get('/:ticket/:format/*path', async (request, response) => {
    const { ticket: given, format, path } = request.params;
    const ticket = readTicket(given, secret);
    if (!ticket)
      throw new HttpProblem(403, 'This address opened the deliverable for a while; open it from Builds again.');
    if (format === 'html' && path.join('/') === othersFile) {
      if (!(await oneRow(db, 'select from people where id = $1 and is_active', [ticket.person])))
        throw new HttpProblem(404, 'The deliverable has no such file.');
      const others = await otherSites(db, ticket.build);
      const folderOf = (site: Site): string =>
        `${deliverablesPath}/${ticketFor(site.build, ticket.person, secret)}/html/`;
      const text = await othersFileText(db, ticket.build, others, folderOf);
      response
        .set({
          'X-Content-Type-Options': 'nosniff',
          'Referrer-Policy': 'no-referrer',
          'Cross-Origin-Resource-Policy': 'cross-origin',
          'Cache-Control': 'private, max-age=60',
        })
        .type('text/javascript')
        .send(text);
      return;
    }
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
    if (!file) throw new HttpProblem(404, 'The deliverable has no such file.');
    // A file that is all of a deliverable is called after what it is.
    const facts = factsOf(format);
    if (facts?.container !== 'folder') {
      response.attachment(`${file.title}${extname(path.join('/'))}`);
      const named = response.get('Content-Disposition') ?? '';
      if (facts && opensInBrowser(facts)) response.set('Content-Disposition', named.replace(/^attachment/, 'inline'));
    }
    response
      .set({
        'Content-Security-Policy': policyFor(file.media_type, format),
        'X-Content-Type-Options': 'nosniff',
        'Referrer-Policy': 'no-referrer',
        // Pages in the sandbox have no origin of their own, so that their own files come from another one.
        'Cross-Origin-Resource-Policy': 'cross-origin',
        'Access-Control-Allow-Origin': '*',
        'Cache-Control': 'private, max-age=3600',
      })
      .type(file.media_type);
    await sendBlob(db, file.digest, request, response);
  });
  return router;
}
