import { makeNode, makeText, type Axis, type Component, type Source, type StoredPublication } from '@allomorph/core';
import type { Client } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { readSource } from './read-source.js';

describe('What a publication is made of', () => {
  let server: RunningServer;
  let keeper: Client;

  beforeAll(async () => {
    server = await startServer();
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  const axis: Axis = { key: 'os', title: 'System', values: [] };
  const topic = (words: string) =>
    makeNode('topic', null, [
      makeNode('title', null, [makeText('T')]),
      makeNode('paragraph', { id: 'b1' }, [makeText(words)]),
    ]);

  it('is the same object as long as it reads the same, and another one as soon as it does not', async () => {
    await keeper.put('/axes/os', { ...axis, base: 0 });
    const { json: made } = await keeper.post<Component>('/components', { kind: 'topic', title: 'T', body: topic('a') });
    const { json: book } = await keeper.post<StoredPublication>('/publications', { title: 'Book' });
    const outline = (entries: readonly object[], base: number) =>
      keeper.put(`/publications/${book.key}`, { title: book.title, values: {}, entries, base });
    await outline([{ id: 'e1', topic: made.key }], book.revision);

    let last: Source['library'] | undefined;
    const read = async (): Promise<Source> => {
      const known = (key: string, revision: number) => last?.revision(key, revision);
      const found = await readSource(server.db, server.workspace, book.key, [], [], known);
      last = found?.source.library;
      return found?.source as Source;
    };
    const parts = ['library', 'axes', 'stamps', 'publications'] as const;
    const changed = (before: Source, after: Source) => parts.filter((part) => before[part] !== after[part]);

    const first = await read();
    const again = await read();
    expect(changed(first, again)).toEqual([]);

    await keeper.put(`/components/${made.key}`, { title: 'T', body: topic('b'), base: made.revision });
    const written = await read();
    expect(changed(again, written)).toEqual(['library']);
    expect(JSON.stringify(written.library.component(made.key)?.body)).toContain('"text":"b"');

    const { json: axes } = await keeper.get<{ axes: readonly (Axis & { revision: number })[] }>('/variation');
    const saved = await keeper.put('/axes/os', { ...axis, title: 'Platform', base: axes.axes[0]?.revision ?? 1 });
    expect(saved.status).toBe(200);
    const named = await read();
    expect(changed(written, named)).toEqual(['axes']);
    expect(named.axes[0]?.title).toBe('Platform');

    expect((await outline([], book.revision + 1)).status).toBe(200);
    const emptied = await read();
    expect(changed(named, emptied)).toEqual(['library', 'publications']);
    expect(emptied.publications.get(book.key)?.entries).toEqual([]);
  });
});
