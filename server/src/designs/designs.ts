import {
  isShipped,
  isShippedFamily,
  mostDerivations,
  referencesOfSetting,
  resolveDesign,
  routes,
  settingOf,
  settings as allSettings,
  settingsWithKey,
  shippedDesigns,
  valueAt,
  wayOf,
  type Design,
  type DesignSettings,
  type FontFamily,
  type ListedDesign,
  type Reference,
  type Stamp,
  type StoredDesign,
} from '@allomorph/core';
import type { Router } from 'express';
import { audit, type Actor } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { lockLibrary, refuseDeleted, writeReferences } from '../library/components.js';
import { keysNow } from '../library/former-keys.js';
import { readFamilies } from './font-families.js';
import { faultOfCss } from './own-css.js';

const shipped: readonly ListedDesign[] = shippedDesigns.map((design) => ({ ...design, revision: 0, isShipped: true }));

/** All designs of a workspace, those that come with the application first. */
export async function readDesigns(db: Queryable, workspace: string): Promise<readonly ListedDesign[]> {
  const { rows } = await db.query<Omit<ListedDesign, 'isShipped'>>(
    `select key, title, derives_from as from, settings, revision from designs
      where workspace = $1 and deleted_at is null order by title, key`,
    [workspace],
  );
  return [...shipped, ...rows.map((row) => ({ ...row, isShipped: false }))];
}

/** Writes a design with what it refers to. */
export async function writeDesign(db: Queryable, actor: Actor, design: StoredDesign): Promise<void> {
  await db.query(
    `insert into designs (workspace, key, title, derives_from, settings) values ($1, $2, $3, $4, $5)
     on conflict (workspace, key) do update
       set title = excluded.title, derives_from = excluded.derives_from, settings = excluded.settings,
           revision = designs.revision + 1`,
    [actor.workspace, design.key, design.title, design.from, JSON.stringify(design.settings)],
  );
  await writeReferences(db, actor.workspace, 'design', design.key, referencesOf(design.settings));
  await audit(db, actor, 'save design', design.key);
}

/** Settings that were written before some components got other keys, as they would be written now. */
async function settingsWithKeysOfNow(
  db: Queryable,
  workspace: string,
  settings: DesignSettings,
): Promise<DesignSettings> {
  const named = referencesOf(settings).map(({ target }) => target);
  const now = await keysNow(db, workspace, named);
  return [...now].reduce((changed, [former, key]) => settingsWithKey(changed, former, key), settings);
}

/** What a design refers to of its own accord; each place names the setting. */
function referencesOf(own: DesignSettings): readonly Reference[] {
  return Object.entries(own).flatMap(([name, value]) => {
    const found = settingOf(name);
    if (!found || typeof value !== 'string') return [];
    return referencesOfSetting(found.setting, value).map((reference): Reference => ({
      ...reference,
      place: name,
      targetBlock: null,
      held: null,
    }));
  });
}

/**
 * A design with everything said, as builds take it: with the uploaded families that it uses.
 * @param designs those of the workspace
 */
export function designForBuild(
  { key, language }: { readonly key: string; readonly language: string },
  designs: readonly StoredDesign[],
  families: ReadonlyMap<string, FontFamily>,
  stamps: readonly Stamp[],
): Design {
  const design = resolveDesign(key, designs, language, stamps);
  const used = allSettings
    .filter(({ kind }) => kind === 'font')
    .flatMap(({ path }): [string, FontFamily][] => {
      const family = String(valueAt(design, path));
      const found = families.get(family);
      return found ? [[family, found]] : [];
    });
  return used.length === 0 ? design : { ...design, families: Object.fromEntries(used) };
}

/** Refuses what a design cannot say in this workspace. */
async function refuseFaults(db: Queryable, workspace: string, design: StoredDesign): Promise<void> {
  const designs = (await readDesigns(db, workspace)).filter(({ key }) => key !== design.key);
  if (design.from !== null) {
    if (!designs.some(({ key }) => key === design.from))
      throw new HttpProblem(422, `There is no design “${design.from}” to derive from.`);
    const way = wayOf(design.from, [...designs, design]);
    if (way.includes(design))
      throw new HttpProblem(422, `“${design.title}” would derive from itself, through ${titlesOf(way)}.`);
    if (way.length >= mostDerivations)
      throw new HttpProblem(422, `More than ${mostDerivations} designs derive from each other here.`);
  }
  const families = await readFamilies(db, workspace);
  for (const [name, value] of Object.entries(design.settings)) {
    const { setting } = settingOf(name) ?? {};
    if (setting?.kind === 'font' && !isShippedFamily(String(value)) && !families.has(String(value)))
      throw new HttpProblem(422, `${setting.title}: there is no family “${String(value)}”.`);
    const fault = setting?.kind === 'css' ? faultOfCss(String(value)) : null;
    if (fault !== null) throw new HttpProblem(422, fault);
  }
}

