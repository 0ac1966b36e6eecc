import {
  makeNode,
  makeText,
  type Component,
  type ComponentList,
  type Revised,
  type StampUse,
  type StoredProfile,
  type Variation,
} from '@allomorph/core';
import { variantRecipe } from '../../../tests/support/library-parts.js';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { hear } from '../../../tests/support/heard.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const value = (key: string, values: unknown[] = []) => ({ key, title: key, code: 'X', colour: 0, pattern: 0, values });

const system = { key: 'os', title: 'System', values: [value('linux', [value('suse')]), value('mac')] };

describe('The vocabulary', () => {
  let server: RunningServer;
  let keeper: Client;

  beforeAll(async () => {
    server = await startServer();
    keeper = await server.as('keeper');
    await keeper.put('/axes/os', { ...system, base: 0 });
  });
  afterAll(() => server.stop());

  it('keeps axes in their order and designs to choose from', async () => {
    await keeper.put('/axes/level', { key: 'level', title: 'Level', values: [], base: 0 });
    const { json } = await keeper.get<Variation>('/variation');
    expect(json.axes.map((axis) => axis.key)).toEqual(['os', 'level']);
    expect(json.designs.map((design) => design.key)).toEqual(['plain', 'labelled', 'compact', 'formal']);
  });

  it('tells all open pages when an axis, a profile, a stamp, a design or a variant is another one', async () => {
    const heard = await hear(await server.as('reader'));
    const count = (): number => heard.told.filter(({ type }) => type === 'variation').length;
    await keeper.post('/publications', { title: 'Told' });
    const acts: readonly (() => Promise<{ readonly status: number }>)[] = [
      () => keeper.put('/axes/told', { key: 'told', title: 'Told', values: [], base: 0 }),
      () => keeper.put('/profiles/told', { key: 'told', title: 'Told', axes: {}, base: 0 }),
      () => keeper.put('/stamps/told', { key: 'told', title: 'Told', on: 'both', from: null, when: null, base: 0 }),
      () => keeper.put('/designs/told', { key: 'told', title: 'Told', from: 'plain', settings: {}, base: 0 }),
      () => keeper.post('/publications/told/variants', { ...variantRecipe, title: 'Told', profile: 'told' }),
      () => keeper.delete('/publications/told'),
      () => keeper.delete('/designs/told'),
      () => keeper.delete('/stamps/told'),
      () => keeper.delete('/axes/told'),
    ];
    for (const act of acts) {
      const before = count();
      const { status } = await act();
      if (status >= 300) throw new Error(`${act.toString()} was answered with ${status}.`);
      await heard.until(() => count() > before);
    }
    await heard.end();
  });

  it('refuses a value twice on an axis, and keys that nobody could type', async () => {
    const twice = await keeper.put<ProblemDetails>('/axes/os2', {
      key: 'os2',
      title: 'x',
      base: 0,
      values: [value('a', [value('a')])],
    });
    expect([twice.status, twice.json.detail]).toEqual([400, 'The key “a” stands twice on this axis.']);
    const key = await keeper.put<ProblemDetails>('/axes/a b', { key: 'a b', title: 'x', values: [], base: 0 });
    expect(key.status).toBe(400);
    expect(key.json.detail).toContain('A key is made of letters');
  });

  it('refuses to lose a value that a condition names', async () => {
    const writer = await server.as('writer');
    const paragraph = makeNode('paragraph', { when: 'os is suse' }, [makeText('x')]);
    await writer.post('/components', {
      kind: 'snippet',
      title: 'Limited',
      body: makeNode('fragment', null, [paragraph]),
    });
    const lost = await keeper.put<ProblemDetails>('/axes/os', {
      ...system,
      values: [value('linux'), value('mac')],
      base: 1,
    });
    expect([lost.status, lost.json.detail]).toEqual([
      409,
      '“Limited” has a condition on the value “suse”; retire the value, or take it out there first.',
    ]);
    expect((await keeper.delete('/axes/os')).status).toBe(409);
    const free = await keeper.put<Revised>('/axes/os', {
      ...system,
      values: [value('linux', [value('suse')])],
      base: 1,
    });
    expect([free.status, free.json.revision]).toEqual([200, 2]);
  });

  it('keeps stamps, and refuses to lose what content, other stamps or their conditions name', async () => {
    const stamp = (key: string, more: object = {}) => ({
      key,
      title: key,
      on: 'both',
      from: null,
      when: null,
      ...more,
    });
    const put = (key: string, more: object = {}, base = 0) =>
      keeper.put<ProblemDetails>(`/stamps/${key}`, { ...stamp(key, more), base });
    expect((await put('trained', { when: 'os is suse' })).status).toBe(200);
    expect((await put('workshop', { from: 'trained' })).status).toBe(200);
    const refused = async (answer: Promise<{ status: number; json: ProblemDetails }>) => {
      const { status, json } = await answer;
      return [status, json.detail];
    };
    expect(await refused(put('trained', { from: 'workshop' }, 1))).toEqual([
      422,
      '“trained” would derive from itself.',
    ]);
    expect(await refused(put('x', { from: 'none' }))).toEqual([422, 'There is no stamp “none” to derive from.']);
    expect(await refused(put('x', { when: 'os is' }))).toEqual([400, jasmine.stringContaining('Condition: Expected')]);
    expect(await refused(put('x', { when: '@stamp is trained' }))).toEqual([
      400,
      'when: A standing condition names axes, not stamps.',
    ]);
    expect(await refused(put('trained', {}, 0))).toEqual([409, 'There is already one with the key “trained”.']);
    expect(await refused(keeper.delete('/stamps/trained'))).toEqual([
      409,
      'The stamp “workshop” derives from this one.',
    ]);
    expect(await refused(keeper.put('/axes/os', { ...system, values: [value('linux')], base: 2 }))).toEqual([
      409,
      jasmine.stringContaining('has a condition on the value “suse”'),
    ]);
    const writer = await server.as('writer');
    const { json: made } = await writer.post<Component>('/components', {
      kind: 'snippet',
      title: 'Stamped',
      body: makeNode('fragment', null, [
        makeNode('paragraph', null, [makeText('x', [{ type: 'stamp', attrs: { stamp: 'workshop' } }])]),
      ]),
    });
    expect(await refused(keeper.delete('/stamps/workshop'))).toEqual([
      409,
      '“Stamped” bears this stamp; take it off there first.',
    ]);
    const { json: uses } = await (await server.as('reader')).get<StampUse[]>('/stamps/uses');
    expect(uses).toEqual([{ stamp: 'workshop', components: 1 }]);
    const { json: listed } = await writer.get<ComponentList>('/components?stamp=workshop');
    expect(listed.items.map(({ key }) => key)).toEqual([made.key]);
    expect((await writer.put('/stamps/x', { ...stamp('x'), base: 0 })).status).toBe(403);
    await writer.delete(`/components/${made.key}`);
    expect((await keeper.delete('/stamps/workshop')).status).toBe(204);
    expect((await keeper.delete('/stamps/trained')).status).toBe(204);
    expect((await keeper.get<Variation>('/variation')).json.stamps).toEqual([]);
  });

  it('keeps profiles, and refuses to delete one that a variant uses', async () => {
    const profile = { key: 'p', title: 'P', axes: { os: { default: 'out', in: ['linux'] } }, base: 0 };
    expect((await keeper.put('/profiles/p', profile)).status).toBe(200);
    const { json: book } = await keeper.post<{ key: string }>('/publications', { title: 'Book' });
    const { json: variant } = await keeper.post<{ id: string }>(`/publications/${book.key}/variants`, variantRecipe);
    const refused = await keeper.delete<ProblemDetails>('/profiles/p');
    expect([refused.status, refused.json.detail]).toEqual([
      409,
      'The variant “V” uses this profile. Give it another one first.',
    ]);
    await keeper.delete(`/variants/${variant.id}`);
    expect((await keeper.delete('/profiles/p')).status).toBe(204);
  });

  it('is saved against the revision that was changed, and says what there is now', async () => {
    const other = await server.as('keeper');
    const profile = { key: 'two', title: 'Two', axes: {} };
    const save = (client: Client, title: string, base: number) =>
      client.put<ProblemDetails & { current?: StoredProfile & Revised }>('/profiles/two', { ...profile, title, base });
    const made = await Promise.all([save(keeper, 'Mine', 0), save(other, 'Theirs', 0)]);
    expect(made.map(({ status }) => status).sort()).toEqual([200, 409]);
    expect((await save(keeper, 'Second', 1)).status).toBe(200);
    const late = await save(other, 'Late', 1);
    expect([late.status, late.json.detail]).toEqual([409, 'Somebody changed “Second” meanwhile.']);
    expect(late.json.current).toEqual({ ...profile, title: 'Second', revision: 2 });
    await keeper.delete('/profiles/two');
    expect((await save(other, 'Gone', 2)).json.detail).toBe('Somebody deleted “Gone” meanwhile.');
    const { json } = await keeper.get<Variation>('/variation');
    expect(json.profiles.some(({ key }) => key === 'two')).toBeFalse();
  });
});
