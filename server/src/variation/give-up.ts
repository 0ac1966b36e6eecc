import {
  axisWithout,
  bodyWithoutValue,
  changedComponentSchema,
  entriesWithoutValue,
  flattenValues,
  profileWithout,
  routes,
  saveVariantSchema,
  valuesWithoutValue,
  valueStates,
  withoutValue,
  type Axis,
  type ChangedComponent,
  type Component,
  type GivenUp,
  type LostPassage,
  type NamingPlace,
  type OutlineEntry,
  type Profile,
  type Stamp,
  type StoredProfile,
  type StoredPublication,
  type StoredVariant,
  type TakenBack,
  type ValueGivenUp,
  type VariableValues,
  type VocabularyAct,
} from '@allomorph/core';
import type { Router } from 'express';
import { isDeepStrictEqual } from 'node:util';
import { audit, type Actor } from '../audit/audit.js';
import { oneRow, type Database, type Queryable } from '../db/database.js';
import { actorOf, serve } from '../http/context.js';
import { HttpProblem } from '../http/problem.js';
import { lockLibrary, readComponents, saveComponent } from '../library/components.js';
import { takeComponentBack } from '../library/passages.js';
import { attempt } from '../library/attempt.js';
import { followInSearches, takeSearchesBack, type ChangedSearch } from '../library/saved-searches.js';
import { readPublications, savePublication } from '../publications/publications.js';
import { readVariants, saveVariant } from '../publications/variants.js';
import { readAxes, readProfiles, readStamps, writeAxis, writeProfile, writeStamp } from './vocabulary.js';

const mostListed = 200;
/** An act holds up who saves meanwhile: so much takes about a minute. */
const mostChanged = 5_000;
const actsListed = 20;

/** One thing in which conditions name the value, and what it becomes. */
export interface Change<Thing> {
  readonly before: Thing;
  readonly after: Thing;
  readonly named: NamingPlace & { readonly conditions: number };
  readonly lost: readonly LostPassage[];
  readonly onlyForIt: boolean;
}

type NamedProfile = Pick<StoredProfile, 'key' | 'title'> & Profile;

/** Everything that changes when a value is given up. */
export interface Plan {
  readonly axis: Axis;
  readonly changedAxis: Axis;
  readonly components: readonly Change<Component>[];
  readonly publications: readonly Change<StoredPublication>[];
  readonly variants: readonly Change<StoredVariant>[];
  readonly stamps: readonly Change<Stamp>[];
  readonly profiles: readonly { readonly before: NamedProfile; readonly after: NamedProfile }[];
}

/**
 * Works out what giving a value up changes.
 * @throws HttpProblem 404 where there is no such value
 */
export async function planFor(db: Queryable, workspace: string, givenUp: GivenUp): Promise<Plan> {
  const axis = (await readAxes(db, workspace)).find(({ key }) => key === givenUp.axis);
  if (!axis) throw new HttpProblem(404, `There is no axis “${givenUp.axis}”.`);
  const known = new Set(flattenValues(axis).map(({ value }) => value.key));
  for (const key of [givenUp.value, ...(givenUp.into === null ? [] : [givenUp.into])])
    if (!known.has(key)) throw new HttpProblem(404, `There is no value “${key}” on the axis “${axis.title}”.`);
  if (givenUp.into === givenUp.value) throw new HttpProblem(422, 'A value cannot be merged into itself.');
  const changedAxis = axisWithout(axis, givenUp);
  const named = await keysThatMayName(db, workspace, givenUp.value);
  return {
    axis,
    changedAxis,
    components: changesOf('component', await readComponents(db, workspace, named), (component) => {
      const { result, ...more } = bodyWithoutValue(component.body, givenUp);
      // A body keeps its kind.
      // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
      return { ...more, after: { ...component, body: result } as Component };
    }),
    publications: changesOf('publication', await readPublications(db, workspace), (publication) =>
      withoutIn(publication, givenUp),
    ),
    variants: changesOf('variant', await readVariants(db, workspace), (variant) => withoutIn(variant, givenUp)),
    stamps: changesOf('stamp', await readStamps(db, workspace), (stamp) => {
      const left = withoutValue(stamp.when ?? '', givenUp);
      if (left.kind === 'condition')
        return { after: { ...stamp, when: left.when || null }, conditions: left.when === (stamp.when ?? '') ? 0 : 1 };
      return { after: { ...stamp, when: null }, conditions: 1, onlyForIt: left.kind === 'never' };
    }),
    profiles: (await readProfiles(db, workspace)).flatMap((before) => {
      const after = { ...before, ...profileWithout(before, axis, changedAxis, givenUp) };
      return JSON.stringify(after.axes) === JSON.stringify(before.axes) ? [] : { before, after };
    }),
  };
}

