import { firstCheckSettings, type StoredChecks } from '@allomorph/core';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('The checks of a team', () => {
  let server: RunningServer;
  beforeAll(async () => {
    server = await startServer();
  });
  afterAll(() => server.stop());

  it('are kept against the revision that was changed, switched off with a reason only, by keepers', async () => {
    const keeper = await server.as('keeper');
    const reader = await server.as('reviewer');
    const first = (await reader.get<StoredChecks>('/checks')).json;
    expect(first).toEqual({ ...firstCheckSettings, revision: 0 });
    const { revision, ...settings } = first;
    const wanted = { ...settings, base: revision, mostWords: 25, avoid: [{ words: 'simply', better: '' }] };
    const saved = await keeper.put<StoredChecks>('/checks', { ...wanted, off: { 'late-warning': 'House style.' } });
    expect([saved.status, saved.json.revision, saved.json.off]).toEqual([200, 1, { 'late-warning': 'House style.' }]);
    expect((await reader.get<StoredChecks>('/checks')).json).toEqual(saved.json);
    const late = await keeper.put<{ current: StoredChecks }>('/checks', wanted);
    expect([late.status, late.json.current.mostWords]).toEqual([409, 25]);
    for (const wrong of [
      { off: { 'late-warning': ' ' } },
      { off: { other: 'x' } },
      { mostWords: 0 },
      { avoid: [{ words: '', better: 'x' }] },
    ])
      expect((await keeper.put('/checks', { ...wanted, base: 1, ...wrong })).status)
        .withContext(JSON.stringify(wrong))
        .toBe(400);
    expect((await reader.put('/checks', { ...wanted, base: 1 })).status).toBe(403);
  });
});
