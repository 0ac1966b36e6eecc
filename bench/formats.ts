import { readdirSync, readFileSync } from 'node:fs';
import { formatNames, newRecipe, type ContentNode, type StoredVariant } from '@allomorph/core';
import { requireComponent, saveComponent } from '../server/src/library/components.js';
import { insertVariant, readVariants } from '../server/src/publications/variants.js';
import { startServer } from '../tests/support/running-server.js';

/**
 * What sixteen variants of the demo take in all formats, as the server builds them: from the ground up, again with nothing
 * changed, and after a snippet changed that some of them place.
 */

const wanted = 16;
const publications = ['observer-handbook', 'installation-guide', 'service-manual'];
const server = await startServer('demo');
const { db, workspace } = server;
const keeper = await server.as('keeper');
const actor = { workspace, person: null };

const profiles = (
  await db.query<{ key: string }>('select key from profiles where workspace = $1 order by key', [workspace])
).rows;
const own = await readVariants(db, workspace);
await db.query(`update variants set recipe = recipe || $2::jsonb where workspace = $1`, [
  workspace,
  JSON.stringify({ formats: formatNames, stopsAt: 'never' }),
]);
for (let at = 0; at < wanted - own.length; at += 1) {
  await db.transaction((client) =>
    insertVariant(client, actor, publications[at % publications.length] ?? '', {
      ...newRecipe,
      title: `Variant ${at}`,
      profile: profiles[at % profiles.length]?.key ?? '',
      language: at % 2 === 0 ? 'en' : 'de',
      formats: [...formatNames],
    }),
  );
}
const variants = await readVariants(db, workspace);

/** The most memory that this process and those that it began ever held, together, in megabytes. */
function peakMegabytes(): number {
  const own = readdirSync('/proc/self/task').flatMap((task) =>
    readFileSync(`/proc/self/task/${task}/children`, 'utf8').split(' ').filter(Boolean),
  );
  const peaks = ['self', ...own].map((pid) =>
    Number(/VmHWM:\s+(\d+)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0),
  );
  return Math.round(peaks.reduce((sum, each) => sum + each, 0) / 1024);
}

async function build(what: string, chosen: readonly StoredVariant[]): Promise<void> {
  const begun = performance.now();
  const { json } = await keeper.post<{ builds: string[] }>('/builds', { variants: chosen.map(({ id }) => id) });
  const made = await server.ended(keeper, json.builds);
  const seconds = (performance.now() - begun) / 1000;
  const formats = made.flatMap((each) => each.formats);
  const failed =
    formats.filter(({ state }) => state !== 'done').length + made.filter(({ state }) => state !== 'done').length;
  const megabytes = formats.reduce((sum, { bytes }) => sum + bytes, 0) / 1e6;
  console.log(
    `| ${what} | ${chosen.length} | ${formats.length}${failed > 0 ? ` (${failed} failed)` : ''} | ${seconds.toFixed(1)} | ${megabytes.toFixed(1)} | ${peakMegabytes()} |`,
  );
}

console.log(
  '| sixteen variants in all formats | variants | files and folders | seconds | MB handed over | peak memory, MB |\n| --- | --- | --- | --- | --- | --- |',
);
await build('from the ground up', variants);
await build('nothing changed', variants);
const { body, title, revision } = await requireComponent(db, workspace, 'warranty-terms');
const content = (body as ContentNode).content ?? [];
const more: ContentNode = { type: 'paragraph', content: [{ type: 'text', text: 'Changed.' }] };
const changed: ContentNode = { ...(body as ContentNode), content: [...content, more] };
await db.transaction((client) =>
  saveComponent(client, actor, 'warranty-terms', { base: revision, title, body: changed }),
);
const { json: fresh } = await keeper.get<readonly { variant: string; state: string }[]>('/freshness');
const stale = new Set(fresh.filter(({ state }) => state === 'stale').map(({ variant }) => variant));
await build(
  'what a changed snippet reaches',
  variants.filter(({ id }) => stale.has(id)),
);
await server.stop();
