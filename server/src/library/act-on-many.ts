import { isDeepStrictEqual } from 'node:util';
import {
  textAttr,
  type ActOnMany,
  type Component,
  type ComponentLabels,
  type ManyDone,
  type StepBack,
} from '@allomorph/core';
import type { Actor } from '../audit/audit.js';
import type { Database, Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { attempt } from './attempt.js';
import {
  archiveComponent,
  deleteComponent,
  isArchived,
  labelComponent,
  requireComponent,
  restoreComponent,
  saveComponent,
} from './components.js';
import { takeComponentBack } from './passages.js';

type Act = ActOnMany['act'];

/**
 * Does one thing with many components, in one transaction: what is refused for one is told with its reason, and is left as it was;
 * the others are done.
 * @returns also what takes it back
 */
export function actOnMany(db: Database, actor: Actor, { keys, act }: ActOnMany): Promise<ManyDone> {
  const wanted = [...new Set(keys)].map((key) => ({ key }));
  return each(db, wanted, (client, { key }) => actOn(client, actor, key, act));
}

/** Takes back what was done with many components, the last first; what was changed again since stays, and is told. */
export function takeStepsBack(db: Database, actor: Actor, steps: readonly StepBack[]): Promise<ManyDone> {
  return each(db, [...steps].reverse(), (client, step) => takeStepBack(client, actor, step));
}

/** @param act gives what takes it back; null: nothing changed */
function each<T extends { readonly key: string }>(
  db: Database,
  wanted: readonly T[],
  act: (client: Queryable, each: T) => Promise<StepBack | null>,
): Promise<ManyDone> {
  return db.transaction(async (client) => {
    let waiting = wanted;
    const done: string[] = [];
    const back: StepBack[] = [];
    let refused: ManyDone['refused'] = [];
    // What was refused may be possible after others: what is used by others that go as well can go after them.
    for (let before = -1; waiting.length > 0 && before !== waiting.length;) {
      before = waiting.length;
      const left: T[] = [];
      refused = [];
      for (const one of waiting) {
        const why = await attempt(client, async () => {
          const step = await act(client, one);
          if (step) back.push(step);
        });
        if (why === null) done.push(one.key);
        else {
          left.push(one);
          refused = [...refused, { key: one.key, why }];
        }
      }
      waiting = left;
    }
    return { done, refused, back };
  });
}

async function actOn(client: Queryable, actor: Actor, key: string, act: Act): Promise<StepBack | null> {
  if (act.kind === 'delete') {
    await deleteComponent(client, actor, key);
    return { kind: 'restore', key };
  }
  if (act.kind === 'archive') return archive(client, actor, key, act.on);
  const component = await requireComponent(client, actor.workspace, key);
  if (act.kind === 'limit') return limit(client, actor, component, act.when);
  const { collection, tags } = labelsOf(component);
  return act.kind === 'tag'
    ? label(client, actor, component, { collection, tags: tagged(tags, act) })
    : label(client, actor, component, { collection: act.collection, tags });
}

async function takeStepBack(client: Queryable, actor: Actor, step: StepBack): Promise<StepBack | null> {
  const { key } = step;
  switch (step.kind) {
    case 'delete':
      await deleteComponent(client, actor, key);
      return { kind: 'restore', key };
    case 'restore':
      await restoreComponent(client, actor, key);
      return { kind: 'delete', key };
    case 'archive':
      return archive(client, actor, key, step.on);
    case 'revision':
      return { kind: 'revision', ...(await takeComponentBack(client, actor, step)) };
    case 'labels': {
      const component = await requireComponent(client, actor.workspace, key);
      if (!isDeepStrictEqual(labelsOf(component), withoutEmpty(step.is)))
        throw new HttpProblem(409, `“${component.title}” was moved or tagged again since: that stays.`);
      return label(client, actor, component, step.was);
    }
  }
}

const labelsOf = ({ labels }: Component): ComponentLabels => withoutEmpty(labels ?? { collection: null, tags: {} });

function withoutEmpty({ collection, tags }: ComponentLabels): ComponentLabels {
  return { collection, tags: Object.fromEntries(Object.entries(tags).filter(([, values]) => values.length > 0)) };
}

async function label(
  client: Queryable,
  actor: Actor,
  component: Component,
  labels: ComponentLabels,
): Promise<StepBack | null> {
  const [was, is] = [labelsOf(component), withoutEmpty(labels)];
  if (isDeepStrictEqual(was, is)) return null;
  await labelComponent(client, actor, component.key, is);
  const taken = ({ collection, tags }: ComponentLabels) => ({
    collection,
    tags: Object.fromEntries(Object.entries(tags).map(([tag, values]) => [tag, [...values]])),
  });
  return { kind: 'labels', key: component.key, was: taken(was), is: taken(is) };
}

async function archive(client: Queryable, actor: Actor, key: string, on: boolean): Promise<StepBack | null> {
  await requireComponent(client, actor.workspace, key);
  if ((await isArchived(client, actor.workspace, key)) === on) return null;
  await archiveComponent(client, actor, key, on);
  return { kind: 'archive', key, on: !on };
}

/** Gives a topic or snippet its own condition, as a new revision; null: it applies everywhere. */
async function limit(
  client: Queryable,
  actor: Actor,
  component: Component,
  when: string | null,
): Promise<StepBack | null> {
  const { kind, key, title, revision, body } = component;
  if (kind !== 'topic' && kind !== 'snippet')
    throw new HttpProblem(422, `“${title}” has no condition of its own: only topics and snippets have.`);
  if (textAttr(body, 'when') === when) return null;
  const saved = await saveComponent(client, actor, key, {
    base: revision,
    title,
    body: { ...body, attrs: { ...body.attrs, when } },
  });
  return { kind: 'revision', key, before: revision, after: saved.revision };
}

function tagged(
  tags: Readonly<Record<string, readonly string[]>>,
  { tag, value, on }: Extract<Act, { kind: 'tag' }>,
): Record<string, string[]> {
  const others = (new Map(Object.entries(tags)).get(tag) ?? []).filter((each) => each !== value);
  const values = on ? [...others, value] : others;
  const rest = Object.fromEntries(
    Object.entries(tags).flatMap(([name, list]) => (name === tag ? [] : [[name, [...list]]])),
  );
  return values.length > 0 ? { ...rest, [tag]: values } : rest;
}
