import { isDeepStrictEqual } from 'node:util';
import {
  bodyWithKey,
  designFieldNames,
  entriesWithKey,
  referencesOf,
  saveVariantSchema,
  settingsWithKey,
  valuesWithKey,
  type ChangeKey,
  type Component,
  type KeyChanged,
} from '@allomorph/core';
import { audit, type Actor } from '../audit/audit.js';
import { oneRow, type Queryable } from '../db/database.js';
import { readDesigns, writeDesign } from '../designs/designs.js';
import { announce } from '../events/events.js';
import { HttpProblem } from '../http/problem.js';
import { readPublication, savePublication } from '../publications/publications.js';
import { readVariants, saveVariant } from '../publications/variants.js';
import {
  lockLibrary,
  readComponents,
  readRevisions,
  requireComponent,
  saveComponent,
  takenKeys,
  type RevisionName,
} from './components.js';

/** One act rewrites no more places than these. */
const mostPlaces = 5_000;

/**
 * Gives a component another key, and has everything that refers to it do so by the new one: components, outlines, values, designs.
 * What refers to it gets a new revision. The former key stays taken, and leads to the component where it is still written.
 * @throws HttpProblem 404; 409 where the key is taken, or a held revision names the component; 422 where too much refers to it
 */
export async function changeKey(
  db: Queryable,
  actor: Actor,
  from: string,
  { to, base }: ChangeKey,
): Promise<KeyChanged> {
  await lockLibrary(db, actor.workspace);
  const component = await requireComponent(db, actor.workspace, from);
  if (component.revision !== base)
    throw new HttpProblem(409, `Somebody saved “${component.title}” meanwhile. Look at it again first.`);
  if (to === from) return { component, rewritten: 0 };
  await refuseTaken(db, actor.workspace, from, to);
  await refuseHeld(db, actor.workspace, component);
  const users = await usersOf(db, actor.workspace, from);
  await moveKey(db, actor, from, to);
  let rewritten = 0;
  const keys = users.component.map((key) => (key === from ? to : key));
  for (const user of await readComponents(db, actor.workspace, keys)) {
    const { key, revision, title, body } = user;
    const changed = bodyWithKey(body, from, to);
    if (changed === body) continue;
    await saveComponent(db, actor, key, { base: revision, title, body: changed });
    rewritten += 1;
  }
  for (const key of users.publication) {
    const publication = await readPublication(db, actor.workspace, key);
    if (!publication) continue;
    const values = valuesWithKey(publication.values, from, to);
    const entries = entriesWithKey(publication.entries, from, to);
    await savePublication(db, actor, key, { title: publication.title, values, entries, base: publication.revision });
    rewritten += 1;
  }
  for (const design of await readDesigns(db, actor.workspace)) {
    const changed = settingsWithKey(design.settings, from, to);
    if (design.isShipped || isDeepStrictEqual(changed, design.settings)) continue;
    if (designFieldNames.includes(to))
      throw new HttpProblem(422, `The design “${design.title}” names it, and means something else by “${to}”.`);
    await writeDesign(db, actor, { ...design, settings: changed });
    rewritten += 1;
  }
  for (const { id, revision, ...recipe } of await readVariants(db, actor.workspace)) {
    const values = valuesWithKey(recipe.values, from, to);
    if (isDeepStrictEqual(values, recipe.values)) continue;
    await saveVariant(db, actor, id, saveVariantSchema.parse({ ...recipe, values, base: revision }));
    rewritten += 1;
  }
  await audit(db, actor, 'change key', to, { from });
  const now = await requireComponent(db, actor.workspace, to);
  await announce(db, actor.workspace, { type: 'component', key: to, revision: now.revision, by: actor.person ?? '' });
  return { component: now, rewritten };
}

