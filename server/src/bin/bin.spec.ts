import type { BinRow, Component, StoredPublication, StoredVariant, Variation } from '@allomorph/core';
import { makeNode, makeText, type BuildList } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('The bin', () => {
  let server: RunningServer;
  let keeper: Client;

  beforeAll(async () => {
    server = await startServer('demo');
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  const bin = async (): Promise<readonly BinRow[]> => (await keeper.get<BinRow[]>('/bin')).json;
  const restore = (row: Pick<BinRow, 'kind' | 'key'>) => keeper.post<ProblemDetails>('/bin/restore', row);
  const variants = async (): Promise<readonly StoredVariant[]> => (await keeper.get<StoredVariant[]>('/variants')).json;

  it('keeps a publication with its variants and their builds, and brings them back as they were', async () => {
    const before = (await keeper.get<StoredPublication>('/publications/observer-handbook')).json;
    const own = (await variants()).filter(({ publication }) => publication === before.key);
    const { json } = await keeper.post<{ builds: string[] }>('/builds', { variants: [own[0]?.id] });
    await server.ended(keeper, json.builds);
    expect((await keeper.delete(`/publications/${before.key}`)).status).toBe(204);
    expect((await keeper.get(`/publications/${before.key}`)).status).toBe(404);
    expect((await variants()).some(({ publication }) => publication === before.key)).toBeFalse();
    const [row] = await bin();
    expect([row?.kind, row?.key, row?.title, row?.deletedBy]).toEqual([
      'publication',
      before.key,
      before.title,
      'A keeper',
    ]);
    expect((await restore(row as BinRow)).status).toBe(204);
    expect((await keeper.get<StoredPublication>(`/publications/${before.key}`)).json).toEqual(before);
    expect((await variants()).filter(({ publication }) => publication === before.key)).toEqual(own);
    expect((await keeper.get<BuildList>('/builds')).json.items.some(({ id }) => id === json.builds[0])).toBeTrue();
    const { json: uses } = await keeper.get<{ direct: { source: string }[] }>('/components/care/uses');
    expect(uses.direct.some(({ source }) => source === before.key)).toBeTrue();
    expect((await restore(row as BinRow)).status).toBe(404);
  });

  it('keeps variants, profiles, axes and components, each with who put it there', async () => {
    const [variant] = await variants();
    await keeper.delete(`/variants/${variant?.id}`);
    await keeper.put('/axes/finish', { key: 'finish', title: 'Finish', values: [], base: 0 });
    await keeper.put('/profiles/spare', { key: 'spare', title: 'Spare', axes: {}, base: 0 });
    await keeper.put('/stamps/spare', {
      key: 'spare',
      title: 'Spare stamp',
      on: 'both',
      from: null,
      when: null,
      base: 0,
    });
    await keeper.delete('/stamps/spare');
    await keeper.delete('/axes/finish');
    await keeper.delete('/profiles/spare');
    const { json: snippet } = await keeper.post<Component>('/components', {
      kind: 'snippet',
      title: 'Spare words',
      body: makeNode('phrase', null, [makeText('words')]),
    });
    await keeper.delete(`/components/${snippet.key}`);
    const rows = await bin();
    expect(rows.slice(0, 5).map(({ kind, title }) => [kind, title])).toEqual([
      ['component', 'Spare words'],
      ['profile', 'Spare'],
      ['axis', 'Finish'],
      ['stamp', 'Spare stamp'],
      ['variant', variant?.title ?? ''],
    ]);
    const taken = await keeper.put<ProblemDetails>('/axes/finish', { key: 'finish', title: 'F', values: [], base: 0 });
    expect([taken.status, taken.json.detail]).toEqual([
      409,
      '“Finish”, with the same key, is in the bin. Bring it back, or use another key.',
    ]);
    for (const row of rows.slice(0, 5))
      expect((await restore(row)).status)
        .withContext(row.kind)
        .toBe(204);
    expect(await bin()).toEqual([]);
    const { json: variation } = await keeper.get<Variation>('/variation');
    expect(variation.axes.some(({ key }) => key === 'finish')).toBeTrue();
    expect(variation.profiles.some(({ key }) => key === 'spare')).toBeTrue();
    expect(variation.stamps.some(({ key }) => key === 'spare')).toBeTrue();
    expect((await variants()).some(({ id }) => id === variant?.id)).toBeTrue();
  });

  it('does not bring back a variant whose title was taken, or whose publication is in it too', async () => {
    const { json: book } = await keeper.post<StoredPublication>('/publications', { title: 'Short' });
    const recipe = { ...((await variants())[0] as StoredVariant), title: 'Only' };
    const make = async (): Promise<StoredVariant> =>
      (await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, recipe)).json;
    const first = await make();
    await keeper.delete(`/variants/${first.id}`);
    const second = await make();
    expect((await restore({ kind: 'variant', key: first.id })).status).toBe(409);
    await keeper.delete(`/variants/${second.id}`);
    await keeper.delete(`/publications/${book.key}`);
    const refused = await restore({ kind: 'variant', key: first.id });
    expect([refused.status, refused.json.detail]).toEqual([
      409,
      'The publication of “Only” is in the bin. Bring that back first.',
    ]);
  });

  it('never holds what something else uses, whoever comes first', async () => {
    const phrase = makeNode('phrase', null, [makeText('shared')]);
    for (let turn = 0; turn < 6; turn += 1) {
      const { json: part } = await keeper.post<Component>('/components', {
        kind: 'snippet',
        title: `P${turn}`,
        body: phrase,
      });
      const { json: whole } = await keeper.post<Component>('/components', {
        kind: 'snippet',
        title: `W${turn}`,
        body: phrase,
      });
      const body = makeNode('phrase', null, [makeNode('inline_placement', { component: part.key })]);
      const [deleted, saved] = await Promise.all([
        keeper.delete<ProblemDetails>(`/components/${part.key}`),
        keeper.put<ProblemDetails>(`/components/${whole.key}`, { base: 1, title: whole.title, body }),
      ]);
      expect([
        [204, 409],
        [409, 200],
      ]).toContain([deleted.status, saved.status]);
    }
  });

  it('never holds a publication that stands in another one, whoever comes first', async () => {
    for (let turn = 0; turn < 6; turn += 1) {
      const [inner, outer] = await Promise.all(
        ['Inner', 'Outer'].map(
          async (title) => (await keeper.post<StoredPublication>('/publications', { title: `${title} ${turn}` })).json,
        ),
      );
      const entries = [{ id: 'e', publication: inner?.key }];
      const [deleted, saved] = await Promise.all([
        keeper.delete<ProblemDetails>(`/publications/${inner?.key}`),
        keeper.put<ProblemDetails>(`/publications/${outer?.key}`, {
          base: 1,
          title: outer?.title,
          values: {},
          entries,
        }),
      ]);
      expect([
        [204, 409],
        [409, 200],
      ]).toContain([deleted.status, saved.status]);
    }
  });
});
