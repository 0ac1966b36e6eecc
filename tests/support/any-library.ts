import fc from 'fast-check';
import { makeNode, makeText, type ContentNode } from '../../core/src/content/node.js';
import type { Component, ComponentBody, ComponentLabels, ImageBody } from '../../core/src/library/component.js';
import type { Profile } from '../../core/src/variation/profile.js';
import { component, fragment, phrase, title } from './library-parts.js';

/** Random libraries for tests that must hold for every library. */

const when = fc.constantFrom(
  'os is linux',
  'os is mac',
  'level is basic',
  'level is expert',
  'os is linux and level is basic',
  'not os is mac',
);
const maybe = <T>(arbitrary: fc.Arbitrary<T>): fc.Arbitrary<T | null> => fc.option(arbitrary, { freq: 2, nil: null });
const text = fc.constantFrom('rain', ' wind', 'sun ', 'the mast.', 'a < b', ', then');
const snippets = ['s1', 's2', 's3'] as const;

const inline: fc.Arbitrary<ContentNode> = fc.oneof(
  { weight: 4, arbitrary: text.map((each) => makeText(each)) },
  {
    weight: 2,
    arbitrary: fc
      .tuple(text, when)
      .map(([each, limit]) => makeText(each, [{ type: 'condition', attrs: { when: limit } }])),
  },
  { weight: 1, arbitrary: text.map((each) => makeText(each, [{ type: 'strong' }])) },
  { weight: 1, arbitrary: text.map((each) => makeText(each, [{ type: 'defined_term' }])) },
  { weight: 2, arbitrary: fc.constantFrom('v1', 'v2', '@chapter-title').map((key) => makeNode('variable', { key })) },
  {
    weight: 1,
    arbitrary: fc
      .tuple(
        fc.constantFrom('t1', 't2', null),
        fc.constantFrom(null, null, 'b2', 'b3'),
        fc.constantFrom('number', 'title', 'number-title'),
      )
      .map(([key, target, form]) =>
        makeNode('cross_reference', { component: key ?? (target === null ? 't1' : null), target, form }),
      ),
  },
  { weight: 1, arbitrary: text.map((primary) => makeNode('index_marker', { primary: primary.trim() })) },
);

const paragraph = fc
  .tuple(maybe(when), fc.array(inline, { minLength: 1, maxLength: 4 }))
  .map(([limit, content]) => makeNode('paragraph', { when: limit }, content));

const slot = maybe(fc.constant('subject')).map((matching) => makeNode('slot', { collection: 'tips', matching }));

function blocks(depth: number, slots: boolean): fc.Arbitrary<ContentNode> {
  const simple = fc.oneof(
    { weight: 4, arbitrary: paragraph },
    {
      weight: 2,
      arbitrary: fc
        .tuple(fc.constantFrom(...snippets), maybe(when))
        .map(([key, limit]) => makeNode('placement', { component: key, when: limit })),
    },
    {
      weight: 1,
      arbitrary: maybe(when).map((limit) =>
        makeNode('figure', { when: limit }, [
          makeNode('picture', { component: 'img' }),
          makeNode('caption', null, [makeText('A picture')]),
        ]),
      ),
    },
    ...(slots ? [{ weight: 1, arbitrary: slot }] : []),
  );
  if (depth === 0) return simple;
  const inner = blocks(depth - 1, slots);
  return fc.oneof(
    { weight: 3, arbitrary: simple },
    {
      weight: 1,
      arbitrary: fc.array(fc.tuple(maybe(when), paragraph), { minLength: 1, maxLength: 3 }).map((items) =>
        makeNode(
          'bullet_list',
          null,
          items.map(([limit, item]) => makeNode('list_item', { when: limit }, [item])),
        ),
      ),
    },
    {
      weight: 1,
      arbitrary: fc
        .tuple(paragraph, paragraph, when)
        .map(([first, other, limit]) =>
          makeNode('choice', null, [
            makeNode('branch', { when: limit }, [first]),
            makeNode('branch', { when: null }, [other]),
          ]),
        ),
    },
    {
      weight: 2,
      arbitrary: fc
        .tuple(maybe(when), text, fc.array(inner, { minLength: 1, maxLength: 3 }))
        .map(([limit, heading, flow]) => makeNode('section', { when: limit }, [title(heading), ...flow])),
    },
  );
}

