import {
  assemblePublication,
  firstPages,
  flattenPages,
  numberPublication,
  pageFile,
  pdf,
  plainText,
  problemOf,
  web,
  wordsOf,
  type Format,
  type NumberedPublication,
  type PreviewOrder,
  type Rendition,
  type StoredVariant,
} from '@allomorph/core';
import { keepPreview } from '../builds/keep-preview.js';
import { pack } from '../builds/pack.js';
import { readRecipe } from '../builds/build-variant.js';
import type { Queryable } from '../db/database.js';
import { readVariants } from '../publications/variants.js';
import { threadDatabase, threadMemory as memory } from '../threads/thread-memory.js';
import type { ThreadWork } from '../threads/work-pool.js';
import { Typesetter } from '../typesetting/typesetter.js';
import { readDesigns } from './designs.js';

/** What a thread is asked: what a variant would look like in a design that is being changed. */
export interface PreviewThreadOrder extends PreviewOrder {
  readonly url: string;
  readonly workspace: string;
  readonly person: string;
  readonly buildDate: string;
}

export interface MadePreview {
  /** Null: there is no such variant. */
  readonly id: string | null;
  readonly pages: readonly string[];
  readonly problems: readonly string[];
}

/** How many pages of an outline are laid out on paper, and offered of a site. */
const mostOnPaper = 8;
const mostOfSite = 12;

const typesetter = new Typesetter({ seconds: 30, megabytes: 700 });

export const run: ThreadWork<PreviewThreadOrder, never, MadePreview> = async (order) => {
  const db = threadDatabase(order.url);
  const made = await db.snapshot((client) => makePreview(client, order));
  if (!made) return { id: null, pages: [], problems: [] };
  return { id: await keepPreview(db, order.person, made), pages: made.pages, problems: made.problems };
};

interface Preview {
  readonly content: string;
  readonly mediaType: string;
  readonly pages: readonly string[];
  readonly problems: readonly string[];
}

async function makePreview(db: Queryable, order: PreviewThreadOrder): Promise<Preview | null> {
  const { workspace, design, variant: id, medium } = order;
  const variant = (await readVariants(db, workspace)).find((each) => each.id === id);
  if (!variant) return null;
  const designs = [...(await readDesigns(db, workspace)).filter(({ key }) => key !== design.key), design];
  const shown: StoredVariant = { ...variant, design: design.key };
  const { source, recipe } = await readRecipe(db, workspace, shown, order.buildDate, memory.known(workspace), designs);
  memory.keepLibrary(workspace, variant.publication, source.library);
  const assembled = assemblePublication(source, recipe, memory.engine(workspace));
  const numbered = numberPublication(assembled, recipe);
  const problems = assembled.lookPiece.findings.map((finding) => problemOf(finding).message);
  const tools = { db, memory, typesetter, buildDate: order.buildDate };
  if (medium === 'paper') {
    const drawing = await drawn(firstPages(numbered, mostOnPaper), tools);
    return { content: drawing, mediaType: 'image/svg+xml', pages: [], problems };
  }
  return { ...(await sitePage(numbered, order.at, tools)), mediaType: 'text/html', problems };
}

type Tools = Omit<Parameters<typeof pack>[2], 'start'>;

/** The first pages on paper, one below the other. */
async function drawn(numbered: NumberedPublication, tools: Tools): Promise<string> {
  const { files } = await pack('pdf', pdf.render(numbered), { ...tools, start: 'drawing', asDrawing: true });
  return pagesApart(files[0]?.bytes?.toString() ?? '');
}

/** The sheet of each page in a drawing of all, and where the page begins: the typesetter lays all sheets on the first one. */
const sheet =
  /^ {4}<path class="typst-shape" (fill="[^"]*") [^>]* (d="[^"]*")\/>\n {4}<g( transform="matrix\(1 0 0 1 0 [\d.]+\)")?>/gm;

/** A drawing of pages, each on a sheet of its own, with a seam between. */
function pagesApart(svg: string): string {
  return svg.replace(
    sheet,
    (_, fill: string, outline: string, move = '') =>
      `<path${move} ${fill} ${outline} stroke="${desk}" stroke-width="8"/>\n<g${move}>`,
  );
}
const desk = '#8a8780';

/** One page of the site with all that it shows in it. */
async function sitePage(
  numbered: NumberedPublication,
  at: number,
  tools: Tools,
): Promise<Pick<Preview, 'content' | 'pages'>> {
  const words = wordsOf(numbered);
  const pages = flattenPages(numbered.pages).slice(0, mostOfSite);
  const paths = [web.start, ...pages.map(({ name }) => pageFile(name))];
  const rendition = web.render(numbered);
  const path = paths[at] ?? web.start;
  const style = rendition.files.find((file) => file.path === 'style.css')?.text ?? '';
  const files = rendition.files
    .filter((file) => file.path === path)
    .map((file) => ({
      ...file,
      // What is looked at runs nothing, and its looks stand in it.
      text: file.text
        .replace(/<script [^>]*><\/script>\n|<meta http-equiv=[^>]*>\n|<link rel="icon"[^>]*>\n/g, '')
        .replace('<link rel="stylesheet" href="style.css">', () => `<style>${style}</style>`),
    }));
  const whole: Rendition = { files, fonts: rendition.fonts };
  const packed = await pack('page' satisfies Format['container'], whole, { ...tools, start: path });
  return {
    content: packed.files[0]?.bytes?.toString() ?? '',
    pages: [plainText(numbered.title, words), ...pages.map(({ label }) => plainText(label.title, words))],
  };
}
