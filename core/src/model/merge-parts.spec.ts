import { mergeParts, sameParts } from './merge-parts.js';

describe('What two people made of one thing', () => {
  const base = { title: 'T', values: { a: 1 }, entries: ['x'] };

  it('is put together where they changed different parts, or the same to the same', () => {
    const mine = { ...base, title: 'Mine', values: { a: 2 } };
    const theirs = { ...base, entries: ['x', 'y'], values: { a: 2 } };
    expect(mergeParts(base, mine, theirs)).toEqual({
      parts: { title: 'Mine', values: { a: 2 }, entries: ['x', 'y'] },
      both: [],
    });
    expect(mergeParts(base, base, theirs).parts).toEqual(theirs);
  });

  it('is not taken for changed where only the names of an object stand in another order', () => {
    const was = { title: 'T', value: { type: 'text', text: 'x' } };
    const mine = { ...was, value: { type: 'text', text: 'mine' } };
    const theirs = { title: 'Theirs', value: { text: 'x', type: 'text' } };
    expect(mergeParts(was, mine, theirs)).toEqual({ parts: { title: 'Theirs', value: mine.value }, both: [] });
    expect(sameParts(was, { value: theirs.value, title: 'T' })).toBeTrue();
  });

  it('names what both changed, and keeps mine of it', () => {
    const merged = mergeParts(base, { ...base, title: 'Mine' }, { ...base, title: 'Theirs', entries: [] });
    expect(merged).toEqual({ parts: { ...base, title: 'Mine', entries: [] }, both: ['title'] });
  });
});