async function keysThatMayName(db: Queryable, workspace: string, value: string): Promise<readonly string[]> {
  const { rows } = await db.query<{ key: string }>(
    `select key from components where workspace = $1 and deleted_at is null
        and exists (select from unnest(conditions) c where position($2 in c) > 0)`,
    [workspace, value],
  );
  return rows.map(({ key }) => key);
}

/** An outline, or a recipe, with the values that it gives variables. */
function withoutIn<Thing extends { readonly values: VariableValues; readonly entries?: readonly OutlineEntry[] }>(
  thing: Thing,
  givenUp: GivenUp,
): { after: Thing; conditions: number; lost: readonly LostPassage[] } {
  const values = valuesWithoutValue(thing.values, givenUp);
  const entries = entriesWithoutValue(thing.entries ?? [], givenUp);
  return {
    after: { ...thing, values: values.result, ...(thing.entries ? { entries: entries.result } : {}) },
    conditions: values.conditions + entries.conditions,
    lost: [...values.lost, ...entries.lost],
  };
}

function changesOf<Thing extends { readonly title: string; readonly key?: string; readonly id?: string }>(
  kind: NamingPlace['kind'],
  things: readonly Thing[],
  change: (thing: Thing) => {
    readonly after: Thing;
    readonly conditions: number;
    readonly lost?: readonly LostPassage[];
    readonly onlyForIt?: boolean;
  },
): readonly Change<Thing>[] {
  return things.flatMap((before) => {
    const { after, conditions, lost = [], onlyForIt = false } = change(before);
    const named = { kind, key: before.id ?? before.key ?? '', title: before.title, conditions };
    return conditions === 0 ? [] : { before, after, named, lost: onlyForIt ? [] : lost, onlyForIt };
  });
}

/** All in which conditions name the value. */
export const allChanges = (plan: Plan): readonly Change<unknown>[] => [
  ...plan.components,
  ...plan.publications,
  ...plan.variants,
  ...plan.stamps,
];

async function tellPlan(db: Queryable, workspace: string, plan: Plan, givenUp: GivenUp): Promise<ValueGivenUp> {
  const changes = allChanges(plan);
  const lost = changes.flatMap(({ named: { kind, key, title }, lost: passages }) =>
    passages.map((passage) => ({ kind, key, title, ...passage })),
  );
  const held = await oneRow<{ count: number }>(
    db,
    `select count(*)::integer as count from component_references f
       join components c on c.workspace = f.workspace and c.key = f.target and f.held < c.revision
      where f.workspace = $1 and f.target = any($2)`,
    [workspace, plan.components.map(({ before }) => before.key)],
  );
  const { into } = givenUp;
  return {
    named: changes.map(({ named }) => named),
    differing:
      into === null
        ? []
        : (await readProfiles(db, workspace)).flatMap((profile) => {
            const states = valueStates(plan.axis, profile.axes[givenUp.axis]);
            const isIn = states.get(givenUp.value) ?? false;
            return isIn === states.get(into) ? [] : { title: profile.title, isIn };
          }),
    lost: lost.slice(0, mostListed),
    lostCount: lost.length,
    blocked: changes.flatMap(({ onlyForIt, named: { kind, key, title } }) => (onlyForIt ? { kind, key, title } : [])),
    held: held?.count ?? 0,
  };
}

