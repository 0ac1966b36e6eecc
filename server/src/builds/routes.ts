import { pipeline } from 'node:stream/promises';
import {
  routes,
  schemaVersion,
  type BuildList,
  type BuildRow,
  type BuildState,
  type BuiltFormat,
  type Problem,
  type Received,
  type Shipped,
  type StoredVariant,
} from '@allomorph/core';
import type { Router } from 'express';
import { likePattern, oneRow, type Database, type Queryable } from '../db/database.js';
import { announce } from '../events/events.js';
import { actorOf, handled, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { formatsOfBuild } from './formats-of-build.js';
import { deliverablesPath, type DeliverablesAt } from './read-deliverable.js';
import { ticketFor } from './deliverable-address.js';
import { newestOf } from './other-variants.js';
import { zipDeliverable, zipTogether } from './zip-deliverable.js';
import { audit } from '../audit/audit.js';
import { readVariants } from '../publications/variants.js';
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
  errors: number;
  warnings: number;
  message: string | null;
  formats: readonly BuiltFormat[];
  shipped: Shipped | null;
  files_dropped: boolean;
}

interface DetailRow extends Row {
  problems: readonly Problem[];
  has_source: boolean;
  again: { of: string; isSame: boolean } | null;
  recipe: { profile: string; design: string; language: string; formats: readonly string[] };
}

const columns = `b.id, b.variant, b.variant_title, v.publication, p.title as publication_title, b.state, b.stage, b.progress,
    coalesce(s.name, '') as started_by, b.queued_at, b.ended_at, b.pages, b.bytes, b.digest, b.errors, b.warnings, b.message,
    (select ${formatsOfBuild}
       from build_formats f where f.build = b.id) as formats, b.files_dropped,
    (select jsonb_build_object('version', h.version, 'note', h.note, 'by', coalesce(o.name, ''), 'at', h.shipped_at)
       from shipped h left join people o on o.id = h.shipped_by where h.build = b.id) as shipped`;
