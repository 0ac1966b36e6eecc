import {
  makeNode,
  makeText,
  textOf,
  type Component,
  type ContentNode,
  type PassageList,
  type ReplacedText,
  type VariableBody,
} from '@allomorph/core';
import type { Client } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const p = (...content: readonly ContentNode[]): ContentNode => makeNode('paragraph', null, content);
const phrase = (text: string): ContentNode => makeNode('phrase', null, [makeText(text)]);

describe('Words across the library', () => {
  let server: RunningServer;
  let writer: Client;

  const create = async (kind: string, title: string, body: unknown): Promise<string> =>
    (await writer.post<Component>('/components', { kind, title, body })).json.key;
  const topic = (title: string, ...flow: ContentNode[]): Promise<string> =>
    create('topic', title, makeNode('topic', null, [makeNode('title', null, [makeText(title)]), ...flow]));
  const find = async (words: string, more = ''): Promise<PassageList> =>
    (await writer.get<PassageList>(`/passages?find=${encodeURIComponent(words)}${more}`)).json;
  const read = async (key: string): Promise<Component> => (await writer.get<Component>(`/components/${key}`)).json;
  const replace = async (change: object): Promise<ReplacedText> => {
    const wanted = { matchesCase: false, wholeWords: false, ...change };
    const { status, json } = await writer.post<ReplacedText>('/passages/replace', wanted);
    expect(status).toBe(200);
    return json;
  };
  const wordsOf = async (key: string): Promise<string> => textOf((await read(key)).body as ContentNode);

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  it('are found place by place, with what stands around them, through marks and by case and whole words', async () => {
    const key = await topic(
      'Wingnut',
      p(makeText('Loosen the wing'), makeText('nut', [{ type: 'strong' }]), makeText(' of the Wingnuts.')),
    );
    const { items, more } = await find('wingnut');
    expect(more).toBeFalse();
    expect(items.map((each) => [each.key, each.revision])).toEqual([[key, 1]]);
    expect(items[0]?.passages.map(({ before, found, after }) => [before, found, after])).toEqual([
      ['', 'Wingnut', ''],
      ['Loosen the ', 'wingnut', ' of the Wingnuts.'],
      ['Loosen the wingnut of the ', 'Wingnut', 's.'],
    ]);
    const counts = async (more: string): Promise<number> =>
      (await find('wingnut', more)).items[0]?.passages.length ?? 0;
    expect([await counts('&matchesCase=yes'), await counts('&wholeWords=yes')]).toEqual([1, 2]);
    expect((await find('%')).items.filter((each) => each.key === key)).toEqual([]);
  });

  it('are replaced where it was chosen, with their marks, and put back as they were', async () => {
    const key = await topic(
      'Sprocket',
      p(makeText('A '), makeText('sprocket', [{ type: 'strong' }]), makeText(' and a sprocket.')),
    );
    const value = await create('variable', 'Part', {
      type: 'variable',
      default: phrase('sprocket'),
      rules: [{ when: null, language: 'de', value: phrase('Sprocket von sprocket') }],
    });
    const { items } = await find('sprocket');
    expect(items.map((each) => each.passages.map(({ ofCase }) => ofCase))).toEqual([
      [0, 1, 1],
      [null, null, null],
    ]);
    const { changed, refused } = await replace({
      find: 'sprocket',
      becomes: { text: 'gear $1' },
      components: [
        { key, revision: 1, places: [0, 1] },
        { key: value, revision: 1, places: [2] },
      ],
    });
    expect(refused).toEqual([]);
    expect(changed).toEqual([
      { key, before: 1, after: 2 },
      { key: value, before: 1, after: 2 },
    ]);
    const { title, body } = await read(key);
    // The topic is called as its title reads.
    expect(title).toBe('Gear $1');
    const line = (body as ContentNode).content?.[1]?.content ?? [];
    expect(line.map(({ text, marks }) => [text, marks?.[0]?.type])).toEqual([
      ['A ', undefined],
      ['gear $1', 'strong'],
      [' and a sprocket.', undefined],
    ]);
    const { default: otherwise, rules } = (await read(value)).body as VariableBody;
    expect([otherwise && textOf(otherwise), rules[0] && textOf(rules[0].value)]).toEqual([
      'sprocket',
      'Sprocket von gear $1',
    ]);

    const { json } = await writer.post<ReplacedText>('/components/take-back', { components: changed });
    expect(json.refused).toEqual([]);
    expect([(await read(key)).title, await wordsOf(key), (await read(key)).revision]).toEqual([
      'Sprocket',
      'Sprocket A sprocket and a sprocket.',
      3,
    ]);
  });

  it('become a variable, which stays what it is itself', async () => {
    const key = await create('variable', 'Maker', { type: 'variable', default: phrase('Fennick Works'), rules: [] });
    const use = await topic('Address', p(makeText('Write to Fennick Works today.')));
    const components = [
      { key, revision: 1, places: [0] },
      { key: use, revision: 1, places: [0] },
    ];
    const { changed, refused } = await replace({ find: 'Fennick Works', becomes: { variable: key }, components });
    expect(changed.map((each) => each.key)).toEqual([use]);
    expect(refused).toEqual([{ key, why: '“Maker” cannot stand in its own value.' }]);
    const line = ((await read(use)).body as ContentNode).content?.[1]?.content ?? [];
    expect(line.map(({ type, attrs }) => [type, attrs?.['key'] ?? null])).toEqual([
      ['text', null],
      ['variable', key],
      ['text', null],
    ]);
    const used = await writer.get<{ items: readonly { key: string }[] }>(
      `/components?find=${encodeURIComponent('Maker')}`,
    );
    expect(used.status).toBe(200);
  });

  it('are left where somebody saved meanwhile, and so is what was saved after a change', async () => {
    const one = await topic('Gimbal one', p(makeText('x')));
    const two = await topic('Gimbal two', p(makeText('x')));
    const { title, body } = await read(one);
    await writer.put(`/components/${one}`, { base: 1, title, body });
    const components = [one, two].map((key) => ({ key, revision: 1, places: [0] }));
    const { changed, refused } = await replace({ find: 'gimbal', becomes: { text: 'Cradle' }, components });
    expect(changed).toEqual([{ key: two, before: 1, after: 2 }]);
    expect(refused).toEqual([{ key: one, why: '“Gimbal one” was saved meanwhile: look for the words again.' }]);
    const written = await read(two);
    await writer.put(`/components/${two}`, { base: 2, title: written.title, body: written.body });
    const back = await writer.post<ReplacedText>('/components/take-back', { components: changed });
    expect(back.json).toEqual({
      changed: [],
      refused: [{ key: two, why: '“Cradle two” was saved again since: its change stays.' }],
    });
    const wrong = { find: 'cradle', becomes: { text: 'x' }, components: [{ key: two, revision: 3, places: [7] }] };
    expect((await replace(wrong)).refused[0]?.why).toContain('does not say that so often any more');
  });

  it('are for writers to replace, and for everybody to find', async () => {
    const reader = await server.as('reviewer');
    expect((await reader.get('/passages?find=a')).status).toBe(200);
    const change = { find: 'a', matchesCase: false, wholeWords: false, becomes: { text: 'b' }, components: [] };
    expect((await reader.post('/passages/replace', change)).status).toBe(403);
    expect((await writer.get('/passages?find=')).status).toBe(400);
  });
});
