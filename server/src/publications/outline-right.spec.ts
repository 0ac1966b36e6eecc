import type { SessionInfo, StoredPublication } from '@allomorph/core';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('The right to change outlines', () => {
  let server: RunningServer;
  beforeAll(async () => {
    server = await startServer();
  });
  afterAll(() => server.stop());

  it('is writers’ until keepers take it, and theirs again when it is given back', async () => {
    const [keeper, writer, reviewer] = [
      await server.as('keeper'),
      await server.as('writer'),
      await server.as('reviewer'),
    ];
    const { key } = (await keeper.post<StoredPublication>('/publications', { title: 'Outline right' })).json;
    const save = async (by: typeof writer, base: number): Promise<number> =>
      (await by.put(`/publications/${key}`, { base, title: 'Outline right', values: {}, entries: [] })).status;
    expect(await save(writer, 1)).toBe(200);
    expect(await save(reviewer, 2)).toBe(403);
    expect((await writer.put('/writers-outline', { allowed: false })).status).toBe(403);
    const told = await keeper.put<SessionInfo>('/writers-outline', { allowed: false });
    expect([told.status, told.json.writersOutline]).toEqual([200, false]);
    expect((await writer.get<SessionInfo>('/session')).json.writersOutline).toBeFalse();
    expect([await save(writer, 2), await save(keeper, 2)]).toEqual([403, 200]);
    await keeper.put('/writers-outline', { allowed: true });
    expect(await save(writer, 3)).toBe(200);
    // Variants stay with keepers.
    expect((await writer.post(`/publications/${key}/variants`, {})).status).toBe(403);
  });
});
