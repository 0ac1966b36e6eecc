import {
  assemblePublication,
  Memory,
  newRecipe,
  recordBuild,
  schemaVersion,
  web,
  type ContentNode,
  type Recipe,
  type StoredProfile,
  type StoredVariant,
} from '@allomorph/core';
import { freshDatabase } from '../tests/support/fresh-database.js';
import { readRecipes } from '../server/src/builds/build-variant.js';
import { Database } from '../server/src/db/database.js';
import { insertComponents, requireComponent, saveComponent } from '../server/src/library/components.js';
import { whereUsed } from '../server/src/library/where-used.js';
import { insertPublication } from '../server/src/publications/publications.js';
import { insertVariant, readVariants } from '../server/src/publications/variants.js';
import { Analyses, buildTask } from '../server/src/threads/analyses.js';
import { WorkPool } from '../server/src/threads/work-pool.js';
import { writeDesign } from '../server/src/designs/designs.js';
import { allChanges, giveUp, planFor, takeBack } from '../server/src/variation/give-up.js';
import { writeAxis, writeProfile } from '../server/src/variation/vocabulary.js';
import { openWorkspace } from '../server/src/workspace.js';
import { row, spreadOf } from './measure.js';
import { askedOf, layeredReferences, tangledReferences } from './made-up/references.js';
import { axes, madeUpPublication, profileOf, sharedSnippet, unnumberedSettings } from './made-up/publication.js';

/**
 * What the server does. Builds as it runs them, from the database and back into it: the made-up publication of 1,000
 * topics, whole in a thread that was just started, whole in a thread that built another variant before, and
 * again after a snippet changed that 40 topics place; then the question which of 200 built variants are stale,
 * a value that is merged with all that names it, and where components of a library of 20,000 are used.
 */

const rounds = 5;
const variantCount = 200;
const updates = 12;
const made = madeUpPublication(1000);
const database = await freshDatabase();
const db = new Database(database.url);
const workspace = await openWorkspace(db, 'empty');
const actor = { workspace, person: null };

await db.transaction(async (client) => {
  for (const axis of axes) await writeAxis(client, actor, axis);
  await writeDesign(client, actor, {
    key: 'unnumbered',
    title: 'Unnumbered',
    from: 'plain',
    settings: unnumberedSettings,
  });
  await insertComponents(client, actor, made.components);
  await insertPublication(client, actor, { ...made.publication, title: 'Made up', values: {} });
  for (let at = 0; at < variantCount; at += 1) {
    const profile = profileOf(at) as Pick<StoredProfile, 'axes'>;
    await writeProfile(client, actor, { ...profile, key: `profile-${at}`, title: `Profile ${at}` });
    await insertVariant(client, actor, made.publication.key, {
      ...newRecipe,
      title: `Variant ${at}`,
      profile: `profile-${at}`,
      design: 'unnumbered',
      leaveOutEmpty: false,
    });
  }
});
const variants = await readVariants(db, workspace, made.publication.key);

const newThread = () => new WorkPool({ threads: 1 });

/** Queues and runs one build; milliseconds from the order to its end. */
async function build(thread: ReturnType<typeof newThread>, variant: StoredVariant): Promise<number> {
  const { rows } = await db.query<{ id: string }>(
    'insert into builds (workspace, variant, variant_title, recipe, schema_version) values ($1, $2, $3, $4, $5) returning id',
    [workspace, variant.id, variant.title, JSON.stringify(variant), schemaVersion],
  );
  const order = {
    url: database.url,
    workspace,
    build: rows[0]?.id ?? '',
    variant,
    buildDate: '2026-11-26',
    againOf: null,
  };
  const begun = performance.now();
  await thread.run(buildTask, order, { limitSeconds: 600 });
  return performance.now() - begun;
}

async function changeShared(turn: number): Promise<void> {
  const { body, title, revision } = await requireComponent(db, workspace, sharedSnippet);
  const content = (body as ContentNode).content ?? [];
  const changed: ContentNode = {
    ...(content.at(-1) as ContentNode),
    content: [{ type: 'text', text: `As it is in turn ${turn}.` }],
  };
  const next = { ...(body as ContentNode), content: [...content.slice(0, -1), changed] };
  await db.transaction((client) => saveComponent(client, actor, sharedSnippet, { base: revision, title, body: next }));
}

