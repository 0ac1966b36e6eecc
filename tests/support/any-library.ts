import fc from 'fast-check';
import { idsAfter, assignIds } from '../../core/src/content/body.js';
import {
  componentFrom,
  type Component,
  type ComponentBody,
  type ComponentKind,
  type ComponentLabels,
  type ImageBody,
} from '../../core/src/model/component.js';
import { admonitionKinds } from '../../core/src/model/kinds.js';
import { makeNode, makeText, type ContentMark, type ContentNode } from '../../core/src/model/node.js';
import type { Profile } from '../../core/src/model/profile.js';
import type { OutlineEntry, Publication, Recipe } from '../../core/src/model/publication.js';
import type { Source } from '../../core/src/model/source.js';
import type { Stamp } from '../../core/src/model/stamp.js';
import { plainDesign } from '../../core/src/design/design.js';
import { shippedDesign } from '../../core/src/design/shipped.js';
import { axes, component, entry, publicationOf, recipeOf, sourceOf, title } from './library-parts.js';

/**
 * Random libraries for tests that must hold for every library: every kind of node in every place that the schema allows,
 * placements of every sort, targets that are missing and come later.
 */

const when = fc.constantFrom(
  'os is linux',
  'os is mac',
  'level is basic',
  'level is expert',
  'os is linux and level is basic',
  'not os is mac',
  'os is linux, mac',
  'not (os is linux or level is expert)',
);
const maybe = <T>(arbitrary: fc.Arbitrary<T>): fc.Arbitrary<T | null> => fc.option(arbitrary, { freq: 2, nil: null });

/** One without a condition, one with, and one that derives from it and asks for more. */
export const anyStamps: readonly Stamp[] = [
  { key: 'plain', title: 'Plain', on: 'both', from: null, when: null },
  { key: 'basic', title: 'Basic', on: 'both', from: null, when: 'level is basic' },
  { key: 'linux.basic', title: 'Basic on Linux', on: 'both', from: 'basic', when: 'os is linux' },
];
const anyStamp = fc.constantFrom(...anyStamps.map(({ key }) => key));
const stamp = fc.oneof({ weight: 8, arbitrary: fc.constant(null) }, { weight: 1, arbitrary: anyStamp });
/** What may stand on a block. */
const limits = fc.record({ when: maybe(when), stamp });

const text = fc.constantFrom('rain', ' wind', 'sun ', 'the mast.', 'a < b', ', then', '(', ')', ' ', 'so, ', '“', '”');
const word = fc.constantFrom('rain', 'wind', 'sun', 'mast');
const collections = ['tips', 'none'] as const;

// Keys that name what is there in some libraries only: what is missing may come later.
const topics = ['t1', 't2', 't3', 't4'] as const;
const fragments = ['s1', 's2', 's3', 's4'] as const;
const phrases = ['p1', 'p2'] as const;
const variables = ['v1', 'v2', 'v3', 'v4'] as const;

const marks: fc.Arbitrary<readonly ContentMark[]> = fc.oneof(
  { weight: 5, arbitrary: fc.constant([]) },
  {
    weight: 3,
    arbitrary: when.map((limit): readonly ContentMark[] => [{ type: 'condition', attrs: { when: limit } }]),
  },
  { weight: 1, arbitrary: anyStamp.map((key): readonly ContentMark[] => [{ type: 'stamp', attrs: { stamp: key } }]) },
  { weight: 1, arbitrary: fc.constantFrom<readonly ContentMark[]>([{ type: 'strong' }], [{ type: 'defined_term' }]) },
  {
    weight: 1,
    arbitrary: fc.constantFrom<readonly ContentMark[]>(
      [{ type: 'link', attrs: { href: 'https://a.example/{+v1}/x' } }],
      [{ type: 'link', attrs: { href: 'b.html' } }, { type: 'emphasis' }],
    ),
  },
);
const withMarks = (node: ContentNode, own: readonly ContentMark[]): ContentNode =>
  own.length > 0 ? { ...node, marks: own } : node;

const targets = [null, null, 'b2', 'b3', 'b5', 'b8'] as const;
const anyReference = fc
  .record({
    component: fc.constantFrom(...topics, ...fragments, null),
    target: fc.constantFrom(...targets),
    form: fc.constantFrom('number', 'title', 'number-title', 'page'),
  })
  .map(({ component: key, target, form }) =>
    makeNode('cross_reference', { component: key ?? (target === null ? 't1' : null), target, form }),
  );

