import {
  makeNode,
  makeText,
  type Component,
  type ComponentBody,
  type ContentNode,
  type SavedSearch,
  type StoredPublication,
  type StoredVariant,
  type TakenBack,
  type ValueGivenUp,
  type Variation,
  type VocabularyAct,
} from '@allomorph/core';
import { only, p, phrase, topicBody, variantRecipe, words } from '../../../tests/support/library-parts.js';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const value = (key: string, values: unknown[] = []) => ({ key, title: key, code: 'X', colour: 0, pattern: 0, values });

describe('Giving a value up', () => {
  let server: RunningServer;
  let keeper: Client;

  beforeAll(async () => {
    server = await startServer();
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  const make = async (kind: string, title: string, body: ComponentBody): Promise<Component> => {
    const { status, json } = await keeper.post<Component>('/components', { kind, title, body });
    expect(status).toBe(200);
    return json;
  };

  /** An axis of its own with everything that can name a value of it. */
  async function library(axis: string) {
    const is = `${axis} is old`;
    await keeper.put(`/axes/${axis}`, {
      key: axis,
      title: axis,
      base: 0,
      values: [value('old', [value('field')]), value('new'), value('other')],
    });
    await keeper.put(`/profiles/${axis}-all`, {
      key: `${axis}-all`,
      title: `${axis} all`,
      base: 0,
      axes: { [axis]: { default: 'out', in: ['old'] } },
    });
    await keeper.put(`/stamps/${axis}-s`, {
      key: `${axis}-s`,
      title: 'S',
      on: 'both',
      from: null,
      when: `${axis} is old, new`,
      base: 0,
    });
    const topic = await make(
      'topic',
      `Topic of ${axis}`,
      topicBody(
        'Care',
        only(is, p('Only the old one.')),
        p('All ', words(`not ${is}`, 'but not the old'), '.'),
        only(`${is} or ${axis} is new`, p('Both.')),
      ),
    );
    const variable = await make('variable', `Variable of ${axis}`, {
      type: 'variable',
      default: phrase('d'),
      rules: [{ when: is, language: null, value: phrase('o') }],
    });
    const { json: book } = await keeper.post<StoredPublication>('/publications', { title: `Book of ${axis}` });
    const entries = [
      { id: 'a', topic: topic.key, when: `${axis} is old, other` },
      { id: 'b', topic: topic.key, when: is, entries: [{ id: 'c', topic: topic.key }] },
    ];
    await keeper.put(`/publications/${book.key}`, { base: 1, title: book.title, values: {}, entries });
    const { json: variant } = await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, {
      ...variantRecipe,
      profile: `${axis}-all`,
      values: { [variable.key]: phrase('v ', words(`not ${is}`, 'w')) },
    });
    const state = async () => {
      const vocabulary = (await keeper.get<Variation>('/variation')).json;
      const mine = <T extends { key: string }>(list: readonly T[]) => list.filter(({ key }) => key.startsWith(axis));
      const components = await Promise.all(
        [topic, variable].map(async ({ key }) => (await keeper.get<Component>(`/components/${key}`)).json.body),
      );
      const publication = (await keeper.get<StoredPublication>(`/publications/${book.key}`)).json;
      const variants = (await keeper.get<readonly StoredVariant[]>('/variants')).json;
      const withoutRevision = (each: object): object => ({ ...each, revision: 0 });
      return {
        vocabulary: [...mine(vocabulary.axes), ...mine(vocabulary.profiles), ...mine(vocabulary.stamps)].map(
          withoutRevision,
        ),
        components,
        entries: publication.entries,
        values: variants.find(({ id }) => id === variant.id)?.values,
      };
    };
    return { topic, book, state };
  }

  const look = async (axis: string, into?: string) =>
    (await keeper.get<ValueGivenUp>(`/axes/${axis}/given-up?value=old${into ? `&into=${into}` : ''}`)).json;

  it('shows what names it, what is only for it, and which profiles tell the two apart', async () => {
    await library('look');
    const { named, lost, lostCount, blocked, differing } = await look('look');
    expect(named.map(({ kind, conditions }) => [kind, conditions])).toEqual([
      ['component', 3],
      ['component', 1],
      ['publication', 2],
      ['variant', 1],
      ['stamp', 1],
    ]);
    expect(lost.map(({ text }) => text)).toEqual(['Only the old one.', 'o', jasmine.stringContaining('topic-of-look')]);
    expect([lostCount, blocked, differing]).toEqual([3, [], []]);
    const merged = await look('look', 'new');
    expect(merged.lost).toEqual([]);
    expect(merged.differing).toEqual([{ title: 'look all', isIn: true }]);
    expect((await keeper.get('/axes/look/given-up?value=none')).status).toBe(404);
    expect((await keeper.get('/axes/look/given-up?value=old&into=old')).status).toBe(422);
  });

  it('retires it everywhere in one act that is taken back', async () => {
    const { state } = await library('retire');
    const before = await state();
    const stale = await keeper.post<ProblemDetails>('/axes/retire/give-up', { value: 'old', lost: 2 });
    expect([stale.status, await state()]).toEqual([409, before]);
    const { status, json: act } = await keeper.post<VocabularyAct>('/axes/retire/give-up', { value: 'old', lost: 3 });
    expect([status, act.what]).toEqual([200, 'Retired “old” of retire']);
    const after = await state();
    expect(JSON.stringify(after)).not.toContain('old"');
    expect(JSON.stringify(after)).not.toMatch(/retire is [^"]*old/);
    expect(after.components[0]).toEqual(
      jasmine.objectContaining({
        content: [
          makeNode('title', null, [makeText('Care')]),
          jasmine.objectContaining({ content: [makeText('All but not the old.')] }),
          jasmine.objectContaining({ attrs: jasmine.objectContaining({ when: 'retire is new' }) }),
        ],
      }),
    );
    expect(after.entries.map(({ id, when }) => [id, when])).toEqual([['a', 'retire is other']]);
    // What stood below it is in where it was in.
    const [profile] = (await keeper.get<Variation>('/variation')).json.profiles.filter(
      ({ key }) => key === 'retire-all',
    );
    expect(profile?.axes['retire']).toEqual({ default: 'out', in: ['field'], out: [] });
    const acts = (await keeper.get<readonly VocabularyAct[]>('/vocabulary-acts')).json;
    expect(acts.find(({ id }) => id === act.id)?.takenBack).toBe(false);
    const { json: back } = await keeper.post<TakenBack>(`/vocabulary-acts/${act.id}/take-back`, {});
    expect([back.refused, await state()]).toEqual([[], before]);
    expect((await keeper.post(`/vocabulary-acts/${act.id}/take-back`, {})).status).toBe(404);
  });

  it('merges it, and takes back what was not changed since', async () => {
    const { topic, state } = await library('merge');
    const searches = async () =>
      (await keeper.get<SavedSearch[]>('/me/searches')).json.map(({ query }) =>
        new URLSearchParams(query).get('value'),
      );
    await keeper.put('/me/searches', { name: 'a', query: 'find=x&value=merge%3Dold' });
    await keeper.put('/me/searches', { name: 'b', query: 'value=merge%3Dolder' });
    const { json: act } = await keeper.post<VocabularyAct>('/axes/merge/give-up', {
      value: 'old',
      into: 'new',
      lost: 0,
    });
    const after = await state();
    expect(JSON.stringify(after)).not.toMatch(/merge is [^"]*old/);
    expect(after.entries.map(({ when }) => when)).toEqual(['merge is new, other', 'merge is new']);
    expect(await searches()).toEqual(['merge=new', 'merge=older']);
    const { json: saved } = await keeper.get<Component>(`/components/${topic.key}`);
    const { title, body, revision } = saved;
    await keeper.put(`/components/${topic.key}`, { base: revision, title, body: body as ContentNode });
    const { json: back } = await keeper.post<TakenBack>(`/vocabulary-acts/${act.id}/take-back`, {});
    expect(back.refused.map(({ why }) => why)).toEqual(['“Topic of merge” was saved again since: its change stays.']);
    expect((await state()).entries.map(({ when }) => when)).toEqual(['merge is old, other', 'merge is old']);
    expect(await searches()).toEqual(['merge=old', 'merge=older']);
  });

  it('waits where something is wholly for it', async () => {
    await library('wholly');
    const own = await make('snippet', 'Wholly', { ...phrase('x'), attrs: { when: 'wholly is old' } });
    const { blocked, lostCount } = await look('wholly');
    expect(blocked).toEqual([{ kind: 'component', key: own.key, title: 'Wholly' }]);
    const { status, json } = await keeper.post<ProblemDetails>('/axes/wholly/give-up', {
      value: 'old',
      lost: lostCount,
    });
    expect([status, json.detail]).toEqual([409, jasmine.stringContaining('“Wholly” is wholly for it')]);
  });

  it('is for keepers', async () => {
    const writer = await server.as('writer');
    expect((await writer.post('/axes/look/give-up', { value: 'old', lost: 3 })).status).toBe(403);
  });

  it('refuses to lose a value that an outline or a recipe names', async () => {
    const { topic } = await library('outlines');
    await keeper.put('/stamps/outlines-s', {
      key: 'outlines-s',
      title: 'S',
      on: 'both',
      from: null,
      when: null,
      base: 1,
    });
    await keeper.put(`/components/${topic.key}`, { base: 1, title: 'T', body: topicBody('T', p('x')) });
    const values = [value('old', [value('field')]), value('new')];
    const { status, json } = await keeper.put<ProblemDetails>('/axes/outlines', {
      key: 'outlines',
      title: 'o',
      values,
      base: 1,
    });
    expect([status, json.detail]).toEqual([
      409,
      jasmine.stringContaining('The publication “Book of outlines” has a condition'),
    ]);
  });
});