const [variant, ...others] = variants as readonly [StoredVariant, ...StoredVariant[]];
const cold: number[] = [];
const warm: number[] = [];
const update: number[] = [];
for (const other of others.slice(0, rounds)) {
  // Nothing of this build is stored yet: every deliverable of before is deleted.
  await db.query('truncate deliverable_files, blob_chunks, blobs cascade');
  const thread = newThread();
  cold.push(await build(thread, variant));
  warm.push(await build(thread, other));
  for (let turn = 0; turn < updates; turn += 1) {
    await changeShared(cold.length * updates + turn);
    update.push(await build(thread, variant));
  }
  await thread.end();
}
const whole = spreadOf(cold);
const share = (median: number): string => `${((100 * median) / whole.median).toFixed(1)} %`;
console.log('| what | ms: least / median / most | ratio |\n| --- | --- | --- |');
console.log(row('one deliverable, from the database and back into it, by a new process', whole, '100 %'));
console.log(row('another variant after it', spreadOf(warm), share(spreadOf(warm).median)));
console.log(
  row(
    'the first brought up to date after a snippet in 40 topics changed',
    spreadOf(update),
    share(spreadOf(update).median),
  ),
);

// A build of every variant, as far as freshness looks at it.
const { source, recipes } = await readRecipes(db, workspace, variants, '2026-11-26');
const memory = new Memory();
for (const [at, each] of variants.entries()) {
  const recipe = recipes[at] as Recipe;
  const record = recordBuild(assemblePublication(source, recipe, memory), recipe, [
    { format: web, rendition: { files: [], fonts: [] } },
  ]);
  await db.query(
    `insert into builds (workspace, variant, variant_title, recipe, schema_version, state, ended_at, record)
     values ($1, $2, $3, $4, $5, 'done', now(), $6)`,
    [workspace, each.id, each.title, JSON.stringify(each), schemaVersion, JSON.stringify(record)],
  );
}
const first: number[] = [];
const later: number[] = [];
for (let round = 0; round < 3; round += 1) {
  const analyses = new Analyses(db, 2);
  for (let turn = 0; turn < 4; turn += 1) {
    await changeShared(1000 + round * 4 + turn);
    const begun = performance.now();
    const stale = (await analyses.freshness(workspace)).filter(({ state }) => state === 'stale').length;
    (turn === 0 ? first : later).push(performance.now() - begun);
    if (stale !== variantCount) throw new Error(`${stale} of ${variantCount} variants are stale.`);
  }
  await analyses.stop();
}
console.log(row(`which of ${variantCount} variants are stale, asked of a new process`, spreadOf(first), ''));
console.log(row('the same, asked again', spreadOf(later), ''));

// A value is merged with everything that names it, and that is taken back.
const plans: number[] = [];
const acts: number[] = [];
const backs: number[] = [];
let namedIn = 0;
for (let round = 0; round < 3; round += 1) {
  const givenUp = { axis: 'product', value: 'p1', into: 'p2' };
  const timed = async <T>(into: number[], work: () => Promise<T>): Promise<T> => {
    const begun = performance.now();
    const result = await work();
    into.push(performance.now() - begun);
    return result;
  };
  const plan = await timed(plans, () => planFor(db, workspace, givenUp));
  namedIn = allChanges(plan).length;
  const act = await timed(acts, () => db.transaction((client) => giveUp(client, actor, givenUp, 0)));
  const { refused } = await timed(backs, () => db.transaction((client) => takeBack(client, actor, act.id)));
  if (refused.length > 0) throw new Error(refused[0]?.why);
}
console.log(row(`what merging a value that is named in ${namedIn} places would do`, spreadOf(plans), ''));
console.log(row('doing it, in one transaction', spreadOf(acts), ''));
console.log(row('taking it back', spreadOf(backs), ''));

await db.query(
  `insert into components (workspace, key, kind, title, revision)
   select $1, 'c' || n, 'snippet', 'Component ' || n, 1 from generate_series(0, 19999) as n`,
  [workspace],
);
for (const [shape, edges] of [
  ['three layers', layeredReferences()],
  ['a tangle', tangledReferences()],
] as const) {
  await db.query(`delete from component_references where workspace = $1 and source ~ '^c[0-9]+$'`, [workspace]);
  await db.query(
    `insert into component_references (workspace, source_kind, source, position, target, kind)
     select $1, 'component', source, row_number() over (), target, 'placement'
       from unnest($2::text[], $3::text[]) as t (source, target)`,
    [workspace, edges.map(({ user }) => user), edges.map(({ used }) => used)],
  );
  await db.query('vacuum analyze component_references');
  const questions: number[] = [];
  let found = 0;
  for (const key of askedOf) {
    const begun = performance.now();
    const { directTotal, furtherTotal } = await whereUsed(db, workspace, key);
    questions.push(performance.now() - begun);
    found = Math.max(found, directTotal + furtherTotal);
  }
  const what = `where used through others, asked of the database, 200,000 references in ${shape}`;
  console.log(row(what, spreadOf(questions), `up to ${found} uses`));
}
await db.close();
await database.drop();
