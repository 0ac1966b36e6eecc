import type { Fragment, Node } from 'prosemirror-model';
import { closeHistory, redoDepth, undoDepth } from 'prosemirror-history';
import { Plugin, PluginKey, type Command, type EditorState, type Transaction } from 'prosemirror-state';
import {
  AddMarkStep,
  AttrStep,
  DocAttrStep,
  RemoveMarkStep,
  ReplaceAroundStep,
  ReplaceStep,
} from 'prosemirror-transform';
import { kindName } from './schema-types';

/** What one undo takes back. */
interface Done {
  readonly kind: 'typing' | 'act';
  readonly text: string;
}

interface Named {
  readonly done: readonly Done[];
  readonly undone: readonly Done[];
  /** What the last key or button took back or did again; empty: something else came since. */
  readonly told: string;
}

const namesKey = new PluginKey<Named>('undo names');
const whatKey = 'what is done';
const longestWords = 30;

/**
 * A command whose undo says what it does, and takes back nothing of before, however soon it came after typing. What others
 * say is worked out of their steps.
 */
export function named(what: string, command: Command): Command {
  return (state, dispatch, view) =>
    command(state, dispatch && ((tr) => dispatch(closeHistory(tr.setMeta(whatKey, what)))), view);
}

/** Remembers what each step of the history does. It stands behind `history()`, whose depth it follows. */
export function undoNames(): Plugin<Named> {
  return new Plugin<Named>({
    key: namesKey,
    state: {
      init: () => ({ done: [], undone: [], told: '' }),
      apply: (tr, { done, undone, told }, before, after) => {
        const was = undoDepth(before) as number;
        const [depth, ahead] = [undoDepth(after) as number, redoDepth(after) as number];
        if (depth < was && ahead > (redoDepth(before) as number)) {
          const last = done.at(-1);
          return {
            done: done.slice(0, -1),
            undone: last ? [...undone, last] : undone,
            told: last ? `Undone: ${sayDone(last)}` : '',
          };
        }
        if (depth > was && ahead < (redoDepth(before) as number)) {
          const last = undone.at(-1);
          return {
            done: last ? [...done, last] : done,
            undone: undone.slice(0, -1),
            told: last ? `Done again: ${sayDone(last)}` : '',
          };
        }
        if (!tr.docChanged || tr.getMeta('addToHistory') === false) return { done, undone, told };
        const isAppended = tr.getMeta('appendedTransaction') !== undefined;
        const [last, now] = [done.at(-1), describe(tr)];
        if (depth > was) return { done: [...done, now].slice(-depth), undone: [], told: '' };
        if (isAppended || !last) return { done, undone: [], told };
        // It is taken back together with what was done before it.
        const joined = last.kind === 'typing' && now.kind === 'typing' ? joinTyping(last, now) : last;
        return { done: [...done.slice(0, -1), joined].slice(-depth), undone: [], told: '' };
      },
    },
  });
}

/** What the next undo takes back; null: there is nothing. */
export function undoes(state: EditorState): string | null {
  const last = namesKey.getState(state)?.done.at(-1);
  return last ? sayDone(last) : null;
}

/** What the next redo does again; null: there is nothing. */
export function redoes(state: EditorState): string | null {
  const last = namesKey.getState(state)?.undone.at(-1);
  return last ? sayDone(last) : null;
}

/** What was just undone or done again, in a sentence; empty: something else came since. */
export function toldOfUndo(state: EditorState): string {
  return namesKey.getState(state)?.told ?? '';
}

function sayDone({ kind, text }: Done): string {
  return kind === 'act' ? text : `Typing ${quoted(text)}`;
}

function quoted(words: string): string {
  const said = words.replace(/\s+/g, ' ').trim();
  return `“${said.length > longestWords ? `${said.slice(0, longestWords)}…` : said}”`;
}

/** Typing that goes on; what comes in front of it or elsewhere is only counted as more of it. */
function joinTyping(last: Done, now: Done): Done {
  return { kind: 'typing', text: (last.text + now.text).slice(0, longestWords + 10) };
}

const byEvent: Readonly<Record<string, string>> = { paste: 'Paste', cut: 'Cut', drop: 'Drag' };

function describe(tr: Transaction): Done {
  const what: unknown = tr.getMeta(whatKey) ?? byEvent[String(tr.getMeta('uiEvent'))];
  if (typeof what === 'string') return { kind: 'act', text: what };
  const deletions = tr.steps.flatMap((step, at) =>
    step instanceof ReplaceStep ? [blocksIn(docBefore(tr, at).slice(step.from, step.to).content)] : [],
  );
  const insertions = tr.steps.flatMap((step) => (step instanceof ReplaceStep ? [blocksIn(step.slice.content)] : []));
  for (const [moved] of deletions) {
    if (
      moved &&
      insertions.some((blocks) => blocks[0]?.type === moved.type && blocks[0].textContent === moved.textContent)
    )
      return { kind: 'act', text: `Move ${article(moved)}` };
  }
  const steps = tr.steps.map((step, at) => describeStep(step, docBefore(tr, at)));
  return steps.find((each) => each !== null) ?? { kind: 'act', text: 'Change' };
}

