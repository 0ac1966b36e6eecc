import {
  assemblePublication,
  flattenAssembled,
  flattenPages,
  headingNumber,
  limits,
  Memory,
  numberPublication,
  originPage,
  OriginTeller,
  pageFile,
  plainText,
  wordsOf,
  type AssembledPublication,
  type NumberedPublication,
  type OriginAnswer,
  type OriginOrder,
  type Recipe,
} from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { threadDatabase, threadMemory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { Typesetter } from '../typesetting/typesetter.js';
import { readKeptSource } from './build-source.js';
import { keepPreview } from './keep-preview.js';
import { pack } from './pack.js';
import { passagesScript } from './reader-script.js';

/** What a thread is asked: a page of a build, and where everything on it comes from. */
export interface OriginThreadOrder extends OriginOrder {
  readonly url: string;
  readonly workspace: string;
  readonly person: string;
  readonly build: string;
}

export interface MadeOrigin extends Omit<OriginAnswer, 'address'> {
  /** What keeps the page. */
  readonly preview: string;
}

/** A build as it was made, put together again from what was kept of it. */
interface ReadBuild {
  readonly build: string;
  readonly recipe: Recipe;
  readonly assembled: AssembledPublication;
  readonly numbered: NumberedPublication;
  readonly teller: OriginTeller;
}

// Whoever asks for one page asks for others of the same build; what was built never changes.
let last: ReadBuild | null = null;
// A page is packed with tools for all formats; this one is never asked for paper.
const typesetter = new Typesetter();

/** @returns null where nothing was kept of the build, or it has no page */
export const run: ThreadWork<OriginThreadOrder, never, MadeOrigin | null> = async (order) => {
  const db = threadDatabase(order.url);
  const read = last?.build === order.build ? last : await db.snapshot((client) => readBuild(client, order));
  if (!read) return null;
  last = read;
  const { recipe, teller, numbered } = read;
  const pages = flattenPages(numbered.pages);
  const chosen = pages.find(({ entry }) => entry === order.entry) ?? pages[0];
  if (!chosen) return null;
  const shown = order.leftOut ? teller.showingLeftOut(chosen.entry) : read.assembled;
  const publication = shown === read.assembled ? numbered : numberPublication(shown, recipe);
  const page = flattenPages(publication.pages).find(({ entry }) => entry === chosen.entry);
  const assembled = flattenAssembled(shown.entries).find(({ id }) => id === chosen.entry);
  if (!page || !assembled) return null;
  const tools = { db, memory: threadMemory, typesetter, buildDate: recipe.buildDate, start: 'page.html' };
  const packed = await pack('page', originPage(publication, page), tools);
  const html = packed.files[0]?.bytes?.toString() ?? '';
  const content = html.replace('</body>', () => `<script>${passagesScript().toString()}</script>\n</body>`);
  const preview = await keepPreview(db, order.person, { mediaType: 'text/html', content });
  if (preview === null) return null;
  const words = wordsOf(numbered);
  return {
    preview,
    entry: chosen.entry,
    way: teller.wayTo(chosen.entry),
    origins: Object.fromEntries(teller.originsOn(assembled)),
    outline: order.outline
      ? {
          pages: pages.map(({ entry, name, label, depth }) => ({
            entry,
            file: pageFile(name),
            title: `${headingNumber(numbered.design, label)} ${plainText(label.title, words)}`.trim(),
            depth,
          })),
          leftOut: teller.leftOutOfOutline().slice(0, limits.leftOutEntries),
        }
      : null,
  };
};

async function readBuild(db: Queryable, { workspace, build }: OriginThreadOrder): Promise<ReadBuild | null> {
  const { rows } = await db.query<{ source: Buffer | null }>(
    'select source from builds where workspace = $1 and id = $2',
    [workspace, build],
  );
  const kept = rows[0]?.source;
  if (!kept) return null;
  const { source, recipe } = await readKeptSource(db, workspace, kept);
  const assembled = assemblePublication(source, recipe, new Memory());
  const numbered = numberPublication(assembled, recipe);
  return { build, recipe, assembled, numbered, teller: new OriginTeller(source, recipe, assembled) };
}
