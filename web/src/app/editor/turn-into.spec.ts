import { checkBody, type ContentNode } from '@allomorph/core';
import { editingState } from './editing-state';
import { vocabulary } from './testing';
import { notationOf, stampedNotation, stateOf } from './testing-notation';
import { blockKinds, kindAtCursor, turnInto, type BlockKind } from './turn-into';

const stateAt = (notation: string) =>
  stateOf(notation, (doc) =>
    editingState(
      doc.toJSON() as ContentNode,
      { selector: null, vocabulary, mode: 'ghost' },
      { openInsertMenu: () => undefined },
    ),
  );

describe('A block turned into another kind', () => {
  const table: readonly (readonly [before: string, kind: BlockKind, after: string])[] = [
    ['p{a|b}', 'bullet_list', 'ul{li{p{a|b}}}'],
    ['p!{a|b}', 'bullet_list', 'ul!{li{p{a|b}}}'],
    ['p{[a} p!{b]}', 'steps', 'steps{step{p{|a}} step!{p{b}}}'],
    ['ul{li{p{a|}} li!{p{b}}}', 'steps', 'steps{step{p{a|}} step!{p{b}}}'],
    ['ol!{li{p{a|}}}', 'bullet_list', 'ul!{li{p{a|}}}'],
    ['ul{li{p{a}} li!{p{b|} p{c}}}', 'paragraph', 'p{a} p!{b|} p!{c}'],
    ['steps!{step{p{a|}}}', 'paragraph', 'p!{a|}'],
    ['p{a|}', 'warning', 'warning{p{a|}}'],
    ['p!{a|}', 'note', 'note!{p{a|}}'],
    ['note{h{t} p{a|}}', 'warning', 'warning{h{t} p{a|}}'],
    ['note!{p{a} p{b|}}', 'paragraph', 'p!{a} p!{b|}'],
    ['note{h{t} p{a|}}', 'quotation', 'q{p{t} p{a|}}'],
    ['ex{h{t} p{a|}}', 'note', 'note{h{t} p{a|}}'],
    ['p{a|}', 'code_block', 'code{a|}'],
    ['ul{li{p{a|}} li{p{b}}}', 'code_block', 'code{a|¶b}'],
    ['code!{a|}', 'paragraph', 'p!{a|}'],
    ['p{x} p{a|} p{b}', 'section', 'p{x} s{h{a|} p{b}}'],
    ['s!{h{a|} p{b}}', 'paragraph', 'p!{a|} p!{b}'],
    ['s{h{a|} p{b}}', 'bullet_list', 'ul{li{p{a|}}} p{b}'],
    ['<q{p{a}}', 'note', 'note{p{|a}}'],
    ['<s{h{a} p{b}}', 'paragraph', 'p{|a} p{b}'],
  ];
  const stamped = table.flatMap(([before, kind, wanted]) => {
    const own = stampedNotation(before);
    return own === null ? [] : [[own, kind, wanted.replaceAll('!', '*')] as const];
  });
  for (const [before, kind, wanted] of [...table, ...stamped]) {
    it(`keeps its words, ids and conditions: ${before} as ${kind}`, () => {
      const state = stateAt(before);
      let after = state;
      expect(turnInto(kind)(state, (tr) => (after = state.apply(tr)))).toBeTrue();
      const made = notationOf(after);
      expect(wanted.includes('|') ? made : made.replace('|', '')).toBe(wanted);
      expect(checkBody(after.doc.toJSON() as ContentNode)).toEqual([]);
    });
  }

  it('keeps the words of a limited paragraph limited as the title of a section', () => {
    const state = stateAt('p!{a|} p{b}');
    let after = state;
    turnInto('section')(state, (tr) => (after = state.apply(tr)));
    const title = after.doc.child(1).child(0);
    expect(title.child(0).marks.map(({ type, attrs }) => [type.name, attrs['when']])).toEqual([
      ['condition', 'os is linux'],
    ]);
  });

  it('says what it is', () => {
    for (const [notation, kind] of [
      ['p{|a}', 'paragraph'],
      ['ul{li{p{|a}}}', 'bullet_list'],
      ['warning{p{|a}}', 'warning'],
      ['s{h{|a}}', 'section'],
      ['code{|a}', 'code_block'],
      ['table{grid{row{td{p{|a}}}}}', 'paragraph'],
      ['fig{pic{} cap{|a}}', null],
    ] as const)
      expect(kindAtCursor(stateAt(notation)))
        .withContext(notation)
        .toBe(kind);
  });

  it('is refused where nothing of the kind may stand, and changes nothing', () => {
    for (const notation of ['note{p{|a}}', 'ul{li{p{|a}}}', 'table{grid{row{td{p{|a}}}}}'])
      expect(turnInto('section')(stateAt(notation))).toBeFalse();
    for (const { name } of blockKinds) expect(turnInto(name)(stateAt('fig{pic{} cap{|a}}'))).toBeFalse();
  });
});
