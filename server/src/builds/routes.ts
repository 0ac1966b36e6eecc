import { createHash } from 'node:crypto';
import { routes, slotScript, type BuildRow, type BuildState, type Problem } from '@allomorph/core';
import { strToU8, zipSync } from 'fflate';
import type { Router } from 'express';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { announce } from '../events/events.js';
import { handled, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { readBlob } from '../images/blobs.js';
import { audit } from '../library/audit.js';
import { actorOf } from '../library/routes.js';
import { readVariants } from '../publications/publications.js';
import type { BuildQueue } from './builder.js';

interface Row {
  id: string;
  variant: string;
  variant_title: string;
  publication: string;
  publication_title: string;
  state: BuildState;
  stage: string;
  progress: number;
  started_by: string | null;
  queued_at: Date;
  ended_at: Date | null;
  pages: number;
  bytes: string;
  digest: string | null;
  problems: readonly Problem[];
  message: string | null;
  recipe: { profile: string; design: string; language: string; formats: readonly string[] };
}

const select = `select b.id, b.variant, b.variant_title, v.publication, p.title as publication_title, b.state, b.stage, b.progress,
    coalesce(s.name, '') as started_by, b.queued_at, b.ended_at, b.pages, b.bytes, b.digest, b.problems, b.message, b.recipe
  from builds b
  join variants v on v.id = b.variant
  join publications p on p.workspace = b.workspace and p.key = v.publication
  left join people s on s.id = b.started_by`;

function summary(row: Row): BuildRow {
  return {
    id: row.id,
    variant: row.variant,
    variantTitle: row.variant_title,
    publication: row.publication,
    publicationTitle: row.publication_title,
    state: row.state,
    stage: row.stage,
    progress: row.progress,
    startedBy: row.started_by ?? '',
    queuedAt: row.queued_at.toISOString(),
    endedAt: row.ended_at?.toISOString() ?? null,
    pages: row.pages,
    bytes: Number(row.bytes),
    digest: row.digest,
    errors: row.problems.filter((problem) => problem.severity === 'error').length,
    warnings: row.problems.filter((problem) => problem.severity === 'warning').length,
    message: row.message,
  };
}

/** By which the policy of deliverables lets the script of slots run, and no other. */
const slotScriptHash = `sha256-${createHash('sha256').update(slotScript).digest('base64')}`;

/** Zip entries carry one fixed date, so that equal deliverables are equal archives. */
const zipDate = new Date(1980, 0, 1, 0, 0, 0);

/** The files of a deliverable as one archive; undefined where the build made none. */
export async function zipDeliverable(db: Queryable, build: string): Promise<Uint8Array | undefined> {
  const { rows } = await db.query<{ path: string; digest: string }>(
    'select path, digest from deliverable_files where build = $1 order by path',
    [build],
  );
  if (rows.length === 0) return undefined;
  const files: Record<string, Uint8Array> = {};
  for (const row of rows) files[row.path] = (await readBlob(db, row.digest)) ?? strToU8('');
  return zipSync(files, { level: 6, mtime: zipDate });
}

export function buildRoutes(router: Router, db: Database, queue: BuildQueue): void {
  serve(router, routes.builds, async ({ person }) => {
    const { rows } = await db.query<Row>(`${select} where b.workspace = $1 order by b.queued_at desc limit 300`, [
      person.workspace,
    ]);
    return rows.map(summary);
  });

  serve(router, routes.startBuilds, async ({ person, body }) => {
    const variants = (await readVariants(db, person.workspace)).filter((variant) => body.variants.includes(variant.id));
    if (variants.length < new Set(body.variants).size)
      throw new HttpProblem(404, 'One of the variants does not exist any more.');
    const ids = await db.transaction(async (client) => {
      const added: string[] = [];
      for (const variant of variants) {
        const row = await oneRow<{ id: string }>(
          client,
          'insert into builds (workspace, variant, variant_title, recipe, started_by) values ($1, $2, $3, $4, $5) returning id',
          [person.workspace, variant.id, variant.title, JSON.stringify(variant), person.id],
        );
        if (row) added.push(row.id);
      }
      await audit(client, actorOf(person), 'start builds', variants.map((variant) => variant.title).join(', '));
      return added;
    });
    for (const id of ids) {
      await queue.add(id);
      await announce(db, person.workspace, { type: 'build', id, state: 'queued', stage: 'waiting', progress: 0 });
    }
    return { builds: ids };
  });

  serve(router, routes.build, async ({ person, params }) => {
    const row = await oneRow<Row>(db, `${select} where b.workspace = $1 and b.id = $2`, [person.workspace, params.id]);
    if (!row) throw new HttpProblem(404, 'There is no such build.');
    const { profile, design, language, formats } = row.recipe;
    return { ...summary(row), problems: row.problems, recipe: { profile, design, language, formats } };
  });

  serve(router, routes.deliverableZip, async ({ person, params, response }) => {
    const build = await oneRow<{ variant_title: string }>(
      db,
      'select variant_title from builds where workspace = $1 and id = $2',
      [person.workspace, params.id],
    );
    const zip = build && (await zipDeliverable(db, params.id));
    if (!zip) throw new HttpProblem(404, 'This build has no deliverable.');
    response.attachment(`${build.variant_title}.zip`).type('application/zip').send(Buffer.from(zip));
    return handled;
  });

  serve(router, routes.deliverableFile, async ({ person, params, response }) => {
    const file = await oneRow<{ media_type: string; digest: string }>(
      db,
      `select f.media_type, f.digest from deliverable_files f join builds b on b.id = f.build
        where b.workspace = $1 and f.build = $2 and f.path = $3`,
      [person.workspace, params.id, params.path.join('/')],
    );
    const bytes = file && (await readBlob(db, file.digest));
    if (!bytes) throw new HttpProblem(404, 'The deliverable has no such file.');
    const hasSlot = bytes.includes('data-slot=');
    // Deliverables reach nothing but their own files and run nothing but the one script that we know. They
    // keep the server's origin, without which their style sheet and pictures would not get the session.
    response
      .set({
        'Content-Security-Policy':
          `default-src 'none'; ${hasSlot ? `script-src '${slotScriptHash}'; ` : ''}img-src 'self'; media-src 'self' https:; style-src 'self'; font-src 'self'; ` +
          "form-action 'none'; base-uri 'none'; " +
          `sandbox ${hasSlot ? 'allow-scripts ' : ''}allow-same-origin allow-popups allow-top-navigation-by-user-activation`,
        'X-Content-Type-Options': 'nosniff',
      })
      .type(file.media_type)
      .send(bytes);
    return handled;
  });
}
