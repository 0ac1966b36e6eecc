import { checkBody, type ContentNode } from '@allomorph/core';
import { EditorView } from 'prosemirror-view';
import { vocabulary } from './testing';
import { editingState } from './editing-state';
import { notationOf, stampedNotation, stateOf } from './testing-notation';

/**
 * What keys do, place by place: this table is the wanted behaviour, and it is pressed in a real browser. Where the browser
 * itself does what is wanted, such as deleting a letter, the table says “browser”.
 */
type Row = readonly [key: string, place: string, before: string, after: string];

const browser = 'browser';

const table: readonly Row[] = [
  // Paragraphs.
  ['Enter', 'in the midst of a paragraph', 'p{on|e}', 'p{on} p{|e}'],
  ['Enter', 'at the start of a paragraph', 'p{|one}', 'p{} p{|one}'],
  ['Enter', 'at the end of a paragraph', 'p{one|}', 'p{one} p{|}'],
  ['Enter', 'in an empty paragraph', 'p{|}', 'p{} p{|}'],
  ['Enter', 'in the midst of a limited paragraph: both stay limited', 'p!{on|e}', 'p!{on} p!{|e}'],
  ['Enter', 'at the end of a limited paragraph: what follows is for all', 'p!{one|}', 'p!{one} p{|}'],
  ['Enter', 'with words selected', 'p{o[n]e}', 'p{o} p{|e}'],
  ['Enter', 'with a selection across paragraphs', 'p{o[ne} p{tw]o}', 'p{o} p{|o}'],
  ['Backspace', 'in the midst of a paragraph', 'p{on|e}', browser],
  ['Backspace', 'at the start of a paragraph behind one', 'p{one} p{|two}', 'p{one|two}'],
  ['Backspace', 'in an empty paragraph behind one', 'p{one} p{|}', 'p{one|}'],
  ['Backspace', 'with a selection across paragraphs', 'p{o[ne} p{tw]o}', 'p{o|o}'],
  ['Backspace', 'behind a variable: it goes as a whole', 'p{a •|b}', 'p{a |b}'],
  ['Delete', 'at the end of a paragraph before one', 'p{one|} p{two}', 'p{one|two}'],
  ['Delete', 'in an empty paragraph before one', 'p{|} p{two}', 'p{|two}'],
  ['Delete', 'at the end of the text', 'p{one|}', 'p{one|}'],
  ['Delete', 'in the midst of a paragraph', 'p{on|e}', browser],
  ['Tab', 'in a paragraph: stays', 'p{on|e}', 'p{on|e}'],
  ['Shift-Tab', 'in a paragraph: stays', 'p{on|e}', 'p{on|e}'],
  // Lists and steps.
  ['Enter', 'in the midst of an item', 'ul{li{p{on|e}}}', 'ul{li{p{on}} li{p{|e}}}'],
  ['Enter', 'at the start of an item', 'ul{li{p{|one}}}', 'ul{li{p{}} li{p{|one}}}'],
  ['Enter', 'at the end of an item', 'ul{li{p{one|}}}', 'ul{li{p{one}} li{p{|}}}'],
  ['Enter', 'at the end of a limited item: the next one is for all', 'ul{li!{p{one|}}}', 'ul{li!{p{one}} li{p{|}}}'],
  ['Enter', 'in an empty last item', 'ul{li{p{one}} li{p{|}}}', 'ul{li{p{one}}} p{|}'],
  ['Enter', 'in an empty item between others', 'ul{li{p{a}} li{p{|}} li{p{b}}}', 'ul{li{p{a}}} p{|} ul{li{p{b}}}'],
  ['Enter', 'in an only, empty item', 'ul{li{p{|}}}', 'p{|}'],
  ['Enter', 'in an empty nested item', 'ul{li{p{a} ul{li{p{b}} li{p{|}}}}}', 'ul{li{p{a} ul{li{p{b}}}} li{p{|}}}'],
  [
    'Enter',
    'in an empty point of a step',
    'steps{step{p{a} ul{li{p{b}} li{p{|}}}}}',
    'steps{step{p{a} ul{li{p{b}}} p{|}}}',
  ],
  ['Enter', 'in an empty last paragraph of an item', 'ul{li{p{a} p{|}}}', 'ul{li{p{a}} li{p{|}}}'],
  ['Enter', 'in an empty last paragraph of a step', 'steps{step{p{a} p{|}}}', 'steps{step{p{a}} step{p{|}}}'],
  [
    'Enter',
    'at the end of a substep',
    'steps{step{p{a} steps{step{p{b|}}}}}',
    'steps{step{p{a} steps{step{p{b}} step{p{|}}}}}',
  ],
  ['Backspace', 'at the start of a first item', 'p{a} ul{li{p{|one}}}', 'p{a} p{|one}'],
  [
    'Backspace',
    'at the start of a first item of several',
    'p{a} ul{li{p{|one}} li{p{two}}}',
    'p{a} p{|one} ul{li{p{two}}}',
  ],
  ['Backspace', 'at the start of a second item', 'ul{li{p{one}} li{p{|two}}}', 'ul{li{p{one} p{|two}}}'],
  ['Backspace', 'in an empty second item', 'ul{li{p{one}} li{p{|}}}', 'ul{li{p{one} p{|}}}'],
  ['Backspace', 'in an only, empty item', 'ul{li{p{|}}}', 'p{|}'],
  ['Backspace', 'at the start of a first step', 'steps{step{p{|one}}}', 'p{|one}'],
  ['Delete', 'at the end of an item', 'ul{li{p{one|}} li{p{two}}}', 'ul{li{p{one|} p{two}}}'],
  ['Tab', 'in a second item', 'ul{li{p{a}} li{p{b|}}}', 'ul{li{p{a} ul{li{p{b|}}}}}'],
  ['Tab', 'in a first item: stays', 'ul{li{p{b|}}}', 'ul{li{p{b|}}}'],
  ['Tab', 'in a second step', 'steps{step{p{a}} step{p{b|}}}', 'steps{step{p{a} steps{step{p{b|}}}}}'],
  ['Shift-Tab', 'in a nested item', 'ul{li{p{a} ul{li{p{b|}}}}}', 'ul{li{p{a}} li{p{b|}}}'],
  [
    'Shift-Tab',
    'in a nested item between others',
    'ul{li{p{a} ul{li{p{b|}} li{p{c}}}}}',
    'ul{li{p{a}} li{p{b|} ul{li{p{c}}}}}',
  ],
  ['Shift-Tab', 'in an item of the first level', 'ul{li{p{a|}}}', 'p{a|}'],
  ['Mod-Enter', 'in a list: behind it', 'ul{li{p{a|}}}', 'ul{li{p{a}}} p{|}'],
  ['Shift-Alt-ArrowDown', 'in an item', 'ul{li{p{a|}} li{p{b}}}', 'ul{li{p{b}} li{p{a|}}}'],
  ['Shift-Alt-ArrowUp', 'in an item', 'ul{li{p{a}} li{p{b|c}}}', 'ul{li{p{b|c}} li{p{a}}}'],
  // Definition lists.
  ['Enter', 'at the end of a term', 'dl{d{dt{a|} dd{p{b}}}}', 'dl{d{dt{a} dd{p{|b}}}}'],
  ['Enter', 'in the midst of a term', 'dl{d{dt{a|b} dd{p{c}}}}', 'dl{d{dt{a} dt{|b} dd{p{c}}}}'],
  ['Enter', 'in an empty second term', 'dl{d{dt{a} dt{|} dd{p{c}}}}', 'dl{d{dt{a} dd{p{|c}}}}'],
  ['Enter', 'at the end of a description', 'dl{d{dt{a} dd{p{b|}}}}', 'dl{d{dt{a} dd{p{b} p{|}}}}'],
  [
    'Enter',
    'in an empty last paragraph of a description',
    'dl{d{dt{a} dd{p{b} p{|}}}}',
    'dl{d{dt{a} dd{p{b}}} d{dt{|} dd{p{}}}}',
  ],
  ['Enter', 'in an empty last term', 'dl{d{dt{a} dd{p{b}}} d{dt{|} dd{p{}}}}', 'dl{d{dt{a} dd{p{b}}}} p{|}'],
  ['Enter', 'in an empty only term', 'dl{d{dt{|} dd{p{}}}}', 'p{|}'],
  ['Mod-Enter', 'in a term: another one', 'dl{d{dt{a|} dd{p{b}}}}', 'dl{d{dt{a} dt{|} dd{p{b}}}}'],
  ['Mod-Enter', 'in a description: behind the list', 'dl{d{dt{a} dd{p{b|}}}}', 'dl{d{dt{a} dd{p{b}}}} p{|}'],
  ['Tab', 'in a term', 'dl{d{dt{a|} dd{p{b}}}}', 'dl{d{dt{a} dd{p{|b}}}}'],
  ['Tab', 'in a description', 'dl{d{dt{a} dd{p{b|}}} d{dt{c} dd{p{d}}}}', 'dl{d{dt{a} dd{p{b}}} d{dt{|c} dd{p{d}}}}'],
  ['Tab', 'in the last description: stays', 'dl{d{dt{a} dd{p{b|}}}} p{c}', 'dl{d{dt{a} dd{p{b|}}}} p{c}'],
  ['Shift-Tab', 'in a description', 'dl{d{dt{a} dd{p{|b}}}}', 'dl{d{dt{a|} dd{p{b}}}}'],
  ['Backspace', 'at the start of a description', 'dl{d{dt{a} dd{p{|b}}}}', 'dl{d{dt{a|} dd{p{b}}}}'],
  [
    'Backspace',
    'at the start of a term',
    'dl{d{dt{a} dd{p{b}}} d{dt{|c} dd{p{d}}}}',
    'dl{d{dt{a} dd{p{b}}} d{dt{|c} dd{p{d}}}}',
  ],
  ['Backspace', 'at the start of a second term', 'dl{d{dt{a} dt{|b} dd{p{c}}}}', 'dl{d{dt{a|b} dd{p{c}}}}'],
  [
    'Backspace',
    'in an entry in which nothing is written',
    'dl{d{dt{a} dd{p{b}}} d{dt{|} dd{p{}}}}',
    'dl{d{dt{a} dd{p{b|}}}}',
  ],
  ['Backspace', 'in an only entry in which nothing is written', 'dl{d{dt{|} dd{p{}}}}', 'p{|}'],
  ['Delete', 'at the end of a term', 'dl{d{dt{a|} dd{p{b}}}}', 'dl{d{dt{a|} dd{p{b}}}}'],
  ['Delete', 'at the end of a description', 'dl{d{dt{a} dd{p{b|}}}} p{c}', 'dl{d{dt{a} dd{p{b|}}}} p{c}'],
  [
    'Shift-Alt-ArrowDown',
    'in a term',
    'dl{d{dt{a|} dd{p{b}}} d{dt{c} dd{p{d}}}}',
    'dl{d{dt{c} dd{p{d}}} d{dt{a|} dd{p{b}}}}',
  ],
  // What frames its content.
  ['Enter', 'in the midst of an admonition', 'note{p{on|e}}', 'note{p{on} p{|e}}'],
  ['Enter', 'in an empty last paragraph of an admonition', 'note{p{one} p{|}}', 'note{p{one}} p{|}'],
  ['Enter', 'in an empty paragraph in the midst of an admonition', 'note{p{a} p{|} p{b}}', 'note{p{a} p{} p{|} p{b}}'],
  ['Enter', 'in an empty admonition', 'note{p{|}}', 'p{|}'],
  ['Enter', 'in the empty text of an admonition with a title', 'note{h{a} p{|}}', 'note{h{a} p{}} p{|}'],
  ['Enter', 'in the title of an admonition', 'note{h{a|b} p{c}}', 'note{h{a} p{|b} p{c}}'],
  ['Enter', 'at the end of the title of an example', 'ex{h{a|} p{c}}', 'ex{h{a} p{|} p{c}}'],
  ['Enter', 'in an empty last paragraph of a quotation', 'q{p{a} p{|}}', 'q{p{a}} p{|}'],
  ['Enter', 'in an empty last paragraph of a footnote', 'fn{p{a} p{|}}', 'fn{p{a}} p{|}'],
  ['Backspace', 'at the start of an admonition', 'note{p{|a}}', 'p{|a}'],
  ['Backspace', 'at the start of an admonition of two paragraphs', 'note{p{|a} p{b}}', 'p{|a} note{p{b}}'],
  ['Backspace', 'at the start of a second paragraph of an admonition', 'note{p{a} p{|b}}', 'note{p{a|b}}'],
  ['Backspace', 'in the empty title of an admonition', 'note{h{|} p{b}}', 'note{p{|b}}'],
  ['Backspace', 'at the start of the title of an admonition', 'p{x} note{h{|a} p{b}}', 'p{x} note{h{|a} p{b}}'],
  ['Mod-Enter', 'in a warning: behind it', 'warning{p{a|}} p{b}', 'warning{p{a}} p{|} p{b}'],
  ['Mod-Enter', 'before an empty paragraph: into that', 'note{p{a|}} p{}', 'note{p{a}} p{|}'],
  // Code.
  ['Enter', 'in code', 'code{a|b}', 'code{a¶|b}'],
  ['Enter', 'behind two empty lines of code', 'code{a¶¶|}', 'code{a} p{|}'],
  ['Mod-Enter', 'in code: behind it', 'code{a|b}', 'code{ab} p{|}'],
  ['Backspace', 'in empty code', 'p{x} code{|}', 'p{x} p{|}'],
  ['Backspace', 'at the start of code', 'p{x} code{|a}', 'p{x} code{|a}'],
  ['Delete', 'at the end of code', 'code{a|} p{x}', 'code{a|} p{x}'],
  ['Tab', 'in code', 'code{a|b}', 'code{a  |b}'],
  ['Tab', 'with lines of code selected', 'code{a¶[b¶c]}', 'code{a¶  [b¶  c]}'],
  ['Shift-Tab', 'in code', 'code{a¶  b|}', 'code{a¶b|}'],
  // Figures, tables.
  ['Enter', 'in the caption of a figure', 'fig{pic{} cap{a|b}}', 'fig{pic{} cap{ab}} p{|}'],
  ['Enter', 'on a selected picture', 'fig{<pic{} cap{a}}', 'fig{pic{} cap{a}} p{|}'],
  ['Backspace', 'on a selected picture: the figure goes', 'p{x} fig{<pic{}}', 'p{x|}'],
  ['Backspace', 'in the empty caption of a figure', 'fig{pic{} cap{|}}', 'fig{<pic{}}'],
  ['Backspace', 'at the start of a caption', 'fig{pic{} cap{|a}}', 'fig{pic{} cap{|a}}'],
  ['Delete', 'at the end of a caption', 'fig{pic{} cap{a|}} p{b}', 'fig{pic{} cap{a|}} p{b}'],
  ['Backspace', 'at the start of text behind a figure: selects it', 'fig{pic{}} p{|a}', '<fig{pic{}} p{a}'],
  ['Enter', 'in the caption of a table', 'table{cap{a|} grid{row{td{p{b}}}}}', 'table{cap{a} grid{row{td{p{|b}}}}}'],
  ['Enter', 'in a cell', 'table{grid{row{td{p{a|b}}}}}', 'table{grid{row{td{p{a} p{|b}}}}}'],
  ['Mod-Enter', 'in a cell: behind the table', 'table{grid{row{td{p{a|b}}}}}', 'table{grid{row{td{p{ab}}}}} p{|}'],
  ['Tab', 'in a cell', 'table{grid{row{td{p{a|}} td{p{}}}}}', 'table{grid{row{td{p{a}} td{p{|}}}}}'],
  [
    'Tab',
    'in the last cell: a new row',
    'table{grid{row{td{p{a}} td{p{b|}}}}}',
    'table{grid{row{td{p{a}} td{p{b}}} row{td{p{|}} td{p{}}}}}',
  ],
  ['Shift-Tab', 'in the first cell: stays', 'table{grid{row{td{p{a|}}}}}', 'table{grid{row{td{p{a|}}}}}'],
  [
    'Backspace',
    'at the start of a cell',
    'table{grid{row{td{p{a}} td{p{|b}}}}}',
    'table{grid{row{td{p{a}} td{p{|b}}}}}',
  ],
  ['Delete', 'at the end of a cell', 'table{grid{row{td{p{a|}} td{p{b}}}}}', 'table{grid{row{td{p{a|}} td{p{b}}}}}'],
  [
    'Backspace',
    'in an empty paragraph behind a table: into it',
    'table{grid{row{td{p{a}}}}} p{|}',
    'table{grid{row{td{p{a|}}}}}',
  ],
  [
    'Shift-Alt-ArrowDown',
    'in a cell: the row',
    'table{grid{row{td{p{a|}}} row{td{p{b}}}}}',
    'table{grid{row{td{p{b}}} row{td{p{a|}}}}}',
  ],
  // Choices.
  ['Enter', 'at the end of a branch', 'choice{b!{p{a|}} b{p{b}}}', 'choice{b!{p{a} p{|}} b{p{b}}}'],
  ['Enter', 'in an empty last paragraph of a branch', 'choice{b!{p{a} p{|}} b{p{b}}}', 'choice{b!{p{a}} b{p{b}}} p{|}'],
  ['Backspace', 'at the start of a branch', 'choice{b!{p{a}} b{p{|b}}}', 'choice{b!{p{a}} b{p{|b}}}'],
  ['Delete', 'at the end of a branch', 'choice{b!{p{a|}} b{p{b}}}', 'choice{b!{p{a|}} b{p{b}}}'],
  ['Mod-Enter', 'in a branch: behind the choice', 'choice{b!{p{a|}} b{p{b}}}', 'choice{b!{p{a}} b{p{b}}} p{|}'],
  // Placed things.
  ['Enter', 'on a selected placement', '<pl{} p{a}', 'pl{} p{|} p{a}'],
  ['Backspace', 'behind a placement: selects it', 'pl{} p{|a}', '<pl{} p{a}'],
  ['Backspace', 'on a selected placement', 'p{x} <pl{} p{a}', 'p{x} p{|a}'],
  ['Delete', 'before a placement: selects it', 'p{a|} pl{}', 'p{a} <pl{}'],
  ['Delete', 'before a table: selects it', 'p{a|} table{grid{row{td{p{b}}}}}', 'p{a} <table{grid{row{td{p{b}}}}}'],
  ['Delete', 'in an empty paragraph before a placement', 'p{x} p{|} pl{}', 'p{x} <pl{}'],
  ['Backspace', 'with everything selected', 'p{[x} s{h{a} p{b]}}', 'p{|}'],
  ['Delete', 'with a selection from a paragraph into a section', 'p{a[b} s{h{c]d} p{e}}', 'p{a|d} p{e}'],
  ['Enter', 'with a selection across items', 'ul{li{p{a[b}} li{p{c]d}}}', 'ul{li{p{a}} li{p{|d}}}'],
  ['Delete', 'with a selection from a list into a paragraph', 'ul{li{p{a[b}}} p{c]d}', 'ul{li{p{a|d}}}'],
  ['Delete', 'with a selection out of an admonition', 'note{p{a[b}} p{c]d}', 'note{p{a|d}}'],
  // Sections and titles.
  ['Enter', 'at the end of a section’s title', 's{h{a|} p{b}}', 's{h{a} p{|} p{b}}'],
  ['Enter', 'in the midst of a section’s title', 's{h{a|b} p{c}}', 's{h{a} p{|b} p{c}}'],
  ['Enter', 'at the start of a section’s title', 'p{x} s{h{|a} p{b}}', 'p{x} p{|} s{h{a} p{b}}'],
  [
    'Enter',
    'at the start of the title of a section behind another',
    's{h{x} p{y}} s{h{|a}}',
    's{h{x} p{y} p{|}} s{h{a}}',
  ],
  ['Enter', 'in the title of an empty section', 's{h{a|}}', 's{h{a} p{|}}'],
  ['Backspace', 'at the start of a section’s title', 'p{x} s{h{|a} p{b}}', 'p{x} p{|a} p{b}'],
  [
    'Backspace',
    'at the start of the title of a section behind another',
    's{h{x} p{y}} s{h{|a} p{b}}',
    's{h{x} p{y} p{|a} p{b}}',
  ],
  ['Backspace', 'in the empty title of a section', 'p{x} s{h{|} p{b}}', 'p{x} p{|b}'],
  ['Backspace', 'at the start of a section’s text', 's{h{a} p{|b}}', 's{h{a|b}}'],
  ['Delete', 'at the end of the text before a section', 'p{x|} s{h{a} p{b}}', 'p{x} p{|a} p{b}'],
  ['Alt-Enter', 'in a section', 's{h{a} p{b|}} s{h{c}}', 's{h{a} p{b}} s{h{|} p{}} s{h{c}}'],
  ['Alt-Enter', 'outside of sections: what follows comes under it', 'p{a|} p{b} s{h{c}}', 'p{a} s{h{|} p{b}} s{h{c}}'],
  ['Shift-Alt-Enter', 'in a section', 's{h{a} p{b|} p{c}}', 's{h{a} p{b} s{h{|} p{c}}}'],
  ['Tab', 'in the title of a section behind another', 's{h{a}} s{h{b|} p{c}}', 's{h{a} s{h{b|} p{c}}}'],
  ['Tab', 'in the title of a first section: stays', 's{h{b|} p{c}}', 's{h{b|} p{c}}'],
  ['Shift-Tab', 'in the title of a nested section', 's{h{a} s{h{b|}} s{h{c}}}', 's{h{a}} s{h{b|} s{h{c}}}'],
  ['Shift-Alt-ArrowRight', 'in a section', 's{h{a}} s{h{b} p{c|}}', 's{h{a} s{h{b} p{c|}}}'],
  ['Shift-Alt-ArrowLeft', 'in a nested section', 's{h{a} s{h{b} p{c|}}}', 's{h{a}} s{h{b} p{c|}}'],
  ['Shift-Alt-ArrowUp', 'in the title of a section', 's{h{a}} s{h{b|} p{c}}', 's{h{b|} p{c}} s{h{a}}'],
  // What was limited stays limited, whatever goes around it.
  ['Backspace', 'at the start of a limited section’s title', 'p{x} s!{h{|a} p{b}}', 'p{x} p!{|a} p!{b}'],
  ['Delete', 'with a selection into a limited section’s title', 'p{a[b} s!{h{c]d} p{e}}', 'p{a|d} p!{e}'],
  ['Backspace', 'at the start of a limited admonition', 'note!{p{|a} p{b}}', 'p!{|a} note!{p{b}}'],
  ['Shift-Tab', 'in a limited item of the first level', 'ul{li!{p{a|}}}', 'p!{a|}'],
  ['Shift-Tab', 'in an item of a limited list', 'ul!{li{p{a|}}}', 'p!{a|}'],
  ['Shift-Tab', 'in a limited nested item', 'ul{li{p{a} ul{li!{p{b|}}}}}', 'ul{li{p{a}} li!{p{b|}}}'],
  ['Backspace', 'at the start of a limited first item', 'p{x} ul{li!{p{|a}} li{p{b}}}', 'p{x} p!{|a} ul{li{p{b}}}'],
  // A line alone.
  ['Enter', 'in a phrase', 'phrase{a|b}', 'phrase{a|b}'],
  ['Alt-Enter', 'in a phrase', 'phrase{a|b}', 'phrase{a|b}'],
];

