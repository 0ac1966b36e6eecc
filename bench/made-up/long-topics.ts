import { componentFrom, makeNode, makeText, type Component, type ContentNode } from '@allomorph/core';
import { conditions } from './publication.js';
import { randomFrom } from './random.js';

const words =
  'anchor beacon cable drift echo flange gauge hinge inlet jack knob latch motor nozzle orifice pump quill rotor seal thrust'.split(
    ' ',
  );

const random = randomFrom(11);
const text = (count: number): ContentNode =>
  makeText(`${Array.from({ length: count }, () => words[random(words.length)]).join(' ')}. `);
const paragraph = (...content: readonly ContentNode[]): ContentNode => makeNode('paragraph', null, content);
const limited = (node: ContentNode): ContentNode => ({
  ...node,
  attrs: { ...node.attrs, when: conditions[random(conditions.length)] },
});
const heading = (title: string): ContentNode => makeNode('title', null, [makeText(title)]);

function component(key: string, kind: Component['kind'], title: string, body: Component['body']): Component {
  return componentFrom({ key, kind, title, revision: 1, body });
}

const placed = 60;
const variables = 20;

/** Sixty snippets and twenty variables that the long topic places and uses. */
function parts(): readonly Component[] {
  return [
    ...Array.from({ length: variables }, (_, at) => {
      const value = makeNode('phrase', null, [makeText(`${words[at % words.length]} ${at}`)]);
      return component(`long-v-${at}`, 'variable', `Long value ${at}`, {
        type: 'variable',
        default: value,
        rules: [{ when: conditions[at] ?? null, language: null, value }],
      });
    }),
    ...Array.from({ length: placed }, (_, at) =>
      component(
        `long-s-${at}`,
        'snippet',
        `Long snippet ${at}`,
        makeNode('fragment', null, [
          paragraph(text(20), makeNode('variable', { key: `long-v-${at % variables}` })),
          limited(paragraph(text(12))),
        ]),
      ),
    ),
  ];
}

/** A topic of five thousand written words and sixty placements, with lists, a table, variables and conditions. */
function longTopic(): Component {
  const section = (at: number): ContentNode =>
    makeNode('section', null, [
      heading(`Section ${at}`),
      paragraph(text(60), makeNode('variable', { key: `long-v-${at % variables}` }), text(20)),
      limited(paragraph(text(40))),
      makeNode('placement', { component: `long-s-${at * 2}` }),
      makeNode(
        'bullet_list',
        null,
        [0, 1, 2].map(() => makeNode('list_item', null, [paragraph(text(12))])),
      ),
      makeNode('placement', { component: `long-s-${at * 2 + 1}` }),
    ]);
  return component(
    'long',
    'topic',
    'Five thousand words',
    makeNode('topic', null, [
      heading('Five thousand words'),
      paragraph(text(40)),
      ...Array.from({ length: placed / 2 }, (_, at) => section(at)),
    ]),
  );
}

/** A topic that takes about 22,000 nodes of a page: tables of many rows. */
function hugeTopic(): Component {
  const cell = (): ContentNode => makeNode('table_cell', null, [paragraph(text(3))]);
  const row = (): ContentNode =>
    makeNode(
      'table_row',
      null,
      Array.from({ length: 6 }, () => cell()),
    );
  const table = (): ContentNode =>
    makeNode('table', null, [
      makeNode(
        'table_grid',
        null,
        Array.from({ length: 60 }, () => row()),
      ),
    ]);
  return component(
    'huge',
    'topic',
    'Many nodes',
    makeNode('topic', null, [
      heading('Many nodes'),
      paragraph(text(20)),
      ...Array.from({ length: 19 }, (_, at) =>
        makeNode('section', null, [heading(`Section ${at}`), limited(paragraph(text(30))), table()]),
      ),
    ]),
  );
}

export const longTopics = { long: 'long', huge: 'huge' };

export function makeLongTopics(): readonly Component[] {
  return [...parts(), longTopic(), hugeTopic()];
}
