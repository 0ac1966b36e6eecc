import {
  makeNode,
  makeText,
  type Component,
  type ComponentList,
  type ContentNode,
  type ManyDone,
} from '@allomorph/core';
import type { Client } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const p = (...content: readonly ContentNode[]): ContentNode => makeNode('paragraph', null, content);

describe('One act on many components', () => {
  let server: RunningServer;
  let writer: Client;

  const create = async (kind: string, title: string, body: unknown): Promise<string> =>
    (await writer.post<Component>('/components', { kind, title, body })).json.key;
  const topic = (title: string, ...flow: ContentNode[]): Promise<string> =>
    create(
      'topic',
      title,
      makeNode('topic', null, [makeNode('title', null, [makeText(title)]), p(makeText(title)), ...flow]),
    );
  const snippet = (title: string): Promise<string> =>
    create('snippet', title, makeNode('fragment', null, [p(makeText(title))]));
  const act = async (keys: readonly string[], what: object): Promise<ManyDone> => {
    const { status, json } = await writer.post<ManyDone>('/components/acts', { keys, act: what });
    expect(status).toBe(200);
    return json;
  };
  const read = async (key: string): Promise<Component> => (await writer.get<Component>(`/components/${key}`)).json;
  const found = async (query: string): Promise<string[]> =>
    (await writer.get<ComponentList>(`/components?${query}`)).json.items.map(({ key }) => key).sort();

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  it('tags them and takes the tag away, with what else they are tagged', async () => {
    const keys = [await topic('A'), await snippet('B')];
    await act(keys, { kind: 'tag', tag: 'subject', value: 'rain', on: true });
    await act(keys, { kind: 'tag', tag: 'subject', value: 'wind', on: true });
    await act(keys, { kind: 'tag', tag: 'subject', value: 'wind', on: true });
    expect((await read(keys[0] ?? '')).labels?.tags).toEqual({ subject: ['rain', 'wind'] });
    await act(keys.slice(0, 1), { kind: 'tag', tag: 'subject', value: 'rain', on: false });
    expect(await found('tag=subject%3Drain')).toEqual([keys[1] ?? '']);
    await act(keys, { kind: 'tag', tag: 'subject', value: 'wind', on: false });
    await act(keys, { kind: 'tag', tag: 'constructor', value: 'a', on: false });
    expect((await read(keys[0] ?? '')).labels?.tags ?? {}).toEqual({});
  });

  it('moves them to a collection, and out of it', async () => {
    const [one, two] = [await topic('C'), await snippet('D')];
    expect(await act([one, two], { kind: 'collection', collection: 'tips' })).toEqual({
      done: [one, two],
      refused: [],
    });
    expect(await found('collection=tips')).toEqual([one, two].sort());
    await act([one], { kind: 'collection', collection: null });
    expect(await found('collection=tips')).toEqual([two]);
  });

  it('limits topics and snippets as a whole, each with a new revision where something changes', async () => {
    await (
      await server.as('keeper')
    ).put('/axes/os', {
      title: 'System',
      values: [{ key: 'linux', title: 'Linux', code: 'L', colour: 0, pattern: 0 }],
    });
    const [one, two] = [await topic('E'), await snippet('F')];
    const image = await create('link', 'G', { type: 'link', href: 'https://example.org/', label: 'G' });
    const told = await act([one, two, image], { kind: 'limit', when: 'os is linux' });
    expect([told.done, told.refused.map(({ key }) => key)]).toEqual([[one, two], [image]]);
    await act([one], { kind: 'limit', when: 'os is linux' });
    expect(await read(one)).toEqual(
      jasmine.objectContaining({ revision: 2, body: jasmine.objectContaining({ attrs: { when: 'os is linux' } }) }),
    );
    await act([one], { kind: 'limit', when: null });
    expect(((await read(one)).body as ContentNode).attrs?.['when'] ?? null).toBeNull();
    expect((await writer.post('/components/acts', { keys: [one], act: { kind: 'limit', when: 'os is' } })).status).toBe(
      400,
    );
  });

  it('deletes what uses others before those, and says of the rest what uses it', async () => {
    const [used, kept] = [await snippet('Used'), await snippet('Kept')];
    const placing = await topic('Placing', makeNode('placement', { component: used }));
    await topic('Outside', makeNode('placement', { component: kept }));
    const told = await act([used, kept, placing], { kind: 'delete' });
    expect(told.done).toEqual([placing, used]);
    expect(told.refused).toEqual([{ key: kept, why: '“Kept” is used in “Outside”. Take it out there first.' }]);
    expect((await writer.get(`/components/${kept}`)).status).toBe(200);
    expect((await writer.get(`/components/${used}`)).status).toBe(404);
  });
});