/** The same row with stamps instead of conditions. */
function withStamps([key, where, before, wanted]: Row): readonly Row[] {
  const stamped = stampedNotation(before);
  return stamped === null ? [] : [[key, where, stamped, wanted.replaceAll('!', '*')]];
}

describe('The table of keys', () => {
  let place: HTMLElement;
  beforeEach(() => {
    place = document.createElement('div');
    document.body.append(place);
  });
  afterEach(() => place.remove());

  for (const [key, where, before, wanted] of [...table, ...table.flatMap(withStamps)]) {
    it(`${key} ${where}: ${before}`, () => {
      const view = new EditorView(place, {
        state: stateOf(before, (doc) =>
          editingState(
            doc.toJSON() as ContentNode,
            { selector: null, vocabulary, mode: 'ghost' },
            { openInsertMenu: () => undefined },
          ),
        ),
      });
      const modifiers = key.split('-').slice(0, -1);
      const event = new KeyboardEvent('keydown', {
        key: key.split('-').at(-1) ?? '',
        keyCode: { Enter: 13, Backspace: 8, Delete: 46, Tab: 9 }[key.split('-').at(-1) ?? ''] ?? 0,
        ctrlKey: modifiers.includes('Mod'),
        shiftKey: modifiers.includes('Shift'),
        altKey: modifiers.includes('Alt'),
        bubbles: true,
        cancelable: true,
      });
      view.dom.dispatchEvent(event);
      const { state } = view;
      view.destroy();
      if (wanted === browser) {
        expect(event.defaultPrevented).toBeFalse();
        return;
      }
      expect(notationOf(state)).toBe(wanted);
      expect(event.defaultPrevented).toBeTrue();
      expect(checkBody(state.doc.toJSON() as ContentNode)).toEqual([]);
    });
  }
});
