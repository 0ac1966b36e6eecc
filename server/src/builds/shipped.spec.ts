import {
  makeNode,
  makeText,
  type BuildDetail,
  type BuildList,
  type Comparison,
  type Component,
  type Storage,
  type StoredPublication,
  type StoredVariant,
  type VariantFreshness,
} from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('A deliverable that was handed over', () => {
  let server: RunningServer;
  let keeper: Client;
  let variant: StoredVariant;

  beforeAll(async () => {
    server = await startServer('demo');
    keeper = await server.as('keeper');
    const { json } = await keeper.get<StoredVariant[]>('/variants');
    const found = json.find(({ title }) => title === 'Dunlin 4, Europe');
    if (!found) throw new Error('The demo has no such variant.');
    variant = found;
  });
  afterAll(() => server.stop());

  const ended = async (ids: readonly string[]): Promise<BuildDetail> => {
    const [built] = await server.ended(keeper, ids);
    if (!built) throw new Error('Nothing was built.');
    return built;
  };
  const build = async (): Promise<BuildDetail> => {
    const { json } = await keeper.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    return ended(json.builds);
  };
  const again = async (of: BuildDetail): Promise<BuildDetail> => {
    const { json } = await keeper.post<{ builds: string[] }>(`/builds/${of.id}/again`);
    return ended(json.builds);
  };
  const detail = async (id: string): Promise<BuildDetail> => (await keeper.get<BuildDetail>(`/builds/${id}`)).json;
  const saveTopic = async (key: string, text: string): Promise<void> => {
    const { json } = await keeper.get<Component>(`/components/${key}`);
    const { revision, title, body } = json as Component & { body: { content: unknown[] } };
    const more = { type: 'paragraph', content: [{ type: 'text', text }] };
    const { status } = await keeper.put(`/components/${key}`, {
      base: revision,
      title,
      body: { ...body, content: [...(body.content ?? []), more] },
    });
    expect(status).toBe(200);
  };

  it('is marked with a version and a note, by writers; keepers take that back', async () => {
    const built = await build();
    expect((await keeper.put<ProblemDetails>(`/builds/${built.id}/shipped`, { version: ' ' })).status).toBe(400);
    const reader = await server.as('reader');
    expect((await reader.put(`/builds/${built.id}/shipped`, { version: '1' })).status).toBe(403);
    const writer = await server.as('writer');
    expect((await writer.put(`/builds/${built.id}/shipped`, { version: '1.0', note: 'To the printer' })).status).toBe(
      204,
    );
    const { shipped } = await detail(built.id);
    expect([shipped?.version, shipped?.note, shipped?.by]).toEqual(['1.0', 'To the printer', 'A writer']);
    const { json: list } = await keeper.get<BuildList>('/builds?shipped=yes');
    expect(list.items.map(({ id }) => id)).toEqual([built.id]);
    expect((await writer.delete(`/builds/${built.id}/shipped`)).status).toBe(403);
    expect((await keeper.delete(`/builds/${built.id}/shipped`)).status).toBe(204);
    expect((await detail(built.id)).shipped).toBeNull();
  });

  it('is built again to the same bytes, whatever happened to the library since, and compared with now', async () => {
    const { id, publication, revision, ...recipe } = variant;
    const { json: changed } = await keeper.put<StoredVariant>(`/variants/${id}`, {
      ...recipe,
      formats: ['html', 'pdf', 'epub', 'docx', 'markdown'],
      base: revision,
    });
    variant = changed;
    const first = await build();
    await keeper.put(`/builds/${first.id}/shipped`, { version: '1.0' });
    // Everything that it was made of changes: text, keys, outline, design, profile, values, and its day.
    await saveTopic('care', 'Said later.');
    for (const key of ['display', 'mains', 'warning-mains']) {
      const { revision: base } = (await keeper.get<Component>(`/components/${key}`)).json;
      const { status } = await keeper.put(`/components/${key}/key`, { base, to: `${key}-renamed` });
      expect(status).toBe(200);
    }
    const { json: book } = await keeper.get<StoredPublication>(`/publications/${publication}`);
    await keeper.put(`/publications/${publication}`, {
      base: book.revision,
      title: 'Another title',
      values: { company: makeNode('phrase', null, [makeText('Another company')]) },
      entries: book.entries.slice(0, 5),
    });
    const { json: other } = await keeper.put<StoredVariant>(`/variants/${id}`, {
      ...recipe,
      title: 'Renamed',
      design: 'formal',
      formats: ['html'],
      base: variant.revision,
    });
    variant = other;
    await server.db.query('update builds set queued_at = $2 where id = $1', [first.id, '2020-01-01T12:00:00Z']);
    const second = await again(first);
    expect([second.state, second.message]).toEqual(['done', null]);
    expect(second.digest).toBe(first.digest);
    expect(second.again).toEqual({ of: first.id, isSame: true });
    const now = await build();
    expect(now.digest).not.toBe(first.digest);
    // What is built from a record says nothing of what is fresh now.
    const { json: fresh } = await keeper.get<VariantFreshness[]>('/freshness');
    expect(fresh.find((each) => each.variant === id)?.causes).toEqual([]);
    const { json: comparison } = await keeper.get<Comparison>(`/compare?build=${first.id}&after=${id}`);
    const kinds = new Set(comparison.entries.map(({ kind }) => kind));
    expect(kinds.has('removed')).toBeTrue();
    expect((await keeper.get<ProblemDetails>(`/compare?after=${id}`)).status).toBe(404);
  });

  it('stays with its files, where those of others go after a while, and their room is given back', async () => {
    const { rows: before } = await server.db.query<{ id: string }>('select build as id from shipped');
    const kept = before.map(({ id }) => id);
    expect(kept.length).toBe(1);
    await saveTopic('safety', 'One more.');
    const third = await build();
    await saveTopic('safety', 'And one more.');
    const fourth = await build();
    expect((await detail(third.id)).hasFiles).toBeTrue();
    const { json: stored } = await keeper.get<Storage>('/storage');
    expect([stored.kept, stored.bytes > 0, stored.shippedBytes > 0]).toEqual([10, true, true]);
    const writer = await server.as('writer');
    expect((await writer.put('/storage', { kept: 1 })).status).toBe(403);
    const { json: less } = await keeper.put<Storage>('/storage', { kept: 1 });
    expect(less.kept).toBe(1);
    expect(less.bytes).toBeLessThan(stored.bytes);
    expect([(await detail(third.id)).hasFiles, (await detail(fourth.id)).hasFiles]).toEqual([false, true]);
    expect((await detail(third.id)).canBeMadeAgain).toBeFalse();
    expect((await keeper.put<ProblemDetails>(`/builds/${third.id}/shipped`, { version: '2' })).json.detail).toContain(
      'are gone',
    );
    for (const id of kept) {
      expect((await detail(id)).hasFiles).toBeTrue();
      expect((await keeper.deliverable(id, 'care.html')).status).toBe(200);
    }
    // No bytes are left that nothing needs, and none are gone that something needs.
    const { rows: unused } = await server.db.query(
      `select from blobs b where not exists (select from deliverable_files f where f.digest = b.digest)
          and not exists (select from image_files i where i.digest = b.digest)`,
    );
    expect(unused.length).toBe(0);
    // A process that took files for stored which are gone by now makes them once more.
    await saveTopic('safety', 'The last.');
    const fifth = await build();
    expect([fifth.state, fifth.message]).toEqual(['done', null]);
    const rebuilt = await again(fifth);
    expect(rebuilt.again?.isSame).toBeTrue();
    expect((await keeper.deliverable(rebuilt.id, 'safety.html')).status).toBe(200);
  });
});
