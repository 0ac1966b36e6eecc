import { formatsOf, staleness, type ContentNode, type StoredVariant } from '@allomorph/core';
import { freshDatabase } from '../../../tests/support/fresh-database.js';
import { Database, type Queryable } from '../db/database.js';
import { labelComponent, requireComponent, saveComponent } from '../library/components.js';
import { readVariants } from '../publications/variants.js';
import { openWorkspace } from '../workspace.js';
import { buildVariant, hashOf, readRecipe, type Deliverable } from './build-variant.js';
import { BuildMemory } from './build-memory.js';

describe('What is kept of builds', () => {
  let database: Awaited<ReturnType<typeof freshDatabase>>;
  let db: Database;
  let workspace: string;
  let variant: StoredVariant;
  const memory = new BuildMemory();
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

  const build = async (of: StoredVariant, from?: BuildMemory, date = '2026-11-24'): Promise<Deliverable> => {
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
    from?.keepStored(made.formats.flatMap(({ files }) => files.map(({ digest }) => digest)));
    return made;
  };
  /** The files whose bytes are not in the store yet. */
  const filesMade = ({ formats: [first] }: Deliverable): readonly string[] =>
    (first?.files ?? [])
      .filter(({ bytes, mediaType }) => bytes !== null && mediaType.startsWith('text/'))
      .map(({ path }) => path);

  /** Builds with what is kept, which must give what building from the ground up gives. */
  async function again(of = variant, date?: string): Promise<Deliverable> {
    const next = await build(of, memory, date);
    const readNow = read;
    const anew = await build(of, undefined, date);
    expect(next.digest).toBe(anew.digest);
    expect(next.record).toEqual(anew.record);
    const { source, recipe } = await db.snapshot((client) => readRecipe(client, workspace, of, date ?? '2026-11-24'));
    const tools = { memory: memory.engine(workspace), formats: formatsOf(of.formats), digest: hashOf };
    expect(staleness(next.record, source, recipe, tools).causes).toEqual([]);
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

  it('is everything the first time, and nothing is made where nothing changed', async () => {
    const first = await again();
    expect(filesMade(first).length).toBeGreaterThan(first.pages);
    expect(read.length).toBeGreaterThan(40);
    expect(filesMade(await again())).toEqual([]);
    expect(read).toEqual([]);
  });

  it('leaves what changed to read, and the pages that show it to make', async () => {
    await rewrite('caution-battery', 'Batteries are heavy.');
    const next = await again();
    expect(read).toEqual(['caution-battery']);
    expect(filesMade(next).length).toBeGreaterThan(0);
    expect(filesMade(next).length).toBeLessThan(next.pages / 2);
    const page = next.formats[0]?.files.find(({ path }) => path === filesMade(next)[0]);
    expect(page?.bytes?.toString()).toContain('Batteries are heavy.');
  });

  it('follows labels, which make no revision', async () => {
    await db.transaction((client) =>
      labelComponent(client, { workspace, person: null }, 'caution-battery', {
        collection: 'tips',
        tags: { subject: ['rain'] },
      }),
    );
    expect(filesMade(await again()).length).toBeGreaterThan(0);
    expect(read).toEqual([]);
  });

  it('serves another language and another day', async () => {
    const german = await again({ ...variant, language: 'de' }, '2026-12-25');
    expect(filesMade(german).length).toBeGreaterThan(german.pages);
    expect(filesMade(await again(variant, '2026-12-25')).length).toBeLessThan(german.pages);
    expect(read).toEqual([]);
  });

  it('is kept apart for each workspace', () => {
    const key = 'caution-battery';
    expect(memory.known(workspace)(key, 2)?.key).toBe(key);
    expect(memory.known(workspace)(key, 1)).toBeUndefined();
    expect(memory.known('another')(key, 2)).toBeUndefined();
  });
});
