import {
  makeNode,
  makeText,
  type Component,
  type ContentNode,
  type KeyChanged,
  type ListedDesign,
  type StoredPublication,
  type StoredVariant,
  newRecipe,
} from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const p = (...content: readonly ContentNode[]): ContentNode => makeNode('paragraph', null, content);
const phrase = (...content: readonly ContentNode[]): ContentNode => makeNode('phrase', null, content);
const name = (key: string): ContentNode => makeNode('variable', { key });

describe('A key that is changed', () => {
  let server: RunningServer;
  let keeper: Client;
  let count = 0;

  const create = async (kind: string, title: string, body: unknown): Promise<Component> =>
    (await keeper.post<Component>('/components', { kind, title, body })).json;
  const topic = (title: string, ...flow: readonly ContentNode[]): Promise<Component> =>
    create('topic', title, makeNode('topic', null, [makeNode('title', null, [makeText(title)]), ...flow]));
  const variable = (): Promise<Component> =>
    create('variable', `Model ${(count += 1)}`, { type: 'variable', default: phrase(makeText('4X')), rules: [] });
  const read = async (key: string): Promise<Component> => (await keeper.get<Component>(`/components/${key}`)).json;
  const rename = ({ key, revision }: Component, to: string) =>
    keeper.put<KeyChanged & ProblemDetails>(`/components/${key}/key`, { base: revision, to });

  beforeAll(async () => {
    server = await startServer();
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  it('is followed by components, outlines, values, variants and designs, in one act', async () => {
    const model = await variable();
    const { key } = model;
    const user = await topic(
      'Uses it',
      p(name(key), makeText(' at ', [{ type: 'link', attrs: { href: `https://a.example/{+${key}}` } }])),
    );
    const other = await create('variable', `Long ${count}`, {
      type: 'variable',
      default: phrase(name(key)),
      rules: [],
    });
    const book = (await keeper.post<StoredPublication>('/publications', { title: `Book ${count}` })).json;
    const entries = [{ id: 'e1', topic: user.key, values: { [key]: phrase(makeText('own')) } }];
    await keeper.put(`/publications/${book.key}`, {
      base: 1,
      title: book.title,
      entries,
      values: { [key]: phrase(makeText('2')) },
    });
    const recipe = { ...newRecipe, title: 'One', profile: 'all', values: { [key]: phrase(makeText('3')) } };
    await keeper.put('/profiles/all', { base: 0, key: 'all', title: 'All', axes: {} });
    const made = await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, recipe);
    expect(made.status).toBe(200);
    const design = {
      key: `d-${key}`,
      title: 'Own',
      from: null,
      settings: { 'heads.right.foot.left': `{${key}} by us` },
    };
    expect((await keeper.put(`/designs/${design.key}`, { ...design, base: 0 })).status).toBe(200);

    const { status, json } = await rename(model, `${key}.new`);
    expect([status, json.component.key, json.rewritten]).toEqual([200, `${key}.new`, 5]);
    const all = JSON.stringify([
      (await read(user.key)).body,
      (await read(other.key)).body,
      (await keeper.get<StoredPublication>(`/publications/${book.key}`)).json,
      (await keeper.get<StoredVariant[]>('/variants')).json.find(({ id }) => id === made.json.id),
      (await keeper.get<{ designs: ListedDesign[] }>('/variation')).json.designs.find((each) => each.key === design.key)
        ?.settings,
    ]);
    expect(all.match(new RegExp(`"${key}"|\\{\\+?${key}\\}`, 'g'))).toBeNull();
    expect(all.split(`${key}.new`).length - 1).toBe(7);
    const { json: revisions } = await keeper.get<unknown[]>(`/components/${key}.new/revisions`);
    expect(revisions.length).toBe(1);
  });

  it('stays taken, is told where it is asked for, and is read anew in what was written with it', async () => {
    const model = await variable();
    const to = `${model.key}-b`;
    await rename(model, to);
    const asked = await keeper.get<ProblemDetails & { now?: string }>(`/components/${model.key}`);
    expect([asked.status, asked.json.detail, asked.json.now]).toEqual([
      404,
      `The key “${model.key}” is “${to}” now.`,
      to,
    ]);
    const again = await keeper.post<ProblemDetails>('/components', {
      kind: 'link',
      key: model.key,
      title: 'x',
      body: { type: 'link', href: '', label: '' },
    });
    expect(again.json.detail).toBe(`The key “${model.key}” is already used.`);
    const late = await topic('Written before', p(name(model.key)));
    expect(JSON.stringify(late.body)).toContain(`"${to}"`);
    // Back again, by the key that it had.
    const back = await rename(await read(to), model.key);
    expect(back.json.component.key).toBe(model.key);
    expect(JSON.stringify((await read(late.key)).body)).toContain(`"${model.key}"`);
  });

  it('is followed by what comes back out of the bin', async () => {
    const model = await variable();
    const page = await topic('Was deleted', p(name(model.key)));
    const book = (await keeper.post<StoredPublication>('/publications', { title: `Deleted ${count}` })).json;
    await keeper.put(`/publications/${book.key}`, {
      base: 1,
      title: book.title,
      entries: [{ id: 'e1', title: 'x', values: { [model.key]: phrase(makeText('own')) } }],
      values: {},
    });
    const design = {
      key: `binned-${count}`,
      title: `Binned ${count}`,
      from: null,
      settings: { 'heads.right.foot.left': `{${model.key}}` },
    };
    await keeper.put(`/designs/${design.key}`, { ...design, base: 0 });
    await keeper.delete(`/designs/${design.key}`);
    await keeper.delete(`/components/${page.key}`);
    await keeper.delete(`/publications/${book.key}`);
    await rename(model, `${model.key}-later`);
    await keeper.post('/bin/restore', { kind: 'component', key: page.key });
    await keeper.post('/bin/restore', { kind: 'publication', key: book.key });
    await keeper.post('/bin/restore', { kind: 'design', key: design.key });
    const { designs } = (await keeper.get<{ designs: ListedDesign[] }>('/variation')).json;
    expect(designs.find(({ key }) => key === design.key)?.settings).toEqual({
      'heads.right.foot.left': `{${model.key}-later}`,
    });
    const now = JSON.stringify([(await read(page.key)).body, (await keeper.get(`/publications/${book.key}`)).json]);
    expect(now.split(`"${model.key}-later"`).length - 1).toBe(2);
    expect(now).not.toContain(`"${model.key}"`);
  });

  it('is refused where it is taken, was saved meanwhile, or is named by what is held', async () => {
    const [model, taken] = [await variable(), await variable()];
    expect((await rename(model, taken.key)).json.detail).toBe(`The key “${taken.key}” is already used.`);
    expect((await rename(model, 'two words')).status).toBe(400);
    const stale = await rename({ ...model, revision: 9 }, 'else');
    expect(stale.json.detail).toBe(`Somebody saved “${model.title}” meanwhile. Look at it again first.`);
    const note = await create('snippet', 'Held note', makeNode('fragment', null, [p(name(model.key))]));
    await keeper.put(`/components/${note.key}`, {
      base: 1,
      title: note.title,
      body: makeNode('fragment', null, [p(makeText('new'))]),
    });
    const held = await topic('Holds', makeNode('placement', { component: note.key, mode: 'held', revision: 1 }));
    const refused = await rename(model, 'else');
    expect([refused.status, refused.json.detail]).toEqual([
      409,
      `“Held note” is held at revision 1, which names “${model.title}”. Bring it up to date first.`,
    ]);
    await keeper.put(`/components/${held.key}`, {
      base: 1,
      title: 'Holds',
      body: makeNode('topic', null, [makeNode('title', null, [makeText('Holds')]), p()]),
    });
    expect((await rename(model, `else-${count}`)).status).toBe(200);
  });

  it('takes along drafts, and the sources that copies remember', async () => {
    const note = await create('snippet', 'Copied note', makeNode('fragment', null, [p(makeText('x'))]));
    const copy = makeNode('copied', { component: note.key, revision: 1 }, [p(makeText('x'))]);
    const copier = await topic('Copies', copy);
    await keeper.put('/me/drafts', { thing: note.key, window: 'w', draft: '{}' });
    await rename(note, 'note-two');
    expect(JSON.stringify((await read(copier.key)).body)).toContain('"component":"note-two"');
    expect((await keeper.get<unknown[]>('/me/drafts?thing=note-two')).json.length).toBe(1);
  });
});
