import {
  makeNode,
  makeText,
  textOf,
  type Component,
  type ContentNode,
  type PublicationCoverage,
  type PublicationRow,
  type ReferenceReadings,
  type StoredPublication,
  type StoredVariant,
  type Uses,
} from '@allomorph/core';
import { randomUUID } from 'node:crypto';
import { parse } from 'node-html-parser';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { variantRecipe } from '../../../tests/support/library-parts.js';
import { readSource } from './read-source.js';

describe('Publications', () => {
  let server: RunningServer;
  let keeper: Client;

  beforeAll(async () => {
    server = await startServer('demo');
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  const save = (book: StoredPublication, change: Partial<StoredPublication>) =>
    keeper.put<StoredPublication & ProblemDetails>(`/publications/${book.key}`, {
      base: book.revision,
      title: book.title,
      values: book.values,
      entries: book.entries,
      ...change,
    });
  const fresh = async (title: string): Promise<StoredPublication> =>
    (await keeper.post<StoredPublication>('/publications', { title })).json;

  it('are made, changed, listed and deleted', async () => {
    const book = await fresh('Field Notes');
    const { json: saved } = await save(book, { entries: [{ id: 'e1', topic: 'care', when: 'product is dunlin-2' }] });
    expect(saved.revision).toBe(2);
    const { json: rows } = await keeper.get<PublicationRow[]>('/publications');
    expect(rows.find((row) => row.key === book.key)).toEqual({
      key: 'field-notes',
      title: 'Field Notes',
      revision: 2,
      entries: 1,
      variants: 0,
      outlineOf: null,
    });
    const { json: uses } = await keeper.get<Uses>('/components/care/uses');
    expect(
      uses.direct.some((use) => use.sourceKind === 'publication' && use.source === book.key && use.place === 'e1'),
    ).toBeTrue();
    expect((await keeper.delete(`/publications/${book.key}`)).status).toBe(204);
    const { json: after } = await keeper.get<Uses>('/components/care/uses');
    expect(after.direct.some((use) => use.source === book.key)).toBeFalse();
  });

  it('refuse a change on an older revision and hand over the newer one', async () => {
    const book = await fresh('Contested');
    await save(book, { title: 'Theirs' });
    const stale = await save(book, { title: 'Mine' });
    expect([stale.status, stale.json.detail]).toEqual([409, 'Somebody changed “Theirs” meanwhile.']);
  });

  it('have several outlines over them, with their title and their values, which stay as long as they', async () => {
    const book = await fresh('Whole');
    const mains = {
      mains: makeNode('phrase', null, [makeText('main')]),
      plug: makeNode('phrase', null, [makeText('p')]),
    };
    await save(book, {
      values: mains,
      entries: [
        { id: 'e1', topic: 'care' },
        { id: 'e2', topic: 'parts' },
      ],
    });
    const made = await keeper.post<StoredPublication>('/publications', {
      title: 'Whole, on paper',
      outlineOf: book.key,
    });
    const paper = made.json;
    expect([paper.outlineOf, paper.entries.map(({ id }) => id)]).toEqual([book.key, ['e1', 'e2']]);
    // One over that is over the same publication.
    const again = await keeper.post<StoredPublication>('/publications', { title: 'A third', outlineOf: paper.key });
    expect(again.json.outlineOf).toBe(book.key);
    const own = { mains: makeNode('phrase', null, [makeText('on paper')]) };
    const { json: saved } = await save(paper, { values: own, entries: [{ id: 'e2', topic: 'parts' }] });
    expect(saved.outlineOf).toBe(book.key);
    const read = await server.db.snapshot((client) => readSource(client, server.workspace, paper.key));
    expect(read && textOf(read.publication.title)).toBe('Whole');
    const values = Object.entries(read?.publication.values ?? {}).map(([key, value]) => `${key} ${textOf(value)}`);
    expect(values.sort()).toEqual(['mains on paper', 'plug p']);
    expect(read?.publication.entries.map(({ id }) => id)).toEqual(['e2']);
    const refused = await keeper.delete<ProblemDetails>(`/publications/${book.key}`);
    expect([refused.status, refused.json.detail]).toEqual([
      409,
      '“A third” is another outline over “Whole”. Delete that first.',
    ]);
    for (const { key } of [again.json, paper, book])
      expect((await keeper.delete(`/publications/${key}`)).status).toBe(204);
    const early = await keeper.post<ProblemDetails>('/bin/restore', { kind: 'publication', key: paper.key });
    expect(early.json.detail).toBe('The publication of “Whole, on paper” is in the bin. Bring that back first.');
  });

  it('refuse outlines and values that cannot be built', async () => {
    const book = await fresh('Wrong');
    const twice = await save(book, {
      entries: [
        { id: 'e', topic: 'care' },
        { id: 'e', topic: 'help' },
      ],
    });
    expect(twice.json.detail).toBe('Two entries have the id “e”.');
    const empty = await save(book, { entries: [{ id: 'e' }] });
    expect(empty.json.detail).toBe('An entry needs a topic, a publication, a link or a heading.');
    const both = await save(book, { entries: [{ id: 'e', topic: 'care', link: 'x' }] });
    expect(both.json.detail).toBe('The entry “e” is a link and something else: it can be one of them.');
    const condition = await save(book, { entries: [{ id: 'e', topic: 'care', when: 'product is' }] });
    expect(condition.json.detail).toContain('Condition: Expected a value');
    const value = await save(book, { values: { mains: makeNode('paragraph', null, [makeText('x')]) } });
    expect(value.json.detail).toBe('The value of “mains” is not valid: a value is a phrase');
  });

  it('tell what cross-references read in a variant, as its deliverable says it', async () => {
    const book = await fresh('Referring');
    const text = (words: string) => [makeText(words)];
    const forms = ['title', 'number-title', 'number', 'page'] as const;
    const see = (component: string, target: string | null, form: string) =>
      makeNode('paragraph', null, [makeNode('cross_reference', { component, target, form })]);
    const make = async (title: string, ...flow: readonly ContentNode[]): Promise<string> => {
      const body = makeNode('topic', null, [makeNode('title', null, text(title)), ...flow]);
      return (await keeper.post<Component>('/components', { kind: 'topic', title, body })).json.key;
    };
    const rinsing = makeNode('section', { id: 'rinse' }, [
      makeNode('title', null, text('Rinsing')),
      makeNode('paragraph', null, text('With water.')),
    ]);
    const target = await make('Looking after it', rinsing);
    const lines = forms.flatMap((form) => [see(target, null, form), see(target, 'rinse', form)]);
    const from = await make('Where it is told', ...lines);
    await save(book, {
      entries: [
        { id: 'a', topic: from },
        { id: 'b', topic: target },
      ],
    });
    const { json: variant } = await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, {
      ...variantRecipe,
      profile: 'dunlin-2-observer-europe',
    });
    const { json } = await keeper.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    const [build] = await server.ended(keeper, json.builds);
    const page = (await keeper.deliverable(build?.id ?? '', `${from}.html`)).bytes.toString();
    const read = parse(page)
      .querySelectorAll('main a.reference')
      .map((link) => link.text);
    const readings = async (block?: string, to = target) =>
      (
        await keeper.get<{ readings: ReferenceReadings | null }>(
          `/variants/${variant.id}/reference?from=${from}&to=${to}${block === undefined ? '' : `&block=${block}`}`,
        )
      ).json.readings;
    const [whole, section] = [await readings(), await readings('rinse')];
    expect(forms.flatMap((form) => [whole?.[form] ?? '', section?.[form] ?? ''])).toEqual(read);
    expect(section?.['number-title']).toContain('2.1');
    expect(await readings('none')).toBeNull();
    expect(await readings(undefined, 'care')).toBeNull();
    expect((await keeper.get(`/variants/${randomUUID()}/reference?from=${from}&to=${target}`)).status).toBe(404);
  });

  it('say what each variant has of each entry, and which conditions do nothing', async () => {
    const { json } = await keeper.get<PublicationCoverage>('/publications/observer-handbook/coverage');
    const { json: variants } = await keeper.get<StoredVariant[]>('/variants');
    const at = (title: string): number =>
      json.variants.indexOf(
        variants.find((each) => each.publication === 'observer-handbook' && each.title === title)?.id ?? '',
      );
    const cell = (entry: string, title: string) => json.rows.find((row) => row.entry === entry)?.cells[at(title)];
    expect(cell('e10', 'Dunlin 2, Europe')?.in).toBeFalse();
    expect(cell('e10', 'Dunlin 4X, North America')?.in).toBeTrue();
    const readings = json.rows.find((row) => row.entry === 'e5');
    expect(cell('e5', 'Dunlin 4, Europe')?.blocks).toBe(readings?.blocks as number);
    expect(cell('e5', 'Dunlin 2, Europe')?.blocks).toBe((readings?.blocks as number) - 3);
    expect(json.findings.some(({ kind, component }) => kind === 'never-in' && component === 'faults')).toBeTrue();
    expect((await keeper.get('/publications/nothing/coverage')).status).toBe(404);
  });

  it('have variants with titles of their own, whose recipes are checked', async () => {
    const recipe = { ...variantRecipe, profile: 'dunlin-2-observer-europe' };
    const book = await fresh('With variants');
    const { json: variant } = await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, recipe);
    expect((await keeper.post<ProblemDetails>(`/publications/${book.key}/variants`, recipe)).status).toBe(409);
    const language = await keeper.put<ProblemDetails>(`/variants/${variant.id}`, {
      ...recipe,
      base: 1,
      language: 'english!',
    });
    expect(language.json.detail).toContain('A language tag such as');
    const { json: changed } = await keeper.put<StoredVariant>(`/variants/${variant.id}`, {
      ...recipe,
      base: 1,
      title: 'W',
      language: 'de',
    });
    const stale = await keeper.put<ProblemDetails & { current: StoredVariant }>(`/variants/${variant.id}`, {
      ...recipe,
      base: 1,
      title: 'Mine',
    });
    expect([stale.status, stale.json.detail, stale.json.current.revision]).toEqual([
      409,
      'Somebody changed “W” meanwhile.',
      2,
    ]);
    expect([changed.title, changed.language]).toEqual(['W', 'de']);
    expect((await keeper.delete(`/variants/${variant.id}`)).status).toBe(204);
    expect((await keeper.delete(`/variants/${variant.id}`)).status).toBe(404);
  });
});
