import {
  componentFrom,
  libraryOf,
  makeNode,
  makeText,
  resolveDesign,
  type Axis,
  type Component,
  type ContentNode,
  type Profile,
  type Publication,
  type Recipe,
  type Source,
} from '@allomorph/core';

import { randomFrom } from './random.js';

/**
 * A made-up publication of any size. Everything follows from positions, so that every run measures the
 * same content: each topic has about 650 words, 12 conditions and 10 variables with what it places, 3
 * placements whose snippets place another snippet, and limited blocks inside limited blocks.
 */

const vocabulary =
  'station mast sensor rain wind reading display menu button cable battery shield clamp level memory card update signal hour value chart record limit alarm clock cover screw plate sun cold heat dust port light'.split(
    ' ',
  );

export const axes: readonly Axis[] = (
  [
    ['product', 12],
    ['audience', 4],
    ['market', 8],
    ['edition', 2],
  ] as const
).map(([key, count]) => ({
  key,
  title: key,
  values: Array.from({ length: count }, (_, at) => ({
    key: `${key[0] ?? ''}${at}`,
    title: `${key} ${at}`,
    code: `${at}`,
    colour: at % 8,
    pattern: at % 6,
  })),
}));

const stamps: Source['stamps'] = [];

/** The profile of a variant: one product, one market, one edition, and all audiences from one on. */
export function profileOf(variant: number): Profile {
  return {
    axes: {
      product: { default: 'out', in: [`p${variant % 12}`] },
      audience: { default: 'in', out: [`a${variant % 4}`] },
      market: { default: 'out', in: [`m${Math.floor(variant / 12) % 8}`] },
      edition: { default: 'out', in: [`e${variant % 2}`] },
    },
  };
}

/** The conditions that the content uses: about five in six blocks are in, in any one variant. */
export const conditions: readonly string[] = Array.from({ length: 60 }, (_, at) => {
  const products = Array.from({ length: 10 }, (_, each) => `p${(at + each) % 12}`).join(', ');
  const kinds = [
    `product is ${products}`,
    `not audience is a${at % 4} or edition is e${(at >> 2) % 2}`,
    `not market is m${(at >> 2) % 8}`,
    `product is ${products} and not market is m${((at >> 2) + 3) % 8}`,
  ];
  return kinds[at % kinds.length] as string;
});

class Writer {
  private readonly random: (below: number) => number;

  constructor(seed: number) {
    this.random = randomFrom(seed);
  }

  words(count: number): string {
    const list = Array.from({ length: count }, () => vocabulary[this.random(vocabulary.length)] as string);
    return `${list.join(' ')}.`;
  }

  when(): string {
    return conditions[this.random(conditions.length)] as string;
  }

  variable(): ContentNode {
    return makeNode('variable', { key: `name-${this.random(40)}` });
  }

  paragraph(count: number, ...inline: ContentNode[]): ContentNode {
    return makeNode('paragraph', null, [
      makeText(this.words(count)),
      ...inline.flatMap((node) => [makeText(' '), node, makeText(` ${this.words(3)}`)]),
    ]);
  }

  only(node: ContentNode): ContentNode {
    return { ...node, attrs: { ...node.attrs, when: this.when() } };
  }

  limitedWords(count: number): ContentNode {
    return makeText(this.words(count), [{ type: 'condition', attrs: { when: this.when() } }]);
  }

  list(...items: ContentNode[]): ContentNode {
    return makeNode(
      'bullet_list',
      null,
      items.map((item) => makeNode('list_item', null, [item])),
    );
  }

  limitedList(...items: ContentNode[]): ContentNode {
    return this.only(
      makeNode(
        'bullet_list',
        null,
        // The first item is always in, so that no list is left without items.
        items.map((item, at) =>
          at === 0 ? makeNode('list_item', null, [item]) : this.only(makeNode('list_item', null, [item])),
        ),
      ),
    );
  }

  section(title: string, ...flow: ContentNode[]): ContentNode {
    return makeNode('section', null, [makeNode('title', null, [makeText(title)]), ...flow]);
  }
}

function withIds(body: ContentNode): ContentNode {
  let next = 0;
  const named = new Set(['paragraph', 'section', 'bullet_list', 'list_item', 'placement']);
  const visit = (node: ContentNode): ContentNode => ({
    ...node,
    ...(named.has(node.type) ? { attrs: { ...node.attrs, id: `b${(next += 1)}` } } : {}),
    ...(node.content ? { content: node.content.map(visit) } : {}),
  });
  return visit(body);
}

/** The key of the snippet that `madeUpPublication` places in 40 topics, and that nothing else places. */
export const sharedSnippet = 'shared';

const sharedBody = (words: string): ContentNode =>
  withIds(makeNode('fragment', null, [new Writer(7).paragraph(40), makeNode('paragraph', null, [makeText(words)])]));

