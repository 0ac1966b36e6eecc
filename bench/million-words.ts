import {
  assemblePublication,
  comparePublications,
  flattenAssembled,
  componentFrom,
  libraryOf,
  makeNode,
  makeText,
  Memory,
  numberPublication,
  plainText,
  reachOf,
  recordBuild,
  staleness,
  web,
  type Component,
  type ContentNode,
  type Source,
} from '@allomorph/core';
import { hashOf } from '../server/src/builds/build-variant.js';
import { row, spreadOf, timeOf } from './measure.js';
import { axes, madeUpPublication } from './made-up/publication.js';

/** A made-up library of a million words: its first build, and what is asked of it while somebody writes. */

const variants = 10;
const made = madeUpPublication(1700);
const { components, source } = made;
const recipes = Array.from({ length: variants }, (_, at) => made.recipe(at));
const lines: string[] = ['| what | ms: least / median / most | wanted |', '| --- | --- | --- |'];

const words = (nodes: readonly unknown[]): number =>
  plainText(nodes as Parameters<typeof plainText>[0])
    .split(/\s+/)
    .filter((word) => word !== '').length;
let count = 0;
for (const { blocks } of flattenAssembled(assemblePublication(source, made.recipe(0)).entries)) count += words(blocks);

const first = Array.from({ length: 3 }, () => {
  const fresh = madeUpPublication(1700);
  return timeOf(() =>
    web.render(numberPublication(assemblePublication(fresh.source, fresh.recipe(0), new Memory()), fresh.recipe(0))),
  );
});
lines.push(row('first build', spreadOf(first), '4,000'));

/** The snippet that is being written, one sign longer with each stroke. */
function written(strokes: number): { readonly changed: Component; readonly after: Source } {
  const before = source.library.component('outer-7');
  if (!before) throw new Error('There is no such snippet.');
  const body = before.body as ContentNode;
  const line = makeNode('paragraph', { id: 'typed' }, [makeText('x'.repeat(strokes))]);
  const content = [...(body.content ?? []), line];
  const changed = componentFrom({ ...before, body: { ...body, content }, draft: String(strokes) });
  const all = components.map((each) => (each.key === changed.key ? changed : each));
  return { changed, after: { ...source, library: libraryOf(all) } };
}

const reach = { first: [] as number[], next: [] as number[] };
for (let round = 0; round < 3; round += 1) {
  const memory = new Memory();
  for (let stroke = 1; stroke <= 8; stroke += 1) {
    const { changed, after } = written(round * 10 + stroke);
    let altered = 0;
    const time = timeOf(() => {
      altered = reachOf(source, after, changed, components, recipes, { memory }).length;
    });
    if (altered === 0) throw new Error('The change alters nothing.');
    (stroke === 1 ? reach.first : reach.next).push(time);
  }
}
lines.push(
  row(`reach of a change on ${variants} variants, first asked`, spreadOf(reach.first), '2,000'),
  row('the same after one more stroke', spreadOf(reach.next), '300'),
);

const compare = { first: [] as number[], again: [] as number[] };
for (let round = 0; round < 3; round += 1) {
  const memory = new Memory();
  const both = (): unknown =>
    comparePublications(
      assemblePublication(source, made.recipe(0), memory),
      assemblePublication(source, made.recipe(1), memory),
    );
  compare.first.push(timeOf(both));
  for (let turn = 0; turn < 4; turn += 1) compare.again.push(timeOf(both));
}
lines.push(
  row('two variants compared, first asked', spreadOf(compare.first), '3,000'),
  row('the same again', spreadOf(compare.again), '500'),
);

const kept = new Memory();
const records = recipes.map((recipe) => {
  const assembled = assemblePublication(source, recipe, kept);
  return recordBuild(assembled, recipe, [{ format: web, rendition: { files: [], fonts: [] } }], hashOf);
});
const freshness: number[] = [];
for (let revision = 2; revision < 10; revision += 1) {
  const saved = { ...made.withShared(revision), axes };
  const tools = { memory: kept, formats: [web], digest: hashOf };
  freshness.push(timeOf(() => records.forEach((record, at) => void staleness(record, saved, made.recipe(at), tools))));
}
lines.push(row(`freshness of ${variants} variants after a save`, spreadOf(freshness), '500'));

console.log(lines.join('\n'));
console.log(
  `\n${count} words in one variant; peak of this process ${Math.round(process.resourceUsage().maxRSS / 1024)} MB`,
);
