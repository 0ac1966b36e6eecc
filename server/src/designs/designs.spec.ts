import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { compress } from 'wawoff2';
import {
  makeNode,
  makeText,
  resolveDesign,
  type BinRow,
  type BuildDetail,
  type DesignSettings,
  type FontRow,
  type ListedDesign,
  type Preview,
  type StoredVariant,
  type Uses,
  type Variation,
} from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { charactersOfFont, readFontFile } from './font-file.js';
import { faultOfCss } from './own-css.js';

const require = createRequire(import.meta.url);
const fontPath = (face: string, name: string): string =>
  require.resolve(`@expo-google-fonts/source-serif-4/${face}/SourceSerif4_${name}.ttf`);
const regular = readFileSync(fontPath('400Regular', '400Regular'));

const design = (key: string, from: string | null, settings: DesignSettings = {}) => ({
  key,
  title: `Design ${key}`,
  from,
  settings,
});

describe('Designs', () => {
  let server: RunningServer;
  let keeper: Client;
  let variant: StoredVariant;

  const save = (each: ReturnType<typeof design>, base = 0) =>
    keeper.put<ListedDesign & ProblemDetails & { current?: ListedDesign }>(`/designs/${each.key}`, { ...each, base });
  const listed = async (): Promise<readonly ListedDesign[]> => (await keeper.get<Variation>('/variation')).json.designs;
  const giveDesign = async (key: string, more: Partial<StoredVariant> = {}): Promise<void> => {
    const { id, revision, ...recipe } = variant;
    const { json } = await keeper.put<StoredVariant>(`/variants/${id}`, {
      ...recipe,
      ...more,
      design: key,
      base: revision,
    });
    variant = json;
  };
  const build = async (): Promise<BuildDetail> => {
    const { json } = await keeper.post<{ builds: string[] }>('/builds', { variants: [variant.id] });
    const [built] = await server.ended(keeper, json.builds);
    if (!built) throw new Error('Nothing was built.');
    return built;
  };
  const fileOf = async ({ id }: BuildDetail, path: string): Promise<string> =>
    (await keeper.deliverable(id, path)).bytes.toString();

  beforeAll(async () => {
    server = await startServer('demo');
    keeper = await server.as('keeper');
    const { json } = await keeper.get<StoredVariant[]>('/variants');
    const found = json.find(({ title }) => title === 'Dunlin 2, Europe');
    if (!found) throw new Error('The demo has no such variant.');
    variant = found;
  });
  afterAll(() => server.stop());

  it('are saved against the revision that was changed, and derive from those that come with the application', async () => {
    const first = await save(design('own', 'formal', { 'paper.top': 31 }));
    expect([first.status, first.json.revision]).toEqual([200, 1]);
    const second = await save(design('own', 'formal', { 'paper.top': 32 }), 1);
    expect([second.status, second.json.revision]).toEqual([200, 2]);
    const stale = await save(design('own', 'formal', { 'paper.top': 33 }), 1);
    expect([stale.status, stale.json.current?.settings['paper.top']]).toEqual([409, 32]);
    const all = await listed();
    const { paper } = resolveDesign('own', all, 'en');
    expect([paper.top, paper.sides]).toEqual([32, 'two']);
    expect((await save(design('plain', null), 0)).status).toBe(409);
    const writer = await server.as('writer');
    expect((await writer.put('/designs/x', { ...design('x', null), base: 0 })).status).toBe(403);
  });

  it('refuse what no design can say, and to derive from themselves, with a sentence', async () => {
    await save(design('one', null));
    await save(design('two', 'one'));
    const refused: readonly [ReturnType<typeof design>, number, number, RegExp][] = [
      [design('bad', null, { 'paper.size': 'foolscap' }), 0, 400, /no such choice/],
      [design('bad', null, { 'no.such': 1 }), 0, 400, /no setting/],
      [design('bad', 'nobody'), 0, 422, /nobody/],
      [design('one', 'two'), 1, 422, /derive from itself/],
      [design('bad', null, { 'type.text': 'nobodys' }), 0, 422, /no family/],
      [design('bad', null, { 'web.css': 'p{background:url(https://example.org/x.png)}' }), 0, 422, /loads something/],
    ];
    for (const [each, base, status, says] of refused) {
      const { status: found, json } = await save(each, base);
      expect(found).withContext(String(says)).toBe(status);
      expect(json.detail).toMatch(says);
    }
  });

  it('are used: they cannot go before nothing uses them, and come back out of the bin', async () => {
    await save(design('base', null));
    await save(design('derived', 'base'));
    const { json: refused } = await keeper.delete<ProblemDetails>('/designs/base');
    expect(refused.detail).toContain('“Design derived” uses this design');
    expect((await keeper.delete('/designs/derived')).status).toBe(204);
    const { json: bin } = await keeper.get<BinRow[]>('/bin');
    expect(bin.find(({ kind, key }) => kind === 'design' && key === 'derived')?.title).toBe('Design derived');
    expect((await save(design('derived', 'base'))).status).toBe(409);
    expect((await keeper.post('/bin/restore', { kind: 'design', key: 'derived' })).status).toBe(204);
    expect((await listed()).some(({ key }) => key === 'derived')).toBeTrue();
    await giveDesign('derived');
    expect((await keeper.delete<ProblemDetails>('/designs/derived')).json.detail).toContain('“Dunlin 2, Europe”');
    await giveDesign('plain');
  });

  it('show what they take from the library: it knows where that is used, and a change makes deliverables stale', async () => {
    const text = makeNode('phrase', null, [makeText('Document 4711')]);
    const number = { kind: 'variable', title: 'Document number', key: 'document-number' };
    await keeper.post('/components', { ...number, body: { type: 'variable', default: text, rules: [] } });
    const settings = {
      'cover.foot': '{document-number}, {variant}',
      'cover.foot@de': '{document-number}, Ausgabe {variant}',
      'web.footer': 'All of {title}',
      'templates.chapter.heading': 'No. {number}',
    };
    await save(design('shows', 'plain', settings));
    const { json: uses } = await keeper.get<Uses>('/components/document-number/uses');
    expect(uses.direct.map(({ sourceKind, title, place }) => [sourceKind, title, place])).toEqual([
      ['design', 'Design shows', 'cover.foot'],
      ['design', 'Design shows', 'cover.foot@de'],
    ]);
    expect((await keeper.delete<ProblemDetails>('/components/document-number')).json.detail).toContain('Design shows');
    await giveDesign('shows');
    const built = await build();
    expect(built.problems).toEqual([]);
    const start = await fileOf(built, 'index.html');
    expect(start).toContain('Document 4711, Dunlin 2, Europe');
    expect(start).toContain('All of Observer Handbook');
    expect(start).toContain('No. 1');
    const causes = async () => {
      const { json } = await keeper.get<{ variant: string; causes: { kind: string }[] }[]>('/freshness');
      return json.find((each) => each.variant === variant.id)?.causes ?? [];
    };
    expect(await causes()).toEqual([]);
    const later = makeNode('phrase', null, [makeText('Document 4712')]);
    await keeper.put('/components/document-number', {
      base: 1,
      title: number.title,
      body: { type: 'variable', default: later, rules: [] },
    });
    expect(await causes()).toEqual([
      jasmine.objectContaining({ kind: 'component', component: 'document-number', from: 1, to: 2 }),
    ]);
    // What no format of the variant shows alters nothing.
    await giveDesign('shows', { formats: ['markdown'] });
    await build();
    await save(design('shows', 'plain', { ...settings, 'colours.accent': '#aa0000' }), 1);
    expect(await causes()).toEqual([]);
    await save(design('shows', 'plain', { ...settings, 'templates.chapter.heading': '§ {number}' }), 2);
    expect(await causes()).toEqual([jasmine.objectContaining({ kind: 'recipe', part: 'design' })]);
    await giveDesign('plain', { formats: ['html'] });
  });

  it('name what they refer to and is not there as a problem of the build', async () => {
    await save(design('missing', 'plain', { 'cover.over': '{no-such-variable}', 'cover.picture': 'no-such-picture' }));
    await giveDesign('missing');
    const { problems } = await build();
    expect(problems.map(({ code }) => code).sort()).toEqual(['missing-image', 'missing-variable']);
    await giveDesign('plain');
  });

  it('are looked at before they are saved, on paper and as a web site', async () => {
    const order = { variant: variant.id, design: design('try', 'formal', { 'cover.over': 'Looked at' }) };
    const shown = async (medium: string, at = 0) => {
      const { json, status } = await keeper.post<Preview & ProblemDetails>('/design-preview', { ...order, medium, at });
      expect(status).toBe(200);
      const response = await fetch(new URL(json.address, server.origin));
      return { ...json, text: await response.text(), policy: response.headers.get('content-security-policy') ?? '' };
    };
    const paper = await shown('paper');
    expect(paper.text).toMatch(/^<svg /);
    // A sheet for every page, each where its page is.
    const sheets = [...paper.text.matchAll(/<path( transform="[^"]*")? fill="#ffffff" d="M 0 0v/g)].map(([, at]) => at);
    expect(sheets.length).toBeGreaterThan(5);
    expect(new Set(sheets).size).toBe(sheets.length);
    const web = await shown('web');
    expect(web.text).toContain('Looked at');
    expect(web.pages[0]).toBe('Observer Handbook');
    expect(web.text).not.toMatch(/<link|src="(?!data:)/);
    expect(web.policy).toContain('sandbox');
    expect(web.policy).not.toContain('script-src');
    expect((await shown('web', 2)).text).toContain(web.pages[2] ?? '?');
    // Nobody else opens it, and not for ever.
    const ticket = web.address.split('/').at(-1) ?? '';
    const forged = `${ticket.startsWith('A') ? 'B' : 'A'}${ticket.slice(1)}`;
    const { status } = await fetch(new URL(web.address.replace(ticket, forged), server.origin));
    expect(status).toBe(404);
    expect((await listed()).some(({ key }) => key === 'try')).toBeFalse();
    const { rows } = await server.db.query('select count(*)::integer as count from previews');
    expect(rows).toEqual([{ count: 3 }]);
  });

  it('are set in uploaded families, whose licence is noted', async () => {
    const upload = (file: Uint8Array, name: string, fields: Record<string, string>) => {
      const form = new FormData();
      form.set('file', new Blob([Buffer.from(file)]), name);
      for (const [field, value] of Object.entries(fields)) form.set(field, value);
      return keeper.request<FontRow & ProblemDetails>('POST', '/api/fonts', form);
    };
    expect((await upload(regular, 'x.ttf', {})).status).toBe(400);
    const { json: family, status } = await upload(await compress(regular), 'House.woff2', {
      licence: 'OFL 1.1',
      title: 'House',
    });
    expect([status, family.key, family.name, family.faces[0]?.mediaType]).toEqual([
      200,
      'house',
      'Source Serif 4',
      'font/ttf',
    ]);
    const italic = readFileSync(fontPath('400Regular_Italic', '400Regular_Italic'));
    const { json: more } = await upload(italic, 'House-Italic.ttf', { licence: 'OFL 1.1', key: 'house' });
    expect(more.faces.map(({ weight, isItalic }) => [weight, isItalic])).toEqual([
      [400, false],
      [400, true],
    ]);
    const mono = readFileSync(
      require.resolve('@expo-google-fonts/jetbrains-mono/400Regular/JetBrainsMono_400Regular.ttf'),
    );
    expect((await upload(mono, 'm.ttf', { licence: 'OFL 1.1', key: 'house' })).json.detail).toContain('JetBrains Mono');
    await save(design('housed', 'plain', { 'type.text': 'house' }));
    expect((await keeper.delete<ProblemDetails>('/fonts/house')).json.detail).toContain('Design housed');
    await giveDesign('housed', { formats: ['html', 'page', 'pdf', 'epub', 'docx'] });
    const built = await build();
    expect(built.formats.map(({ format, message }) => [format, message])).toEqual(
      ['html', 'page', 'pdf', 'epub', 'docx'].map((format) => [format, null]),
    );
    const style = await fileOf(built, 'style.css');
    expect(style).toMatch(/font-family:"house";src:url\(fonts\/[0-9a-f]+\.ttf\);font-weight:400;font-style:italic/);
    await giveDesign('plain', { formats: ['html'] });
    await keeper.delete('/designs/housed');
    expect((await keeper.delete('/fonts/house')).status).toBe(204);
  });
});

describe('Files of fonts', () => {
  it('are refused where they cannot be used, with what is wrong', async () => {
    const variable = readFileSync(
      require.resolve('@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2'),
    );
    const unfolding = Buffer.from(await compress(regular));
    unfolding.writeUInt32BE(4e9, 16);
    const wrong: readonly [Uint8Array, RegExp][] = [
      [Buffer.from('GIF89a'.padEnd(200)), /is not a TTF, OTF or WOFF2/],
      [regular.subarray(0, 400), /damaged/],
      [Buffer.from(await compress(regular)).subarray(0, 900), /damaged/],
      [variable, /variable font/],
      [unfolding, /unfolds/],
    ];
    for (const [bytes, says] of wrong) await expectAsync(readFontFile(bytes, 'x.ttf')).toBeRejectedWithError(says);
  });

  it('say which characters they have', () => {
    const characters = charactersOfFont(regular);
    const has = (text: string): boolean => [...text].every((each) => characters.has(each.codePointAt(0) ?? 0));
    expect(has('Straße Ἀθῆναι Москва →')).toBeFalse();
    expect(has('Straße Αθήνα Москва')).toBeTrue();
    expect(charactersOfFont(Buffer.from('no font')).size).toBe(0);
  });
});

describe('Own style sheets', () => {
  it('may say how things look', () => {
    const fine = [
      '',
      'main p{max-width:40em;color:#123456}',
      '@media print{h1{break-before:page}}',
      ':root{--accent:#aa0000}.x::before{content:"url(x)"}',
      '@supports (display:grid){main{display:grid;grid-template-columns:repeat(auto-fit,minmax(10em,1fr))}}',
    ];
    for (const css of fine) expect(faultOfCss(css)).withContext(css).toBeNull();
  });

  it('may load nothing, however it is written', () => {
    const loading = [
      'p{background:url(https://example.org/x.png)}',
      'p{background:URL("data:image/png;base64,AA")}',
      'p{background:u\\72l(https://example.org/x)}',
      'p{background:image-set("x.png" 1x)}',
      '@import "https://example.org/x.css";',
      '@\\69mport url(x.css);',
      '@font-face{font-family:x;src:url(x)}',
      ':root{--x:url(https://example.org/x)}p{background:var(--x)}',
      'p{background:-webkit-image-set(url(x) 1x)}',
      'p{cursor:url(x),auto}',
      'p{background:url(https://example.org/x',
      '}</style><script>alert(1)</script>',
    ];
    for (const css of loading)
      expect(faultOfCss(css))
        .withContext(css)
        .toMatch(/^Own style sheet, line \d+: /);
  });
});
