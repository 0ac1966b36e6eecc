import { mkdirSync, mkdtempSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strToU8, zipSync } from 'fflate';
import type { ImportNote, ImportSummary, StoredPublication, StoredVariant } from '@allomorph/core';
import type { Client, ProblemDetails } from '../../../tests/support/client.js';
import { startServer, type RunningServer } from '../../../tests/support/running-server.js';
import { importPublication } from './import-publication.js';
import { ArchiveFault, unzip } from './unzip.js';

const book = (subset: string, content: string): string =>
  `<!DOCTYPE book PUBLIC "-//OASIS//DTD DocBook XML V4.5//EN" "x.dtd" [${subset}]><book><title>Imported</title>${content}</book>`;
const chapter = (id: string, content: string): string => `<chapter id="${id}"><title>${id}</title>${content}</chapter>`;
const onePixel = Buffer.from(
  'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==',
  'base64',
);

describe('Imports', () => {
  let server: RunningServer;
  let keeper: Client;

  const upload = (files: Readonly<Record<string, Uint8Array>>, fields: Readonly<Record<string, string>> = {}) => {
    const form = new FormData();
    form.set('file', new Blob([new Uint8Array(zipSync(files))]), 'book.zip');
    for (const [name, value] of Object.entries({ title: 'Imported', ...fields })) form.set(name, value);
    return keeper.post<ImportSummary & ProblemDetails>('/imports/docbook', form);
  };
  const counts = async (): Promise<unknown> =>
    (
      await server.db.query(
        'select (select count(*) from components) c, (select count(*) from publications) p, (select count(*) from axes) a, (select count(*) from blobs) b',
      )
    ).rows[0];

  beforeAll(async () => {
    server = await startServer();
    keeper = await server.as('keeper');
  });
  afterAll(() => server.stop());

  it('bring a ZIP into the library with axes, profiles, variants, pictures and a report', async () => {
    const figure =
      '<figure><title>F</title><mediaobject><imageobject><imagedata fileref="img/a.png"/></imageobject></mediaobject></figure>';
    const { status, json } = await upload(
      {
        'en/book.xml': strToU8(
          book(
            '<!ENTITY two SYSTEM "two.xml">',
            `${chapter('one', `<para arch="arm">x</para>${figure}<weather>w</weather>`)}&two;`,
          ),
        ),
        'en/two.xml': strToU8(chapter('two', '<para>y</para>')),
        'en/img/a.png': onePixel,
      },
      {
        profiles: JSON.stringify({
          axes: { arch: { default: 'out' } },
          profiles: [{ profile: 'arm', in: { arch: ['arm'] } }],
        }),
      },
    );
    expect(status).toBe(200);
    expect([json.topics, json.images, json.axes, json.variants]).toEqual([2, 1, 1, ['arm']]);
    expect(json.notes.map((note) => note.message)).toEqual(['<weather> is not known here; its text was kept.']);
    const { json: publication } = await keeper.get<StoredPublication>(`/publications/${json.publication}`);
    expect(publication.entries.length).toBe(2);
    const { json: kept } = await keeper.get<ImportNote[]>(`/publications/${json.publication}/import-notes`);
    expect(kept.map(({ kind, file, line }) => [kind, file, line])).toEqual([['unknown element', 'en/book.xml', 1]]);
    const { json: variants } = await keeper.get<StoredVariant[]>('/variants');
    const { json: started } = await keeper.post<{ builds: string[] }>('/builds', { variants: [variants[0]?.id] });
    const [build] = await server.ended(keeper, started.builds);
    expect([build?.state, build?.problems]).toEqual(['done', []]);
  });

  it('of a second manual leave the first as it is', async () => {
    const { json } = await upload({ 'book.xml': strToU8(book('', chapter('one', '<para>other</para>'))) });
    expect(json.publication).toBe('imported-2');
  });

  const refusals: readonly (readonly [string, Readonly<Record<string, Uint8Array>>, RegExp])[] = [
    [
      'a bomb of entities',
      {
        'book.xml': strToU8(
          book(
            `<!ENTITY a0 "lol">${Array.from({ length: 12 }, (_, n) => `<!ENTITY a${n + 1} "${`&a${n};`.repeat(10)}">`).join('')}`,
            chapter('c', '<para>&a12;</para>'),
          ),
        ),
      },
      /book\.xml, line 1: .*(expand|larger)/,
    ],
    [
      'an entity outside the archive',
      { 'book.xml': strToU8(book('<!ENTITY x SYSTEM "../../../etc/passwd">', '&x;')) },
      /outside/,
    ],
    [
      'malformed XML',
      { 'book.xml': strToU8('<book>\n<chapter>\n</book>') },
      /book\.xml, line 3: The XML is not well formed/,
    ],
    ['no book at all', { 'readme.txt': strToU8('hello') }, /No file of the archive holds a <book>/],
    ['a path that leads out of the archive', { '../evil.xml': strToU8('<book/>') }, /leads out of it/],
  ];
  for (const [what, files, message] of refusals) {
    it(`with ${what} are refused in one sentence, and nothing is kept`, async () => {
      const before = await counts();
      const { status, json } = await upload(files);
      expect(status).toBe(422);
      expect(json.detail).toMatch(message);
      expect(await counts()).toEqual(before);
    });
  }

  it('with broken profiles are refused before anything is read', async () => {
    const { json } = await upload(
      { 'book.xml': strToU8(book('', chapter('c', '<para>x</para>'))) },
      { profiles: '{"axes":' },
    );
    expect(json.detail).toMatch(/^The profiles are not JSON/);
  });

  it('that fail on the way to the database keep nothing of it', async () => {
    const before = await counts();
    const archive = join(mkdtempSync(join(tmpdir(), 'allomorph-import-')), 'book.zip');
    writeFileSync(archive, zipSync({ 'book.xml': strToU8(book('', chapter('c', '<para>x</para>'))) }));
    await server.db.query('alter table variants add constraint nothing_new check (title <> $$broken$$)');
    const profiles = { axes: {}, profiles: [{ profile: 'broken' }] };
    const actor = { workspace: server.workspace, person: null };
    await expectAsync(
      importPublication(server.db, actor, { main: '', from: { archive } }, 'Half', profiles),
    ).toBeRejected();
    expect(await counts()).toEqual(before);
  });

  it('from a folder follow no link that leads out of it', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'allomorph-import-'));
    mkdirSync(join(folder, 'in'));
    writeFileSync(join(folder, 'secret.xml'), chapter('secret', '<para>secret</para>'));
    symlinkSync(join(folder, 'secret.xml'), join(folder, 'in', 'linked.xml'));
    writeFileSync(join(folder, 'in', 'book.xml'), book('<!ENTITY l SYSTEM "linked.xml">', '&l;'));
    const actor = { workspace: server.workspace, person: null };
    const source = { main: 'book.xml', from: { folder: join(folder, 'in') } };
    const { notes } = await importPublication(server.db, actor, source, 'Linked', null);
    expect(notes.map(({ message }) => message).join('\n')).toContain('“linked.xml” is missing');
    const { rows } = await server.db.query(
      "select 1 from revisions where workspace = $1 and body::text like '%secret%'",
      [server.workspace],
    );
    expect(rows).toEqual([]);
    rmSync(folder, { recursive: true });
  });
});

