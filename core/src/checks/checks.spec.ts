import { makeNode, makeText, type ContentNode } from '../model/node.js';
import { p, section } from '../../../tests/support/library-parts.js';
import { checkWriting, firstCheckSettings, type CheckFinding, type CheckSettings } from './checks.js';

const topic = (...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText('T')]), ...flow]);
const check = (body: ContentNode, settings: Partial<CheckSettings> = {}, language = 'en'): readonly CheckFinding[] =>
  checkWriting(
    body,
    { ...firstCheckSettings, ...settings },
    { language, altOf: (image) => (image === 'known' ? 'A mast' : '') },
  );
const told = (body: ContentNode, settings: Partial<CheckSettings> = {}, language = 'en'): readonly string[] =>
  check(body, settings, language).map(({ kind, path }) => `${kind} ${path.join('.')}`);
const step = (...blocks: ContentNode[]): ContentNode => makeNode('step', null, blocks);
const steps = (...list: ContentNode[]): ContentNode => makeNode('steps', null, list);
const warning = makeNode('admonition', { kind: 'warning' }, [p('Hot.')]);

describe('Checks', () => {
  it('find pictures without alternative text, in figures and in lines', () => {
    const picture = (component: string, alt: string | null = null): ContentNode =>
      makeNode('picture', { component, alt });
    const figure = (...parts: ContentNode[]): ContentNode => makeNode('figure', null, parts);
    const body = topic(
      figure(picture('known')),
      figure(picture('bare')),
      figure(picture('bare', 'Own')),
      p('a ', makeNode('image', { component: 'bare', alt: null })),
    );
    expect(told(body)).toEqual(['alternative-text 2.0', 'alternative-text 4.1']);
  });

  it('find sections that are too deep, empty or without a title', () => {
    const deep = section('a', 'A', section('b', 'B', section('c', 'C', section('d', 'D', p('x')))));
    expect(told(topic(deep))).toEqual(['heading-depth 1.1.1.1']);
    expect(told(topic(deep), { mostLevels: 4 })).toEqual([]);
    expect(check(topic(section('a', 'A', makeNode('paragraph'))))[0]).toEqual(
      jasmine.objectContaining({ kind: 'empty-section', path: [1], mend: { kind: 'remove' } }),
    );
    expect(told(topic(makeNode('section', null, [makeNode('title'), p('x')])))).toEqual(['empty-section 1']);
  });

  it('find words to avoid as whole words, with better ones, and leave code alone', () => {
    const avoid = [
      { words: 'simply', better: '' },
      { words: 'log in', better: 'sign in' },
      { words: 'a.b', better: 'c' },
    ];
    const body = topic(
      p('Log  in to it; simplyfied, ', makeText('log in', [{ type: 'code' }]), ' axb'),
      makeNode('code_block', null, [makeText('simply')]),
      p('Simply put'),
    );
    expect(check(body, { avoid }).map(({ message, path, mend }) => [message, path.join(), mend])).toEqual([
      ['“Log  in” is not wanted: rather “sign in”.', '1', { kind: 'words', from: 0, to: 7, becomes: 'Sign in' }],
      ['“Simply” is not wanted.', '3', null],
    ]);
  });

  it('find sentences of too many words, each by itself', () => {
    const words = (count: number): string =>
      `${['Word', ...Array.from({ length: count - 1 }, () => 'word')].join(' ')}.`;
    expect(told(topic(p(`${words(30)} ${words(30)}`)))).toEqual([]);
    expect(check(topic(p(`${words(3)} ${words(31)}`))).map(({ message }) => message)).toEqual([
      jasmine.stringMatching(/^A sentence of 31 words; no more than 30 are wanted: “Word word .* …”$/),
    ]);
    expect(told(topic(p(words(12))), { mostWords: 10 })).toEqual(['long-sentence 1']);
  });

  it('find steps that say no act, in the languages that they know', () => {
    const body = topic(
      steps(
        step(p('Press OK.')),
        step(p('The display lights up.')),
        step(makeNode('paragraph')),
        step(makeNode('placement', { component: 'x' })),
      ),
    );
    expect(told(body)).toEqual(['step-without-act 1.1', 'step-without-act 1.2']);
    expect(told(topic(steps(step(p('Die Anzeige leuchtet.')))), {}, 'de-AT')).toEqual(['step-without-act 1.0']);
    expect(told(topic(steps(step(p('Die Anzeige leuchtet.')))), {}, 'fr')).toEqual([]);
  });

  it('find warnings that come too late, and how they come in time', () => {
    expect(
      check(topic(steps(step(p('Open it.'), warning), step(warning, p('Close it.'))), warning)).map(
        ({ kind, path, mend }) => [kind, path.join('.'), mend],
      ),
    ).toEqual([
      ['late-warning', '1.0.1', { kind: 'to the front' }],
      ['late-warning', '2', null],
    ]);
  });

  it('are switched off one by one', () => {
    const body = topic(section('a', 'A'), steps(step(p('It is on.'), warning)));
    expect(told(body).length).toBe(3);
    const off = { 'empty-section': 'Drafts.', 'late-warning': 'House style.' };
    expect(told(body, { off })).toEqual(['step-without-act 2.0']);
  });
});