/** Formulas in TeX, some of which cannot be drawn. */
const formulas = ['x^2', '\\frac{a}{\\sqrt{b}} < \\alpha', '\\sum_{i=1}^n \\text{each } i', '\\frac{1', '', '5 %'];

const leaf: fc.Arbitrary<ContentNode> = fc.oneof(
  {
    weight: 3,
    arbitrary: fc
      .constantFrom(...variables, '@chapter-title', '@publication-title', '@language', '@revision', '@build-date')
      .map((key) => makeNode('variable', { key })),
  },
  { weight: 2, arbitrary: anyReference },
  {
    weight: 2,
    arbitrary: fc
      .tuple(fc.constantFrom(...phrases, 's1', 'gone'), fc.constantFrom('live', 'live', 'held'))
      .map(([key, mode]) =>
        makeNode('inline_placement', { component: key, mode, revision: mode === 'held' ? 1 : null }),
      ),
  },
  {
    weight: 1,
    arbitrary: fc
      .tuple(word, maybe(word), maybe(word))
      .map(([primary, secondary, see]) => makeNode('index_marker', { primary, secondary, see })),
  },
  { weight: 1, arbitrary: fc.constantFrom('b4', 'b6').map((target) => makeNode('footnote_reference', { target })) },
  { weight: 1, arbitrary: fc.constant(makeNode('line_break')) },
  { weight: 1, arbitrary: fc.constantFrom(...formulas).map((source) => makeNode('formula', { source })) },
  { weight: 1, arbitrary: fc.constantFrom('link', 'gone').map((key) => makeNode('external_link', { component: key })) },
  {
    weight: 1,
    arbitrary: fc
      .tuple(fc.constantFrom('img', 'gone'), maybe(when))
      .map(([key, limit]) => makeNode('image', { component: key, when: limit })),
  },
);

const inline: fc.Arbitrary<ContentNode> = fc
  .tuple(fc.oneof({ weight: 2, arbitrary: text.map((each) => makeText(each)) }, { weight: 1, arbitrary: leaf }), marks)
  .map(([node, own]) => withMarks(node, own));
const line = (least: number, most: number): fc.Arbitrary<ContentNode[]> =>
  fc.array(inline, { minLength: least, maxLength: most });

const paragraph = fc.tuple(limits, line(0, 4)).map(([own, content]) => makeNode('paragraph', own, content));
const captionOf = (kind: 'caption' | 'title'): fc.Arbitrary<ContentNode[]> =>
  fc
    .option(
      line(0, 2).map((content) => makeNode(kind, null, content)),
      { nil: null },
    )
    .map((made) => (made ? [made] : []));

const placement = fc
  .record({
    component: fc.constantFrom(...fragments, ...topics, ...phrases, 'v1', 'gone'),
    when: maybe(when),
    stamp,
    mode: fc.constantFrom('live', 'live', 'live', 'held'),
    section: fc.constantFrom(null, null, null, 'b2', 'b3'),
    withTitle: fc.boolean(),
  })
  .map((attrs) => makeNode('placement', { ...attrs, revision: attrs.mode === 'held' ? 1 : null }));

const slot = fc
  .record({
    collection: fc.constantFrom(...collections),
    matching: maybe(fc.constant('subject')),
    stated: maybe(fc.constant('s3')),
    when: maybe(when),
  })
  .map((attrs) => makeNode('slot', attrs));

const picture = fc
  .record({ component: fc.constantFrom('img', 'img', 'gone'), when: maybe(when), alt: maybe(word) })
  .map((attrs) => makeNode('picture', attrs));

