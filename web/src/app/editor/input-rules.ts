import { contentSchema, readFormula } from '@allomorph/core';
import { chainCommands } from 'prosemirror-commands';
import type { Attrs, MarkType, Node, ResolvedPos } from 'prosemirror-model';
import { InputRule, inputRules, textblockTypeInputRule, wrappingInputRule } from 'prosemirror-inputrules';
import { Plugin, PluginKey, TextSelection, type Command, type EditorState, type Transaction } from 'prosemirror-state';
import { emptyTable } from './tables';
import { cursorAt, cursorNear, titleOf } from './places';
import { markType, nodeType } from './schema-types';

/** What is made of signs that people know from plain-text writing. Each is undone by Backspace right after it. */

type Signs = readonly [open: string, close: string, openInner: string, closeInner: string];

const english: Signs = ['“', '”', '‘', '’'];
/** Quotation marks by language (Unicode CLDR, “delimiters”; from memory). */
const quotes: Readonly<Partial<Record<string, Signs>>> = {
  en: english,
  de: ['„', '“', '‚', '‘'],
  cs: ['„', '“', '‚', '‘'],
  fr: ['«', '»', '‹', '›'],
  es: ['«', '»', '“', '”'],
  it: ['«', '»', '“', '”'],
  pl: ['„', '”', '«', '»'],
  sv: ['”', '”', '’', '’'],
  fi: ['”', '”', '’', '’'],
};

const before = String.raw`(?:^|[\s{[(<'"‘“„‚«‹–—/*_\`-])`;

/** Puts a sign in the place of what was typed; code stays as it is typed. */
function signRule(match: RegExp, sign: () => string): InputRule {
  return new InputRule(
    match,
    (state, found, start, end) => {
      const typed = found[1] ?? found[0];
      const offset = found[0].lastIndexOf(typed);
      // The last sign that was typed is not on the page yet.
      const rest = found[0].slice(offset + typed.length);
      return state.tr.insertText(sign() + rest, start + offset, end);
    },
    { inCodeMark: false },
  );
}

