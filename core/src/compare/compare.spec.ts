import fc from 'fast-check';
import { assemblePublication } from '../assemble/assemble.js';
import { Memory } from '../assemble/memory.js';
import { makeNode, type ContentNode } from '../model/node.js';
import type { Component } from '../model/component.js';
import type { OutlineEntry, Recipe } from '../model/publication.js';
import {
  entry,
  list,
  only,
  p,
  place,
  publicationOf,
  recipeOf,
  section,
  snippet,
  sourceOf,
  topic,
  words,
} from '../../../tests/support/library-parts.js';
import { comparePassages, comparePublications, compareWords } from './compare.js';
import type { Unit } from './units.js';

const mac: Partial<Recipe> = {
  profile: { axes: { os: { default: 'out', in: ['mac'] }, level: { default: 'out', in: ['basic'] } } },
};
const assemble = (components: readonly Component[], entries: readonly OutlineEntry[], more: Partial<Recipe> = {}) =>
  assemblePublication(sourceOf(components), recipeOf(publicationOf(entries), more));
const one = [entry('e1', 't')];
const withId = (id: string, node: ContentNode): ContentNode => ({ ...node, attrs: { ...node.attrs, id } });
const unit = (text: string, block: string | null = null): Unit => ({
  type: 'paragraph',
  text,
  component: 't',
  block,
  when: null,
});
const kinds = (before: readonly Unit[], after: readonly Unit[]) =>
  comparePassages(before, after).map(({ kind, before: from, after: to }) => [
    kind,
    from?.text ?? null,
    to?.text ?? null,
  ]);

