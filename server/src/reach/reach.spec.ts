import {
  makeNode,
  makeText,
  type Component,
  type ContentNode,
  type KnownLabels,
  type ReachReport,
  type StoredPublication,
  type StoredVariant,
  type Uses,
  type VariantFreshness,
  type Variation,
} from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

describe('Freshness and reach over the demo library', () => {
  let server: RunningServer;
  let writer: Client;
  let variants: readonly StoredVariant[];

  beforeAll(async () => {
    server = await startServer('demo');
    writer = await server.as('writer');
    variants = (await writer.get<StoredVariant[]>('/variants')).json;
  });
  afterAll(() => server.stop());

  const build = async (chosen: readonly StoredVariant[]): Promise<void> => {
    const { json } = await writer.post<{ builds: string[] }>('/builds', { variants: chosen.map(({ id }) => id) });
    await server.ended(writer, json.builds);
  };
  const freshness = async (): Promise<readonly VariantFreshness[]> =>
    (await writer.get<VariantFreshness[]>('/freshness')).json;
  const component = async (key: string): Promise<Component> => (await writer.get<Component>(`/components/${key}`)).json;
  const sentence = (text: string, when?: string): ContentNode => ({
    ...makeNode('paragraph', null, [makeText(text)]),
    attrs: { when: when ?? null },
  });
  const withMore = ({ body }: Component, ...more: ContentNode[]): ContentNode => ({
    ...(body as ContentNode),
    content: [...((body as ContentNode).content ?? []), ...more],
  });

  it('knows what has no deliverable, what is fresh, and why something is stale', async () => {
    expect(new Set((await freshness()).map(({ state }) => state))).toEqual(new Set(['no deliverable']));
    const handbook = variants.filter(({ publication }) => publication === 'observer-handbook');
    await build(handbook);
    const built = (list: readonly VariantFreshness[]) => list.filter(({ state }) => state !== 'no deliverable');
    expect(built(await freshness()).map(({ state, causes }) => [state, causes.length])).toEqual(
      handbook.map(() => ['fresh', 0]),
    );
    const safety = await component('safety');
    await writer.put('/components/safety', {
      base: safety.revision,
      title: safety.title,
      body: withMore(safety, sentence('Only in America.', 'market is north-america')),
    });
    const now = built(await freshness());
    expect(now.filter(({ state }) => state === 'stale').map(({ title }) => title)).toEqual([
      'Dunlin 4X, North America',
    ]);
    expect(now.find(({ state }) => state === 'stale')?.causes).toEqual([
      { kind: 'component', component: 'safety', from: safety.revision, to: safety.revision + 1, title: safety.title },
    ]);
    await build(handbook);
    expect(built(await freshness()).every(({ state }) => state === 'fresh')).toBeTrue();
  });

  it('tells a changed recipe, profile and outline apart', async () => {
    const keeper = await server.as('keeper');
    const [variant] = variants.filter(({ publication }) => publication === 'installation-guide');
    if (!variant) throw new Error('The demo has no installation guide.');
    await build([variant]);
    const causes = async () =>
      (await freshness()).find((each) => each.variant === variant.id)?.causes.map(({ kind }) => kind) ?? [];
    expect(await causes()).toEqual([]);
    const { id, publication, ...recipe } = variant;
    await keeper.put(`/variants/${id}`, { ...recipe, base: 1, language: 'de' });
    expect(await causes()).toEqual(['recipe']);
    await keeper.put(`/variants/${id}`, { ...recipe, base: 2 });
    expect(await causes()).toEqual([]);
    const { json: book } = await keeper.get<StoredPublication>(`/publications/${publication}`);
    await keeper.put(`/publications/${publication}`, {
      base: book.revision,
      title: book.title,
      values: book.values,
      entries: [...book.entries].reverse(),
    });
    expect(await causes()).toEqual(['outline']);
    expect((await (await server.as('reader')).get<VariantFreshness[]>('/freshness')).status).toBe(200);
    const reader = await server.as('reader');
    const { status } = await reader.post('/components/safety/reach', { base: 1, title: 'x', body: { type: 'topic' } });
    expect(status).toBe(403);
  });

  it('tells whom a changed stamp concerns: its standing condition those whose profile answers otherwise, its look those of the design', async () => {
    const keeper = await server.as('keeper');
    const guides = variants.filter(({ publication }) => publication === 'installation-guide');
    await build(guides);
    const stale = async () => {
      const all = (await freshness()).filter(({ variant }) => guides.some(({ id }) => id === variant));
      return all.filter(({ state }) => state === 'stale');
    };
    expect(await stale()).toEqual([]);
    const { json } = await keeper.get<Variation>('/variation');
    const stamp = json.stamps.find(({ key }) => key === 'trained-staff');
    if (!stamp) throw new Error('The demo has no stamp for trained staff.');
    const { revision, ...rest } = stamp;
    // Both guides are for installers: what they may read stays.
    const wider = { ...rest, when: 'audience is installer, technician, field, workshop, observer' };
    await keeper.put('/stamps/trained-staff', { ...wider, base: revision });
    expect(await stale()).toEqual([]);
    await keeper.put('/stamps/trained-staff', { ...rest, when: 'audience is workshop', base: revision + 1 });
    expect((await stale()).map(({ causes }) => causes.map(({ kind }) => kind))).toEqual(
      guides.map(() => ['condition']),
    );
    await keeper.put('/stamps/trained-staff', { ...rest, base: revision + 2 });
    expect(await stale()).toEqual([]);
    const own = (frame: string, base: number) =>
      keeper.put('/designs/own', {
        key: 'own',
        title: 'Own',
        from: 'plain',
        settings: { 'stamps.trained-staff.frame': frame },
        base,
      });
    await own('box', 0);
    const { json: now } = await keeper.get<StoredVariant[]>('/variants');
    const [first] = now.filter(({ id }) => guides.some((guide) => guide.id === id));
    if (!first) throw new Error('The demo has no installation guide.');
    const { id } = first;
    await keeper.put(`/variants/${id}`, { ...first, design: 'own', base: first.revision });
    await build([{ ...first, design: 'own' }]);
    expect(await stale()).toEqual([]);
    await own('tint', 1);
    expect((await stale()).map(({ variant }) => variant)).toEqual([id]);
  });

  it('shows before a save which deliverables it would change and how they would read', async () => {
    const caution = await component('caution-battery');
    const ask = (body: unknown) =>
      writer.post<ReachReport & ProblemDetails>('/components/caution-battery/reach', {
        base: caution.revision,
        title: caution.title,
        body,
      });
    const { json: none } = await ask(caution.body);
    expect(none.groups).toEqual([]);
    const { json } = await ask(
      withMore(caution, sentence('Keep it dry.'), sentence('Call us.', 'market is north-america')),
    );
    const told = json.groups.flatMap(({ topics, variants: members }) =>
      topics.flatMap(({ passages }) =>
        passages.map(({ before, after }) => [members.length > 0, before?.text ?? null, after?.text ?? null]),
      ),
    );
    expect(told).toContain([true, null, 'Keep it dry.']);
    expect(told).toContain([true, null, 'Call us.']);
    const american = json.groups.filter(({ topics }) => JSON.stringify(topics).includes('Call us.'));
    expect(
      american.flatMap((group) => group.variants).every(({ title }) => title.includes('North America')),
    ).toBeTrue();
    const all = json.groups.flatMap((group) => group.variants.map(({ id }) => id));
    expect(new Set(all).size).toBe(all.length);
    expect((await ask({ type: 'topic' })).status).toBe(422);
    // Asking alters nothing.
    expect((await component('caution-battery')).revision).toBe(caution.revision);
  });

  it('finds snippets for slots by their labels, and the slots that use a snippet', async () => {
    const made = async (kind: string, title: string, body: ContentNode): Promise<Component> =>
      (await writer.post<Component>('/components', { kind, title, body })).json;
    const tip = await made('snippet', 'Slot tip', makeNode('fragment', null, [sentence('Look at the sky.')]));
    const title = makeNode('title', null, [makeText('With a slot')]);
    const slot = makeNode('slot', { collection: 'sky tips', matching: 'theme' });
    const topic = await made('topic', 'With a slot', makeNode('topic', null, [title, sentence('x'), slot]));
    const label = (key: string, labels: unknown) =>
      writer.put<Component & ProblemDetails>(`/components/${key}/labels`, labels);
    expect(
      (await label(tip.key, { collection: 'sky tips', tags: { theme: ['clouds'] } })).json.labels?.collection,
    ).toBe('sky tips');
    await label(topic.key, { collection: null, tags: { theme: ['clouds', 'rain'] } });
    expect((await label(tip.key, { collection: '', tags: {} })).status).toBe(400);
    const { json: known } = await writer.get<KnownLabels>('/labels');
    expect(known.collections).toContain({ name: 'sky tips', count: 1 });
    expect(known.tags).toContain({ tag: 'theme', value: 'rain' });
    const { json: closure } = await writer.get<{ components: Component[] }>(`/components/${topic.key}/closure`);
    expect(closure.components.map(({ key }) => key)).toContain(tip.key);
    const { json: uses } = await writer.get<Uses>(`/components/${tip.key}/uses`);
    expect(uses.direct.map(({ kind, source }) => [kind, source])).toEqual([['slot', topic.key]]);
  });
});
