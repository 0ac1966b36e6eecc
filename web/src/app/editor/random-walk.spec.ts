import { checkBody, contentSchema, Selector, tidyBody, type ContentNode } from '@allomorph/core';
import {
  AllSelection,
  NodeSelection,
  Selection,
  TextSelection,
  type Command,
  type EditorState,
} from 'prosemirror-state';
import { addColumnBefore, addRowBefore, deleteRow, mergeCells, splitCell } from 'prosemirror-tables';
import { EditorView } from 'prosemirror-view';
import { moveBlock, putLink, removeBlock, structures } from './commands';
import { limit, limitTargets, likelyTarget } from './limit-targets';
import { toggleHeaderRow } from './tables';
import { pasteHtml } from './clipboard';
import { editingState } from './editing-state';
import { editorKeys } from './editor-keys';
import { lensKey, outOnPage, type PageLens } from './lens-plugin';
import { contentOf, jsonTextOf } from './node-json';
import { addColumn, dropColumn } from './table-columns';
import { vocabulary } from './testing';
import { readNotation } from './testing-notation';
import { blockKinds, turnInto } from './turn-into';

/** Bodies with every kind of block, from which walks begin. */
const bodies = [
  'p{one two} ul{li{p{a}} li{p{b} ul{li{p{c}}}}} steps{step{p{a} note{p{b}}} step{p{c}}} s{h{x} p{y} s{h{z} p{w}}}',
  'dl{d{dt{a} dt{b} dd{p{c}}} d{dt{d} dd{p{e}}}} table{cap{t} grid{head{th{p{a}} th{p{b}}} row{td{p{c}} td{p{d}}}}} fig{pic{} cap{f}}',
  'choice{b!{p{a}} b{p{b}}} code{a¶b} q{p{a}} ex{h{a} p{b}} fn{p{n}} pl{} p{a • b} slot{} formula{}',
  's!{h{a} p!{b} warning{h{c} p{d} p{e}}} s{h{f}} s{h{g} ol{li!{p{h}}}}',
];

/** Numbers that follow from a seed (mulberry32, Tommy Ettinger, public domain). */
function numbers(seed: number): (below: number) => number {
  let state = seed;
  return (below) => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) % below;
  };
}

const keys = Object.values(editorKeys).flatMap((bindings) => bindings.map(({ key }) => key));

/** One act of a writer; what it was. */
function act(view: EditorView, next: (below: number) => number): string {
  const { state } = view;
  const run = (command: Command): boolean => command(state, (tr) => view.dispatch(tr), view);
  const place = (): number => next(state.doc.content.size + 1);
  const block = (): number => {
    const starts: number[] = [];
    state.doc.descendants((node, position) => {
      if (!node.isInline) starts.push(position);
      return !node.inlineContent;
    });
    return starts[next(starts.length)] ?? 0;
  };
  switch (next(14)) {
    case 0:
    case 1: {
      const text = ['word', ' ', '- ', '1. ', '# ', '"', '`a`', '**b** ', '> ', '| a | b |'][next(10)] ?? '';
      for (const sign of text) {
        const { from, to } = view.state.selection;
        if (!view.someProp('handleTextInput', (handle) => handle(view, from, to, sign, () => view.state.tr)))
          if (view.state.selection instanceof TextSelection) view.dispatch(view.state.tr.insertText(sign, from, to));
      }
      return `type ${text}`;
    }
    case 2:
    case 3:
    case 4:
    case 5:
    case 6: {
      const [name, ...modifiers] = (keys[next(keys.length)] ?? '').split(/-(?!$)/).reverse();
      const event = new KeyboardEvent('keydown', {
        key: name ?? '',
        ctrlKey: modifiers.includes('Mod'),
        shiftKey: modifiers.includes('Shift'),
        altKey: modifiers.includes('Alt'),
      });
      view.someProp('handleKeyDown', (handle) => handle(view, event));
      return `key ${[...modifiers, name].join('-')}`;
    }
    case 7:
    case 8: {
      const [$from, $to] = [state.doc.resolve(place()), state.doc.resolve(place())];
      view.dispatch(state.tr.setSelection(next(3) === 0 ? TextSelection.between($from, $to) : Selection.near($from)));
      return 'select text';
    }
    case 9: {
      const at = block();
      const node = state.doc.nodeAt(at);
      if (next(20) === 0) view.dispatch(state.tr.setSelection(new AllSelection(state.doc)));
      else if (node && NodeSelection.isSelectable(node))
        view.dispatch(state.tr.setSelection(NodeSelection.create(state.doc, at)));
      return 'select a block';
    }
    case 10: {
      if (next(2) === 0) {
        const kind = blockKinds[next(blockKinds.length)]?.name ?? 'paragraph';
        run(turnInto(kind));
        return `turn into ${kind}`;
      }
      const structure = structures[next(structures.length)];
      if (structure) run(structure.command);
      return `insert ${structure?.title ?? ''}`;
    }
    case 11: {
      const targets = limitTargets(state);
      const target = targets[next(3) === 0 ? likelyTarget(targets) : next(Math.max(1, targets.length))];
      if (target) run(limit(target, next(2) === 0 ? 'os is linux' : null));
      return 'limit';
    }
    case 12: {
      const commands: readonly Command[] = [
        addRowBefore,
        deleteRow,
        addColumn,
        addColumnBefore,
        dropColumn,
        mergeCells,
        splitCell,
        toggleHeaderRow,
        moveBlock(block(), next(2) === 0 ? 1 : -1),
        removeBlock(block()),
        putLink('https://example.org/'),
      ];
      const at = next(commands.length);
      const command = commands[at];
      if (command) run(command);
      return `command ${at}`;
    }
    default: {
      // Something is copied and pasted elsewhere.
      const from = place();
      const to = Math.min(from + next(60), state.doc.content.size);
      const slice = state.doc.slice(from, to);
      if (next(2) === 0) {
        pasteHtml(view, view.serializeForClipboard(slice).dom.innerHTML);
        return 'paste';
      }
      const event = new ClipboardEvent('paste');
      if (!view.someProp('handlePaste', (handle) => handle(view, event, slice)))
        view.dispatch(view.state.tr.replaceSelection(slice));
      return 'move a slice';
    }
  }
}

