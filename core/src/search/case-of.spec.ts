import { inCaseOf } from './case-of.js';

describe('Words in the place of others', () => {
  it('have the capitals of these, unless it was said how they are written', () => {
    for (const [find, found, becomes, wanted] of [
      ['mast', 'mast', 'pole', 'pole'],
      ['mast', 'Mast', 'pole', 'Pole'],
      ['mast', 'MAST', 'pole', 'POLE'],
      ['mast', 'Mast', 'Pole', 'Pole'],
      ['Mast', 'mast', 'pole', 'pole'],
      ['wind vane', 'Wind vane', 'arrow of the wind', 'Arrow of the wind'],
      ['wind vane', 'wind Vane', 'arrow', 'arrow'],
      ['a', 'A', 'an', 'An'],
      ['5 mm', '5 MM', '6 mm', '6 MM'],
      ['mast', 'Mast', '', ''],
      ['über', 'Über', 'ölig', 'Ölig'],
    ] as const)
      expect(inCaseOf(find, found, becomes))
        .withContext(`${find} ${found} ${becomes}`)
        .toBe(wanted);
  });
});
