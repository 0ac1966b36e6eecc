import { schemaVersion, type Component } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { upgradeBodies } from './upgrade-bodies.js';

describe('Stored bodies', () => {
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

  it('are read as they would be written today, and written anew in the background', async () => {
    const key = await storedAs(1);
    const { json } = await writer.get<Component>(`/components/${key}`);
    expect(JSON.stringify(json.body)).toContain('"when":"5?"');
    expect(await upgradeBodies(server.db)).toBe(1);
    const after = await stored(key);
    expect([after?.body, after?.schema_version]).toEqual([json.body, schemaVersion]);
    expect(await upgradeBodies(server.db)).toBe(0);
  });

  it('of a later version are refused with a sentence, and left alone', async () => {
    const key = await storedAs(schemaVersion + 1);
    const refused = await writer.get<ProblemDetails>(`/components/${key}`);
    expect(refused.status).toBe(500);
    expect(refused.json.detail).toContain(`Content of schema version ${schemaVersion + 1} cannot be read`);
    expect(await upgradeBodies(server.db)).toBe(0);
    expect(JSON.stringify((await stored(key))?.body)).toContain('"when":5');
  });
});
