import {
  makeNode,
  makeText,
  type Component,
  type ComponentList,
  type ComponentRow,
  type ContentNode,
  type SavedSearch,
} from '@allomorph/core';
import type { Client } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const p = (...content: (string | ContentNode)[]): ContentNode =>
  makeNode(
    'paragraph',
    null,
    content.map((each) => (typeof each === 'string' ? makeText(each) : each)),
  );
const topic = (title: string, ...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText(title)]), ...flow]);
const marked = (row: ComponentRow): string[] => row.excerptMarks.map(([from, to]) => row.excerpt.slice(from, to));

describe('Search in the library', () => {
  let server: RunningServer;
  let writer: Client;
  let keeper: Client;

  const create = async (kind: string, title: string, body: unknown, labels?: object): Promise<Component> => {
    const { status, json } = await writer.post<Component>('/components', { kind, title, body, labels });
    expect(status).toBe(200);
    return json;
  };
  const listed = async (query: Record<string, string>): Promise<ComponentList> => {
    const { status, json } = await writer.get<ComponentList>(`/components?${new URLSearchParams(query).toString()}`);
    expect(status).toBe(200);
    return json;
  };
  const titles = async (find: string, more: Record<string, string> = {}): Promise<string[]> =>
    (await listed({ find, ...more })).items.map(({ title }) => title);

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
    keeper = await server.as('keeper');
    await create('topic', 'Closing valves', topic('Closing valves', p('Turn the handle to the right.')));
    await create('topic', 'Winter', topic('Winter', p('Before it freezes, every valve is closed and drained.')));
    await create('topic', 'Größe des Gehäuses', topic('Größe des Gehäuses', p('Die Längen der Kabel.')));
    const name = await create('variable', 'Trade name of the pump', {
      type: 'variable',
      default: makeNode('phrase', null, [makeText('Heronflow')]),
      rules: [],
    });
    const device = await create('variable', 'Device', {
      type: 'variable',
      default: makeNode('phrase', null, [makeNode('variable', { key: name.key }), makeText(' 2')]),
      rules: [],
    });
    const using = makeNode('variable', { key: device.key });
    await create('topic', 'First start', topic('First start', p('Switch the ', using, ' on by its lever.')));
    const warning = await create(
      'snippet',
      'Hot surface',
      makeNode('fragment', null, [p('Mind the scalding manifold.')]),
    );
    await create('topic', 'Service', topic('Service', makeNode('placement', { component: warning.key })));
    await create('snippet', 'Around', makeNode('fragment', null, [makeNode('placement', { component: warning.key })]), {
      collection: 'care',
      tags: { job: ['check'] },
    });
    await create('topic', 'Electronics', topic('Electronics', p('A windmastsensor, and its Ψυκτικό: Йод.')));
    const limited = makeNode('paragraph', { when: 'market is europe and not level is expert' }, [
      makeText('Plug type F.'),
    ]);
    await create('topic', 'Mains', topic('Mains', limited));
  });
  afterAll(() => server.stop());

  it('finds words by their stems, in any order, titles first', async () => {
    expect(await titles('valve closed')).toEqual(['Closing valves', 'Winter']);
    expect(await titles('closes valves')).toEqual(['Closing valves', 'Winter']);
    expect(await titles('drain valve')).toEqual(['Winter']);
    const { items } = await listed({ find: 'drain valves' });
    expect(items.map(marked)).toEqual([['valve', 'drained']]);
  });

  it('finds words in other languages of the team by theirs, without their accents, and parts of words', async () => {
    expect(await titles('grosse')).toEqual([]);
    expect(await titles('große')).toEqual(['Größe des Gehäuses']);
    expect(await titles('LANGEN')).toEqual(['Größe des Gehäuses']);
    expect(await titles('mastsens')).toEqual(['Electronics']);
    expect(await titles('ψυκτικο йод')).toEqual(['Electronics']);
    expect(await titles('иод')).toEqual([]);
  });

  it('finds part numbers, whatever numbers seem to stand in them', async () => {
    const parts = ['1E48B203', '12e7x9', '0x1f', '3e5', '7e-3b', '1.5e3x', '00e00e00', 'x'.repeat(2500)];
    for (const part of parts) await create('topic', `Part ${part.slice(0, 200)}`, topic('Part', p(`Order ${part}.`)));
    for (const part of parts.slice(0, -1)) {
      expect(await titles(part))
        .withContext(part)
        .toEqual([`Part ${part}`]);
      expect(await titles(part.toLowerCase().slice(0, -1)))
        .withContext(part)
        .toContain(`Part ${part}`);
    }
  });

  it('takes words that are nowhere for the nearest ones, and says so', async () => {
    const { items, mended } = await listed({ find: 'sclading manfold' });
    expect(items.map(({ title }) => title)).toEqual(['Hot surface', 'Around', 'Service']);
    expect(mended).toEqual([
      { word: 'sclading', as: ['scalding'] },
      { word: 'manfold', as: ['manifold'] },
    ]);
    const passed = await listed({ find: 'valve xqzzyq' });
    expect(passed.items.length).toBe(2);
    expect(passed.mended).toEqual([{ word: 'xqzzyq', as: [] }]);
    expect((await listed({ find: 'xqzzyq' })).total).toBe(0);
  });

  it('finds what reads so through variables and placements, shows it as it reads, and says through what', async () => {
    const seen = async (find: string) =>
      (await listed({ find })).items.map((item) => [item.title, item.excerpt, marked(item), item.through]);
    expect(await seen('heronflow lever')).toEqual([
      ['First start', 'Switch the Heronflow 2 on by its lever.', ['Heronflow', 'lever'], null],
    ]);
    const service = (await listed({ find: 'scalding', kind: 'topic' })).items;
    expect(service.map((item) => [item.title, item.through, marked(item)])).toEqual([
      ['Service', 'Hot surface', ['scalding']],
    ]);
  });

  it('keeps to what stands there now: after a save, under a new title, and without what is in the bin', async () => {
    const made = await create('topic', 'Anemometer', topic('Anemometer', p('Cups turn freely.')));
    expect(await titles('cups anemometer')).toEqual(['Anemometer']);
    await writer.put(`/components/${made.key}`, {
      base: 1,
      title: 'Vane',
      body: topic('Vane', p('Plates turn freely.')),
    });
    expect(await titles('cups')).toEqual([]);
    expect(await titles('vanes plate')).toEqual(['Vane']);
    await writer.delete(`/components/${made.key}`);
    expect(await titles('vanes plate')).toEqual([]);
  });

  it('lists by collection, tag, value of an axis, person and time, all with words as well', async () => {
    expect(await titles('', { collection: 'care' })).toEqual(['Around']);
    expect(await titles('scalding', { tag: 'job=check' })).toEqual(['Around']);
    expect(await titles('', { value: 'market=europe' })).toEqual(['Mains']);
    expect(await titles('plug', { value: 'level=expert' })).toEqual(['Mains']);
    expect(await titles('', { value: 'market=expert' })).toEqual([]);
    const { json: known } = await writer.get<{ people: { id: string; name: string }[] }>('/labels');
    const [someone] = known.people;
    expect(await titles('plug', { by: someone?.id ?? '', days: '1' })).toEqual(['Mains']);
    expect(await titles('plug', { by: '00000000-0000-4000-8000-000000000000' })).toEqual([]);
  });

  it('takes any question as words or signs', async () => {
    for (const find of ["'", '\\', "a':* | !b", '%', '<->', '(', '\u{1F600}', 'ﷺ', "x' | 'valve", ' '.repeat(50)])
      await listed({ find });
    expect(await titles("drain' & 'valve")).toEqual(['Winter']);
  });

  it('keeps the searches of a person under names, each person their own', async () => {
    await writer.put('/me/searches', { name: 'Unused', query: 'usage=unused' });
    await writer.put('/me/searches', { name: 'Unused', query: 'usage=unused&kind=topic' });
    expect((await writer.get<SavedSearch[]>('/me/searches')).json).toEqual([
      { name: 'Unused', query: 'usage=unused&kind=topic' },
    ]);
    expect((await keeper.get<SavedSearch[]>('/me/searches')).json).toEqual([]);
    expect((await writer.post<SavedSearch[]>('/me/searches/delete', { name: 'Unused' })).json).toEqual([]);
  });
});