/** The blocks that stand anywhere, sections aside. */
function block(depth: number, placements: number): fc.Arbitrary<ContentNode> {
  const simple = fc.oneof(
    { weight: 24, arbitrary: paragraph },
    // What is placed in what is placed grows with a power: few snippets place others.
    { weight: placements, arbitrary: placement },
    { weight: placements > 4 ? 3 : 1, arbitrary: slot },
    {
      weight: 4,
      arbitrary: fc
        .tuple(maybe(when), line(0, 2))
        .map(([limit, content]) => makeNode('code_block', { when: limit }, content)),
    },
    {
      weight: 1,
      arbitrary: fc
        .tuple(maybe(when), fc.constantFrom(...formulas))
        .map(([limit, source]) => makeNode('display_formula', { when: limit, source })),
    },
  );
  if (depth === 0) return simple;
  const inner = block(depth - 1, placements);
  const some = fc.array(inner, { minLength: 1, maxLength: 3 });
  const limited = maybe(when);
  const items = (kind: 'list_item' | 'step') =>
    fc.array(
      fc.tuple(limits, some).map(([own, flow]) => makeNode(kind, own, flow)),
      { minLength: 1, maxLength: 3 },
    );
  const containers = fc.oneof(
    ...(['bullet_list', 'ordered_list'] as const).map((kind) =>
      fc.tuple(limited, items('list_item')).map(([limit, list]) => makeNode(kind, { when: limit }, list)),
    ),
    fc.tuple(limited, items('step')).map(([limit, list]) => makeNode('steps', { when: limit }, list)),
    fc
      .tuple(limits, fc.constantFrom(...admonitionKinds), captionOf('title'), some)
      .map(([own, kind, heading, flow]) => makeNode('admonition', { ...own, kind }, [...heading, ...flow])),
    fc
      .tuple(limited, some)
      .map(([limit, flow]) => makeNode('quotation', { when: limit, attribution: 'A. Fennick' }, flow)),
    fc
      .tuple(limited, captionOf('title'), some)
      .map(([limit, heading, flow]) => makeNode('example', { when: limit }, [...heading, ...flow])),
    fc.tuple(limited, some).map(([limit, flow]) => makeNode('footnote', { when: limit }, flow)),
    fc
      .tuple(limited, some)
      .map(([limit, flow]) => makeNode('copied', { when: limit, component: 's1', revision: 1 }, flow)),
    fc
      .tuple(limited, fc.array(fc.tuple(when, some), { minLength: 1, maxLength: 2 }), maybe(some))
      .map(([limit, branches, otherwise]) =>
        makeNode('choice', { when: limit }, [
          ...branches.map(([each, flow]) => makeNode('branch', { when: each }, flow)),
          ...(otherwise ? [makeNode('branch', null, otherwise)] : []),
        ]),
      ),
    fc
      .tuple(limited, fc.oneof(fc.array(picture, { minLength: 1, maxLength: 2 }), some), captionOf('caption'))
      .map(([limit, shown, heading]) => makeNode('figure', { when: limit }, [...shown, ...heading])),
    fc
      .tuple(
        limited,
        fc.array(
          fc
            .tuple(limits, fc.array(fc.tuple(limited, line(1, 2)), { minLength: 1, maxLength: 2 }), some)
            .map(([own, terms, flow]) =>
              makeNode('definition', own, [
                ...terms.map(([each, content]) => makeNode('term', { when: each }, content)),
                makeNode('description', null, flow),
              ]),
            ),
          { minLength: 1, maxLength: 2 },
        ),
      )
      .map(([limit, list]) => makeNode('definition_list', { when: limit }, list)),
    table(inner),
  );
  return fc.oneof({ weight: 3, arbitrary: simple }, { weight: 2, arbitrary: containers });
}

/** Tables with spans and limited rows and columns. */
function table(inner: fc.Arbitrary<ContentNode>): fc.Arbitrary<ContentNode> {
  const cell = fc
    .tuple(
      fc.constantFrom('table_cell', 'table_header'),
      fc.constantFrom(1, 1, 2),
      fc.constantFrom(1, 1, 2),
      fc.array(inner, { minLength: 1, maxLength: 2 }),
    )
    .map(([kind, colspan, rowspan, flow]) => makeNode(kind as 'table_cell', { colspan, rowspan }, flow));
  const row = fc
    .tuple(limits, fc.boolean(), fc.array(cell, { minLength: 0, maxLength: 3 }))
    .map(([own, header, cells]) => makeNode('table_row', { ...own, header: header || null }, cells));
  return fc
    .tuple(
      limits,
      captionOf('caption'),
      maybe(fc.array(maybe(when), { minLength: 1, maxLength: 4 })),
      fc.array(row, { minLength: 1, maxLength: 4 }),
    )
    .map(([own, heading, columnLimits, rows]) => {
      const columns = columnLimits?.map((each) => ({ width: null, when: each })) ?? null;
      return makeNode('table', own, [...heading, makeNode('table_grid', { columns }, rows)]);
    });
}

function flowBlock(depth: number, placements: number): fc.Arbitrary<ContentNode> {
  if (depth === 0) return block(0, placements);
  return fc.oneof(
    { weight: 3, arbitrary: block(depth, placements) },
    {
      weight: 1,
      arbitrary: fc
        .tuple(
          limits,
          fc.boolean(),
          line(0, 2),
          fc.array(flowBlock(depth - 1, placements), { minLength: 0, maxLength: 3 }),
        )
        .map(([own, numbered, heading, flow]) =>
          makeNode('section', { ...own, numbered: numbered ? null : false }, [title(...heading), ...flow]),
        ),
    },
  );
}

