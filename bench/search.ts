import { componentFrom, makeNode, makeText, type Component, type ContentNode } from '@allomorph/core';
import { freshDatabase } from '../tests/support/fresh-database.js';
import { Database } from '../server/src/db/database.js';
import { actOnMany } from '../server/src/library/act-on-many.js';
import { insertComponents } from '../server/src/library/components.js';
import { findPassages } from '../server/src/library/passages.js';
import { findPlaces } from '../server/src/library/places.js';
import { listComponents } from '../server/src/library/search.js';
import { openWorkspace } from '../server/src/workspace.js';
import { randomFrom } from './made-up/random.js';
import { row, spreadOf } from './measure.js';

/**
 * How long it takes to find something in a library of ten thousand components: 7,000 topics of 120 words that use variables and
 * place snippets, over 15,000 different words whose frequencies fall as those of natural language do (Zipf 1935).
 */

const below = randomFrom(7);
const syllables = 'ba be co da du en fi ga hu in jo ka le mi no or pa qui ro su ta un ve wi xa yo zu'.split(' ');
const pick = <T>(list: readonly T[]): T => list[below(list.length)] as T;
const vocabulary = [
  ...new Set(
    Array.from({ length: 20_000 }, () => Array.from({ length: 2 + below(3) }, () => pick(syllables)).join('')),
  ),
].slice(0, 15_000);
/** A word, the more often the further ahead it stands in the vocabulary. */
const word = (): string => vocabulary[Math.floor(vocabulary.length ** (below(1_000_000) / 1_000_000)) - 1] ?? 'ba';
const words = (count: number): string => Array.from({ length: count }, word).join(' ');
const paragraph = (...content: ContentNode[]): ContentNode => makeNode('paragraph', null, content);

const variables = Array.from({ length: 400 }, (_, at) =>
  componentFrom({
    key: `v${at}`,
    kind: 'variable',
    title: words(2),
    revision: 1,
    body: { type: 'variable', default: makeNode('phrase', null, [makeText(words(2))]), rules: [] },
  }),
);
const snippets = Array.from({ length: 2_600 }, (_, at) =>
  componentFrom({
    key: `s${at}`,
    kind: 'snippet',
    title: words(3),
    revision: 1,
    body: makeNode('fragment', null, [paragraph(makeText(words(40)))]),
  }),
);
const topics = Array.from({ length: 7_000 }, (_, at): Component => {
  const title = words(4);
  return componentFrom({
    key: `t${at}`,
    kind: 'topic',
    title,
    revision: 1,
    body: makeNode('topic', null, [
      makeNode('title', null, [makeText(title)]),
      paragraph(
        makeText(`${words(40)} `),
        makeNode('variable', { key: pick(variables).key }),
        makeText(` ${words(40)}`),
      ),
      makeNode('placement', { component: pick(snippets).key }),
      makeNode('placement', { component: pick(snippets).key }),
      // Five places in each: 35,000 in all.
      ...Array.from({ length: 5 }, (_, section) =>
        makeNode('section', { id: `b${section}` }, [
          makeNode('title', null, [makeText(words(3))]),
          paragraph(makeText(words(5))),
        ]),
      ),
    ]),
  });
});

const database = await freshDatabase();
const db = new Database(database.url);
const workspace = await openWorkspace(db, 'empty');
const begun = performance.now();
await db.transaction(async (client) => {
  await insertComponents(client, { workspace, person: null }, [...variables, ...snippets, ...topics]);
});
console.log(row('10,000 components put in', spreadOf([performance.now() - begun]), ''));
await db.query('vacuum analyze');

const rare = vocabulary[9_000] ?? '';
const questions: Readonly<Record<string, string>> = {
  'a rare word': rare,
  'the most frequent word': vocabulary[0] ?? '',
  'two frequent words': `${vocabulary[25] ?? ''} ${vocabulary[40] ?? ''}`,
  'four words': [3, 40, 200, 900].map((at) => vocabulary[at] ?? '').join(' '),
  'two letters, as when typing begins': rare.slice(0, 2),
  'a rare word with a slip': `${rare.slice(0, 1)}${rare[2] ?? ''}${rare[1] ?? ''}${rare.slice(3)}`,
  'nothing, the first page of all': '',
};
for (const [what, find] of Object.entries(questions)) {
  const times: number[] = [];
  let total = 0;
  for (let turn = 0; turn < 12; turn += 1) {
    const start = performance.now();
    ({ total } = await listComponents(db, workspace, { find, usage: 'any', archived: 'no', offset: 0, limit: 60 }));
    if (turn > 1) times.push(performance.now() - start);
  }
  console.log(row(`search among 10,000 components: ${what}`, spreadOf(times), `${total} found`));
}
for (const [what, find] of Object.entries(questions).filter(([, words]) => words !== '')) {
  const times: number[] = [];
  let found = 0;
  for (let turn = 0; turn < 12; turn += 1) {
    const start = performance.now();
    found = (await findPlaces(db, workspace, find)).length;
    if (turn > 1) times.push(performance.now() - start);
  }
  console.log(row(`places to refer to among 35,000: ${what}`, spreadOf(times), `${found} offered`));
}

for (const [what, find] of Object.entries({ 'a rare word': rare, 'the most frequent word': vocabulary[0] ?? '' })) {
  const times: number[] = [];
  let found = 0;
  for (let turn = 0; turn < 12; turn += 1) {
    const start = performance.now();
    ({ length: found } = (await findPassages(db, workspace, { find, matchesCase: false, wholeWords: true })).items);
    if (turn > 1) times.push(performance.now() - start);
  }
  console.log(row(`words to replace in 10,000 components: ${what}`, spreadOf(times), `${found} components listed`));
}
const actor = { workspace, person: null };
const keys = topics.slice(0, 500).map(({ key }) => key);
const tag = { kind: 'tag', tag: 'subject', value: 'rain', on: true } as const;
for (const [what, act] of [
  ['tagged', tag],
  ['limited, each with a new revision', { kind: 'limit', when: 'os is linux' }],
] as const) {
  const start = performance.now();
  const { done } = await actOnMany(db, actor, { keys, act });
  console.log(row(`500 components ${what}`, spreadOf([performance.now() - start]), `${done.length} done`));
}
await db.close();
await database.drop();