export interface MadeUp {
  readonly components: readonly Component[];
  readonly source: Source;
  readonly publication: Publication;
  recipe(variant: number): Recipe;
  /** The same source with a later revision of the shared snippet. */
  withShared(revision: number): Source;
}

export const unnumberedSettings = { 'numerals.chapter': 'none', 'numerals.section': 'none' } as const;

const unnumbered = { key: 'unnumbered', title: 'Unnumbered', from: null, settings: unnumberedSettings };

/** Makes the publication. Topics stand in chapters of 25, and 40 of them place the shared snippet. */
export function madeUpPublication(topics = 1000): MadeUp {
  const place = (key: string): ContentNode => makeNode('placement', { component: key });
  const inner = Array.from({ length: 200 }, (_, at): Component => {
    const w = new Writer(10_000 + at);
    return snippet(`inner-${at}`, w.paragraph(30, w.variable()), w.only(w.paragraph(12)));
  });
  const outer = Array.from({ length: 500 }, (_, at): Component => {
    const w = new Writer(20_000 + at);
    return snippet(`outer-${at}`, w.paragraph(35), place(`inner-${at % 200}`));
  });
  const sharedEvery = Math.max(1, Math.floor(topics / 40));
  const written = Array.from({ length: topics }, (_, at): Component => {
    const w = new Writer(30_000 + at);
    const body = makeNode('topic', null, [
      makeNode('title', null, [makeText(`Topic ${at}`)]),
      w.paragraph(50, w.variable(), w.limitedWords(6)),
      w.paragraph(60),
      place(`outer-${at % 500}`),
      w.section(
        'Before you begin',
        w.paragraph(40, w.variable(), w.variable()),
        w.limitedList(w.paragraph(8), w.paragraph(8), w.paragraph(8), w.paragraph(8, w.variable())),
        w.section('What you need', w.only(w.paragraph(40)), w.list(w.paragraph(8), w.paragraph(8, w.variable()))),
        place(at % sharedEvery === 0 && at / sharedEvery < 40 ? sharedSnippet : `outer-${(at * 7 + 3) % 500}`),
      ),
      w.section(
        'How it works',
        w.paragraph(55, w.limitedWords(5), w.variable()),
        w.only(w.section('In detail', w.paragraph(30, w.variable()), w.only(w.paragraph(25)))),
        place(`outer-${(at * 11 + 5) % 500}`),
        w.paragraph(45),
      ),
    ]);
    return { key: `topic-${at}`, kind: 'topic', title: `Topic ${at}`, revision: 1, body: withIds(body) };
  });
  const names = Array.from({ length: 40 }, (_, at): Component => {
    const phrase = (text: string): ContentNode => makeNode('phrase', null, [makeText(text)]);
    return {
      key: `name-${at}`,
      kind: 'variable',
      title: `name-${at}`,
      revision: 1,
      body: {
        type: 'variable',
        default: phrase(`Name ${at}`),
        rules: [{ when: `product is p${at % 12}`, language: null, value: phrase(`Special ${at} & Sons`) }],
      },
    };
  });
  const shared: Component = {
    key: sharedSnippet,
    kind: 'snippet',
    title: 'Shared',
    revision: 1,
    body: sharedBody('As it was.'),
  };
  const components = [...inner, ...outer, ...written, ...names, shared];
  const publication: Publication = {
    key: 'made-up',
    title: makeNode('phrase', null, [makeText('Made up')]),
    values: {},
    entries: Array.from({ length: Math.ceil(topics / 25) }, (_, chapter) => {
      const members = written.slice(chapter * 25, chapter * 25 + 25);
      const [first, ...rest] = members.map((topic) => ({ id: `e-${topic.key}`, topic: topic.key }));
      return { ...(first as { id: string; topic: string }), entries: rest };
    }),
  };
  const publications = new Map([[publication.key, publication]]);
  return {
    components,
    publication,
    source: { library: libraryOf(components), axes, stamps, publications },
    withShared: (revision) => {
      const body = sharedBody(`As it is in revision ${revision}.`);
      const after = components.map((each) =>
        each.key === sharedSnippet ? componentFrom({ ...each, revision, body }) : each,
      );
      return { library: libraryOf(after), axes, stamps, publications };
    },
    recipe: (variant) => ({
      publication,
      variantTitle: `Variant ${variant}`,
      profile: profileOf(variant),
      values: {},
      language: 'en',
      design: resolveDesign('unnumbered', [unnumbered], 'en'),
      buildDate: '2026-11-25',
      leaveOutEmpty: false,
    }),
  };
}

function snippet(key: string, ...flow: ContentNode[]): Component {
  return { key, kind: 'snippet', title: key, revision: 1, body: withIds(makeNode('fragment', null, flow)) };
}