/** Gives blocks ids, as saving does. */
const named = (body: ContentNode): ContentNode => assignIds(body, idsAfter(body));

const flow = fc.array(flowBlock(2, 12), { minLength: 1, maxLength: 4 });
/** The condition of a component of its own: most have none. */
const ownWhen = fc.oneof({ weight: 3, arbitrary: fc.constant(null) }, { weight: 1, arbitrary: when });
const topicBody = fc
  .tuple(line(0, 3), flow, ownWhen)
  .map(([heading, content, own]) => named(makeNode('topic', { when: own }, [title(...heading), ...content])));
const fragmentBody = fc
  .tuple(fc.array(flowBlock(1, 3), { minLength: 1, maxLength: 3 }), ownWhen)
  .map(([content, own]) => named(makeNode('fragment', { when: own }, content)));
const phraseBody = fc.tuple(line(0, 4), ownWhen).map(([content, own]) => makeNode('phrase', { when: own }, content));
const value = line(0, 3).map((content) => makeNode('phrase', null, content));
const variableBody = fc
  .tuple(
    maybe(value),
    fc.array(fc.tuple(maybe(when), maybe(fc.constantFrom('de', 'en', 'en-GB')), value), { maxLength: 2 }),
  )
  .map(([otherwise, rules]) => ({
    type: 'variable' as const,
    default: otherwise,
    rules: rules.map(([limit, language, each]) => ({ when: limit, language, value: each })),
  }));
const file = (digit: string): ImageBody['file'] => ({
  digest: digit.repeat(64),
  mediaType: 'image/png',
  width: 1,
  height: 1,
});
const imageBody = fc.tuple(word, fc.array(when, { maxLength: 2 })).map(([alt, limits]): ImageBody => ({
  type: 'image',
  alt,
  file: file('0'),
  versions: limits.map((limit, at) => ({ when: limit, file: file(String(at + 1)) })),
}));
const linkBody = fc
  .constantFrom('https://a.example/{+v1}', 'mailto:a@b.example')
  .map((href) => ({ type: 'link' as const, href, label: '' }));

/** The kind and body of a component of a random library, by its key. */
const parts: Readonly<Record<string, { readonly kind: ComponentKind; readonly body: fc.Arbitrary<ComponentBody> }>> = {
  ...Object.fromEntries(topics.map((key) => [key, { kind: 'topic', body: topicBody }])),
  ...Object.fromEntries(fragments.map((key) => [key, { kind: 'snippet', body: fragmentBody }])),
  ...Object.fromEntries(phrases.map((key) => [key, { kind: 'snippet', body: phraseBody }])),
  ...Object.fromEntries(variables.map((key) => [key, { kind: 'variable', body: variableBody }])),
  img: { kind: 'image', body: imageBody },
  link: { kind: 'link', body: linkBody },
} as const;
const keys = Object.keys(parts);
const isRare = new Set(['t4', 's4', 'v4']);

const labels: fc.Arbitrary<ComponentLabels> = fc
  .tuple(fc.constantFrom('tips', null), fc.subarray(['rain', 'wind']))
  .map(([collection, subject]) => ({ collection, tags: { subject } }));

const anyComponent = (key: string): fc.Arbitrary<Component> => {
  const { kind, body } = parts[key] as (typeof parts)[string];
  return fc.tuple(body, labels).map(([made, own]) =>
    componentFrom({
      ...component(kind, key, made),
      ...(kind === 'topic' || kind === 'snippet' ? { labels: own } : {}),
    }),
  );
};

/** Components that make up a library: topics, snippets of blocks and phrases, variables, an image, a link. */
export const anyLibrary: fc.Arbitrary<readonly Component[]> = fc
  .tuple(
    fc.tuple(...keys.map(anyComponent)),
    fc.tuple(...keys.map((key) => (isRare.has(key) ? fc.boolean() : fc.constant(true)))),
  )
  .map(([all, there]) => all.filter((_, at) => there[at]));

/** One edit of a library: a component gets another body or other labels, comes or goes. */
export type Edit = (
  components: readonly Component[],
  held: readonly Component[],
) => {
  readonly components: readonly Component[];
  readonly held: readonly Component[];
};

