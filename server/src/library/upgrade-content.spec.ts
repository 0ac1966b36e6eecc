import { newRecipe, schemaVersion, type Component, type StoredPublication, type StoredVariant } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { upgradeContent } from './upgrade-content.js';

describe('Stored content', () => {
  let server: RunningServer;
  let writer: Client;

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  /** A snippet as the first version of the schema let it be saved. */
  async function storedAs(version: number): Promise<string> {
    const paragraph = { type: 'paragraph', attrs: { id: 'b1', when: 5 }, content: [{ type: 'text', text: 'Old.' }] };
    const body = { type: 'fragment', content: [{ ...paragraph, attrs: { id: 'b1' } }] };
    const { json } = await writer.post<Component>('/components', { kind: 'snippet', title: 'Old', body });
    await server.db.query('update revisions set body = $2, schema_version = $3 where key = $1', [
      json.key,
      JSON.stringify({ ...body, content: [paragraph] }),
      version,
    ]);
    return json.key;
  }
  const stored = async (key: string): Promise<{ body: unknown; schema_version: number } | undefined> =>
    (await server.db.query<{ body: unknown; schema_version: number }>('select * from revisions where key = $1', [key]))
      .rows[0];

  it('is read as it would be written today, and written anew in the background', async () => {
    const key = await storedAs(1);
    const { json } = await writer.get<Component>(`/components/${key}`);
    expect(JSON.stringify(json.body)).toContain('"when":"5?"');
    expect(await upgradeContent(server.db)).toBe(1);
    const after = await stored(key);
    expect([after?.body, after?.schema_version]).toEqual([json.body, schemaVersion]);
    expect(await upgradeContent(server.db)).toBe(0);
  });

  it('of a later version is refused with a sentence, and left alone', async () => {
    const key = await storedAs(schemaVersion + 1);
    const refused = await writer.get<ProblemDetails>(`/components/${key}`);
    expect(refused.status).toBe(500);
    expect(refused.json.detail).toContain(`Content of schema version ${schemaVersion + 1} cannot be read`);
    expect(await upgradeContent(server.db)).toBe(0);
    expect(JSON.stringify((await stored(key))?.body)).toContain('"when":5');
  });

  it('is brought up to date in the values of outlines, variants and builds as well', async () => {
    const valueOf = (when: unknown) => ({
      type: 'phrase',
      content: [{ type: 'text', text: 'x', marks: [{ type: 'condition', attrs: { when } }] }],
    });
    const keeper = await server.as('keeper');
    const { json: made } = await keeper.post<StoredPublication>('/publications', { title: 'Kept long' });
    const values = { name: valueOf('platform is a') };
    const entries = [{ id: 'e1', title: 'One', entries: [{ id: 'e2', title: 'Two', values }] }];
    await keeper.put(`/publications/${made.key}`, { title: made.title, values, entries, base: made.revision });
    await keeper.put('/profiles/p', { title: 'P', axes: {}, base: 0 });
    const recipe = { ...newRecipe, title: 'V', profile: 'p', values };
    const { json: variant } = await keeper.post<StoredVariant>(`/publications/${made.key}/variants`, recipe);
    const { json: begun } = await keeper.post<{ builds: readonly string[] }>('/builds', { variants: [variant.id] });
    await server.ended(keeper, begun.builds);
    // As the first version of the schema let it be saved.
    const old = (name: string) => `${name} = replace(${name}::text, '"platform is a"', '5')::jsonb`;
    await server.db.query(`update publications set ${old('entries')}, ${old('variable_values')}, schema_version = 1`);
    for (const table of ['variants', 'builds'])
      await server.db.query(`update ${table} set ${old('recipe')}, schema_version = 1`);
    const read = async (): Promise<unknown> => {
      const { json: publication } = await keeper.get<StoredPublication>(`/publications/${made.key}`);
      const { json: variants } = await keeper.get<readonly StoredVariant[]>('/variants');
      return [publication.values, publication.entries[0]?.entries?.[0]?.values, variants[0]?.values];
    };
    const wanted = { name: valueOf('5?') };
    expect(await read()).toEqual([wanted, wanted, wanted]);
    expect(await upgradeContent(server.db)).toBe(3);
    const { rows } = await server.db.query<{ text: string; version: number }>(
      `select entries::text || variable_values::text as text, schema_version as version from publications
       union all select recipe::text, schema_version from variants union all select recipe::text, schema_version from builds`,
    );
    expect(rows.length).toBe(3);
    for (const { text, version } of rows) {
      expect(text).toContain('"when": "5?"');
      expect(version).toBe(schemaVersion);
    }
    expect(await read()).toEqual([wanted, wanted, wanted]);
  });
});
