import type { KeptDraft } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('Drafts on the server', () => {
  let server: RunningServer;

  beforeAll(async () => {
    server = await startServer();
  });
  afterAll(() => server.stop());

  const draftsOf = async (who: Client, thing: string): Promise<readonly string[]> => {
    const { json } = await who.get<readonly KeptDraft[]>(`/me/drafts?thing=${thing}`);
    return json.map(({ window, draft }) => `${window}: ${draft}`);
  };

  it('are kept for a person, thing and window, come back sign by sign, and are nobody else’s', async () => {
    const [writer, keeper] = [await server.as('writer'), await server.as('keeper')];
    const odd = '{"words":"\\u0000 \\ud800 “größe”"}';
    expect((await writer.put('/me/drafts', { thing: 'a', window: 'one', draft: '{"words":1}' })).status).toBe(204);
    await writer.put('/me/drafts', { thing: 'a', window: 'one', draft: odd });
    await writer.put('/me/drafts', { thing: 'a', window: 'two', draft: '{}' });
    expect(await draftsOf(writer, 'a')).toEqual(['two: {}', `one: ${odd}`]);
    expect([await draftsOf(writer, 'b'), await draftsOf(keeper, 'a')]).toEqual([[], []]);
    await keeper.delete('/me/drafts?thing=a&window=one');
    await writer.delete('/me/drafts?thing=a&window=two');
    expect(await draftsOf(writer, 'a')).toEqual([`one: ${odd}`]);
  });

  it('are bounded: in size, in number, in time', async () => {
    const writer = await server.as('writer');
    const large = await writer.put<ProblemDetails>('/me/drafts', {
      thing: 'large',
      window: 'one',
      draft: 'x'.repeat(7 << 20),
    });
    expect(large.status).toBe(400);
    await server.db.query(
      `insert into drafts (person, thing, window_name, draft, at)
       select id, 'many ' || n, 'w', '{}', now() - make_interval(mins => n)
         from people, generate_series(1, 300) n where sign_in = 'writer'`,
    );
    await server.db.query(
      `insert into drafts (person, thing, window_name, draft, at)
       select id, 'old', 'w', '{}', now() - interval '91 days' from people where sign_in = 'reader'`,
    );
    await writer.put('/me/drafts', { thing: 'newest', window: 'one', draft: '{}' });
    const { rows } = await server.db.query<{ count: number }>(
      `select count(*)::integer from drafts join people on people.id = person where sign_in = 'writer'`,
    );
    expect(rows[0]?.count).toBe(200);
    expect(await draftsOf(writer, 'newest')).toEqual(['one: {}']);
    expect(await draftsOf(writer, 'many%20300')).toEqual([]);
    await server.db.query(`update people set role = 'writer' where sign_in = 'reader'`);
    const other = await server.as('reader');
    await other.put('/me/drafts', { thing: 'new', window: 'one', draft: '{}' });
    expect(await draftsOf(other, 'old')).toEqual([]);
  });
});