describe('Comparing two variants', () => {
  it('finds nothing where there is nothing', () => {
    const components = [topic('t', p('a'), list(p('b')))];
    const changes = comparePublications(assemble(components, one), assemble(components, one));
    expect(changes.map((change) => change.kind)).toEqual(['same']);
    expect(changes[0]?.passages.every((passage) => passage.kind === 'same')).toBeTrue();
  });

  it('tells the same of what was compared with something else in between', () => {
    const memory = new Memory();
    const components = [
      topic('t', p('shared'), only('os is linux', p('for linux')), only('os is mac', p('for mac'))),
      topic('u', p('in all')),
    ];
    const outline = publicationOf([...one, entry('e2', 'u')]);
    const built = (more: Partial<Recipe>, remembered = memory) =>
      assemblePublication(sourceOf(components), recipeOf(outline, more), remembered);
    const both: Partial<Recipe> = { profile: { axes: {} } };
    for (const [from, to] of [
      [{}, mac],
      [{}, both],
      [{}, mac],
      [both, mac],
      [{}, both],
    ] as const) {
      const anew = comparePublications(built(from, new Memory()), built(to, new Memory()));
      expect(comparePublications(built(from), built(to))).toEqual(anew);
    }
  });

  it('tells what only one has, with the component, the block and the condition that it comes from', () => {
    const components = [
      topic('t', p('shared'), withId('b1', only('os is linux', p('for linux'))), place('s')),
      snippet('s', withId('x', only('os is mac', p('for mac')))),
    ];
    const [change] = comparePublications(assemble(components, one), assemble(components, one, mac));
    const found = change?.passages
      .filter((passage) => passage.kind !== 'same')
      .map(({ kind, before, after }) => [kind, before ?? after]);
    expect(found).toEqual([
      ['removed', { type: 'paragraph', text: 'for linux', component: 't', block: 'b1', when: 'os is linux' }],
      ['added', { type: 'paragraph', text: 'for mac', component: 's', block: 'x', when: 'os is mac' }],
    ]);
  });

  it('shows word by word what reads differently', () => {
    const components = [
      topic('t', withId('b1', p('Press ', words('os is linux', 'Ctrl'), words('os is mac', 'Cmd'), ' now'))),
    ];
    const [change] = comparePublications(assemble(components, one), assemble(components, one, mac));
    const passage = change?.passages.find((each) => each.kind === 'changed');
    expect(passage?.words).toEqual([
      { kind: 'same', text: 'Press ' },
      { kind: 'removed', text: 'Ctrl' },
      { kind: 'added', text: 'Cmd' },
      { kind: 'same', text: ' now' },
    ]);
  });

  it('tells which entries came, went, moved or changed', () => {
    const components = ['a', 'b', 'c', 'd', 'e'].map((key) => topic(key, p(`text of ${key}`)));
    const outline = (...keys: string[]): OutlineEntry[] => keys.map((key, at) => entry(`e${at}`, key));
    const before = assemble(components, outline('a', 'b', 'c', 'e'));
    const after = assemble(components, outline('c', 'a', 'b', 'd'));
    expect(comparePublications(before, after).map(({ kind, topic: key }) => [kind, key])).toEqual([
      ['moved', 'c'],
      ['removed', 'e'],
      ['same', 'a'],
      ['same', 'b'],
      ['added', 'd'],
    ]);
  });

  it('sees an entry that went a level in, and keeps repeated topics apart', () => {
    const components = [topic('a', p('x')), topic('b', p('y'))];
    const before = assemble(components, [entry('e1', 'a'), entry('e2', 'b'), entry('e3', 'b')]);
    const after = assemble(components, [entry('e1', 'a', { entries: [entry('e2', 'b')] }), entry('e3', 'b')]);
    expect(
      comparePublications(before, after).map(({ kind, topic: key, occurrence }) => [kind, key, occurrence]),
    ).toEqual([
      ['same', 'a', 0],
      ['moved', 'b', 0],
      ['same', 'b', 1],
    ]);
  });

  it('compares headings, captions and pictures as well', () => {
    const figure = (caption: string): ContentNode =>
      withId(
        'f',
        makeNode('figure', null, [
          makeNode('picture', { component: 'i' }),
          makeNode('caption', null, p(caption).content),
        ]),
      );
    const image: Component = {
      key: 'i',
      kind: 'image',
      title: 'i',
      revision: 1,
      body: {
        type: 'image',
        alt: '',
        file: { digest: 'a'.repeat(64), mediaType: 'image/png', width: 1, height: 1 },
        versions: [
          { when: 'os is mac', file: { digest: 'b'.repeat(64), mediaType: 'image/png', width: 1, height: 1 } },
        ],
      },
    };
    const before = assemble([topic('t', section('s', 'Old', p('x')), figure('one')), image], one);
    const after = assemble([topic('t', section('s', 'New', p('x')), figure('two')), image], one, mac);
    const changed = comparePublications(before, after)[0]?.passages.filter((passage) => passage.kind === 'changed');
    expect(changed?.map(({ before: from, after: to }) => [from?.type, from?.text, to?.text])).toEqual([
      ['title', 'Old', 'New'],
      ['picture', '[i aaaaaaaa]', '[i bbbbbbbb]'],
      ['caption', 'one', 'two'],
    ]);
  });

  it('compares formulas and recordings, and what is said in these', () => {
    const media = (digest: string, address: string, said: string): ContentNode =>
      makeNode('media', { recording: digest.repeat(64), mediaType: 'video/mp4', name: 'mast.mp4', address }, [p(said)]);
    const formula = (source: string): ContentNode => makeNode('display_formula', { source });
    const of = (...blocks: readonly ContentNode[]) => assemble([topic('t', ...blocks)], one);
    const before = of(formula('x^2'), media('a', '', 'Lift it.'), media('b', '', 'Same.'));
    const after = of(formula('x^3'), media('c', '', 'Lift.'), media('b', 'https://example.org/', 'Same.'));
    const changed = comparePublications(before, after)[0]?.passages.filter((passage) => passage.kind === 'changed');
    expect(changed?.map(({ before: from, after: to }) => [from?.type, from?.text, to?.text])).toEqual([
      ['display_formula', 'x^2', 'x^3'],
      ['media', '[mast.mp4 aaaaaaaa]', '[mast.mp4 cccccccc]'],
      ['paragraph', 'Lift it.', 'Lift.'],
      ['media', '[mast.mp4 bbbbbbbb]', '[mast.mp4 bbbbbbbb https://example.org/]'],
    ]);
  });
});