/** Gives blocks ids by their positions, as saving does. */
function named(body: ContentNode): ContentNode {
  let next = 0;
  const blocksWithIds = new Set([
    'paragraph',
    'section',
    'figure',
    'placement',
    'slot',
    'bullet_list',
    'list_item',
    'choice',
  ]);
  const visit = (node: ContentNode): ContentNode => ({
    ...node,
    ...(blocksWithIds.has(node.type) ? { attrs: { ...node.attrs, id: `b${(next += 1)}` } } : {}),
    ...(node.content ? { content: node.content.map(visit) } : {}),
  });
  return visit(body);
}

const flow = (depth: number, slots: boolean) => fc.array(blocks(depth, slots), { minLength: 1, maxLength: 4 });
const heading = fc
  .tuple(text, fc.array(inline, { maxLength: 2 }))
  .map(([first, more]) => makeNode('title', null, [makeText(first), ...more]));
const topicBody = fc
  .tuple(heading, flow(2, true))
  .map(([own, content]) => named(makeNode('topic', null, [own, ...content])));
// Snippets place only plain paragraphs and slots, so that no placement closes a cycle.
const snippetBody = fc
  .tuple(fc.array(paragraph, { minLength: 1, maxLength: 3 }), fc.array(slot, { maxLength: 1 }))
  .map(([content, slots]) => named(fragment(...content, ...slots)));
// What stands in slots has none.
const tipBody = fc.array(paragraph, { minLength: 1, maxLength: 3 }).map((content) => named(fragment(...content)));
const value = text.map((each) => phrase(each));
const variableBody = fc.tuple(maybe(value), value, when).map(([otherwise, special, limit]) => ({
  type: 'variable' as const,
  default: otherwise,
  rules: [{ when: limit, language: null, value: special }],
}));
const image: ImageBody = {
  type: 'image',
  alt: 'x',
  file: { digest: '0'.repeat(64), mediaType: 'image/png', width: 1, height: 1 },
  versions: [],
};

/** The body of a component of a random library, by its key. */
const bodies = {
  t1: topicBody,
  t2: topicBody,
  t3: topicBody,
  s1: snippetBody,
  s2: tipBody,
  s3: tipBody,
  v1: variableBody,
  v2: variableBody,
};
const kinds = { t: 'topic', s: 'snippet', v: 'variable' } as const;
const tags = fc.subarray(['rain', 'wind']).map((subject) => ({ subject }));
const inTips = fc.tuple(fc.constantFrom('tips', null), tags).map(([collection, own]) => ({ collection, tags: own }));
const inNone = tags.map((own) => ({ collection: null, tags: own }));

/** The labels of a component of a random library, by its key. */
const labels = { t1: inNone, t2: inNone, t3: inNone, s2: inTips, s3: inTips };

/** Components that make up a library: topics `t1` to `t3`, snippets, variables, an image. */
export const anyLibrary: fc.Arbitrary<readonly Component[]> = fc
  .tuple(fc.record(bodies), fc.record(labels))
  .map(([record, labelled]) => [
    ...Object.entries(record).map(([key, body]) => ({
      ...component(kinds[key[0] as keyof typeof kinds], key, body),
      ...(key in labelled ? { labels: labelled[key as keyof typeof labels] } : {}),
    })),
    component('image', 'img', image),
  ]);

/** A library before and after a change to one of its components. */
export interface Change {
  readonly before: readonly Component[];
  readonly after: readonly Component[];
  readonly key: string;
}

const changed = <T extends Partial<Component>>(key: string, change: fc.Arbitrary<T>): fc.Arbitrary<Change> =>
  fc.tuple(anyLibrary, change).map(([before, other]) => ({
    before,
    after: before.map((each) => (each.key === key ? { ...each, ...other } : each)),
    key,
  }));

/** A component gets another body. */
export const anyChange = fc.oneof(
  ...Object.entries(bodies).map(([key, body]) =>
    changed(key, fc.record({ body: body as fc.Arbitrary<ComponentBody>, revision: fc.constant(2) })),
  ),
);

/** A component gets other labels, which makes no new revision. */
export const anyRelabelling = fc.oneof(
  ...Object.entries(labels).map(([key, own]) =>
    changed(key, fc.record({ labels: own as fc.Arbitrary<ComponentLabels> })),
  ),
);

/** The four profiles that the axes of the tests have. */
export const profiles: readonly Profile[] = ['linux', 'mac'].flatMap((os) =>
  ['basic', 'expert'].map(
    (level) => ({ axes: { os: { default: 'out', in: [os] }, level: { default: 'out', in: [level] } } }) as const,
  ),
);
export const anyProfile: fc.Arbitrary<Profile> = fc.constantFrom(...profiles);
