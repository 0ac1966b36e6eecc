import { randomUUID } from 'node:crypto';
import { strFromU8, unzipSync } from 'fflate';
import { parse } from 'node-html-parser';
import {
  makeNode,
  makeText,
  newRecipe,
  type OtherSite,
  type BuildDetail,
  type Component,
  type ContentNode,
  type Problem,
  type StoredPublication,
  type StoredVariant,
} from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { hear } from '../../../tests/support/heard.js';
import { startServer, waitForBuilds, type RunningServer } from '../../../tests/support/running-server.js';
import { reasonToStop } from './build-variant.js';
import { ticketFor } from './deliverable-address.js';

describe('Builds of the demo library', () => {
  let server: RunningServer;
  let writer: Client;
  let variants: readonly StoredVariant[];
  let builds: readonly BuildDetail[];

  const buildOf = (publication: string, title: string): BuildDetail => {
    const found = builds.find((build) => build.publication === publication && build.variantTitle === title);
    if (!found) throw new Error(`${publication} / ${title} was not built.`);
    return found;
  };
  const page = async (build: BuildDetail, path: string): Promise<string> => {
    const { bytes } = await writer.deliverable(build.id, path);
    return parse(bytes.toString()).querySelector('main')?.text.replace(/\s+/g, ' ') ?? '';
  };

  beforeAll(async () => {
    server = await startServer('demo');
    writer = await server.as('writer');
    variants = (await writer.get<StoredVariant[]>('/variants')).json;
    const { json } = await writer.post<{ builds: string[] }>('/builds', {
      variants: variants.map((variant) => variant.id),
    });
    builds = await server.ended(writer, json.builds);
  });
  afterAll(() => server.stop());

  it('has the size that the demo promises', async () => {
    const count = async (kind: string) => (await writer.get<{ total: number }>(`/components?kind=${kind}`)).json.total;
    expect(await count('topic')).toBeGreaterThanOrEqual(25);
    expect(await count('snippet')).toBeGreaterThanOrEqual(20);
    expect(await count('variable')).toBeGreaterThanOrEqual(20);
    expect(variants.length).toBeGreaterThanOrEqual(5);
  });

  it('gives every variant its own text', async () => {
    const small = buildOf('observer-handbook', 'Dunlin 2, Europe');
    const large = buildOf('observer-handbook', 'Dunlin 4X, North America');
    expect([small.state, large.state]).toEqual(['done', 'done']);
    expect(await page(small, 'welcome.html')).toContain(
      'Your Dunlin 2 measures temperature, humidity, rain and air pressure, and reports every 10 minutes.',
    );
    expect(await page(large, 'welcome.html')).toContain(
      'Your Dunlin 4X measures temperature, humidity, rain, wind and air pressure, and reports every 1 minute.',
    );
    expect(await page(small, 'safety.html')).toContain('230 V, 50 Hz');
    expect(await page(large, 'safety.html')).toContain('120 V, 60 Hz');
    expect((await writer.deliverable(small.id, 'export.html')).status).toBe(404);
    expect((await writer.deliverable(large.id, 'export.html')).status).toBe(200);
  });

  it('keeps held content at its revision', async () => {
    expect(await page(buildOf('observer-handbook', 'Dunlin 4, Europe'), 'restart-topic.html')).toContain(
      'Wait ten seconds',
    );
  });

  it('reports the demo’s honest faults with the place to mend them', () => {
    const { problems } = buildOf('installation-guide', 'Dunlin 2, Europe, roof');
    expect(problems.map(({ code, place }) => [code, place.component])).toEqual([
      ['undefined-value', 'checklist'],
      ['left-out-reference', 'connect'],
    ]);
    expect(problems.every(({ place }) => place.block !== null)).toBeTrue();
    const handbooks = builds.filter((build) => build.publication === 'observer-handbook');
    expect(handbooks.flatMap((build) => build.problems)).toEqual([]);
  });

  it('are made once where they are asked for twice while they wait', async () => {
    const ids = variants.map(({ id }) => id);
    const { json: all } = await writer.post<{ builds: string[] }>('/builds', { variants: ids });
    // The last one waits behind all others.
    const last = variants.at(-1);
    const { json: again } = await writer.post<{ builds: string[] }>('/builds', { variants: [last?.id] });
    expect(all.builds.length).toBe(ids.length);
    expect(again.builds).toEqual(all.builds.slice(-1));
    await server.ended(writer, all.builds);
    const { json: later } = await writer.post<{ builds: string[] }>('/builds', { variants: [last?.id] });
    expect(later.builds).not.toEqual(again.builds);
    await server.ended(writer, later.builds);
  });

  it('stops at the problems that a variant names', () => {
    const place = { component: null, block: null, entry: null };
    const problem = (severity: 'error' | 'warning'): Problem => ({ severity, code: 'empty-topic', message: '', place });
    const found = [[], [problem('warning')], [problem('warning'), problem('error')]];
    const stops = (stopsAt: StoredVariant['stopsAt']) =>
      found.map((problems) => reasonToStop({ stopsAt }, problems) !== null);
    expect(stops('never')).toEqual([false, false, false]);
    expect(stops('errors')).toEqual([false, false, true]);
    expect(stops('warnings')).toEqual([false, true, true]);
  });

  it('makes nothing of a variant that stops at errors and has some', async () => {
    const strict = buildOf('service-manual', 'Dunlin 4X, North America');
    expect([strict.state, strict.message]).toEqual(['failed', 'The variant stops at errors, and the build has some.']);
    expect((await writer.get(`/builds/${strict.id}/zip`)).status).toBe(404);
  });

  it('makes a site that needs no server: every file that a page asks for is in the archive', async () => {
    const { bytes, headers } = await writer.get(
      `/builds/${buildOf('observer-handbook', 'Dunlin 4, Europe').id}/zip?format=html`,
    );
    expect(headers.get('content-disposition')).toContain('Dunlin 4, Europe html.zip');
    const files = unzipSync(new Uint8Array(bytes));
    for (const [path, content] of Object.entries(files)) {
      if (path.endsWith('.css')) {
        for (const [, font] of strFromU8(content).matchAll(/url\(([^)]+)\)/g))
          expect(Object.keys(files)).toContain(font as string);
      }
      if (!path.endsWith('.html')) continue;
      for (const node of parse(strFromU8(content)).querySelectorAll('[src], link[href]')) {
        expect(Object.keys(files)).toContain(node.getAttribute('src') ?? node.getAttribute('href') ?? '');
      }
      expect(strFromU8(content)).not.toMatch(/(src|href)="\//);
    }
  });

  it('serves deliverables so that nothing in them runs but the script of sites', async () => {
    const { headers } = await writer.deliverable(buildOf('observer-handbook', 'Dunlin 4, Europe').id, 'index.html');
    const policy = headers.get('content-security-policy') ?? '';
    expect(policy).toContain("default-src 'none'");
    expect(policy).toContain('sandbox');
    // In an origin of its own, it can neither read what the application may nor act for whoever reads it.
    expect(policy).not.toContain('allow-same-origin');
    expect(headers.get('x-content-type-options')).toBe('nosniff');
    // Of scripts, those that lie beside the page; none that stands in it.
    expect(policy).toContain("script-src 'self';");
    expect(policy).not.toContain('unsafe');
    const { headers: icon } = await writer.deliverable(buildOf('observer-handbook', 'Dunlin 4, Europe').id, 'icon.svg');
    expect(icon.get('content-security-policy')).not.toContain('script');
  });

  it('hands over one file of a format under the name of what it is, and lets browsers show documents', async () => {
    const { id } = buildOf('observer-handbook', 'Dunlin 4, Europe');
    const { headers, bytes } = await writer.deliverable(id, 'document.pdf', 'pdf');
    expect(bytes.subarray(0, 5).toString()).toBe('%PDF-');
    expect(headers.get('content-disposition')).toBe('inline; filename="Observer Handbook, Dunlin 4, Europe.pdf"');
    // Browsers show no document in a sandbox.
    expect(headers.get('content-security-policy')).toBe("frame-ancestors 'self'");
    const book = await writer.deliverable(id, 'book.epub', 'epub');
    expect(book.headers.get('content-disposition')).toContain('attachment; filename="Observer Handbook');
    expect(book.headers.get('content-security-policy')).toContain('sandbox');
    const formats = (await writer.get<BuildDetail>(`/builds/${id}`)).json.formats;
    expect(formats.map(({ format, state, pages }) => [format, state, (pages ?? 0) > 10])).toEqual([
      ['html', 'done', false],
      ['pdf', 'done', true],
      ['epub', 'done', false],
    ]);
    const { bytes: all } = await writer.get(`/builds/${id}/zip`);
    const folders = Object.keys(unzipSync(new Uint8Array(all))).map((path) => path.split('/')[0]);
    expect([...new Set(folders)]).toEqual(['epub', 'html', 'pdf']);
  });

  it('hands over all variants of a publication together, whose sites lead to each other’s pages', async () => {
    const { bytes, headers } = await writer.get('/publications/observer-handbook/zip');
    expect(headers.get('content-disposition')).toContain('Observer Handbook.zip');
    const files = unzipSync(new Uint8Array(bytes));
    const titles = variants.filter(({ publication }) => publication === 'observer-handbook').map(({ title }) => title);
    expect([...new Set(Object.keys(files).map((path) => path.split('/')[0]))].sort()).toEqual([...titles].sort());
    expect(titles.length).toBeGreaterThan(2);
    const othersIn = (text: string) => JSON.parse(text.replace(/^[^=]*=|;$/g, '')) as OtherSite[];
    for (const title of titles) {
      const others = othersIn(strFromU8(files[`${title}/html/others.js`] ?? new Uint8Array()));
      expect(others.map((other) => other.title)).toEqual(titles.filter((each) => each !== title).sort());
      const own = Object.keys(files).filter((path) => path.startsWith(`${title}/html/`) && path.endsWith('.html'));
      for (const { folder, lacks } of others) {
        const at = (page: string) =>
          decodeURIComponent(new URL(folder + page, `https://x/${title}/html/a.html`).pathname);
        for (const path of own) {
          const page = path.split('/').at(-1) ?? '';
          expect(files[at(page).slice(1)] === undefined)
            .withContext(at(page))
            .toBe(lacks.includes(page));
        }
      }
    }
    // What is read in the application leads to the newest ones, and asks for no session there.
    const { id } = buildOf('observer-handbook', 'Dunlin 4, Europe');
    const read = await writer.deliverable(id, 'others.js');
    const [other] = othersIn(read.bytes.toString());
    expect((await fetch(`${server.origin}${other?.folder}index.html`)).status).toBe(200);
    // The deliverable itself knows of none, so that it is the same whatever else was built.
    const { bytes: alone } = await writer.get(`/builds/${id}/zip?format=html`);
    expect(strFromU8(unzipSync(new Uint8Array(alone))['others.js'] ?? new Uint8Array())).toBe('window.siteOthers=[];');
    expect((await writer.get('/publications/nothing/zip')).status).toBe(404);
  });

  it('lets deliverables be read where no session goes, by addresses that are good for whom they were made and a while', async () => {
    const { id } = buildOf('observer-handbook', 'Dunlin 4, Europe');
    const { status, headers } = await writer.get(`/deliverables/${id}/html/index.html`);
    const location = new URL(headers.get('location') ?? '');
    expect([status, location.pathname.startsWith('/api')]).toEqual([302, false]);
    const [, , ticket = ''] = location.pathname.split('/');
    const read = async (signed: string): Promise<number> =>
      (await fetch(`${server.origin}/deliverables/${signed}/html/index.html`)).status;
    expect(await read(ticket)).toBe(200);
    expect(await read(`${ticket.slice(0, -2)}AA`)).toBe(403);
    expect(await read(ticketFor(id, randomUUID(), 'for tests only'))).toBe(404);
    const { rows } = await server.db.query<{ id: string }>(`select id from people where sign_in = 'writer'`);
    const person = rows[0]?.id ?? '';
    expect(await read(ticketFor(id, person, 'for tests only'))).toBe(200);
    expect(await read(ticketFor(id, person, 'another secret'))).toBe(403);
    expect(await read(ticketFor(id, person, 'for tests only', Date.now() - 14 * 3_600_000))).toBe(403);
    const session = (await writer.post('/session', { name: 'writer', password: 'secret-writer' })).headers
      .getSetCookie()
      .find((cookie) => cookie.startsWith('allomorph-session='));
    expect(session).toContain('Path=/api;');
  });

  it('gives the same bytes for the same input', async () => {
    const variant = variants.find((each) => each.title === 'Dunlin 4, Europe') as StoredVariant;
    const { json } = await writer.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    const [again] = await server.ended(writer, json.builds);
    expect(again?.digest).toBe(buildOf('observer-handbook', 'Dunlin 4, Europe').digest as string);
  });

  it('builds again what a change alters, and takes the rest over', async () => {
    const variant = variants.find((each) => each.title === 'Dunlin 2, Europe, roof') as StoredVariant;
    const before = buildOf('installation-guide', variant.title);
    const { json: caution } = await writer.get<Component>('/components/caution-height');
    const fragment = caution.body as ContentNode;
    const body = { ...fragment, content: [makeNode('paragraph', null, [makeText('Roofs are high.')])] };
    await writer.put('/components/caution-height', { base: caution.revision, title: caution.title, body });
    const { json } = await writer.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    const [after] = await server.ended(writer, json.builds);
    const filesOf = async ({ id }: BuildDetail) =>
      unzipSync(new Uint8Array((await writer.get(`/builds/${id}/zip?format=html`)).bytes));
    const [was, is] = [await filesOf(before), await filesOf(after as BuildDetail)];
    expect(Object.keys(is)).toEqual(Object.keys(was));
    const altered = Object.keys(is).filter(
      (path) => strFromU8(is[path] as Uint8Array) !== strFromU8(was[path] as Uint8Array),
    );
    expect(altered.length).toBeGreaterThan(0);
    for (const path of altered) expect(strFromU8(is[path] as Uint8Array)).toContain('Roofs are high.');
  });

  it('tells open pages how builds go on', async () => {
    const heard = await hear(await server.as('reader'));
    const { json } = await writer.post<{ builds: string[] }>('/builds', { variants: [variants[0]?.id] });
    // What is told of builds before may still be on its way.
    await heard.until(() =>
      heard.told.some((event) => event.type === 'build' && event.id === json.builds[0] && event.state === 'done'),
    );
    await heard.end();
    const states = heard.told
      .filter((event) => event.type === 'build' && event.id === json.builds[0])
      .map((event) => event.type === 'build' && event.state);
    expect(states[0]).toBe('queued');
    expect(states).toContain('running');
    expect(states.at(-1)).toBe('done');
  });

  it('are stopped while they wait or are made, leave nothing, and let others go on', async () => {
    const keeper = await server.as('keeper');
    const { json: book } = await keeper.post<StoredPublication>('/publications', { title: 'Long' });
    const entries = Array.from({ length: 700 }, (_, at) => ({ id: `e${at}`, topic: 'settings' }));
    await keeper.put(`/publications/${book.key}`, { base: book.revision, title: book.title, values: {}, entries });
    const recipe = { ...newRecipe, profile: variants[0]?.profile, formats: ['pdf'] };
    const make = async (title: string): Promise<StoredVariant> =>
      (await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, { ...recipe, title })).json;
    const [variant, other] = [await make('All'), await make('All again')];
    const begin = async (id: string | undefined): Promise<string> =>
      (await writer.post<{ builds: string[] }>('/builds', { variants: [id] })).json.builds[0] ?? '';
    const [long, waiting] = [await begin(variant.id), await begin(other.id)];
    const stateOf = async (id: string): Promise<BuildDetail> => (await writer.get<BuildDetail>(`/builds/${id}`)).json;
    await waitForBuilds(writer, [long], ({ state }) => state !== 'queued');
    for (const id of [waiting, long]) expect((await writer.delete(`/builds/${id}`)).status).toBe(204);
    const after = await begin(variants[0]?.id);
    const [ended] = await server.ended(writer, [after]);
    expect(ended?.state).toBe('done');
    for (const id of [waiting, long]) {
      const { state, message, formats } = await stateOf(id);
      expect([state, message, formats]).toEqual(['broken off', 'Stopped by A writer.', []]);
      expect((await writer.get(`/builds/${id}/zip`)).status).toBe(404);
    }
    const again = await writer.delete<ProblemDetails>(`/builds/${long}`);
    expect([again.status, again.json.detail]).toEqual([409, 'This build has ended already.']);
  });

  it('refuses what is not there', async () => {
    expect(
      (await writer.post<ProblemDetails>('/builds', { variants: ['00000000-0000-4000-8000-000000000000'] })).status,
    ).toBe(404);
    expect((await writer.post<ProblemDetails>('/builds', { variants: [] })).status).toBe(400);
    expect((await writer.deliverable(builds[0]?.id ?? '', '../../etc/passwd')).status).toBe(404);
  });

  it('hands over the other formats where one cannot be made, and says why', async () => {
    const keeper = await server.as('keeper');
    const again = (at: number): string => `<g id="l${at}">${`<use href="#l${at - 1}"/>`.repeat(10)}</g>`;
    const levels = Array.from({ length: 9 }, (_, at) => again(at + 1)).join('');
    const form = new FormData();
    form.set(
      'file',
      new Blob([`<svg xmlns="http://www.w3.org/2000/svg" width="9" height="9"><g id="l0"><rect/></g>${levels}</svg>`]),
      'endless.svg',
    );
    form.set('alt', 'a drawing');
    const { json: image } = await writer.post<Component>('/images', form);
    const body = makeNode('topic', null, [
      makeNode('title', null, [makeText('Endless')]),
      makeNode('figure', { id: 'f' }, [makeNode('picture', { component: image.key })]),
    ]);
    const { json: topic } = await writer.post<Component>('/components', { kind: 'topic', title: 'Endless', body });
    const { json: book } = await keeper.post<StoredPublication>('/publications', { title: 'Endless' });
    await keeper.put(`/publications/${book.key}`, {
      base: book.revision,
      title: book.title,
      values: {},
      entries: [{ id: 'e', topic: topic.key }],
    });
    const formats = ['html', 'pdf', 'docx', 'markdown'];
    const recipe = { ...newRecipe, title: 'All', profile: variants[0]?.profile, formats };
    const { json: variant } = await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, recipe);
    const { json } = await writer.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    const [build] = await server.ended(writer, json.builds);
    const reason = 'The drawing would be drawn from more than 100000 parts.';
    expect(build?.state).toBe('done');
    expect(build?.formats.map(({ format, state, message }) => [format, state, message])).toEqual([
      ['html', 'done', null],
      ['pdf', 'failed', reason],
      ['docx', 'failed', reason],
      ['markdown', 'done', null],
    ]);
    expect((await writer.deliverable(build?.id ?? '', `${topic.key}.html`)).status).toBe(200);
    expect((await writer.deliverable(build?.id ?? '', 'document.pdf', 'pdf')).status).toBe(404);
  });

  it('tells what one format could not show', async () => {
    const keeper = await server.as('keeper');
    // One point (WebP, lossy).
    const webp = Buffer.from('UklGRiIAAABXRUJQVlA4IBYAAAAwAQCdASoBAAEADsD+JaQAA3AAAAAA', 'base64');
    const form = new FormData();
    form.set('file', new Blob([new Uint8Array(webp)]), 'point.webp');
    form.set('alt', 'a point');
    const { json: image } = await writer.post<Component>('/images', form);
    const body = makeNode('topic', null, [
      makeNode('title', null, [makeText('Pointed')]),
      makeNode('figure', { id: 'f' }, [makeNode('picture', { component: image.key })]),
    ]);
    const { json: topic } = await writer.post<Component>('/components', { kind: 'topic', title: 'Pointed', body });
    const { json: book } = await keeper.post<StoredPublication>('/publications', { title: 'Pointed' });
    const entries = [{ id: 'e', topic: topic.key }];
    await keeper.put(`/publications/${book.key}`, { base: book.revision, title: book.title, values: {}, entries });
    const recipe = { ...newRecipe, title: 'All', profile: variants[0]?.profile, formats: ['html', 'docx'] };
    const { json: variant } = await keeper.post<StoredVariant>(`/publications/${book.key}/variants`, recipe);
    const { json } = await writer.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    const [build] = await server.ended(writer, json.builds);
    expect(build?.formats.map(({ state }) => state)).toEqual(['done', 'done']);
    expect(build?.problems.map(({ severity, message }) => [severity, message])).toEqual([
      ['warning', 'One picture is of a kind that Word does not show; the words for them stand instead.'],
    ]);
  });

  it('reports missing variables, and what a variant leaves out, for content written now', async () => {
    const keeper = await server.as('keeper');
    const paragraph = (...content: ContentNode[]): ContentNode => makeNode('paragraph', null, content);
    const body = makeNode('topic', null, [
      makeNode('title', null, [makeText('Faulty')]),
      paragraph(makeText('The '), makeNode('variable', { key: 'no-such-name' })),
      paragraph(makeNode('cross_reference', { component: 'export' })),
      { ...paragraph(makeText('x')), attrs: { when: 'product is dunlin-5' } },
    ]);
    const { json: topic } = await writer.post<Component>('/components', { kind: 'topic', title: 'Faulty', body });
    const { json: book } = await keeper.get<StoredPublication>('/publications/observer-handbook');
    await keeper.put('/publications/observer-handbook', {
      base: book.revision,
      title: book.title,
      values: book.values,
      entries: [...book.entries, { id: 'faulty', topic: topic.key }],
    });
    const variant = variants.find(
      (each) => each.title === 'Dunlin 2, Europe' && each.publication === 'observer-handbook',
    ) as StoredVariant;
    const { json } = await writer.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    const [build] = await server.ended(writer, json.builds);
    expect(build?.problems.map(({ code, place }) => [code, place.component, place.block])).toEqual([
      ['undefined-value', 'faulty', 'b3'],
      ['missing-variable', 'faulty', 'b1'],
      ['left-out-reference', 'faulty', 'b2'],
    ]);
    expect(await page(build as BuildDetail, 'faulty.html')).toContain('[not available]');
  });
});