function docBefore(tr: Transaction, at: number): Node {
  return tr.docs[at] ?? tr.before;
}

function describeStep(step: unknown, doc: Node): Done | null {
  const act = (text: string): Done => ({ kind: 'act', text });
  if (step instanceof AddMarkStep) return act(markName(step.mark.type.name));
  if (step instanceof RemoveMarkStep) return act(`Take away: ${markName(step.mark.type.name).toLowerCase()}`);
  if (step instanceof AttrStep) {
    const node = doc.nodeAt(step.pos);
    return node && step.attr !== 'id' ? act(attributeName(step.attr, node)) : null;
  }
  if (step instanceof DocAttrStep) return act(attributeName(step.attr, doc));
  if (step instanceof ReplaceAroundStep) return describeAround(step, doc);
  if (!(step instanceof ReplaceStep)) return null;
  const gone = doc.slice(step.from, step.to);
  const [put, taken] = [wordsIn(step.slice.content), wordsIn(gone.content)];
  const [newBlocks, oldBlocks] = [blocksIn(step.slice.content), blocksIn(gone.content)];
  const [block] = newBlocks;
  if (step.slice.size === 0) {
    if (taken !== null) return act(`Delete ${quoted(taken)}`);
    const whole = gone.openStart === 0 && gone.openEnd === 0;
    if (whole && oldBlocks.length > 1) return act(`Delete ${oldBlocks.length} blocks`);
    if (whole && oldBlocks[0]) return act(`Delete ${article(oldBlocks[0])}`);
    const words = gone.content.textBetween(0, gone.content.size, ' ');
    return act(words.trim() === '' ? 'Join' : `Delete ${quoted(words)}`);
  }
  if (put !== null && (gone.size === 0 || taken !== null))
    return taken === null || taken === '' ? { kind: 'typing', text: put } : act(`Replace ${quoted(taken)}`);
  // A block that is split: nothing but the edges of two comes in.
  if (step.slice.openStart > 0 && step.slice.openEnd > 0 && block && block.textContent === '')
    return act(`New ${kindName(block.type.name)}`);
  const inline = block ? null : inlineIn(step.slice.content);
  if (inline) return act(`Insert ${article(inline)}`);
  if (newBlocks.length > 1) return act(`Put in ${newBlocks.length} blocks`);
  return block ? act(gone.size === 0 ? `Insert ${article(block)}` : `Change ${article(block)}`) : null;
}

function describeAround(step: ReplaceAroundStep, doc: Node): Done | null {
  const act = (text: string): Done => ({ kind: 'act', text });
  const before = doc.nodeAt(step.from);
  const after = step.slice.content.firstChild;
  const isMarkup = step.gapFrom === step.from + 1 && step.insert === 1 && step.gapTo === step.to - 1;
  if (isMarkup && before && after) {
    if (before.type !== after.type) return act(`Turn into ${article(after)}`);
    const changed = Object.keys(after.attrs).filter((name) => !same(before.attrs[name], after.attrs[name]));
    const told = changed.filter((name) => name !== 'id');
    return told[0] === undefined ? null : act(attributeName(told[0], before));
  }
  if (step.slice.size === 0) return act(before ? `Take out of ${article(before)}` : 'Outdent');
  if (after && step.gapFrom === step.from) return act(`Put into ${article(after)}`);
  return act('Indent or outdent');
}

const same = (a: unknown, b: unknown): boolean => JSON.stringify(a) === JSON.stringify(b);

const ofWords: Readonly<Record<string, string>> = {
  condition: 'Condition of words',
  stamp: 'Stamp of words',
  link: 'Link',
};

function markName(type: string): string {
  return ofWords[type] ?? capital(kindName(type));
}

function attributeName(attribute: string, node: Node): string {
  if (attribute === 'when') return `Condition of ${article(node)}`;
  return attribute === 'stamp' ? `Stamp of ${article(node)}` : `Change ${article(node)}`;
}

function capital(words: string): string {
  return words.charAt(0).toUpperCase() + words.slice(1);
}

function article(node: Node): string {
  const name = node.type.name === 'admonition' ? String(node.attrs['kind'] ?? 'note') : kindName(node.type.name);
  return node.type.name === 'topic' || node.type.name === 'fragment' ? 'all of it' : `the ${name}`;
}

/** The text of what is nothing but text; null: there is something else. */
function wordsIn(content: Fragment): string | null {
  let words = '';
  for (const node of content.content) {
    if (!node.isText) return null;
    words += node.text ?? '';
  }
  return words;
}

function blocksIn(content: Fragment): readonly Node[] {
  return content.content.filter((node) => node.isBlock);
}

function inlineIn(content: Fragment): Node | undefined {
  return content.content.find((node) => node.isInline && !node.isText);
}
