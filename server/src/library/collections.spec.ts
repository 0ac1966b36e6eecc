import {
  makeNode,
  makeText,
  type Component,
  type ComponentList,
  type ContentNode,
  type KnownLabels,
  type SavedSearch,
} from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const p = (...content: readonly ContentNode[]): ContentNode => makeNode('paragraph', null, content);

describe('Collections', () => {
  let server: RunningServer;
  let writer: Client;

  const create = async (
    kind: string,
    title: string,
    body: unknown,
    collection: string | null = null,
  ): Promise<Component> =>
    (await writer.post<Component>('/components', { kind, title, body, labels: { collection, tags: {} } })).json;
  const snippet = (title: string, collection: string): Promise<Component> =>
    create('snippet', title, makeNode('fragment', null, [p(makeText(`${title} is what it says.`))]), collection);
  const topic = (title: string, ...flow: readonly ContentNode[]): Promise<Component> =>
    create('topic', title, makeNode('topic', null, [makeNode('title', null, [makeText(title)]), ...flow]));
  const found = async (query: string): Promise<string[]> =>
    (await writer.get<ComponentList>(`/components?${query}`)).json.items.map(({ title }) => title).sort();
  const rename = (from: string, to: string) =>
    writer.put<{ moved: number } & ProblemDetails>('/collections', { from, to });
  const names = async (): Promise<string[]> =>
    (await writer.get<KnownLabels>('/labels')).json.collections.map(({ name, count }) => `${name} ${count}`);

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  it('make a tree: one holds what is in those below it', async () => {
    await snippet('Europe', 'Legal / Markets /Europe');
    await snippet('Anywhere', 'Legal');
    await snippet('Other', 'Legalese');
    expect(await names()).toEqual(['Legal 1', 'Legal/Markets/Europe 1', 'Legalese 1']);
    expect(await found('collection=Legal')).toEqual(['Anywhere', 'Europe']);
    expect(await found('collection=Legal%2FMarkets')).toEqual(['Europe']);
    expect((await writer.get(`/components?collection=%2F`)).status).toBe(400);
  });

  it('are followed by the searches that people keep, and by those of nobody else', async () => {
    await snippet('Frost tip', 'Season/Winter');
    const reader = await server.as('reader');
    const searches = async () => (await reader.get<SavedSearch[]>('/me/searches')).json.map(({ query }) => query);
    for (const [name, query] of [
      ['a', 'find=frost&collection=Season'],
      ['b', 'collection=Season%2FWinter&usage=never'],
      ['c', 'collection=Seasonal'],
      ['d', 'find=collection%3DSeason'],
    ] as const)
      await reader.put('/me/searches', { name, query });
    await rename('Season', 'Times of year');
    expect(await searches()).toEqual([
      'find=frost&collection=Times+of+year',
      'collection=Times+of+year%2FWinter&usage=never',
      'collection=Seasonal',
      'find=collection%3DSeason',
    ]);
    await rename('Times of year', 'Season');
    expect((await searches())[0]).toBe('find=frost&collection=Season');
  });

  it('get another name or place with all that is below, and slots follow', async () => {
    await snippet('Rain tip', 'Tips/Rain');
    const slot = makeNode('slot', { id: 's1', collection: 'Tips/Rain', tag: null });
    const page = await topic('Takes tips', slot);
    expect((await rename('Tips', 'Tips/Old')).json.detail).toBe('“Tips” cannot stand in itself.');
    expect((await rename('None', 'x')).status).toBe(404);
    await snippet('Taken', 'Hints');
    expect((await rename('Tips', 'Hints')).json.detail).toBe(
      'There is a collection “Hints” already: move the components into it instead.',
    );
    const { status, json } = await rename('Tips', 'Advice');
    expect([status, json.moved]).toEqual([200, 1]);
    expect(await found('collection=Advice%2FRain')).toEqual(['Rain tip']);
    const { json: closure } = await writer.get<{ component: Component; components: Component[] }>(
      `/components/${page.key}/closure`,
    );
    expect(closure.component.revision).toBe(2);
    expect(closure.components.map(({ title }) => title)).toEqual(['Rain tip']);
    await rename('Advice', 'Tips');
    expect(await found('collection=Tips')).toEqual(['Rain tip']);
  });
});

describe('What is archived', () => {
  let server: RunningServer;
  let writer: Client;

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  it('stays where it is used, and is offered nowhere until it is taken out', async () => {
    const line = 'Keep the gauge away from trees and walls, always.';
    const body = makeNode('fragment', null, [p(makeText(line))]);
    const { json: tip } = await writer.post<Component>('/components', { kind: 'snippet', title: 'Gauge place', body });
    const page = makeNode('topic', null, [
      makeNode('title', null, [makeText('Page')]),
      makeNode('placement', { component: tip.key }),
    ]);
    const { json: user } = await writer.post<Component>('/components', { kind: 'topic', title: 'Page', body: page });
    const keysFound = async (more: string): Promise<string[]> =>
      (await writer.get<ComponentList>(`/components?find=gauge&kind=snippet${more}`)).json.items.map(({ key }) => key);
    const offered = async (): Promise<number> => (await writer.post<unknown[]>('/offers', { line })).json.length;
    const archive = (on: boolean) => writer.post('/components/acts', { keys: [tip.key], act: { kind: 'archive', on } });
    expect([await keysFound(''), await offered()]).toEqual([[tip.key], 1]);
    await archive(true);
    expect([
      await keysFound(''),
      await keysFound('&archived=only'),
      await keysFound('&archived=too'),
      await offered(),
    ]).toEqual([[], [tip.key], [tip.key], 0]);
    const closure = await writer.get<{ components: Component[] }>(`/components/${user.key}/closure`);
    expect(closure.json.components.map(({ key }) => key)).toEqual([tip.key]);
    expect((await writer.get<{ archived?: boolean }>(`/components/${tip.key}/closure`)).json.archived).toBeTrue();
    await archive(false);
    expect([await keysFound(''), await keysFound('&archived=only'), await offered()]).toEqual([[tip.key], [], 1]);
  });
});
