import type { SessionInfo } from '@allomorph/core';
import { Client, type ProblemDetails } from '../../../tests/support/client.js';
import { addPerson } from './person.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('People', () => {
  let server: RunningServer;

  beforeAll(async () => {
    server = await startServer();
  });
  afterAll(() => server.stop());

  it('sign in and out, and get nothing without it', async () => {
    const client = new Client(server.origin);
    expect((await client.get('/components')).status).toBe(401);
    const wrong = await client.post<ProblemDetails>('/session', { name: 'writer', password: 'no' });
    expect([wrong.status, wrong.json.detail]).toEqual([401, 'The name or the password is wrong.']);
    const nobody = await client.post<ProblemDetails>('/session', { name: 'nobody', password: 'no' });
    expect(nobody.json.detail).toBe(wrong.json.detail);
    const right = await client.post<SessionInfo>('/session', { name: 'Writer', password: 'secret-writer' });
    const { name, signIn, role } = right.json.person ?? {};
    expect([name, signIn, role]).toEqual(['A writer', 'writer', 'writer']);
    expect((await client.get('/components')).status).toBe(200);
    expect((await client.delete('/session')).status).toBe(204);
    expect((await client.get('/components')).status).toBe(401);
  });

  it('have passwords that are stored as argon2id only', async () => {
    const { rows } = await server.db.query<{ password_hash: string }>('select password_hash from people');
    for (const row of rows) expect(row.password_hash).toMatch(/^\$argon2id\$/);
  });

  it('get cookies that scripts cannot read and other sites do not send', async () => {
    const client = new Client(server.origin);
    const { headers } = await client.post('/session', { name: 'reader', password: 'secret-reader' });
    const session = headers.getSetCookie().find((cookie) => cookie.startsWith('allomorph-session='));
    expect(session).toContain('HttpOnly');
    expect(session).toContain('SameSite=Lax');
  });

  it('change nothing without the session’s token', async () => {
    const writer = await server.as('writer');
    writer.sendToken = false;
    const refused = await writer.post<ProblemDetails>('/components', {});
    expect([refused.status, refused.json.title]).toEqual([403, 'Not allowed']);
  });

  it('do what their role allows, and no more', async () => {
    const reader = await server.as('reader');
    const refused = await reader.post<ProblemDetails>('/components', {});
    expect([refused.status, refused.json.detail]).toEqual([403, 'This takes the role “writer”; you are a reader.']);
    const writer = await server.as('writer');
    expect((await writer.put('/axes/x', { key: 'x', title: 'X', values: [], base: 0 })).status).toBe(403);
    expect((await writer.post('/publications', { title: 'X' })).status).toBe(403);
  });

  it('have the rights of now, not those of when they signed in', async () => {
    const client = await server.as('keeper');
    let base = 0;
    const axis = async (): Promise<number> => {
      const { status } = await client.put('/axes/now', { key: 'now', title: 'Now', values: [], base });
      if (status === 200) base += 1;
      return status;
    };
    const makeThem = (role: string): Promise<unknown> =>
      server.db.query(`update people set role = $1 where sign_in = 'keeper'`, [role]);
    expect(await axis()).toBe(200);
    await makeThem('reader');
    expect(await axis()).toBe(403);
    await makeThem('keeper');
    expect(await axis()).toBe(200);
    const { rows } = await server.db.query<{ workspace: string }>('select workspace from people limit 1');
    const gone = { signIn: 'gone', name: 'Gone', role: 'reader', password: 'secret-gone' } as const;
    const id = await addPerson(server.db, rows[0]?.workspace ?? '', gone);
    const other = new Client(server.origin);
    await other.post('/session', { name: 'gone', password: 'secret-gone' });
    expect((await other.get('/components')).status).toBe(200);
    await server.db.query('update people set is_active = false where id = $1', [id]);
    expect((await other.get('/components')).status).toBe(401);
  });

  it('get one clear sentence for what cannot be read or is not there', async () => {
    const client = await server.as('keeper');
    const broken = await client.request<ProblemDetails>('POST', '/api/session', '{"name":');
    expect([broken.status, broken.json.detail]).toEqual([400, 'The request body is not JSON.']);
    const nowhere = await client.get<ProblemDetails>('/nowhere');
    expect([nowhere.status, nowhere.json.detail]).toEqual([404, 'There is nothing at this address.']);
  });
});