/** Through it, what is for Linux is out. */
const lens: PageLens = {
  selector: new Selector(vocabulary, { axes: { os: { default: 'out', in: ['mac'] } } }),
  vocabulary,
  mode: 'ghost',
};

/** What the lens draws on a page, and how much it counts as out. */
function drawnOf(state: EditorState): readonly string[] {
  const drawn = lensKey.getState(state)?.decorations.find() ?? [];
  const told = drawn.map(({ from, to, ...rest }) => {
    const { type } = rest as unknown as { type: { attrs?: object; spec: object } };
    return JSON.stringify([from, to, type.attrs, type.spec]);
  });
  return [...told.sort(), `${outOnPage(state)} out`];
}

describe('A random walk of a writer', () => {
  for (const [at, body] of bodies.entries()) {
    it(`makes nothing that cannot be saved and read again, from body ${at}`, () => {
      const place = document.createElement('div');
      document.body.append(place);
      const seed = Number(new URLSearchParams(location.search).get('seed') ?? 1) + at;
      const next = numbers(seed);
      const done: string[] = [];
      const view = new EditorView(place, {
        state: editingState(readNotation(body).doc.toJSON() as ContentNode, lens, { openInsertMenu: () => undefined }),
      });
      try {
        for (let turn = 0; turn < 500; turn += 1) {
          done.push(act(view, next));
          if (turn % 20 !== 19) continue;
          const { state } = view;
          const written = tidyBody(state.doc.toJSON() as ContentNode);
          const ids: unknown[] = [];
          view.state.doc.descendants((node) => {
            const id: unknown = node.attrs['id'];
            if (typeof id === 'string') ids.push(id);
          });
          const told = `seed ${seed}, turn ${turn}: ${done.slice(-20).join(', ')}`;
          expect(checkBody(written)).withContext(told).toEqual([]);
          expect(new Set(ids).size).withContext(told).toBe(ids.length);
          view.state.doc.check();
          // What is kept from key to key is what it would be if the page were opened now.
          const anew = state.apply(state.tr.setMeta(lensKey, { lens }));
          expect(drawnOf(state)).withContext(told).toEqual(drawnOf(anew));
          expect(JSON.parse(jsonTextOf(state.doc)))
            .withContext(told)
            .toEqual(contentOf(state.doc));
          expect(jsonTextOf(state.doc)).withContext(told).toBe(JSON.stringify(state.doc));
          expect(tidyBody(contentSchema.nodeFromJSON(written).toJSON() as ContentNode))
            .withContext(told)
            .toEqual(written);
        }
      } catch (error) {
        throw new Error(`seed ${seed}, ${String(error)} after ${done.slice(-20).join(', ')}`, { cause: error });
      } finally {
        view.destroy();
        place.remove();
      }
    });
  }
});