describe('Comparing passages', () => {
  it('tells a changed passage from one that went and another that came', () => {
    expect(kinds([unit('a', 'b1'), unit('b', 'b2')], [unit('a', 'b1'), unit('c', 'b2')])).toEqual([
      ['same', 'a', 'a'],
      ['changed', 'b', 'c'],
    ]);
    expect(kinds([unit('b', 'b2')], [unit('c', 'b3')])).toEqual([
      ['removed', 'b', null],
      ['added', null, 'c'],
    ]);
  });

  it('sees what moved, word for word', () => {
    expect(kinds([unit('a'), unit('b'), unit('c')], [unit('c'), unit('a'), unit('b')])).toEqual([
      ['moved', 'c', 'c'],
      ['same', 'a', 'a'],
      ['same', 'b', 'b'],
    ]);
  });

  it('accounts for every passage of both, once and in order', () => {
    const passages = fc.array(
      fc
        .tuple(fc.constantFrom('a', 'b', 'c', 'd'), fc.constantFrom(null, 'b1', 'b2'))
        .map(([text, block]) => unit(text, block)),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(passages, passages, (before, after) => {
        const changes = comparePassages(before, after);
        expect(changes.flatMap((change) => (change.after ? [change.after.text] : []))).toEqual(
          after.map((each) => each.text),
        );
        expect(changes.flatMap((change) => (change.before ? [change.before] : [])).length).toBe(before.length);
        for (const { kind, before: from, after: to } of changes) {
          if (kind === 'same' || kind === 'moved') expect(from?.text).toBe(to?.text as string);
          if (kind === 'changed') expect(from?.text).not.toBe(to?.text as string);
        }
      }),
    );
  });

  it('keeps as much of the order as can be kept', () => {
    // The longest common subsequence, by the textbook recurrence (T. H. Cormen et al., “Introduction to
    // Algorithms”, 15.4 in the third edition).
    const longest = (a: readonly string[], b: readonly string[]): number => {
      const table = Array.from({ length: a.length + 1 }, () => new Array<number>(b.length + 1).fill(0));
      for (let i = 1; i <= a.length; i += 1) {
        for (let j = 1; j <= b.length; j += 1) {
          (table[i] as number[])[j] =
            a[i - 1] === b[j - 1]
              ? (table[i - 1]?.[j - 1] ?? 0) + 1
              : Math.max(table[i - 1]?.[j] ?? 0, table[i]?.[j - 1] ?? 0);
        }
      }
      return table[a.length]?.[b.length] ?? 0;
    };
    const texts = fc.array(fc.constantFrom('a', 'b', 'c', 'd', 'e'), { maxLength: 9 });
    fc.assert(
      fc.property(texts, texts, (a, b) => {
        const changes = comparePassages(
          a.map((text) => unit(text)),
          b.map((text) => unit(text)),
        );
        expect(changes.filter((change) => change.kind === 'same').length).toBe(longest(a, b));
      }),
    );
  });

  it('makes both texts again out of the runs of words', () => {
    const sentence = fc
      .array(fc.constantFrom('the', 'station', 'reports', 'wind', ',', ' ', '4X', '\n'), { maxLength: 12 })
      .map((parts) => parts.join(' '));
    fc.assert(
      fc.property(sentence, sentence, (before, after) => {
        const runs = compareWords(before, after);
        const text = (leave: string): string =>
          runs
            .filter((run) => run.kind !== leave)
            .map((run) => run.text)
            .join('');
        expect(text('added')).toBe(before);
        expect(text('removed')).toBe(after);
      }),
    );
  });
});
