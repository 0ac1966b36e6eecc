import {
  makeNode,
  makeText,
  referencesOf,
  type Component,
  type ComponentList,
  type ContentNode,
  type Use,
  type Uses,
} from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';

const p = (text: string, ...more: ContentNode[]): ContentNode => makeNode('paragraph', null, [makeText(text), ...more]);
const place = (component: string): ContentNode => makeNode('placement', { component });
const fragment = (...flow: ContentNode[]): ContentNode => makeNode('fragment', null, flow);
const topic = (title: string, ...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText(title)]), ...flow]);

describe('The library', () => {
  let server: RunningServer;
  let writer: Client;

  const create = async (kind: string, title: string, body: unknown): Promise<Component> => {
    const { status, json } = await writer.post<Component>('/components', { kind, title, body });
    expect(status).toBe(200);
    return json;
  };
  const save = (component: Component, body: unknown, base = component.revision) =>
    writer.put<Component & ProblemDetails>(`/components/${component.key}`, { base, title: component.title, body });

  beforeAll(async () => {
    server = await startServer();
    writer = await server.as('writer');
  });
  afterAll(() => server.stop());

  it('stores what it is given in one form, with ids for the blocks and a key from the title', async () => {
    const made = await create('topic', 'Größe wählen', topic('Größe wählen', p('a'), p('b')));
    expect(made.key).toBe('große-wahlen');
    const { json } = await writer.get<Component>(`/components/${encodeURIComponent(made.key)}`);
    const ids = (json.body as ContentNode).content?.slice(1).map((block) => block.attrs?.['id']);
    expect(ids).toEqual(['b1', 'b2']);
    const again = await create('topic', 'Größe wählen', topic('x', p('a')));
    expect(again.key).toBe('große-wahlen-2');
  });

  it('refuses bodies that the schema does not know, naming the fault', async () => {
    const wrong = await writer.post<ProblemDetails>('/components', {
      kind: 'topic',
      title: 'x',
      body: makeNode('topic', null, [p('no title')]),
    });
    expect(wrong.status).toBe(422);
    expect(wrong.type).toContain('application/problem+json');
    expect(wrong.json.detail).toContain('Invalid content for node topic');
    const kind = await writer.post<ProblemDetails>('/components', {
      kind: 'snippet',
      title: 'x',
      body: topic('t', p('x')),
    });
    expect(kind.json.detail).toBe('A snippet cannot have a body of type “topic”.');
    const shapeless = await writer.post<ProblemDetails>('/components', { kind: 'snippet', title: ' ', body: 7 });
    expect([shapeless.status, shapeless.json.title]).toEqual([400, 'The request cannot be read']);
  });

  it('refuses a save on an older revision and hands over the newer one', async () => {
    const made = await create('snippet', 'Shared', fragment(p('one')));
    expect((await save(made, fragment(p('two')))).json.revision).toBe(2);
    const stale = await save(made, fragment(p('mine')), 1);
    expect(stale.status).toBe(409);
    expect(stale.json.detail).toBe('A writer saved “Shared” while you were writing.');
    expect(JSON.stringify((stale.json as unknown as { current: Component }).current.body)).toContain('two');
    const older = await writer.get<Component>(`/components/${made.key}/revisions/1`);
    expect(JSON.stringify(older.json.body)).toContain('one');
  });

  it('lets one of two simultaneous saves win and tells the other', async () => {
    const made = await create('snippet', 'Contested', fragment(p('x')));
    const answers = await Promise.all(['a', 'b', 'c', 'd'].map((text) => save(made, fragment(p(text)))));
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409]);
  });

  it('refuses a save that closes a placement cycle, with the whole path', async () => {
    const a = await create('snippet', 'Ring A', fragment(p('a')));
    const b = await create('snippet', 'Ring B', fragment(place(a.key)));
    const c = await create('snippet', 'Ring C', fragment(place(b.key)));
    const closing = await save(a, fragment(place(c.key)));
    expect(closing.status).toBe(422);
    expect(closing.json.detail).toBe(
      'This would place the component inside itself: “Ring A” › “Ring C” › “Ring B” › “Ring A”.',
    );
    const self = await save(a, fragment(place(a.key)));
    expect(self.json.detail).toBe('This would place the component inside itself: “Ring A” › “Ring A”.');
  });

  it('refuses one of two simultaneous saves that together would close a cycle', async () => {
    const a = await create('snippet', 'Pair A', fragment(p('a')));
    const b = await create('snippet', 'Pair B', fragment(p('b')));
    const answers = await Promise.all([save(a, fragment(place(b.key))), save(b, fragment(place(a.key)))]);
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 422]);
  });

  it('knows where a component is used, directly and through others', async () => {
    const warning = await create('snippet', 'Warning', fragment(p('hot')));
    const steps = await create('snippet', 'Procedure', fragment(place(warning.key)));
    const page = await create(
      'topic',
      'Page',
      topic('Page', place(steps.key), p('see', makeNode('cross_reference', { component: warning.key }))),
    );
    const { json } = await writer.get<Uses>(`/components/${warning.key}/uses`);
    const told = (uses: readonly Use[]) =>
      uses.map(({ source, title, kind, through }) => [source, title, kind, through.map((each) => each.title)]);
    expect(told(json.direct)).toEqual([
      [page.key, 'Page', 'cross-reference', []],
      [steps.key, 'Procedure', 'placement', []],
    ]);
    expect(told(json.further)).toEqual([[page.key, 'Page', 'placement', ['Procedure']]]);
    expect([json.directTotal, json.furtherTotal]).toEqual([2, 1]);
  });

  it('counts every use of what the whole library uses, and tells the nearest', async () => {
    const hub = await create('snippet', 'Hub', fragment(p('x')));
    // 400 components place it, each of them is placed by two more, and one of these two by one of another pair.
    const rows = `with pairs (source, target) as (
        select 'near-' || n, $2 from generate_series(1, 400) n
        union all select 'far-' || n || '-' || m, 'near-' || n from generate_series(1, 400) n, generate_series(1, 2) m
        union all select 'far-' || n || '-1', 'far-' || (n % 400 + 1) || '-2' from generate_series(1, 400) n)
      insert into component_references (workspace, source_kind, source, position, target, kind, place)
      select $1, 'component', source, row_number() over (), target, 'placement', 'b1' from pairs`;
    await server.db.query(rows, [server.workspace, hub.key]);
    const { json } = await writer.get<Uses>(`/components/${hub.key}/uses`);
    expect([json.directTotal, json.furtherTotal]).toEqual([400, 1200]);
    expect([json.direct.length, json.further.length]).toEqual([100, 100]);
    expect(json.further.every(({ through }) => through.length === 1)).toBeTrue();
    // They go on where the first page ended, and can be looked through.
    const { json: next } = await writer.get<Uses>(`/components/${hub.key}/uses?direct=100`);
    const sources = new Set([...json.direct, ...next.direct].map(({ source }) => source));
    expect(sources.size).toBe(200);
    const { json: found } = await writer.get<Uses>(`/components/${hub.key}/uses?find=near-77&order=title`);
    expect([found.directTotal, found.direct.map(({ source }) => source)]).toEqual([1, ['near-77']]);
    const { json: none } = await writer.get<Uses>(`/components/${hub.key}/uses?kind=slot`);
    expect([none.directTotal, none.furtherTotal]).toEqual([0, 0]);
  });

  it('writes the references of a body with every save', async () => {
    const v = await create('variable', 'Name', {
      type: 'variable',
      default: makeNode('phrase', null, [makeText('x')]),
      rules: [],
    });
    const made = await create('snippet', 'Refers', fragment(p('a', makeNode('variable', { key: v.key }))));
    const rows = async () =>
      (
        await server.db.query<{ target: string; kind: string; place: string }>(
          'select target, kind, place from component_references where source = $1',
          [made.key],
        )
      ).rows;
    expect(await rows()).toEqual([{ target: v.key, kind: 'variable', place: 'b1' }]);
    await save(made, fragment(p('nothing')));
    expect(await rows()).toEqual([]);
  });

  it('refuses to delete what is used and names the users; deletes and brings back what is not', async () => {
    const used = await create('snippet', 'Used', fragment(p('x')));
    const user = await create('topic', 'Its user', topic('Its user', place(used.key)));
    const refused = await writer.delete<ProblemDetails>(`/components/${used.key}`);
    expect([refused.status, refused.json.detail]).toEqual([
      409,
      '“Used” is used in “Its user”. Take it out there first.',
    ]);
    expect((await writer.delete(`/components/${user.key}`)).status).toBe(204);
    expect((await writer.delete(`/components/${used.key}`)).status).toBe(204);
    expect((await writer.get(`/components/${used.key}`)).status).toBe(404);
    expect((await writer.post(`/components/${used.key}/restore`)).status).toBe(200);
    expect((await writer.post(`/components/${user.key}/restore`)).status).toBe(200);
    const { json } = await writer.get<Uses>(`/components/${used.key}/uses`);
    expect(json.direct.map((use) => use.source)).toEqual([user.key]);
  });

  it('lists by text, kind and usage, with signs of the search language taken as they are', async () => {
    await create('snippet', '100% sure', fragment(p('certainly')));
    const list = async (query: string) =>
      (await writer.get<ComponentList>(`/components?${query}`)).json.items.map((item) => item.title);
    expect(await list('find=100%25')).toEqual(['100% sure']);
    expect(await list('find=certainly&kind=snippet')).toEqual(['100% sure']);
    expect(await list('find=certainly&kind=topic')).toEqual([]);
    expect(await list('find=100%25&usage=often')).toEqual([]);
    expect((await writer.get<ComponentList>('/components?limit=2&offset=1')).json.items.length).toBe(2);
    expect((await writer.get('/components?limit=100000')).status).toBe(400);
  });

  it('hands over all that it takes to show a component, held revisions included', async () => {
    const inner = await create('snippet', 'Inner', fragment(p('first')));
    await save(inner, fragment(p('second')));
    const outer = await create(
      'topic',
      'Outer',
      topic('Outer', makeNode('placement', { component: inner.key, mode: 'held', revision: 1 })),
    );
    const { json } = await writer.get<{ components: Component[]; held: Component[] }>(
      `/components/${outer.key}/closure`,
    );
    expect(json.components.map(({ key, revision }) => [key, revision])).toEqual([[inner.key, 2]]);
    expect(json.held.map(({ key, revision }) => [key, revision])).toEqual([[inner.key, 1]]);
  });

  it('keeps its references exactly as the bodies make them', async () => {
    const { rows } = await server.db.query<{ key: string; body: Component['body']; targets: string[] | null }>(
      `select c.key, r.body, (select array_agg(f.target order by f.position) from component_references f where f.source = c.key and f.source_kind = 'component') as targets
         from components c join revisions r on r.workspace = c.workspace and r.key = c.key and r.revision = c.revision where c.deleted_at is null`,
    );
    expect(rows.length).toBeGreaterThan(10);
    for (const row of rows) expect(row.targets ?? []).toEqual(referencesOf(row.body).map((each) => each.target));
  });
});
