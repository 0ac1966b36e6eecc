import { makeNode, makeText, type Component, type ContentNode, type PlaceRow } from '@allomorph/core';
import type { Client } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const p = (text: string): ContentNode => makeNode('paragraph', null, [makeText(text)]);
const title = (...content: (string | ContentNode)[]): ContentNode =>
  makeNode(
    'title',
    null,
    content.map((each) => (typeof each === 'string' ? makeText(each) : each)),
  );
const topic = (name: string, ...flow: ContentNode[]): ContentNode => makeNode('topic', null, [title(name), ...flow]);
const section = (name: ContentNode, ...flow: ContentNode[]): ContentNode => makeNode('section', null, [name, ...flow]);

describe('Places that can be referred to', () => {
  let server: RunningServer;
  let writer: Client;
  let care: Component;

  const found = async (find: string): Promise<string[]> => {
    const { status, json } = await writer.get<PlaceRow[]>(`/places?${new URLSearchParams({ find }).toString()}`);
    expect(status).toBe(200);
    return json.map((row) => `${row.kind} ${row.title} in ${row.componentTitle}`);
  };
  const create = async (name: string, body: ContentNode): Promise<Component> =>
    (await writer.post<Component>('/components', { kind: 'topic', title: name, body })).json;

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
    const cell = makeNode('table_cell', null, [p('Cleaning cell')]);
    const table = makeNode('table', null, [
      makeNode('caption', null, [makeText('Cleaning intervals')]),
      makeNode('table_grid', null, [makeNode('table_row', null, [cell])]),
    ]);
    const steps = makeNode('steps', null, [makeNode('step', null, [p('Wipe the funnel with a cloth.'), p('Dry it.')])]);
    const name = title('Cleaning the ', makeNode('variable', { key: 'gauge' }));
    care = await create('Care', topic('Care', p('Clean it.'), section(name, table, section(title('Funnels'), steps))));
    await create(
      'Winter',
      topic('Winter', section(title('Before you clean'), p('x')), section(title('Frost'), p('x'))),
    );
  });
  afterAll(() => server.stop());

  it('are sections, figures, tables, examples and steps by their titles or first words, as search understands words', async () => {
    expect(await found('cleaning')).toEqual([
      'section Cleaning the [gauge] in Care',
      'table Cleaning intervals in Care',
      'section Before you clean in Winter',
    ]);
    expect(await found('wipe funnel')).toEqual(['step Wipe the funnel with a cloth. in Care']);
    expect(await found('funel')).toEqual(['step Wipe the funnel with a cloth. in Care']);
    expect(await found('winter frost')).toEqual(['section Frost in Winter']);
    expect(await found('dry')).toEqual([]);
    expect(await found('  ')).toEqual([]);
    expect(await found('nowhere at all')).toEqual([]);
  });

  it('follow what is saved, deleted and restored', async () => {
    const body = topic('Care', section(title('Rinsing'), p('x')));
    const { json } = await writer.put<Component>(`/components/${care.key}`, { base: 1, title: 'Care', body });
    expect(await found('rinse')).toEqual(['section Rinsing in Care']);
    expect(await found('cleaning intervals')).toEqual([]);
    await writer.delete(`/components/${json.key}`);
    expect(await found('rinse')).toEqual([]);
    await writer.post(`/components/${json.key}/restore`, {});
    expect(await found('rinse')).toEqual(['section Rinsing in Care']);
  });
});
