import { textAttr, type ActOnMany, type Component, type ManyDone } from '@allomorph/core';
import type { Actor } from '../audit/audit.js';
import type { Database, Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { archiveComponent, deleteComponent, labelComponent, requireComponent, saveComponent } from './components.js';

type Act = ActOnMany['act'];

/**
 * Does one thing with many components, in one transaction: what is refused for one is told with its reason, and is left as it was;
 * the others are done.
 */
export function actOnMany(db: Database, actor: Actor, { keys, act }: ActOnMany): Promise<ManyDone> {
  return db.transaction(async (client) => {
    let waiting: readonly string[] = [...new Set(keys)];
    const done: string[] = [];
    let refused: ManyDone['refused'] = [];
    // What is used by others that go as well can go after them.
    for (let before = -1; waiting.length > 0 && before !== waiting.length;) {
      before = waiting.length;
      refused = [];
      for (const key of waiting) {
        const why = await attempt(client, () => actOn(client, actor, key, act));
        if (why === null) done.push(key);
        else refused = [...refused, { key, why }];
      }
      waiting = act.kind === 'delete' ? refused.map(({ key }) => key) : [];
    }
    return { done, refused };
  });
}

/** Does something, or nothing of it: why not. */
export async function attempt(client: Queryable, act: () => Promise<unknown>): Promise<string | null> {
  await client.query('savepoint one_of_many');
  try {
    await act();
    await client.query('release savepoint one_of_many');
    return null;
  } catch (error) {
    await client.query('rollback to savepoint one_of_many');
    if (error instanceof HttpProblem) return error.message;
    throw error;
  }
}

async function actOn(client: Queryable, actor: Actor, key: string, act: Act): Promise<unknown> {
  if (act.kind === 'delete') return deleteComponent(client, actor, key);
  if (act.kind === 'archive') return archiveComponent(client, actor, key, act.on);
  const component = await requireComponent(client, actor.workspace, key);
  if (act.kind === 'limit') return limit(client, actor, component, act.when);
  const { collection = null, tags = {} } = component.labels ?? {};
  if (act.kind === 'tag') return labelComponent(client, actor, key, { collection, tags: tagged(tags, act) });
  return labelComponent(client, actor, key, { collection: act.collection, tags });
}

/** Gives a topic or snippet its own condition, as a new revision; null: it applies everywhere. */
async function limit(client: Queryable, actor: Actor, component: Component, when: string | null): Promise<unknown> {
  const { kind, key, title, revision, body } = component;
  if (kind !== 'topic' && kind !== 'snippet')
    throw new HttpProblem(422, `“${title}” has no condition of its own: only topics and snippets have.`);
  if (textAttr(body, 'when') === when) return component;
  return saveComponent(client, actor, key, {
    base: revision,
    title,
    body: { ...body, attrs: { ...body.attrs, when } },
  });
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