describe('Archives', () => {
  const limits = { files: 20, bytes: 30 << 20 };
  const inParts = (bytes: Uint8Array): readonly Uint8Array[] =>
    Array.from({ length: Math.ceil(bytes.length / 50_000) }, (_, at) => bytes.subarray(at * 50_000, (at + 1) * 50_000));

  it('are refused where they are none, or unpack to more than they may', () => {
    expect(() => unzip([strToU8('not a zip')])).toThrowError(
      ArchiveFault,
      'The file is not a ZIP archive that can be read.',
    );
    const bomb = zipSync({ a: new Uint8Array(16 << 20), b: new Uint8Array(16 << 20) }, { level: 1 });
    expect(() => unzip(inParts(bomb), limits)).toThrowError(ArchiveFault, 'The archive unpacks to more than 30 MB.');
  });

  it('are refused where they hold more files than they may', () => {
    const archive = Buffer.from(zipSync({ 'a.txt': strToU8('x') }));
    // The header of the directory begins where the last file ends (APPNOTE.TXT 4.3.12).
    const file = archive.subarray(0, archive.indexOf(Buffer.from([0x50, 0x4b, 0x01, 0x02])));
    expect(() => unzip([Buffer.concat(Array<Buffer>(20_001).fill(file))])).toThrowError(
      ArchiveFault,
      'The archive holds more than 20000 files.',
    );
  });

  it('may hold many small files next to each other', () => {
    const many = zipSync(Object.fromEntries(Array.from({ length: 8_000 }, (_, at) => [`${at}`, new Uint8Array()])));
    expect(unzip([many]).size).toBe(8_000);
  });

  it('are measured by what comes out, not by what they say', () => {
    const bomb = Buffer.from(zipSync({ a: new Uint8Array(31 << 20) }, { level: 1 }));
    // The size before compression (APPNOTE.TXT 4.3.7 and 4.3.12, at 22 and 24) is made to say one byte.
    bomb.writeUInt32LE(1, 22);
    bomb.writeUInt32LE(1, bomb.indexOf(Buffer.from([0x50, 0x4b, 0x01, 0x02])) + 24);
    expect(() => unzip(inParts(bomb), limits)).toThrowError(ArchiveFault, 'The archive unpacks to more than 30 MB.');
  });

  it('give all their files, whatever their compression and size', () => {
    const files = {
      'a/b.txt': strToU8('stored'),
      'c.txt': strToU8('deflated '.repeat(50_000)),
      'empty.txt': new Uint8Array(),
    };
    const archive = zipSync({ ...files, 'a/b.txt': [files['a/b.txt'], { level: 0 }] });
    expect([...unzip(inParts(archive))].map(([path, bytes]) => [path, Buffer.from(bytes).toString()])).toEqual(
      Object.entries(files).map(([path, bytes]) => [path, Buffer.from(bytes).toString()]),
    );
  });
});
