import { makeNode, makeText, type Component, type ContentNode, type Reference } from '@allomorph/core';
import { freshDatabase } from '../../../tests/support/fresh-database.js';
import { Database } from '../db/database.js';
import { openWorkspace } from '../workspace.js';
import { readClosure } from './closure.js';
import { createComponent, deleteComponent, labelComponent, saveComponent } from './components.js';

describe('Everything that references lead to', () => {
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let db: Database;
  let workspace: string;

  beforeAll(async () => {
    database = await freshDatabase();
    db = new Database(database.url);
    workspace = await openWorkspace(db, 'empty');
  });
  afterAll(async () => {
    await db.close();
    await database.drop();
  });

  const actor = () => ({ workspace, person: null });
  const p = (text: string): ContentNode => makeNode('paragraph', null, [makeText(text)]);
  const place = (component: string, more: Readonly<Record<string, unknown>> = {}): ContentNode =>
    makeNode('placement', { component, ...more });
  const fragment = (...flow: ContentNode[]): ContentNode => makeNode('fragment', null, flow);
  const create = (title: string, ...flow: ContentNode[]): Promise<Component> =>
    db.transaction((client) => createComponent(client, actor(), { kind: 'snippet', title, body: fragment(...flow) }));
  const save = ({ key, title, revision }: Component, ...flow: ContentNode[]): Promise<Component> =>
    db.transaction((client) => saveComponent(client, actor(), key, { base: revision, title, body: fragment(...flow) }));
  const to = (target: string, held: number | null = null): Reference => ({
    target,
    kind: 'placement',
    place: null,
    targetBlock: null,
    held,
  });
  /** What a closure read before can tell. */
  const knownIn =
    (...read: readonly Component[]) =>
    (key: string, revision: number): Component | undefined =>
      read.find((each) => each.key === key && each.revision === revision);

  it('goes through placements, held revisions and the collections of slots', async () => {
    const inner = await create('Inner', p('old'));
    await save(inner, p('new'));
    const tip = await create('Tip', p('t'));
    await db.transaction((client) => labelComponent(client, actor(), tip.key, { collection: 'tips', tags: {} }));
    const outer = await create(
      'Outer',
      place(inner.key, { mode: 'held', revision: 1 }),
      makeNode('slot', { collection: 'tips' }),
    );
    const { components, held } = await readClosure(db, workspace, [to(outer.key), to('nowhere')]);
    expect(components.map(({ key, revision }) => `${key} ${revision}`).sort()).toEqual(['inner 2', 'outer 1', 'tip 1']);
    expect(held.map(({ key, revision }) => `${key} ${revision}`)).toEqual(['inner 1']);
  });

  it('keeps what is known as the same objects, and reads what changed', async () => {
    const [one, two] = [await create('One', p('1')), await create('Two', p('2'))];
    const first = await readClosure(db, workspace, [to(one.key), to(two.key)]);
    const [knownOne, knownTwo] = first.components as readonly [Component, Component];
    await save(two, p('two'));
    const next = await readClosure(db, workspace, [to(one.key), to(two.key)], knownIn(knownOne, knownTwo));
    expect(next.components[0]).toBe(knownOne);
    expect(next.components[1]).toEqual({
      ...knownTwo,
      revision: 2,
      body: jasmine.objectContaining({ type: 'fragment' }),
    });
    expect(next.components[1]?.body).not.toEqual(knownTwo.body);
  });

  it('takes new labels with the body that is known', async () => {
    const labelled = await create('Labelled', p('x'));
    const known = (await readClosure(db, workspace, [to(labelled.key)])).components[0] as Component;
    const labels = { collection: 'c', tags: { subject: ['rain'] } };
    await db.transaction((client) => labelComponent(client, actor(), labelled.key, labels));
    const now = (await readClosure(db, workspace, [to(labelled.key)], knownIn(known))).components[0];
    expect(now).toEqual({ ...known, labels });
    expect(now?.body).toBe(known.body);
  });

  it('leaves out what was deleted, known or not, held or not', async () => {
    const gone = await create('Gone', p('a'));
    const newer = await save(gone, p('b'));
    const { components, held } = await readClosure(db, workspace, [to(gone.key), to(gone.key, 1)]);
    expect([components.length, held.length]).toEqual([1, 1]);
    await db.transaction((client) => deleteComponent(client, actor(), gone.key));
    for (const known of [undefined, knownIn(newer, ...components, ...held)]) {
      expect(await readClosure(db, workspace, [to(gone.key), to(gone.key, 1)], known)).toEqual(
        jasmine.objectContaining({ components: [], held: [] }),
      );
    }
  });
});
