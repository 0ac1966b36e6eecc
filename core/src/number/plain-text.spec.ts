import { makeNode, makeText } from '../model/node.js';
import { admonitionKinds } from '../model/kinds.js';
import { outputWords } from '../output/words.js';
import { ProblemList, type Problem } from '../model/problem.js';
import { plainText } from './plain-text.js';

describe('Plain text', () => {
  it('folds spaces, takes line breaks for spaces, and quotes what is quoted', () => {
    const nodes = [
      makeText('  a\n'),
      makeNode('line_break'),
      makeText('b', [{ type: 'quote' }]),
      makeText(' c ', [{ type: 'strong' }]),
    ];
    expect(plainText(nodes)).toBe('a “b” c');
    expect(plainText([])).toBe('');
  });
});

describe('Words of the output', () => {
  it('are there for every admonition in each language, and English for languages that are not known', () => {
    for (const language of ['en', 'de', 'de-AT', 'xx']) {
      const words = outputWords(language);
      for (const kind of admonitionKinds)
        expect(words.admonitions[kind].length).withContext(`${language} ${kind}`).toBeGreaterThan(2);
    }
    expect(outputWords('de-AT').contents).toBe('Inhalt');
    expect(outputWords('xx')).toBe(outputWords('en-GB'));
  });

  it('keep the four signal words of ANSI Z535.6 apart', () => {
    for (const language of ['en', 'de']) {
      const { notice, caution, warning, danger } = outputWords(language).admonitions;
      expect(new Set([notice, caution, warning, danger]).size).toBe(4);
    }
  });
});

describe('Problems', () => {
  it('are told once each, by what they say and where', () => {
    const problem = (message: string, block: string | null): Problem => ({
      severity: 'error',
      code: 'missing-variable',
      message,
      place: { component: 'c', block, entry: null },
    });
    const list = new ProblemList();
    for (const each of [problem('a', 'b1'), problem('a', 'b1'), problem('a', 'b2'), problem('b', 'b1')]) list.add(each);
    expect(list.all.map(({ message, place }) => [message, place.block])).toEqual([
      ['a', 'b1'],
      ['a', 'b2'],
      ['b', 'b1'],
    ]);
  });
});
