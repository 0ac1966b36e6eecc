import type { ContentNode } from '@allomorph/core';
import { insertFootnote } from './footnotes';
import { after, editorOn } from './testing';
import { readNotation } from './testing-notation';

describe('A new footnote', () => {
  const written = (notation: string, behind: string): ContentNode => {
    const state = editorOn(readNotation(notation).doc.toJSON() as ContentNode, behind);
    const done = after(state, insertFootnote);
    return done.apply(done.tr.insertText('note')).doc.toJSON() as ContentNode;
  };
  const shape = ({ type, text, attrs, content = [] }: ContentNode): string =>
    text ??
    `${type}${attrs?.['target'] === 'b1' || attrs?.['id'] === 'b1' ? '!' : ''}(${content.map(shape).join(' ')})`;

  it('is called at the cursor, and stands behind the paragraph, to be written', () => {
    expect(shape(written('p{one two} p{three}', 'one'))).toContain(
      'paragraph(one footnote_reference!()  two) footnote!(paragraph(note)) paragraph(three)',
    );
  });

  it('stands behind the list or table that calls it, in the section that has it', () => {
    expect(shape(written('s{h{T} ul{li{p{a}} li{p{b}}} p{c}}', 'a'))).toContain(
      'list_item(paragraph(b))) footnote!(paragraph(note)) paragraph(c)',
    );
    expect(shape(written('s{h{T} p{c}} s{h{U} table{grid{row{td{p{x}}}}}}', 'x'))).toMatch(
      /x footnote_reference!\(\).*footnote!\(paragraph\(note\)\)\)\)$/,
    );
    expect(shape(written('s{h{Title} p{c}}', 'Title'))).toContain('footnote!(paragraph(note)) paragraph(c)');
  });
});