async function refuseTaken(db: Queryable, workspace: string, from: string, to: string): Promise<void> {
  const taken = await takenKeys(db, workspace);
  const own = await oneRow(db, 'select from former_keys where workspace = $1 and former = $2 and key = $3', [
    workspace,
    to,
    from,
  ]);
  // A component may take back a key that it had before.
  if (taken.has(to) && !own) throw new HttpProblem(409, `The key “${to}” is already used.`);
}

/** Refuses where content that is held at an older revision names the component: what is held never changes. */
async function refuseHeld(db: Queryable, workspace: string, component: Component): Promise<void> {
  const { rows } = await db.query<RevisionName>(
    `select distinct f.target as key, f.held as revision from component_references f
       join components c on c.workspace = f.workspace and c.key = f.target and c.revision <> f.held
      where f.workspace = $1 and f.held is not null`,
    [workspace],
  );
  const seen = new Set<string>();
  let open: readonly RevisionName[] = rows;
  while (open.length > 0) {
    for (const { key, revision } of open) seen.add(`${key}@${revision}`);
    if (seen.size > mostPlaces) throw new HttpProblem(422, `More than ${mostPlaces} older revisions are held.`);
    const held = await readRevisions(db, workspace, open);
    const next: RevisionName[] = [];
    for (const { key, title, revision, body } of held) {
      for (const { target, held: at } of referencesOf(body)) {
        if (target === component.key)
          throw new HttpProblem(
            409,
            `“${title}” is held at revision ${revision}, which names “${component.title}”. Bring it up to date first.`,
            { key },
          );
        if (at !== null && !seen.has(`${target}@${at}`)) next.push({ key: target, revision: at });
      }
    }
    open = next;
  }
}

/** What refers to a component, by kind; components that remember it as the source of a copy do not, and are found by their text. */
async function usersOf(
  db: Queryable,
  workspace: string,
  key: string,
): Promise<Readonly<Record<'component' | 'publication', readonly string[]>>> {
  const { rows } = await db.query<{ kind: string; source: string }>(
    `select source_kind as kind, source from component_references where workspace = $1 and target = $2
     union
     select 'component', c.key from components c
       join revisions r on r.workspace = c.workspace and r.key = c.key and r.revision = c.revision
      where c.workspace = $1 and c.deleted_at is null
        and jsonb_path_exists(r.body, '$.** ? (@.type == "copied").attrs.component ? (@ == $key)', jsonb_build_object('key', $2::text))
     order by 1, 2 limit $3`,
    [workspace, key, mostPlaces + 1],
  );
  if (rows.length > mostPlaces) throw new HttpProblem(422, `More than ${mostPlaces} places refer to it.`);
  const of = (kind: string): readonly string[] => rows.filter((row) => row.kind === kind).map(({ source }) => source);
  return { component: of('component'), publication: of('publication') };
}

/** Moves all that is kept of a component to its new key. */
async function moveKey(db: Queryable, actor: Actor, from: string, to: string): Promise<void> {
  const move = (text: string): Promise<unknown> => db.query(text, [actor.workspace, from, to]);
  await move('delete from former_keys where workspace = $1 and key = $2 and former = $3');
  await move('update components set key = $3 where workspace = $1 and key = $2');
  await move('update revisions set key = $3 where workspace = $1 and key = $2');
  await move('update places set component = $3 where workspace = $1 and component = $2');
  await move('update former_keys set key = $3 where workspace = $1 and key = $2');
  await move(
    `update component_references set source = $3 where workspace = $1 and source_kind = 'component' and source = $2`,
  );
  await move(
    `update drafts d set thing = case thing when $2 then $3 else split_part(thing, ' ', 1) || ' ' || $3 end
       from people p where p.id = d.person and p.workspace = $1
        and thing in ($2, 'source ' || $2, 'variable ' || $2, 'image ' || $2, 'link ' || $2)`,
  );
  await db.query('insert into former_keys (workspace, former, key, changed_by) values ($1, $2, $3, $4)', [
    actor.workspace,
    from,
    to,
    actor.person,
  ]);
}
