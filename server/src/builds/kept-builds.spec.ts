import { staleCauses, type ContentNode, type StoredVariant } from '@allomorph/core';
import { freshDatabase } from '../../../tests/support/fresh-database.js';
import { Database, type Queryable } from '../db/database.js';
import { labelComponent, requireComponent, saveComponent } from '../library/components.js';
import { readVariants } from '../publications/publications.js';
import { openWorkspace } from '../workspace.js';
import { buildVariant, type Deliverable } from './build-variant.js';
import { KeptBuilds } from './kept-builds.js';

describe('Kept builds', () => {
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let db: Database;
  let workspace: string;
  let variant: StoredVariant;
  const kept = new KeptBuilds();
  /** The keys of the components whose bodies were asked for. */
  let read: string[] = [];

  beforeAll(async () => {
    database = await freshDatabase();
    db = new Database(database.url);
    workspace = await openWorkspace(db, 'demo');
    const variants = await readVariants(db, workspace, 'observer-handbook');
    variant = variants.find((each) => each.title === 'Dunlin 4, Europe') as StoredVariant;
  });
  afterAll(async () => {
    await db.close();
    await database.drop();
  });

  const build = async (of: StoredVariant, from?: KeptBuilds, date = '2026-11-24'): Promise<Deliverable> => {
    read = [];
    const made = await db.snapshot((client) => {
      const watched: Queryable = {
        query: (text, values = []) => {
          if (text.includes('join revisions')) read.push(...(values[1] as string[]));
          return client.query(text, values);
        },
      };
      return buildVariant(watched, workspace, of, date, () => undefined, from);
    });
    if (from) from.keep(workspace, of.id, made.made);
    return made;
  };
  const pagesMade = ({ made }: Deliverable): readonly string[] =>
    made.files.filter(({ bytes }) => bytes !== null).map(({ path }) => path);

  /** Builds out of the last build, which must give what building from the ground up gives. */
  async function again(of = variant, date?: string): Promise<Deliverable> {
    const next = await build(of, kept, date);
    const readNow = read;
    const anew = await build(of, undefined, date);
    expect(next.digest).toBe(anew.digest);
    const shownIn = ({ made }: Deliverable) => made.record.pages.map(({ entry, digest }) => [entry, digest]);
    expect(shownIn(next)).toEqual(shownIn(anew));
    const { source, recipe } = anew.made.site;
    expect(staleCauses(next.made.record, source, recipe)).toEqual([]);
    expect(next.problems).toEqual(anew.problems);
    expect([next.pages, next.size]).toEqual([anew.pages, anew.size]);
    read = readNow;
    return next;
  }

  /** Saves a snippet with another first paragraph. */
  async function rewrite(key: string, text: string): Promise<void> {
    const { body, title, revision } = await requireComponent(db, workspace, key);
    const fragment = body as ContentNode;
    const paragraph: ContentNode = { type: 'paragraph', content: [{ type: 'text', text }] };
    const change = { base: revision, title, body: { ...fragment, content: [paragraph] } };
    await db.transaction((client) => saveComponent(client, { workspace, person: null }, key, change));
  }

  it('make everything the first time, and nothing where nothing changed', async () => {
    const first = await again();
    expect(pagesMade(first)).toEqual(first.made.site.paths);
    expect(read.length).toBeGreaterThan(40);
    expect(pagesMade(await again())).toEqual([]);
    expect(read).toEqual([]);
  });

  it('read what changed, and make the pages that show it', async () => {
    await rewrite('caution-battery', 'Batteries are heavy.');
    const next = await again();
    expect(read).toEqual(['caution-battery']);
    expect(pagesMade(next).length).toBeGreaterThan(0);
    expect(pagesMade(next).length).toBeLessThan(next.pages / 2);
    const page = next.files.find(({ path }) => path === pagesMade(next)[0]);
    expect(page?.bytes?.toString()).toContain('Batteries are heavy.');
  });

  it('follow labels, which make no revision', async () => {
    await db.transaction((client) =>
      labelComponent(client, { workspace, person: null }, 'caution-battery', { collection: 'tips', tags: {} }),
    );
    expect(pagesMade(await again()).length).toBeGreaterThan(0);
    expect(read).toEqual([]);
  });

  it('make everything anew for another day, another recipe and other words of the vocabulary', async () => {
    const all = (await again(variant, '2026-12-24')).made.site.paths;
    expect(pagesMade(await again(variant, '2026-12-25'))).toEqual(all);
    expect(pagesMade(await again({ ...variant, language: 'de' }, '2026-12-25'))).toEqual(all);
    await db.query(`update axes set title = title || '!' where workspace = $1`, [workspace]);
    expect(pagesMade(await again(variant, '2026-12-25'))).toEqual(all);
    expect(read).toEqual([]);
  });

  it('do not keep components of one workspace for another', () => {
    const key = 'caution-battery';
    expect(kept.known(workspace)(key, 2)?.key).toBe(key);
    expect(kept.known(workspace)(key, 1)).toBeUndefined();
    expect(kept.known('another')(key, 2)).toBeUndefined();
  });
});