/** Behind a letter an apostrophe in every language, unless it ends what was quoted within the paragraph. */
function apostropheRule(signs: () => Signs): InputRule {
  return new InputRule(
    /[\p{L}\p{N}](')$/u,
    (state, _found, _start, end) => {
      const [, , open, close] = signs();
      const $end = state.doc.resolve(end);
      const text = $end.parent.textBetween(0, $end.parentOffset, null, '\ufffc');
      const isQuoted = open !== '’' && text.lastIndexOf(open) > text.lastIndexOf(close);
      return state.tr.insertText(isQuoted ? close : '’', end);
    },
    { inCodeMark: false },
  );
}

/** Marks words between signs, which go. */
function markRule(sign: string, mark: MarkType, attrs: Attrs | null = null): InputRule {
  const escaped = sign.replace(/[*`_]/g, '\\$&');
  const inner = `[^${escaped[1] ?? escaped}\\s](?:[^${escaped[1] ?? escaped}]*[^${escaped[1] ?? escaped}\\s])?`;
  const match = new RegExp(`(?:^|[\\s(“„«])${escaped}(${inner})${escaped}$`);
  return new InputRule(
    match,
    (state, found, start, end) => {
      const words = found[1] ?? '';
      const from = start + found[0].indexOf(sign);
      const { tr } = state;
      tr.delete(end - (sign.length - 1), end).delete(from, from + sign.length);
      tr.addMark(from, from + words.length, mark.create(attrs));
      return tr.removeStoredMark(mark);
    },
    { inCodeMark: false },
  );
}

/** Signs and single letters: what stands between two dollar signs is a formula, not two prices. */
const mathematical = /[\\^_=+<>{}/]|^[A-Za-z]$/;

/** Makes a formula of TeX between dollar signs, where it can be drawn. */
const formulaRule = new InputRule(
  /(?:^|[\s(“„«])(\$([^\s$](?:[^$]*[^\s$])?)\$)$/,
  (state, found, start, end) => {
    // Primes were made apostrophes while they were typed.
    const source = (found[2] ?? '').replace(/[’‘]/g, "'");
    if (!mathematical.test(source) || readFormula(source, false).fault !== null) return null;
    const from = start + found[0].length - (found[1]?.length ?? 0);
    return state.tr.replaceWith(from, end, nodeType('formula').create({ source }));
  },
  { inCodeMark: false },
);

/** The blocks behind a position in its parent, up to the first section, and where they end. */
function followers(
  $pos: ResolvedPos,
  depth: number,
  withSections: boolean,
): { readonly nodes: Node[]; readonly end: number } {
  const parent = $pos.node(depth - 1);
  const nodes: Node[] = [];
  let end = $pos.after(depth);
  for (let index = $pos.index(depth - 1) + 1; index < parent.childCount; index += 1) {
    const child = parent.child(index);
    if (child.type.name === 'section' && !withSections) break;
    nodes.push(child);
    end += child.nodeSize;
  }
  return { nodes, end };
}

/** `#` begins a section on the level at hand, `##` one below it; what follows comes under it. */
const sectionRule = new InputRule(/^(#{1,6})\s$/, (state, found, start, end) => {
  const $start = state.doc.resolve(start);
  const depth = $start.depth;
  const parent = $start.node(depth - 1);
  if ($start.parent.type.name !== 'paragraph' || !['topic', 'fragment', 'section'].includes(parent.type.name))
    return null;
  const title = titleOf($start.parent.cut(end - $start.start()));
  const isBeside = parent.type.name === 'section' && found[1] === '#';
  const { nodes, end: last } = followers($start, depth, isBeside);
  const content = nodes.length > 0 ? nodes : [nodeType('paragraph').create()];
  const section = nodeType('section').create({ id: $start.parent.attrs['id'] as string | null }, [title, ...content]);
  const { tr } = state;
  if (!isBeside) {
    tr.replaceWith($start.before(), last, section);
    return tr.setSelection(TextSelection.create(tr.doc, $start.before() + 2));
  }
  const behind = $start.after(depth - 1);
  tr.delete($start.before(), last);
  const place = tr.mapping.map(behind);
  tr.insert(place, section);
  return tr.setSelection(TextSelection.create(tr.doc, place + 2));
});

/** What Enter made of a line, so that Backspace takes it back like everything else that was made of typed signs. */
const enterRules = new PluginKey<DoneRule | null>('enter rules');

/** Remembers what Enter made of a line until something else happens. */
export function rememberEnterRules(): Plugin {
  return new Plugin<DoneRule | null>({
    key: enterRules,
    isInputRules: true,
    state: {
      init: () => null,
      apply: (tr, before) => {
        const made = tr.getMeta(enterRules) as DoneRule | undefined;
        if (made) return made;
        return tr.selectionSet || tr.docChanged ? null : before;
      },
    },
  });
}

/** Enter behind a line that stands for something else, as people write it in plain text. */
function lineRule(
  match: RegExp,
  make: (found: RegExpExecArray, $cursor: ResolvedPos, tr: Transaction) => boolean,
): Command {
  return (state, dispatch) => {
    const $cursor = cursorAt(state, 'end');
    if ($cursor?.parent.type.name !== 'paragraph') return false;
    const found = match.exec($cursor.parent.textBetween(0, $cursor.parent.content.size, null, '\ufffc'));
    const { tr } = state;
    if (!found || !make(found, $cursor, tr)) return false;
    dispatch?.(
      tr.setMeta(enterRules, { transform: tr, from: $cursor.pos, to: $cursor.pos, text: '' }).scrollIntoView(),
    );
    return true;
  };
}

const fence = lineRule(/^```([\w+#-]*)$/, (found, $cursor, tr) => {
  const [index, type] = [$cursor.index(-1), nodeType('code_block')];
  if (!$cursor.node(-1).canReplaceWith(index, index + 1, type)) return false;
  tr.replaceWith($cursor.before(), $cursor.after(), type.create({ language: found[1] || null }));
  tr.setSelection(TextSelection.create(tr.doc, $cursor.before() + 1));
  return true;
});

/** A line of cells between pipes becomes the head of a table. */
const pipes = lineRule(/^\|(?:[^|]*\|){2,20}$/, (found, $cursor, tr) => {
  const index = $cursor.index(-1);
  const cells = found[0].slice(1, -1).split('|');
  const grid = emptyTable(2, cells.length).child(1);
  const head = grid.child(0);
  const filled: Node[] = [];
  head.forEach((cell, _, at) => {
    const words = (cells[at] ?? '').replaceAll('\ufffc', '').trim();
    const text = words === '' ? null : contentSchema.text(words);
    filled.push(cell.type.create(cell.attrs, nodeType('paragraph').create(null, text)));
  });
  const table = nodeType('table').create(null, [
    grid.type.create(null, [head.type.create(head.attrs, filled), grid.child(1)]),
  ]);
  if (!$cursor.node(-1).canReplaceWith(index, index + 1, table.type)) return false;
  const place = $cursor.before();
  tr.replaceWith(place, $cursor.after(), table);
  cursorNear(tr, place + 2 + table.child(0).child(0).nodeSize + 1);
  return true;
});

/** What Enter makes of lines that stand for something else. */
export const linesByEnter: Command = chainCommands(fence, pipes);

/**
 * @param language says in which language somebody writes (BCP 47)
 */
export function writingRules(language: () => string): Plugin {
  const signs = (): Signs => quotes[language().toLowerCase().split('-')[0] ?? ''] ?? english;
  return inputRules({
    rules: [
      signRule(new RegExp(`${before}(")$`), () => signs()[0]),
      signRule(/"$/, () => signs()[1]),
      apostropheRule(() => signs()),
      signRule(new RegExp(`${before}(')$`), () => signs()[2]),
      signRule(/'$/, () => signs()[3]),
      signRule(/\.\.\.$/, () => '…'),
      signRule(/(?:^|\s)(--)\s$/, () => '–'),
      signRule(/\d(--)\d$/, () => '–'),
      signRule(/(?:^|[^-])(---)$/, () => '—'),
      markRule('**', markType('strong')),
      markRule('*', markType('emphasis')),
      markRule('_', markType('emphasis')),
      markRule('`', markType('code'), { kind: 'code' }),
      formulaRule,
      sectionRule,
      wrappingInputRule(/^\s*[-*]\s$/, nodeType('bullet_list')),
      wrappingInputRule(
        /^(\d{1,4})[.)]\s$/,
        nodeType('ordered_list'),
        (found) => ({ start: Number(found[1]) }),
        (found, list) => list.childCount + Number(list.attrs['start']) === Number(found[1]),
      ),
      wrappingInputRule(/^\s*>\s$/, nodeType('quotation')),
      textblockTypeInputRule(/^```([\w+#-]*)\s$/, nodeType('code_block'), (found) => ({ language: found[1] || null })),
    ],
  });
}

interface DoneRule {
  readonly transform: Transaction;
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/** Takes back what a rule made of the sign that was typed last; the signs stay as they were typed. */
export const undoRule: Command = (state, dispatch) => {
  const done = doneRule(state);
  if (!done) return false;
  if (!dispatch) return true;
  const { tr } = state;
  const { transform, from, to, text } = done;
  for (let at = transform.steps.length - 1; at >= 0; at -= 1) {
    const [step, doc] = [transform.steps[at], transform.docs[at]];
    if (step && doc) tr.step(step.invert(doc));
  }
  if (text !== '') tr.replaceWith(from, to, state.schema.text(text, tr.doc.resolve(from).marks()));
  tr.setSelection(TextSelection.create(tr.doc, from + text.length));
  dispatch(tr.scrollIntoView());
  return true;
};

function doneRule(state: EditorState): DoneRule | null {
  for (const plugin of state.plugins)
    if ((plugin.spec as { isInputRules?: boolean }).isInputRules) {
      // What the package keeps of the rule that was applied last.
      const done = plugin.getState(state) as DoneRule | null;
      if (done) return done;
    }
  return null;
}
