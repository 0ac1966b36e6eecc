import { spawn } from 'node:child_process';
import { existsSync, mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { formatNames } from '@allomorph/core';
import { freshDatabase } from '../../../tests/support/fresh-database.js';

// Tests are begun in the folder of the project.
const root = process.cwd();

describe('The command line', () => {
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let folder: string;

  const run = (...args: string[]): ReturnType<typeof runIn> => runIn({}, ...args);
  const runIn = (
    surroundings: Readonly<Record<string, string>>,
    ...args: string[]
  ): Promise<{ code: number | null; out: string; err: string }> =>
    new Promise((resolve) => {
      const child = spawn(process.execPath, ['scripts/run-cli.mjs', ...args], {
        cwd: root,
        env: { ...process.env, DATABASE_URL: database.url, ALLOMORPH_DEMO: 'no', INIT_CWD: folder, ...surroundings },
      });
      let out = '';
      let err = '';
      child.stdout.on('data', (chunk: Buffer) => (out += chunk.toString()));
      child.stderr.on('data', (chunk: Buffer) => (err += chunk.toString()));
      child.on('close', (code) => resolve({ code, out, err }));
    });

  beforeAll(async () => {
    database = await freshDatabase();
    folder = mkdtempSync(join(tmpdir(), 'allomorph-cli-'));
    writeFileSync(
      join(folder, 'book.xml'),
      '<book><title>B</title><chapter id="c"><title>C</title><para os="linux">For Linux</para><para os="mac">For Mac</para></chapter></book>',
    );
    writeFileSync(
      join(folder, 'profiles.json'),
      JSON.stringify({ axes: { os: { default: 'out' } }, profiles: [{ profile: 'linux', in: { os: ['linux'] } }] }),
    );
  });
  afterAll(async () => {
    rmSync(folder, { recursive: true });
    await database.drop();
  });

  it('imports a book and says so in one line of JSON', async () => {
    const { code, out } = await run(
      'import',
      'docbook',
      'book.xml',
      '--publication',
      'A Book',
      '--profiles',
      'profiles.json',
      '--json',
    );
    expect(code).toBe(0);
    const lines = out.trim().split('\n');
    expect(lines.length).toBe(1);
    expect(JSON.parse(lines[0] as string)).toEqual(
      jasmine.objectContaining({ publication: 'a-book', topics: 1, variants: ['linux'] }),
    );
  });

  it('builds a variant into a folder, the same bytes each time', async () => {
    const { code, out } = await run(
      'build',
      'A Book',
      '--variant',
      'linux',
      '--out',
      'site',
      '--date',
      '2026-11-24',
      '--json',
    );
    expect(code).toBe(0);
    expect(readFileSync(join(folder, 'site', 'c.html'), 'utf8')).toContain('For Linux');
    expect(readFileSync(join(folder, 'site', 'c.html'), 'utf8')).not.toContain('For Mac');
    expect(readdirSync(join(folder, 'site', 'fonts')).length).toBeGreaterThan(0);
    const { digest } = JSON.parse(out) as { digest: string };
    const again = JSON.parse(
      (await run('build', 'A Book', '--variant', 'linux', '--out', 'site', '--date', '2026-11-24', '--json')).out,
    ) as { digest: string };
    expect(again.digest).toBe(digest);
  });

  it('builds every format to the same bytes, whatever the zone and the language of the machine', async () => {
    const build = (surroundings: Readonly<Record<string, string>>) =>
      runIn(
        surroundings,
        ...['build', 'A Book', '--variant', 'linux', '--format', formatNames.join(), '--out', 'all'],
        ...['--date', '2026-11-24', '--json'],
      );
    const [here, there] = [
      await build({ TZ: 'Pacific/Auckland', LANG: 'de_DE.UTF-8', LC_ALL: 'C' }),
      await build({ TZ: 'America/Los_Angeles', LANG: 'en_US.UTF-8' }),
    ];
    const digests = ({ out }: { readonly out: string }) =>
      (JSON.parse(out) as { formats: { format: string; failed: string | null; digest: string }[] }).formats;
    expect(digests(here).map(({ format, failed }) => [format, failed])).toEqual(
      formatNames.map((name) => [name, null]),
    );
    expect(digests(there)).toEqual(digests(here));
  });

  it('builds into the format that is asked for, whatever the variant says', async () => {
    const { code } = await run('build', 'A Book', '--variant', 'linux', '--format', 'markdown', '--out', 'text');
    expect(code).toBe(0);
    expect(readFileSync(join(folder, 'text', 'c.md'), 'utf8')).toContain('For Linux');
    const several = await run('build', 'A Book', '--variant', 'linux', '--format', 'pdf,markdown', '--out', 'both');
    expect(several.code).withContext(several.err).toBe(0);
    expect(readFileSync(join(folder, 'both', 'markdown', 'c.md'), 'utf8')).toContain('For Linux');
    expect(readFileSync(join(folder, 'both', 'pdf', 'document.pdf'), 'latin1')).toMatch(/^%PDF-1\.7/);
    const unknown = await run('build', 'A Book', '--variant', 'linux', '--format', 'scroll', '--out', 'other');
    expect([unknown.code, unknown.err.trim()]).toEqual([
      2,
      'The format “scroll” is not known; there are html, page, pdf, epub, docx, markdown.',
    ]);
  });

  it('reads files around a book below the folder that is named, and nothing without it', async () => {
    mkdirSync(join(folder, 'all', 'book'), { recursive: true });
    writeFileSync(join(folder, 'all', 'shared.xml'), '<chapter id="s"><title>Shared</title><para>x</para></chapter>');
    writeFileSync(
      join(folder, 'all', 'book', 'main.xml'),
      '<!DOCTYPE book [<!ENTITY shared SYSTEM "../shared.xml">]><book><title>B</title>&shared;</book>',
    );
    const book = join('all', 'book', 'main.xml');
    const inside = await run('import', 'docbook', book, '--publication', 'Inside', '--root', 'all', '--json');
    expect(JSON.parse(inside.out)).toEqual(jasmine.objectContaining({ topics: 1, notes: [] }));
    const alone = await run('import', 'docbook', book, '--publication', 'Alone');
    expect(alone.code).toBe(1);
    expect(alone.err).toContain('An entity points outside the imported folder: “../shared.xml”.');
    const elsewhere = await run('import', 'docbook', 'book.xml', '--publication', 'X', '--root', 'all');
    expect([elsewhere.code, elsewhere.err.trim()]).toEqual([2, '“book.xml” does not lie in “all”.']);
  });

  it('ends with a code other than zero and one sentence for what cannot be done', async () => {
    const unknown = await run('build', 'A Book', '--variant', 'arm', '--out', 'other');
    expect([unknown.code, unknown.err.trim()]).toEqual([2, '“A Book” has no variant “arm”; it has “linux”.']);
    expect(existsSync(join(folder, 'other'))).toBeFalse();
    expect((await run('import', 'docbook', 'nowhere.xml', '--publication', 'X')).code).toBe(2);
    writeFileSync(join(folder, 'broken.xml'), '<book>\n<chapter></book>');
    const broken = await run('import', 'docbook', 'broken.xml', '--publication', 'X');
    expect(broken.code).toBe(1);
    expect(broken.err).toContain('broken.xml, line 2: The XML is not well formed');
    expect((await run('dance')).code).toBe(2);
  });
});
