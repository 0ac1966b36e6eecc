import { collectionRows } from './collection-rows';

describe('The tree of collections', () => {
  const collections = [
    { name: 'Legal/Markets/Europe', count: 2 },
    { name: 'Legal', count: 1 },
    { name: 'Legalese', count: 5 },
    { name: 'Cover', count: 0 },
  ];
  const drawn = (...open: readonly string[]): readonly string[] =>
    collectionRows(collections, new Set(open)).map(
      ({ name, level, count, hasInner, isOpen }) =>
        `${'.'.repeat(level - 1)}${name} ${count}${hasInner ? (isOpen ? ' -' : ' +') : ''}`,
    );

  it('has a line for each, and for those that only hold others, with all that is below counted', () => {
    expect(drawn()).toEqual(['Cover 0', 'Legal 3 +', 'Legalese 5']);
    expect(drawn('Legal')).toEqual(['Cover 0', 'Legal 3 -', '.Markets 2 +', 'Legalese 5']);
    expect(drawn('Legal', 'Legal/Markets')).toEqual([
      'Cover 0',
      'Legal 3 -',
      '.Markets 2 -',
      '..Europe 2',
      'Legalese 5',
    ]);
  });
});
