import type { PersonRow, SessionRow } from '@allomorph/core';
import { Client, type ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { addPerson } from './person.js';

describe('Sessions', () => {
  let server: RunningServer;
  let keeper: Client;
  let made = 0;

  beforeAll(async () => {
    server = await startServer('empty', { proxies: 1 });
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  /** Somebody of this test alone, signed in. */
  const somebody = async (): Promise<{ id: string; signIn: string; password: string; client: Client }> => {
    const signIn = `person-${(made += 1)}`;
    const password = `secret-${signIn}`;
    const id = await addPerson(server.db, server.workspace, { signIn, name: signIn, role: 'writer', password });
    const client = new Client(server.origin);
    await client.post('/session', { name: signIn, password });
    return { id, signIn, password, client };
  };
  const statusOf = async (client: Client): Promise<number> => (await client.get('/components')).status;

  it('end, with the streams of events, when the role changes or the person may not sign in any more', async () => {
    for (const change of [
      { role: 'reader', isActive: true },
      { role: 'writer', isActive: false },
    ]) {
      const { id, signIn, password, client } = await somebody();
      const controller = new AbortController();
      const stream = await client.stream('/events', controller.signal, () => undefined);
      expect((await keeper.put<PersonRow>(`/people/${id}`, { name: signIn, ...change })).status).toBe(200);
      await stream.ended;
      expect(await statusOf(client)).toBe(401);
      const again = await new Client(server.origin).post('/session', { name: signIn, password });
      expect(again.status).toBe(change.isActive ? 200 : 401);
    }
  });

  it('let nobody who finds one open guess the password of its owner', async () => {
    const { password, client } = await somebody();
    const change = (current: string): Promise<{ readonly status: number }> =>
      client.put('/me/password', { current, password: 'quite another one' });
    for (let guess = 0; guess < 10; guess += 1) expect((await change(`guess ${guess}`)).status).toBe(422);
    expect((await change(password)).status).toBe(429);
  });

  it('end elsewhere when the password changes, and go on where it was changed', async () => {
    const { signIn, password, client } = await somebody();
    const elsewhere = new Client(server.origin);
    await elsewhere.post('/session', { name: signIn, password });
    const changed = 'quite another one';
    const wrong = await client.put<ProblemDetails>('/me/password', { current: 'not mine', password: changed });
    expect([wrong.status, wrong.json.detail]).toEqual([422, 'The password of until now is another one.']);
    const short = await client.put<ProblemDetails>('/me/password', { current: password, password: 'short' });
    expect([short.status, short.json.detail]).toEqual([
      400,
      'password: A password has at least ten signs; a few words do well.',
    ]);
    expect(await statusOf(elsewhere)).toBe(200);
    expect((await client.put('/me/password', { current: password, password: changed })).status).toBe(204);
    expect([await statusOf(client), await statusOf(elsewhere)]).toEqual([200, 401]);
    const signedIn = await new Client(server.origin).post('/session', { name: signIn, password: changed });
    expect(signedIn.status).toBe(200);
  });

  it('are told, and ended by their owner or by a keeper', async () => {
    const { id, signIn, password, client } = await somebody();
    const elsewhere = new Client(server.origin);
    await elsewhere.post('/session', { name: signIn, password });
    const { json: own } = await client.get<SessionRow[]>('/me/sessions');
    expect(own.map(({ isThis }) => isThis).sort()).toEqual([false, true]);
    // Nothing that is told can be used as a session.
    const { rows } = await server.db.query<{ sid: string }>('select sid from session');
    for (const { sid } of rows) expect(JSON.stringify(own)).not.toContain(sid);
    expect((await client.delete('/me/sessions')).status).toBe(204);
    expect([await statusOf(client), await statusOf(elsewhere)]).toEqual([200, 401]);
    expect((await keeper.get<SessionRow[]>(`/people/${id}/sessions`)).json.length).toBe(1);
    expect((await keeper.delete(`/people/${id}/sessions`)).status).toBe(204);
    expect(await statusOf(client)).toBe(401);
  });

  it('end when nobody came back for long, and in any case after a time', async () => {
    const idle = await somebody();
    await server.db.query('update session set expire = now() where person = $1', [idle.id]);
    expect(await statusOf(idle.client)).toBe(401);
    const old = await somebody();
    const longAgo = Date.now() - 8 * 24 * 3_600_000;
    await server.db.query(
      `update session set sess = jsonb_set(sess::jsonb, '{startedAt}', to_jsonb($2::bigint))::json where person = $1`,
      [old.id, longAgo],
    );
    expect(await statusOf(old.client)).toBe(401);
  });

  it('cannot be guessed into, while their owners come in from where they were before', async () => {
    const { signIn, password } = await somebody();
    const from = (address: string, word: string): Promise<number> =>
      fetch(`${server.origin}/api/session`, {
        method: 'POST',
        headers: { 'content-type': 'application/json', 'x-forwarded-for': address },
        body: JSON.stringify({ name: signIn, password: word }),
      }).then(({ status }) => status);
    expect(await from('198.51.100.1', password)).toBe(200);
    // One who tries from one address, all at once.
    const tries = await Promise.all(Array.from({ length: 14 }, (_, at) => from('203.0.113.7', `guess ${at}`)));
    expect(tries.filter((status) => status === 401).length).toBeLessThanOrEqual(10);
    expect(await from('203.0.113.7', password)).toBe(429);
    // Many who try from many.
    for (let at = 0; at < 25; at += 1) await from(`203.0.113.${10 + at}`, 'guess');
    expect(await from('203.0.113.200', password)).toBe(429);
    expect(await from('198.51.100.1', password)).toBe(200);
  });

  it('send their cookies over TLS only where people come in by it', async () => {
    const secure = await startServer('empty', { proxies: 1, secureCookies: true });
    const { headers } = await fetch(`${secure.origin}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', 'x-forwarded-proto': 'https' },
      body: JSON.stringify({ name: 'writer', password: 'secret-writer' }),
    });
    const cookies = headers.getSetCookie();
    expect(cookies.length).toBe(2);
    for (const cookie of cookies) expect(cookie).toContain('Secure');
    expect(headers.get('strict-transport-security')).toContain('max-age=');
    await secure.stop();
  });
});