/** What has to be put back to undo an act, and what each was saved as. */
interface Before {
  readonly axis: Axis;
  readonly components: readonly ChangedComponent[];
  readonly publications: readonly StoredPublication[];
  readonly variants: readonly StoredVariant[];
  readonly stamps: readonly Stamp[];
  readonly profiles: readonly NamedProfile[];
  /** Acts of before know of none. */
  readonly searches?: readonly ChangedSearch[];
  /** What the stamps, profiles and the axis were saved as: what reads otherwise by now was changed since. */
  readonly after: {
    readonly axis: Axis;
    readonly stamps: readonly Stamp[];
    readonly profiles: readonly NamedProfile[];
  };
}

/** Gives a value up: rewrites everything that names it, and keeps what it takes to undo that. */
export async function giveUp(
  db: Queryable,
  actor: Actor,
  givenUp: GivenUp,
  lostShown: number,
): Promise<Omit<VocabularyAct, 'by'>> {
  await lockLibrary(db, actor.workspace);
  // In turn with those who save axes, profiles and stamps.
  for (const table of ['axes', 'profiles', 'stamps'])
    await db.query(`select from ${table} where workspace = $1 order by key for update`, [actor.workspace]);
  const plan = await planFor(db, actor.workspace, givenUp);
  const told = await tellPlan(db, actor.workspace, plan, givenUp);
  if (told.named.length > mostChanged)
    throw new HttpProblem(422, `More than ${mostChanged} things name it: that is too much for one act.`);
  const [blocked] = told.blocked;
  if (blocked)
    throw new HttpProblem(409, `“${blocked.title}” is wholly for it; delete it, or change its condition first.`);
  if (told.lostCount !== lostShown)
    throw new HttpProblem(409, 'Something that names it was changed meanwhile. Look again.');
  const components: ChangedComponent[] = [];
  for (const { before, after } of plan.components) {
    const saved = await saveComponent(db, actor, before.key, {
      base: before.revision,
      title: before.title,
      body: after.body,
    });
    components.push({ key: before.key, before: before.revision, after: saved.revision });
  }
  for (const { before, after } of plan.publications)
    await savePublication(db, actor, before.key, { ...after, base: before.revision });
  for (const { before, after } of plan.variants) await saveRecipe(db, actor, after, before.revision);
  for (const { after } of plan.stamps) await writeStamp(db, actor, after);
  for (const { after } of plan.profiles) await writeProfile(db, actor, after);
  await writeAxis(db, actor, plan.changedAxis);
  const { axis, value, into } = givenUp;
  // A search for a value that is gone finds nothing, as it should.
  const searches =
    into === null
      ? []
      : await followInSearches(db, actor.workspace, 'value', (named) =>
          named === `${axis}=${value}` ? `${axis}=${into}` : null,
        );
  const before: Before = {
    axis: plan.axis,
    components,
    publications: plan.publications.map((each) => each.before),
    variants: plan.variants.map((each) => each.before),
    stamps: plan.stamps.map((each) => each.before),
    profiles: plan.profiles.map((each) => each.before),
    searches,
    after: {
      axis: plan.changedAxis,
      stamps: plan.stamps.map((each) => each.after),
      profiles: plan.profiles.map((each) => each.after),
    },
  };
  const titles = new Map(flattenValues(plan.axis).map(({ value }) => [value.key, value.title]));
  const title = titles.get(givenUp.value) ?? givenUp.value;
  const what =
    givenUp.into === null
      ? `Retired “${title}” of ${plan.axis.title}`
      : `Merged “${title}” of ${plan.axis.title} into “${titles.get(givenUp.into) ?? givenUp.into}”`;
  const row = await oneRow<{ id: string; doneAt: Date }>(
    db,
    `insert into vocabulary_acts (workspace, person, what, before) values ($1, $2, $3, $4)
     returning id, done_at as "doneAt"`,
    [actor.workspace, actor.person, what, JSON.stringify(before)],
  );
  if (!row) throw new Error('An act was not written.');
  await audit(db, actor, 'give value up', `${givenUp.axis}/${givenUp.value}`, { into: givenUp.into });
  return { id: row.id, what, doneAt: row.doneAt.toISOString(), takenBack: false };
}

