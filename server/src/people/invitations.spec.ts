import type {
  AuditList,
  EntryLink,
  Invitation,
  InvitationRow,
  OutboxRow,
  PersonRow,
  SessionInfo,
} from '@allomorph/core';
import { Client, type ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { inviteFirst, makeInvitation } from './invitations.js';

const tokenOf = (address: string): string => address.split('#')[1] ?? '';

describe('People come in', () => {
  let server: RunningServer;
  let keeper: Client;

  beforeAll(async () => {
    server = await startServer();
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  const invite = async (wanted: object): Promise<string> =>
    tokenOf((await keeper.post<EntryLink>('/invitations', wanted)).json.address);

  it('by a link that works once, with the role that the keeper chose', async () => {
    const token = await invite({ name: 'Noor Hadley', role: 'reviewer' });
    const client = new Client(server.origin);
    const { json: told } = await client.post<Invitation>('/invitation', { token });
    expect(told).toEqual({ workspace: 'Library', name: 'Noor Hadley', role: 'reviewer', signIn: null, isFirst: false });
    const own = { token, name: 'Noor Hadley', signIn: 'Noor', password: 'four words do well' };
    const { json } = await client.post<SessionInfo>('/invitation/accept', own);
    expect([json.person?.signIn, json.person?.role]).toEqual(['noor', 'reviewer']);
    expect((await client.get('/components')).status).toBe(200);
    const again = await new Client(server.origin).post<ProblemDetails>('/invitation/accept', {
      ...own,
      signIn: 'other',
    });
    expect([again.status, again.json.detail]).toEqual([
      404,
      'This link was used already, was withdrawn or is too old. Ask a keeper for a new one.',
    ]);
  });

  it('not by a link that was withdrawn or is too old, nor with a name that is taken', async () => {
    const withdrawn = await invite({ name: 'Withdrawn', role: 'writer' });
    const { json: rows } = await keeper.get<InvitationRow[]>('/invitations');
    await keeper.delete(`/invitations/${rows.find(({ name }) => name === 'Withdrawn')?.id}`);
    const old = await invite({ name: 'Old', role: 'writer' });
    await server.db.query(`update invitations set expires_at = now() where name = 'Old'`);
    for (const token of [withdrawn, old, 'x'.repeat(32)])
      expect((await new Client(server.origin).post('/invitation', { token })).status).toBe(404);
    const taken = await new Client(server.origin).post<ProblemDetails>('/invitation/accept', {
      token: await invite({ name: 'Late', role: 'writer' }),
      name: 'Late',
      signIn: 'writer',
      password: 'four words do well',
    });
    expect([taken.status, taken.json.detail]).toEqual([
      409,
      'Somebody signs in as “writer” already; choose another name.',
    ]);
  });

  it('with a letter that stands in the outbox, where there is a mail address', async () => {
    const token = await invite({ name: 'Ada Whitcombe', role: 'writer', mail: 'ada@fennick.example' });
    const { json } = await keeper.get<OutboxRow[]>('/outbox');
    expect(json[0]?.to).toBe('ada@fennick.example');
    expect(json[0]?.text).toContain(token);
    const bad = await keeper.post<ProblemDetails>('/invitations', { name: 'X', role: 'writer', mail: 'nobody' });
    expect([bad.status, bad.json.detail]).toEqual([400, 'mail: This is not a mail address.']);
  });

  it('again by a link of a keeper, where they lost their password', async () => {
    const { json: people } = await keeper.get<PersonRow[]>('/people');
    const reader = people.find(({ signIn }) => signIn === 'reader') as PersonRow;
    const before = await server.as('reader');
    const { json: link } = await keeper.post<EntryLink>(`/people/${reader.id}/reset`);
    const client = new Client(server.origin);
    const { json: told } = await client.post<Invitation>('/invitation', { token: tokenOf(link.address) });
    expect(told.signIn).toBe('reader');
    const set = { token: tokenOf(link.address), name: 'A reader', signIn: 'reader', password: 'a new password' };
    expect((await client.post('/invitation/accept', set)).status).toBe(200);
    expect((await before.get('/components')).status).toBe(401);
    const signedIn = await new Client(server.origin).post('/session', { name: 'reader', password: 'a new password' });
    expect(signedIn.status).toBe(200);
  });

  it('again by a link from the command line, which is not the one of the first keeper', async () => {
    const { rows } = await server.db.query<{ id: string }>(`select id from people where sign_in = 'reviewer'`);
    const wanted = { name: 'A reviewer', role: 'reviewer', person: rows[0]?.id ?? '' } as const;
    const link = await makeInvitation(server.db, { workspace: server.workspace, person: null }, wanted, server.origin);
    const client = new Client(server.origin);
    const { json } = await client.post<Invitation>('/invitation', { token: tokenOf(link.address) });
    expect([json.isFirst, json.signIn]).toEqual([false, 'reviewer']);
  });

  it('and are left with at least one keeper, also when two step down at once', async () => {
    const { json: people } = await keeper.get<PersonRow[]>('/people');
    const only = people.find(({ role }) => role === 'keeper') as PersonRow;
    const refused = await keeper.put<ProblemDetails>(`/people/${only.id}`, { ...only, role: 'writer' });
    expect([refused.status, refused.json.detail]).toEqual([
      409,
      '“A keeper” is the only keeper. Make somebody else a keeper first.',
    ]);
    const writer = people.find(({ signIn }) => signIn === 'writer') as PersonRow;
    await keeper.put(`/people/${writer.id}`, { ...writer, role: 'keeper' });
    const second = await server.as('writer');
    const both = await Promise.all([
      keeper.put(`/people/${only.id}`, { ...only, role: 'writer' }),
      second.put(`/people/${writer.id}`, { ...writer, role: 'writer' }),
    ]);
    expect(both.map(({ status }) => status).filter((status) => status === 200).length).toBe(1);
    const { rows } = await server.db.query(`select from people where role = 'keeper'`);
    expect(rows.length).toBe(1);
    await server.db.query(`update people set role = sign_in where sign_in in ('keeper', 'writer')`);
    keeper = await server.as('keeper');
  });

  it('and what they did can be looked up', async () => {
    const { json } = await keeper.get<AuditList>('/audit?find=invite');
    expect(json.items.length).toBeGreaterThan(0);
    for (const item of json.items) expect(JSON.stringify(item).toLowerCase()).toContain('invite');
    const { json: signIns } = await keeper.get<AuditList>('/audit?find=sign%20in');
    expect(
      signIns.items.some(({ action, detail }) => action === 'sign in' && detail['address'] !== undefined),
    ).toBeTrue();
    const last = signIns.items.at(-1)?.id ?? 0;
    const { json: older } = await keeper.get<AuditList>(`/audit?before=${last}`);
    for (const { id } of older.items) expect(id).toBeLessThan(last);
  });

  it('into an empty installation by one address, which makes the first keeper', async () => {
    expect(await inviteFirst(server.db, server.workspace, server.origin)).toBeNull();
    const { rows } = await server.db.query<{ id: string }>(
      `insert into workspaces (title) values ('New') returning id`,
    );
    const workspace = rows[0]?.id ?? '';
    const earlier = await inviteFirst(server.db, workspace, server.origin);
    const address = await inviteFirst(server.db, workspace, server.origin);
    const client = new Client(server.origin);
    expect((await client.post('/invitation', { token: tokenOf(earlier ?? '') })).status).toBe(404);
    const token = tokenOf(address ?? '');
    expect((await client.post<Invitation>('/invitation', { token })).json.isFirst).toBeTrue();
    const { json } = await client.post<SessionInfo>('/invitation/accept', {
      token,
      name: 'First Keeper',
      signIn: 'first',
      password: 'four words do well',
    });
    expect(json.person?.role).toBe('keeper');
    expect(await inviteFirst(server.db, workspace, server.origin)).toBeNull();
  });
});
