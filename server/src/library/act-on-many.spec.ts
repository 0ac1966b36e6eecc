import {
  makeNode,
  makeText,
  type Component,
  type ComponentList,
  type ContentNode,
  type ManyDone,
  type StepBack,
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
    const moved = await act([one, two], { kind: 'collection', collection: 'tips' });
    expect([moved.done, moved.refused]).toEqual([[one, two], []]);
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

  const back = async (steps: readonly StepBack[]): Promise<ManyDone> => {
    const { status, json } = await writer.post<ManyDone>('/components/acts/back', { steps });
    expect(status).toBe(200);
    return json;
  };
  const labels = async (...keys: readonly string[]) => Promise.all(keys.map(async (key) => (await read(key)).labels));

  it('is taken back as one act, and that as well', async () => {
    const [one, two, three] = [await topic('Back one'), await snippet('Back two'), await snippet('Back three')];
    const keys = [one, two, three];
    await act([one], { kind: 'collection', collection: 'old' });
    await act([two], { kind: 'tag', tag: 'subject', value: 'hail', on: true });
    const before = await labels(...keys);
    const moved = await act(keys, { kind: 'collection', collection: 'new/place' });
    const after = await labels(...keys);
    expect((await act(keys, { kind: 'collection', collection: 'new/place' })).back).toEqual([]);
    const undone = await back(moved.back);
    expect([undone.done.toSorted(), undone.refused]).toEqual([keys.toSorted(), []]);
    expect(await labels(...keys)).toEqual(before);
    await back(undone.back);
    expect(await labels(...keys)).toEqual(after);
    const tagged = await act(keys, { kind: 'tag', tag: 'subject', value: 'hail', on: true });
    // What was so before is not taken away.
    expect(tagged.back.map(({ key }) => key)).toEqual([one, three]);
    await back(tagged.back);
    expect(await labels(...keys)).toEqual(after);
  });

  it('is taken back only where nobody changed the same since', async () => {
    const keys = [await topic('Since one'), await topic('Since two')];
    const [one = '', two = ''] = keys;
    const moved = await act(keys, { kind: 'collection', collection: 'mine' });
    await act([two], { kind: 'collection', collection: 'theirs' });
    const undone = await back(moved.back);
    expect([undone.done, undone.refused.map(({ key }) => key)]).toEqual([[one], [two]]);
    expect(undone.refused[0]?.why).toBe('“Since two” was moved or tagged again since: that stays.');
    expect((await labels(one, two)).map((each) => each?.collection ?? null)).toEqual([null, 'theirs']);

    const limited = await act(keys, { kind: 'limit', when: 'os is linux' });
    const { title, revision, body } = await read(two);
    await writer.put(`/components/${two}`, { base: revision, title: `${title}, changed`, body });
    const unlimited = await back(limited.back);
    expect([unlimited.done, unlimited.refused.map(({ key }) => key)]).toEqual([[one], [two]]);
    expect([(await read(one)).revision, (await read(two)).title]).toEqual([3, 'Since two, changed']);
    expect(JSON.stringify((await read(one)).body)).not.toContain('os is linux');
    expect(JSON.stringify((await read(two)).body)).toContain('os is linux');
  });

  it('brings what was deleted together back together, with what used each other', async () => {
    const inner = await snippet('Inner');
    const outer = await topic('Outer', makeNode('placement', { component: inner }));
    const deleted = await act([inner, outer], { kind: 'delete' });
    expect(deleted.done.toSorted()).toEqual([inner, outer].toSorted());
    const restored = await back(deleted.back);
    expect(restored.refused).toEqual([]);
    expect((await writer.get<{ direct: { total: number } }>(`/components/${inner}/uses`)).json.direct).toBeDefined();
    expect([(await read(outer)).key, (await read(inner)).key]).toEqual([outer, inner]);
    await back(restored.back);
    expect((await writer.get(`/components/${outer}`)).status).toBe(404);
    const archived = await act([await topic('Shelved')], { kind: 'archive', on: true });
    await back(archived.back);
    expect(await found('find=Shelved')).toEqual(archived.done.toSorted());
    expect((await writer.post('/components/acts/back', { steps: [{ kind: 'labels', key: 'x' }] })).status).toBe(400);
    const gone = await back([{ kind: 'archive', key: 'no-such-thing', on: false }]);
    expect([gone.done, gone.refused.length]).toEqual([[], 1]);
  });
});