function titlesOf(way: readonly StoredDesign[]): string {
  return way.map(({ title }) => `“${title}”`).join(', ');
}

/**
 * Saves a design against the revision that was changed.
 * @param base 0: there is none yet
 */
async function saveDesign(db: Queryable, actor: Actor, design: StoredDesign, base: number): Promise<ListedDesign> {
  if (isShipped(design.key))
    throw new HttpProblem(409, `“${design.title}” comes with the application; derive one of your own from it.`);
  // In turn with deletions and with each other, so that no way of derivations closes that neither sees.
  await lockLibrary(db, actor.workspace);
  const found = await oneRow<Omit<ListedDesign, 'isShipped'> & { inBin: boolean }>(
    db,
    `select key, title, derives_from as from, settings, revision, deleted_at is not null as "inBin"
       from designs where workspace = $1 and key = $2`,
    [actor.workspace, design.key],
  );
  if (found?.inBin && base === 0)
    throw new HttpProblem(
      409,
      `“${found.title}”, with the same key, is in the bin. Bring it back, or use another title.`,
    );
  const current = found && !found.inBin ? found : undefined;
  if ((current?.revision ?? 0) !== base) {
    if (!current) throw new HttpProblem(409, `Somebody deleted “${design.title}” meanwhile.`);
    const { key, title, from, settings, revision } = current;
    const now = { key, title, from, settings, revision };
    const message =
      base === 0 ? `There is already one with the key “${design.key}”.` : `Somebody changed “${now.title}” meanwhile.`;
    throw new HttpProblem(409, message, { current: { ...now, isShipped: false } });
  }
  await refuseFaults(db, actor.workspace, design);
  const settings = await settingsWithKeysOfNow(db, actor.workspace, design.settings);
  await refuseDeleted(db, actor.workspace, design.key, referencesOf(settings));
  await writeDesign(db, actor, { ...design, settings });
  return { ...design, settings, revision: base + 1, isShipped: false };
}

/** Designs of the team: saved, put into the bin. They are read with the rest of the vocabulary. */
export function designRoutes(router: Router, db: Database): void {
  serve(router, routes.saveDesign, ({ person, params, body }) => {
    if (body.key !== params.key) throw new HttpProblem(400, 'The key of a design cannot change.');
    const { base, ...design } = body;
    return db.transaction((client) => saveDesign(client, actorOf(person), design, base));
  });

  serve(router, routes.deleteDesign, async ({ person, params }) => {
    await db.transaction(async (client) => {
      await lockLibrary(client, person.workspace);
      const user = await oneRow<{ title: string; what: string }>(
        client,
        `select title, 'The variant' as what from variants
          where workspace = $1 and recipe->>'design' = $2 and deleted_at is null
         union all select title, 'The design' from designs where workspace = $1 and derives_from = $2 and deleted_at is null
         order by title limit 1`,
        [person.workspace, params.key],
      );
      if (user) throw new HttpProblem(409, `${user.what} “${user.title}” uses this design. Give it another one first.`);
      await client.query(
        `update designs set deleted_at = now(), deleted_by = $3 where workspace = $1 and key = $2 and deleted_at is null`,
        [person.workspace, params.key, person.id],
      );
      await writeReferences(client, person.workspace, 'design', params.key, []);
      await audit(client, actorOf(person), 'delete design', params.key);
    });
  });
}

/** Brings a deleted design back with its references. */
export async function restoreDesign(db: Queryable, actor: Actor, key: string): Promise<void> {
  await lockLibrary(db, actor.workspace);
  const row = await oneRow<{ settings: DesignSettings }>(
    db,
    `update designs set deleted_at = null, deleted_by = null
      where workspace = $1 and key = $2 and deleted_at is not null returning settings`,
    [actor.workspace, key],
  );
  if (!row) throw new HttpProblem(404, 'This is not in the bin any more.');
  const settings = await settingsWithKeysOfNow(db, actor.workspace, row.settings);
  await db.query('update designs set settings = $3 where workspace = $1 and key = $2', [
    actor.workspace,
    key,
    JSON.stringify(settings),
  ]);
  await writeReferences(db, actor.workspace, 'design', key, referencesOf(settings));
  await audit(db, actor, 'restore', key);
}