export const anyEdit: fc.Arbitrary<Edit> = fc.constantFrom(...keys).chain((key) =>
  fc.oneof(
    {
      weight: 6,
      arbitrary: anyComponent(key).map((made): Edit => (components, held) => {
        const before = components.find((each) => each.key === key);
        // A key is never used again for other content: what went comes back as a later revision.
        const last = Math.max(
          0,
          before?.revision ?? 0,
          ...held.filter((each) => each.key === key).map(({ revision }) => revision),
        );
        const now = componentFrom({
          ...made,
          ...(before?.labels ? { labels: before.labels } : {}),
          revision: last + 1,
        });
        return {
          components: [...components.filter((each) => each.key !== key), now],
          held: before ? [...held, before] : held,
        };
      }),
    },
    {
      weight: 2,
      arbitrary: labels.map((own): Edit => (components, held) => ({
        components: components.map((each) =>
          each.key === key && (each.kind === 'snippet' || each.kind === 'topic') ? { ...each, labels: own } : each,
        ),
        held,
      })),
    },
    {
      weight: 1,
      arbitrary: fc.constant<Edit>((components, held) => {
        const before = components.find((each) => each.key === key);
        return { components: components.filter((each) => each !== before), held: before ? [...held, before] : held };
      }),
    },
  ),
);

/** The four profiles that choose on both axes of the tests. */
export const profiles: readonly Profile[] = ['linux', 'mac'].flatMap((os) =>
  ['basic', 'expert'].map(
    (level) => ({ axes: { os: { default: 'out', in: [os] }, level: { default: 'out', in: [level] } } }) as const,
  ),
);
/** Those, and some that leave an axis open. */
export const anyProfile: fc.Arbitrary<Profile> = fc.constantFrom<Profile>(
  ...profiles,
  { axes: { os: { default: 'out', in: ['mac'] } } },
  { axes: { level: { default: 'in', out: ['expert'] } } },
  { axes: {} },
);

const phraseValues = fc.dictionary(fc.constantFrom('v1', 'v2'), value, { maxKeys: 1 });

/** An outline with nested publications, headings without topics, roles, conditions, titles and values. */
export const anyOutline: fc.Arbitrary<readonly OutlineEntry[]> = fc
  .tuple(
    fc.array(
      fc.record({
        what: fc.constantFrom<Partial<OutlineEntry>>(
          ...topics.map((key) => ({ topic: key })),
          { topic: 't9' },
          { publication: 'inner' },
          { publication: 'none' },
          { link: 'link' },
          { link: 'gone' },
          {},
        ),
        title: fc.option(word, { freq: 4, nil: null }),
        limit: fc.option(when, { freq: 4, nil: null }),
        role: fc.constantFrom(
          'auto',
          'auto',
          'auto',
          'chapter',
          'section',
          'front',
          'part',
          'appendix',
          'back',
          'book',
        ),
        values: phraseValues,
        below: fc.boolean(),
      }),
      { minLength: 2, maxLength: 7 },
    ),
  )
  .map(([list]) => {
    const roots: { -readonly [Member in keyof OutlineEntry]: OutlineEntry[Member] }[] = [];
    list.forEach(({ what, title: own, limit, role, values, below }, at) => {
      const made = {
        ...entry(`e${at + 1}`, ''),
        ...{ topic: undefined },
        ...what,
        title: own,
        when: limit,
        role,
        values,
        entries: [],
      };
      const last = roots.at(-1);
      if (below && last) last.entries = [...(last.entries ?? []), made as OutlineEntry];
      else roots.push(made as OutlineEntry);
    });
    return roots;
  });

/** The publication that stands in others; it may hold itself. */
const inner: fc.Arbitrary<Publication> = fc.tuple(value, fc.boolean(), phraseValues).map(([own, isCircle, values]) =>
  publicationOf([entry('e1', 't2'), ...(isCircle ? [{ id: 'e2', publication: 'inner' }] : [entry('e2', 't1')])], {
    key: 'inner',
    title: own,
    values,
  }),
);

/** What does not change from one build to the next. */
export interface Ground {
  readonly publications: Source['publications'];
  readonly recipe: Recipe;
}

export const anyGround: fc.Arbitrary<Ground> = fc
  .record({
    outline: anyOutline,
    inner,
    profile: anyProfile,
    leaveOutEmpty: fc.boolean(),
    language: fc.constantFrom('en', 'de', 'en-GB'),
    design: fc.constantFrom(plainDesign, shippedDesign('labelled')),
    heading: value,
    values: phraseValues,
    own: phraseValues,
  })
  .map(({ outline, inner: nested, heading, own, ...more }) => ({
    publications: new Map([['inner', nested]]),
    recipe: recipeOf(publicationOf(outline, { title: heading, values: own }), more),
  }));

export const sourceFor = (
  ground: Ground,
  components: readonly Component[],
  held: readonly Component[] = [],
): Source => ({
  ...sourceOf(components, held, anyStamps),
  axes,
  publications: ground.publications,
});
