import { checkBody, type ContentNode } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { EditorView } from 'prosemirror-view';
import { editingState } from './editing-state';
import { vocabulary } from './testing';
import { notationOf, stateOf } from './testing-notation';

describe('What is made of typed signs', () => {
  let place: HTMLElement;
  beforeEach(() => {
    place = document.createElement('div');
    document.body.append(place);
  });
  afterEach(() => place.remove());

  let last: Node | null = null;

  /** Types a text as a keyboard would, `¶` for Enter and `⌫` for Backspace. */
  const typed = (before: string, text: string, language = 'en'): string => {
    const view = new EditorView(place, {
      state: stateOf(before, (doc) =>
        editingState(
          doc.toJSON() as ContentNode,
          { selector: null, vocabulary, mode: 'ghost' },
          { openInsertMenu: () => undefined, language: () => language },
        ),
      ),
    });
    for (const sign of text) {
      const key = { '¶': 'Enter', '⌫': 'Backspace' }[sign];
      const { from, to } = view.state.selection;
      if (key) view.dom.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
      else if (!view.someProp('handleTextInput', (handle) => handle(view, from, to, sign, () => view.state.tr)))
        view.dispatch(view.state.tr.insertText(sign, from, to));
    }
    const { state } = view;
    last = state.doc;
    view.destroy();
    expect(checkBody(state.doc.toJSON() as ContentNode)).toEqual([]);
    return notationOf(state);
  };

  const table: readonly (readonly [what: string, before: string, text: string, after: string, undone: string])[] = [
    ['a list', 'p{|}', '- ', 'ul{li{p{|}}}', 'p{- |}'],
    ['a numbered list', 'p{|}', '1. ', 'ol{li{p{|}}}', 'p{1. |}'],
    ['a quotation', 'p{|a}', '> ', 'q{p{|a}}', 'p{> |a}'],
    ['code', 'p{|}', '``` ', 'code{|}', 'p{``` |}'],
    ['code by Enter', 'p{|}', '```sh¶', 'code{|}', 'p{```sh|}'],
    ['a section', 'p{x} p{|a} p{b}', '# ', 'p{x} s{h{|a} p{b}}', 'p{x} p{# |a} p{b}'],
    ['a section below', 's{h{x} p{|a} p{b}}', '## ', 's{h{x} s{h{|a} p{b}}}', 's{h{x} p{## |a} p{b}}'],
    ['a section beside', 's{h{x} p{y} p{|a} p{b}}', '# ', 's{h{x} p{y}} s{h{|a} p{b}}', 's{h{x} p{y} p{# |a} p{b}}'],
    ['a table', 'p{|}', '| a | b |¶', 'table{grid{head{th{p{a}} th{p{b}}} row{td{p{|}} td{p{}}}}}', 'p{| a | b ||}'],
    ['quotation marks', 'p{a |}', '"b"', 'p{a “b”|}', 'p{a “b"|}'],
    ['an apostrophe', 'p{don|}', "'", 'p{don’|}', "p{don'|}"],
    ['an ellipsis', 'p{a|}', '...', 'p{a…|}', 'p{a...|}'],
    ['a dash', 'p{a |}', '-- ', 'p{a – |}', 'p{a -- |}'],
    ['a dash between numbers', 'p{1|}', '--2', 'p{1–2|}', 'p{1--2|}'],
    ['a long dash', 'p{a|}', '---', 'p{a—|}', 'p{a---|}'],
  ];
  for (const [what, before, text, after, undone] of table) {
    it(`is ${what}, and Backspace takes it back`, () => {
      expect(typed(before, text)).toBe(after);
      expect(typed(before, `${text}⌫`)).toBe(undone);
    });
  }

  it('is emphasis and code, without the signs', () => {
    for (const [text, wanted] of [
      ['a **b c** d', 'p{a b c d|}'],
      ['a *b* d', 'p{a b d|}'],
      ['a _b_ d', 'p{a b d|}'],
      ['a `b` d', 'p{a b d|}'],
      ['2 * 3 * 4', 'p{2 * 3 * 4|}'],
      ['a_b_c', 'p{a_b_c|}'],
    ] as const)
      expect(typed('p{|}', text)).toBe(wanted);
    expect(typed('p{|}', 'a **b**⌫')).toBe('p{a **b**|}');
  });

  it('is a formula, where TeX stands between two dollar signs, and no price', () => {
    for (const [text, source] of [
      ['a $x^2$', 'x^2'],
      ['($E$', 'E'],
      ["$f'(x) = 1$", "f'(x) = 1"],
    ] as const) {
      typed('p{|}', text);
      expect(last?.lastChild?.lastChild?.type.name).withContext(text).toBe('formula');
      expect(last?.lastChild?.lastChild?.attrs['source']).withContext(text).toBe(source);
    }
    expect(typed('p{|}', 'a $x^2$⌫')).toBe('p{a $x^2$|}');
    for (const text of ['$5 and 6$', '$5 = 6 $', 'a$x^2$', '$\\frac$', '$50 %$'])
      expect(typed('p{|}', text)).withContext(text).toBe(`p{${text}|}`);
    expect(typed('code{|}', '$x^2$')).toBe('code{$x^2$|}');
  });

  it('follows the language, and leaves code as it is typed', () => {
    expect(typed('p{|}', '"a" \'b\'', 'de')).toBe('p{„a“ ‚b‘|}');
    expect(typed('p{|}', '"a"', 'fr-CH')).toBe('p{«a»|}');
    expect(typed('code{|}', '"a" -- ...')).toBe('code{"a" -- ...|}');
    expect(typed('p{|}', '`"a"`')).toContain('“a”');
  });
});
