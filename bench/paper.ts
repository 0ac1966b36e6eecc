import {
  assemblePublication,
  componentFrom,
  formatsOf,
  libraryOf,
  makeNode,
  makeText,
  numberPublication,
  plainDesign,
  type Component,
  type ContentNode,
  type Recipe,
} from '@allomorph/core';
import { Typesetter, type TypesetDocument } from '../server/src/typesetting/typesetter.js';

/**
 * What it takes to typeset a book of about five hundred pages with everything in it: headings, paragraphs, tables,
 * references by number and by page, footnotes, lists, index and glossary. Then again in the same process: the same book, one
 * paragraph changed, and a variant that shares nine tenths of its text.
 */

const topics = 312;
const words =
  'station mast sensor rain wind reading display menu button cable battery shield clamp level memory card update signal hour value chart record limit alarm clock cover screw plate sun cold heat dust port light'.split(
    ' ',
  );

/** Words that follow from where they stand. */
function sentence(seed: number, count: number): string {
  const text = Array.from({ length: count }, (_, at) => words[(seed * 7 + at * at * 3 + at * 11) % words.length]).join(
    ' ',
  );
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}

const text = (value: string): ContentNode => makeText(value);
const line = (...content: ContentNode[]): ContentNode => makeNode('paragraph', null, content);
const title = (value: string): ContentNode => makeNode('title', null, [text(value)]);

/** @param more paragraphs besides */
function topic(at: number, edition: number, more: readonly ContentNode[] = []): Component {
  // Every tenth topic of another edition reads otherwise.
  const seed = at % 10 === 0 ? at + 1000 * edition : at;
  const see = (form: string, to: number): ContentNode =>
    makeNode('cross_reference', { component: `t${(at + to) % topics}`, form });
  const cell = (value: string): ContentNode => makeNode('table_cell', null, [line(text(value))]);
  const table = makeNode('table', { id: 'table' }, [
    makeNode('caption', null, [text(sentence(seed, 4))]),
    makeNode('table_grid', null, [
      makeNode('table_row', { header: true }, ['Part', 'Number', 'Remark'].map(cell)),
      ...Array.from({ length: 8 }, (_, row) =>
        makeNode('table_row', null, [cell(sentence(seed + row, 2)), cell(String(row)), cell(sentence(seed + row, 9))]),
      ),
    ]),
  ]);
  const paragraphs = Array.from({ length: 8 }, (_, each) =>
    line(
      text(`${sentence(seed * 11 + each, 70)} `),
      makeNode('index_marker', { primary: words[(at + each) % words.length], secondary: null, tertiary: null }),
      text('See '),
      see(each % 2 === 0 ? 'number-title' : 'page', each + 1),
      text('.'),
    ),
  );
  const note = makeNode('footnote', { id: 'note' }, [line(text(sentence(seed, 14)))]);
  const call = line(
    text('A '),
    makeText(`term${at}`, [{ type: 'defined_term' }]),
    text(' is explained.'),
    makeNode('footnote_reference', { target: 'note' }),
  );
  const steps = makeNode(
    'steps',
    null,
    Array.from({ length: 5 }, (_, each) => makeNode('step', null, [line(text(sentence(seed + each, 12)))])),
  );
  const section = makeNode('section', { id: 'more' }, [title(sentence(at, 3)), ...paragraphs.slice(4), table, steps]);
  return componentFrom({
    key: `t${at}`,
    kind: 'topic',
    title: `Topic ${at}`,
    revision: 1,
    body: makeNode('topic', null, [title(sentence(at, 4)), ...paragraphs.slice(0, 4), call, ...more, note, section]),
  });
}

function filesOf(components: readonly Component[]): readonly { readonly path: string; readonly bytes: Uint8Array }[] {
  const recipe: Recipe = {
    publication: {
      key: 'book',
      title: makeNode('phrase', null, [text('A book')]),
      values: {},
      // Twelve chapters with twenty-five topics below each.
      entries: Array.from({ length: 12 }, (_, chapter) => ({
        id: `c${chapter}`,
        topic: `t${chapter * 26}`,
        entries: Array.from({ length: 25 }, (__, at) => ({
          id: `e${chapter}-${at}`,
          topic: `t${chapter * 26 + at + 1}`,
        })),
      })),
    },
    variantTitle: 'All',
    profile: { axes: {} },
    values: {},
    language: 'en',
    design: plainDesign,
    buildDate: '2026-11-24',
    leaveOutEmpty: false,
  };
  const source = { library: libraryOf(components), axes: [], stamps: [], publications: new Map() };
  const numbered = numberPublication(assemblePublication(source, recipe), recipe);
  const [pdf] = formatsOf(['pdf']);
  return (pdf?.render(numbered).files ?? []).map(({ path, text: content }) => ({ path, bytes: Buffer.from(content) }));
}

const typesetter = new Typesetter({ seconds: 600, megabytes: 4000 });
const library = Array.from({ length: topics }, (_, at) => topic(at, 0));
const changed = library.map((each, at) => (at === 150 ? topic(at, 7) : each));
const oneParagraph = library.map((each, at) => (at === 151 ? topic(at, 0, [line(text(sentence(7, 70)))]) : each));
const variant = Array.from({ length: topics }, (_, at) => topic(at, 1));
let first: TypesetDocument | null = null;

console.log(
  '| a book on paper | pages | CPU, s | share of the first | peak memory, MB |\n| --- | --- | --- | --- | --- |',
);
for (const [what, components] of [
  ['in a new process', library],
  ['the same again', library],
  ['one paragraph more', oneParagraph],
  ['one topic changed', changed],
  ['a variant that shares nine tenths', variant],
] as const) {
  const made = await typesetter.typeset({ files: filesOf(components), fonts: [], standard: 'ua-1', timestamp: 0 });
  first ??= made;
  const { cpuSeconds, peakMegabytes } = made.cost;
  const share = `${Math.round((100 * cpuSeconds) / first.cost.cpuSeconds)} %`;
  console.log(`| ${what} | ${made.pages} | ${cpuSeconds.toFixed(1)} | ${share} | ${Math.round(peakMegabytes)} |`);
}
typesetter.stop();