function saveRecipe(db: Queryable, actor: Actor, variant: StoredVariant, base: number): Promise<StoredVariant> {
  return saveVariant(db, actor, variant.id, saveVariantSchema.parse({ ...variant, base }));
}

/** Puts back what an act changed; what was changed again since stays as it is, and is told. */
export async function takeBack(db: Queryable, actor: Actor, id: string): Promise<TakenBack> {
  await lockLibrary(db, actor.workspace);
  const row = await oneRow<{ before: Before }>(
    db,
    `update vocabulary_acts set taken_back_at = now()
      where workspace = $1 and id::text = $2 and taken_back_at is null returning before`,
    [actor.workspace, id],
  );
  if (!row) throw new HttpProblem(404, 'This was taken back already.');
  const { before } = row;
  const refused: { title: string; why: string }[] = [];
  const put = async (title: string, act: () => Promise<unknown>): Promise<void> => {
    const why = await attempt(db, act);
    if (why !== null) refused.push({ title, why });
  };
  // The axis comes first: conditions that come back name its value.
  const { after } = before;
  await put(before.axis.title, async () => {
    refuseOther(await readAxes(db, actor.workspace), after.axis);
    await writeAxis(db, actor, before.axis);
  });
  for (const [at, stamp] of before.stamps.entries())
    await put(stamp.title, async () => {
      refuseOther(await readStamps(db, actor.workspace), after.stamps[at]);
      await writeStamp(db, actor, stamp);
    });
  for (const [at, profile] of before.profiles.entries())
    await put(profile.title, async () => {
      refuseOther(await readProfiles(db, actor.workspace), after.profiles[at]);
      await writeProfile(db, actor, profile);
    });
  for (const publication of before.publications)
    await put(publication.title, () =>
      savePublication(db, actor, publication.key, { ...publication, base: publication.revision + 1 }),
    );
  for (const variant of before.variants)
    await put(variant.title, () => saveRecipe(db, actor, variant, variant.revision + 1));
  for (const component of before.components)
    await put(component.key, () => takeComponentBack(db, actor, changedComponentSchema.parse(component)));
  await takeSearchesBack(db, before.searches ?? []);
  await audit(db, actor, 'take back', id);
  return { refused };
}

/** Refuses to put something back that is not as the act left it. */
function refuseOther<Thing extends { readonly key: string; readonly title: string }>(
  now: readonly Thing[],
  left: Thing | undefined,
): void {
  const current = now.find(({ key }) => key === left?.key);
  if (!current) throw new HttpProblem(409, `“${left?.title ?? ''}” is not there any more.`);
  if (!isDeepStrictEqual(current, left)) throw new HttpProblem(409, `“${current.title}” was changed since.`);
}

/** Values that are retired or merged with everything that names them, and the way back. */
export function giveUpRoutes(router: Router, db: Database): void {
  serve(router, routes.valueGivenUp, async ({ person, params, query }) => {
    const givenUp = { axis: params.key, value: query.value, into: query.into ?? null };
    return tellPlan(db, person.workspace, await planFor(db, person.workspace, givenUp), givenUp);
  });

  serve(router, routes.giveUpValue, ({ person, params, body }) =>
    db.transaction(async (client) => {
      const givenUp = { axis: params.key, value: body.value, into: body.into ?? null };
      return { ...(await giveUp(client, actorOf(person), givenUp, body.lost)), by: person.name };
    }),
  );

  serve(router, routes.vocabularyActs, async ({ person }) => {
    const { rows } = await db.query<Omit<VocabularyAct, 'doneAt'> & { doneAt: Date }>(
      `select a.id, a.what, coalesce(p.name, '') as by, a.done_at as "doneAt", a.taken_back_at is not null as "takenBack"
         from vocabulary_acts a left join people p on p.id = a.person
        where a.workspace = $1 order by a.done_at desc limit $2`,
      [person.workspace, actsListed],
    );
    return rows.map((row) => ({ ...row, doneAt: row.doneAt.toISOString() }));
  });

  serve(router, routes.takeVocabularyActBack, ({ person, params }) =>
    db.transaction((client) => takeBack(client, actorOf(person), params.id)),
  );
}
