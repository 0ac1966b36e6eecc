import { makeNode, makeText, type Component, type ContentNode, type WrittenOffer } from '@allomorph/core';
import type { Client } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const phrase = (text: string): ContentNode => makeNode('phrase', null, [makeText(text)]);

describe('Offers while somebody writes', () => {
  let server: RunningServer;
  let writer: Client;
  const create = async (kind: string, title: string, body: unknown): Promise<string> =>
    (await writer.post<Component>('/components', { kind, title, body })).json.key;
  const offered = async (line: string): Promise<readonly string[]> =>
    (await writer.post<readonly WrittenOffer[]>('/offers', { line })).json.map(
      ({ kind, title, words, covers }) => `${kind} ${title}: ${words} (${covers})`,
    );

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
    const rules = [{ when: null, language: 'de', value: phrase('Wetterhahn 4') }];
    await create('variable', 'Name', { type: 'variable', default: phrase('Weathercock 4'), rules });
    await create('variable', 'Short', { type: 'variable', default: phrase('12'), rules: [] });
    await create(
      'snippet',
      'Battery',
      makeNode('fragment', null, [
        makeNode('paragraph', null, [makeText('Never open the battery case while the mains is connected.')]),
      ]),
    );
    await create('snippet', 'Wait', phrase('wait until the green lamp lights'));
  });
  afterAll(() => server.stop());

  it('are variables that say the last words, as whole words and in their capitals', async () => {
    expect(await offered('Mount the Weathercock 4')).toEqual(['variable Name: Weathercock 4 (words)']);
    expect(await offered('Der Wetterhahn 4')).toEqual(['variable Name: Wetterhahn 4 (words)']);
    for (const line of ['the weathercock 4', 'the SuperWeathercock 4', 'the Weathercock 4 is', 'take 12', '%'])
      expect(await offered(line))
        .withContext(line)
        .toEqual([]);
  });

  it('are snippets that say nearly the same: blocks for a whole line, phrases for its last sentence, too', async () => {
    expect(await offered('Never open the battery case while mains is connected.')).toEqual([
      'snippet Battery: Never open the battery case while mains is connected. (line)',
    ]);
    expect(await offered('Read this. Never open the battery case while the mains is connected.')).toEqual([]);
    expect(await offered('Press OK. Wait until the green lamp lights.')).toEqual([
      'snippet Wait: Wait until the green lamp lights. (words)',
    ]);
    expect(await offered('Never close the lid of the box while it rains outside.')).toEqual([]);
  });

  it('are made to writers', async () => {
    expect((await (await server.as('reviewer')).post('/offers', { line: 'x' })).status).toBe(403);
    expect((await writer.post('/offers', { line: '' })).status).toBe(400);
  });
});