const tables = `from builds b
  join variants v on v.id = b.variant and v.deleted_at is null
  join publications p on p.workspace = b.workspace and p.key = v.publication and p.deleted_at is null
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
    errors: row.errors,
    warnings: row.warnings,
    message: row.message,
    formats: row.formats,
    shipped: row.shipped,
    hasFiles: row.state === 'done' && !row.files_dropped,
  };
}

type Filter = Received<typeof routes.builds>['query'];

const orders: Readonly<Record<Filter['order'], string>> = {
  newest: 'b.queued_at desc, b.id',
  variant: 'lower(p.title), lower(b.variant_title), b.queued_at desc, b.id',
  problems: 'b.errors desc, b.warnings desc, b.queued_at desc, b.id',
};

/** A build that waits and will make just what is asked for: nobody needs it twice. */
async function waitingBuild(client: Queryable, variant: StoredVariant): Promise<string | null> {
  // Of two who ask at once, one waits here for the other.
  await client.query('select from variants where id = $1 for update', [variant.id]);
  const row = await oneRow<{ id: string }>(
    client,
    `select id from builds where variant = $1 and recipe = $2::jsonb and state = 'queued' and again_of is null limit 1`,
    [variant.id, JSON.stringify(variant)],
  );
  return row?.id ?? null;
}

/** A page of the builds that fit. */
async function listBuilds(db: Queryable, workspace: string, filter: Filter): Promise<BuildList> {
  const where = `where b.workspace = $1 and ($2 = '%%' or b.variant_title ilike $2 or p.title ilike $2)
      and ($3::text is null or b.state = $3) and ($4::text is null or v.publication = $4)
      and ($5::text is null or exists (select from shipped h where h.build = b.id))`;
  const values = [
    workspace,
    likePattern(filter.find),
    filter.state ?? null,
    filter.publication ?? null,
    filter.shipped ?? null,
  ];
  const counted = await oneRow<{ total: number }>(db, `select count(*)::integer as total ${tables} ${where}`, values);
  const { rows } = await db.query<Row>(
    `select ${columns} ${tables} ${where} order by ${orders[filter.order]} offset $6 limit $7`,
    [...values, filter.offset, filter.limit],
  );
  return { total: counted?.total ?? 0, items: rows.map(summary) };
}

export function buildRoutes(router: Router, db: Database, queue: BuildQueue, at: DeliverablesAt): void {
  serve(router, routes.builds, ({ person, query }) => listBuilds(db, person.workspace, query));

  serve(router, routes.startBuilds, async ({ person, body }) => {
    const variants = (await readVariants(db, person.workspace)).filter((variant) => body.variants.includes(variant.id));
    if (variants.length < new Set(body.variants).size)
      throw new HttpProblem(404, 'One of the variants does not exist any more.');
    const ids = await db.transaction(async (client) => {
      const added: string[] = [];
      for (const variant of variants) {
        const waiting = await waitingBuild(client, variant);
        if (waiting !== null) {
          added.push(waiting);
          continue;
        }
        const row = await oneRow<{ id: string }>(
          client,
          `insert into builds (workspace, variant, variant_title, recipe, schema_version, started_by)
           values ($1, $2, $3, $4, $5, $6) returning id`,
          [person.workspace, variant.id, variant.title, JSON.stringify(variant), schemaVersion, person.id],
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
    const row = await oneRow<DetailRow>(
      db,
      `select ${columns}, b.recipe, b.source is not null as has_source,
              (select jsonb_build_object('of', o.id, 'isSame', o.digest is not distinct from b.digest)
                 from builds o where o.id = b.again_of) as again,
              b.problems || coalesce(
                (select jsonb_agg(problem order by f.position) from build_formats f, jsonb_array_elements(f.problems) problem
                  where f.build = b.id), '[]') as problems
         ${tables} where b.workspace = $1 and b.id = $2`,
      [person.workspace, params.id],
    );
    if (!row) throw new HttpProblem(404, 'There is no such build.');
    const { profile, design, language, formats } = row.recipe;
    return {
      ...summary(row),
      canBeMadeAgain: row.has_source,
      again: row.again,
      problems: row.problems,
      recipe: { profile, design, language, formats },
    };
  });

  serve(router, routes.stopBuild, async ({ person, params }) => {
    await db.transaction(async (client) => {
      const build = await oneRow<{ state: BuildState; variant_title: string }>(
        client,
        'select state, variant_title from builds where workspace = $1 and id = $2 for update',
        [person.workspace, params.id],
      );
      if (!build) throw new HttpProblem(404, 'There is no such build.');
      if (build.state !== 'queued' && build.state !== 'running')
        throw new HttpProblem(409, 'This build has ended already.');
      // Whoever runs it sees that it is not running any more, and gives it up.
      await client.query(
        `update builds set state = 'broken off', stage = 'finished', ended_at = now(), worker_lock = null, message = $2
          where id = $1`,
        [params.id, `Stopped by ${person.name}.`],
      );
      await audit(client, actorOf(person), 'stop build', build.variant_title);
    });
    const ended = { type: 'build', id: params.id, state: 'broken off', stage: 'finished', progress: 1 } as const;
    await announce(db, person.workspace, ended);
  });

  serve(router, routes.deliverableZip, async ({ person, params, query, response }) => {
    const build = await oneRow<{ variant_title: string }>(
      db,
      'select variant_title from builds where workspace = $1 and id = $2',
      [person.workspace, params.id],
    );
    const zip = build && (await zipDeliverable(db, params.id, query.format ?? null));
    if (!zip) throw new HttpProblem(404, 'This build has no deliverable.');
    response.attachment(`${[build.variant_title, query.format].filter(Boolean).join(' ')}.zip`).type('application/zip');
    await pipeline(zip, response);
    return handled;
  });

  serve(router, routes.publicationZip, async ({ person, params, response }) => {
    const publication = await oneRow<{ title: string }>(
      db,
      'select title from publications where workspace = $1 and key = $2 and deleted_at is null',
      [person.workspace, params.key],
    );
    const sites = publication ? await newestOf(db, person.workspace, params.key) : [];
    if (!publication || sites.length === 0)
      throw new HttpProblem(404, 'No variant of this publication has been built.');
    response.attachment(`${publication.title}.zip`).type('application/zip');
    await pipeline(await zipTogether(db, sites), response);
    return handled;
  });

  // With the session one comes here; reading goes on where no session goes.
  serve(router, routes.deliverableFile, async ({ person, params, response }) => {
    const build = await oneRow(db, 'select from builds where workspace = $1 and id = $2', [
      person.workspace,
      params.id,
    ]);
    if (!build) throw new HttpProblem(404, 'There is no such build.');
    const path = [params.format, ...params.path].map(encodeURIComponent).join('/');
    response.redirect(302, `${at.origin}${deliverablesPath}/${ticketFor(params.id, person.id, at.secret)}/${path}`);
    return handled;
  });
}
