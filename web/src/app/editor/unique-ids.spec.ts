import { checkBody, makeNode, makeText, type ContentNode } from '@allomorph/core';
import { splitBlock } from 'prosemirror-commands';
import { liftListItem, splitListItem } from 'prosemirror-schema-list';
import { Slice } from 'prosemirror-model';
import { undo } from 'prosemirror-history';
import type { EditorState, Transaction } from 'prosemirror-state';
import { nodeType } from './schema-types';
import { after, at, editorOn } from './testing';

const p = (id: string, text: string): ContentNode => makeNode('paragraph', { id }, [makeText(text)]);
const item = (id: string, ...content: ContentNode[]): ContentNode => makeNode('list_item', { id }, content);
const topic = (...flow: ContentNode[]): ContentNode =>
  makeNode('topic', null, [makeNode('title', null, [makeText('T')]), ...flow]);

/** Blocks with their ids and texts. */
function blocks(state: EditorState): readonly string[] {
  const found: string[] = [];
  state.doc.descendants((node) => {
    if ('id' in node.attrs) found.push(`${node.type.name} ${String(node.attrs['id'])} ${node.textContent}`);
  });
  return found;
}
const applied = (state: EditorState, change: (tr: Transaction) => Transaction): EditorState => {
  const result = state.apply(change(state.tr));
  expect(checkBody(result.doc.toJSON() as ContentNode)).toEqual([]);
  return result;
};

describe('Ids on the page', () => {
  it('stay with the first part of a paragraph that is split, and come back whole', () => {
    const state = after(editorOn(topic(p('b1', 'one two')), 'one'), splitBlock);
    expect(blocks(state)).toEqual(['paragraph b1 one', 'paragraph null  two']);
    expect(blocks(after(state, undo))).toEqual(['paragraph b1 one two']);
  });

  it('are not doubled by splitting items and by taking a middle item out of its list', () => {
    const list = makeNode('bullet_list', { id: 'b1' }, [
      item('b2', p('b3', 'a')),
      item('b4', p('b5', 'b')),
      item('b6', p('b7', 'c')),
    ]);
    const split = after(editorOn(topic(list), 'a'), splitListItem(nodeType('list_item')));
    expect(blocks(split).filter((each) => each.includes('null')).length).toBe(2);
    const lifted = after(editorOn(topic(list), 'b'), liftListItem(nodeType('list_item')));
    expect(blocks(lifted)).toEqual([
      'bullet_list b1 a',
      'list_item b2 a',
      'paragraph b3 a',
      'paragraph b5 b',
      'bullet_list null c',
      'list_item b6 c',
      'paragraph b7 c',
    ]);
  });

  it('stay with the block that had them, wherever its copy is put', () => {
    const state = editorOn(topic(p('b1', 'one'), p('b2', 'two')));
    const second = state.doc.child(2);
    const copied = applied(state, (tr) => tr.insert(state.doc.child(0).nodeSize, second));
    expect(blocks(copied)).toEqual(['paragraph null two', 'paragraph b1 one', 'paragraph b2 two']);
  });

  it('that come with what is pasted from elsewhere give way, among themselves as well', () => {
    const state = at(editorOn(topic(p('b1', 'one'))), 'one');
    const others = editorOn(topic(p('b1', 'x'), p('b1', 'y'))).doc.slice(2);
    const pasted = applied(state, (tr) =>
      tr.replace(state.doc.content.size, state.doc.content.size, new Slice(others.content.cut(1), 0, 0)),
    );
    expect(blocks(pasted).filter((each) => each.includes(' b1 '))).toEqual(['paragraph b1 one']);
  });

  it('move with a block that is taken away and put elsewhere', () => {
    const state = editorOn(topic(p('b1', 'one'), p('b2', 'two')));
    const [title, first] = [state.doc.child(0), state.doc.child(1)];
    const end = state.doc.content.size;
    const moved = applied(state, (tr) => tr.insert(end, first).delete(title.nodeSize, title.nodeSize + first.nodeSize));
    expect(blocks(moved)).toEqual(['paragraph b2 two', 'paragraph b1 one']);
  });
});
