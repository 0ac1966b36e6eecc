import {
  makeNode,
  makeText,
  type Component,
  type ContentNode,
  type HolderRow,
  type ReplacedText,
} from '@allomorph/core';
import type { Client } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const p = (text: string): ContentNode => makeNode('paragraph', null, [makeText(text)]);
const fragment = (...flow: ContentNode[]): ContentNode => makeNode('fragment', null, flow);

describe('Who holds a component', () => {
  let server: RunningServer;
  let writer: Client;
  const create = async (title: string, body: ContentNode): Promise<string> =>
    (await writer.post<Component>('/components', { kind: 'snippet', title, body })).json.key;
  const held = (component: string, revision: number): ContentNode =>
    makeNode('placement', { component, mode: 'held', revision });

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  it('at an older revision is told, and brought up to date in chosen places, which is taken back as one act', async () => {
    const source = await create('Source', fragment(p('first')));
    const one = await create('One', fragment(held(source, 1), held(source, 1)));
    const two = await create('Two', fragment(held(source, 1)));
    await create('Live', fragment(makeNode('placement', { component: source, mode: 'live' })));
    const holders = async (): Promise<readonly HolderRow[]> =>
      (await writer.get<readonly HolderRow[]>(`/components/${source}/holders`)).json;
    expect(await holders()).toEqual([]);
    await writer.put(`/components/${source}`, { base: 1, title: 'Source', body: fragment(p('second')) });
    expect((await holders()).map(({ title, places }) => [title, places])).toEqual([
      ['One', 2],
      ['Two', 1],
    ]);
    await writer.put(`/components/${two}`, { base: 1, title: 'Two', body: fragment(held(source, 1), p('more')) });
    const asked = { holders: [one, two].map((key) => ({ key, revision: 1 })) };
    const { json } = await writer.post<ReplacedText>(`/components/${source}/bring-up`, asked);
    expect(json).toEqual({
      changed: [{ key: one, before: 1, after: 2 }],
      refused: [{ key: two, why: '“Two” was saved meanwhile: look at it again.' }],
    });
    expect((await holders()).map(({ title }) => title)).toEqual(['Two']);
    const again = await writer.post<ReplacedText>(`/components/${source}/bring-up`, {
      holders: [{ key: one, revision: 2 }],
    });
    expect(again.json.refused[0]?.why).toBe('“One” holds nothing older.');
    await writer.post('/components/take-back', { components: json.changed });
    expect((await holders()).map(({ title, places }) => [title, places])).toEqual([
      ['One', 2],
      ['Two', 1],
    ]);
  });
});
