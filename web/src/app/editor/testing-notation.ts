import { contentSchema } from '@allomorph/core';
import type { Node } from 'prosemirror-model';
import { AllSelection, NodeSelection, TextSelection, type EditorState } from 'prosemirror-state';

/**
 * Bodies and selections as one line of text, for tests: `p{on|e}` is a paragraph with the cursor in it, `[` and `]` are
 * the ends of a selection, `<` stands before a node that is selected, `!` behind a name is the condition “os is linux”, `*`
 * the stamp “trained”, `•` a variable and `¶` a line break in code.
 */

const names: Readonly<Record<string, readonly [type: string, attrs?: Readonly<Record<string, unknown>>]>> = {
  topic: ['topic'],
  phrase: ['phrase'],
  p: ['paragraph'],
  h: ['title'],
  s: ['section'],
  ul: ['bullet_list'],
  ol: ['ordered_list'],
  li: ['list_item'],
  steps: ['steps'],
  step: ['step'],
  dl: ['definition_list'],
  d: ['definition'],
  dt: ['term'],
  dd: ['description'],
  table: ['table'],
  cap: ['caption'],
  grid: ['table_grid'],
  row: ['table_row'],
  head: ['table_row', { header: true }],
  td: ['table_cell'],
  th: ['table_header'],
  fig: ['figure'],
  pic: ['picture', { component: 'photo' }],
  note: ['admonition', { kind: 'note' }],
  warning: ['admonition', { kind: 'warning' }],
  code: ['code_block'],
  q: ['quotation'],
  ex: ['example'],
  fn: ['footnote'],
  choice: ['choice'],
  b: ['branch'],
  pl: ['placement', { component: 'shared' }],
  slot: ['slot'],
  formula: ['display_formula', { source: 'x' }],
};
const condition = 'os is linux';
const stamp = 'trained';
const variable = (): Node => contentSchema.node('variable', { key: 'v' });

interface Read {
  readonly doc: Node;
  readonly anchor: number | null;
  readonly head: number | null;
  readonly selected: number | null;
}

/** Reads a body with its selection. */
export function readNotation(text: string): Read {
  let at = 0;
  const found: { anchor: number | null; head: number | null; selected: number | null } = {
    anchor: null,
    head: null,
    selected: null,
  };
  const mark = (sign: string, position: number): void => {
    if (sign === '|') found.anchor = found.head = position;
    else if (sign === '[') found.anchor = position;
    else if (sign === ']') found.head = position;
    else found.selected = position;
  };
  /** @param start where the node begins in the document */
  const node = (start: number): Node => {
    const [, name = '', limited] = /^([a-z]+)([!*]?)\{/.exec(text.slice(at)) ?? [];
    const known = names[name];
    if (!known) throw new Error(`No kind is called “${name}” at ${at} of ${text}`);
    at += name.length + (limited ? 2 : 1);
    const [typeName, own = {}] = known;
    const type = contentSchema.nodes[typeName];
    if (!type) throw new Error(typeName);
    const attrs = { ...own, ...(limited === '!' ? { when: condition } : limited === '*' ? { stamp } : {}) };
    const content: Node[] = [];
    let position = start + 1;
    const take = (child: Node): void => {
      content.push(child);
      position += child.nodeSize;
    };
    while (text[at] !== '}') {
      const sign = text[at] ?? '';
      if (sign === '') throw new Error(`“${text}” ends too early.`);
      if ('|[]<'.includes(sign)) {
        mark(sign, position);
        at += 1;
      } else if (sign === '•') {
        take(variable());
        at += 1;
      } else if (type.inlineContent) {
        const [words = ''] = /^[^|[\]<•{}]+/.exec(text.slice(at)) ?? [];
        if (words === '') throw new Error(`What is “${sign}” at ${at} of ${text}?`);
        take(contentSchema.text(words.replaceAll('¶', '\n')));
        at += words.length;
      } else if (sign === ' ') at += 1;
      else take(node(position));
    }
    at += 1;
    return type.create(attrs, content);
  };
  const source = text.startsWith('phrase{') ? text : `topic{h{T} ${text}}`;
  text = source;
  return { doc: node(-1), ...found };
}

/** A state with the body and the selection that the notation says. */
export function stateOf(notation: string, make: (doc: Node) => EditorState): EditorState {
  const { doc, anchor, head, selected } = readNotation(notation);
  doc.check();
  const state = make(doc);
  const { tr } = state;
  if (selected !== null) tr.setSelection(NodeSelection.create(tr.doc, selected));
  else if (anchor !== null) tr.setSelection(TextSelection.create(tr.doc, anchor, head ?? anchor));
  return state.apply(tr);
}

/**
 * A notation with stamps where conditions stand: both are kept alike. Null where there are none, or where a kind is limited
 * that bears no stamp.
 */
export function stampedNotation(notation: string): string | null {
  const limited = [...notation.matchAll(/([a-z]+)!/g)].map(([, name = '']) => names[name]?.[0] ?? '');
  const bear = limited.every((name) => 'stamp' in (contentSchema.nodes[name]?.spec.attrs ?? {}));
  return limited.length > 0 && bear ? notation.replaceAll('!', '*') : null;
}

/** Writes the body and the selection of a state down. */
export function notationOf({ doc, selection }: EditorState): string {
  const name = (node: Node): string => {
    const own = Object.entries(names).find(([, [type, attrs]]) => {
      if (type !== node.type.name) return false;
      return Object.entries(attrs ?? {}).every(([key, value]) => node.attrs[key] === value);
    });
    const plain = Object.entries(names).find(([, [type, attrs]]) => type === node.type.name && !attrs);
    const header = node.type.name === 'table_row' && node.attrs['header'] === true;
    return `${header ? 'head' : node.type.name === 'table_row' ? 'row' : ((own ?? plain)?.[0] ?? node.type.name)}${node.attrs['when'] ? '!' : ''}${node.attrs['stamp'] ? '*' : ''}`;
  };
  const isNode = selection instanceof NodeSelection;
  const isAll = selection instanceof AllSelection;
  const signAt = (position: number): string => {
    if (isNode || isAll) return '';
    if (selection.empty) return selection.head === position ? '|' : '';
    return (selection.anchor === position ? '[' : '') + (selection.head === position ? ']' : '');
  };
  const write = (node: Node, start: number): string => {
    if (node.type.name === 'variable') return '•';
    if (node.isText) {
      return [...(node.text ?? '')]
        .map((letter, offset) => (offset > 0 ? signAt(start + offset) : '') + (letter === '\n' ? '¶' : letter))
        .join('');
    }
    const selected = isNode && selection.from === start ? '<' : '';
    const parts: string[] = [];
    let position = start + 1;
    node.forEach((child) => {
      if (node.inlineContent) parts.push(signAt(position));
      parts.push(write(child, position));
      position += child.nodeSize;
    });
    if (node.inlineContent) parts.push(signAt(position));
    return `${selected}${name(node)}{${parts.join(node.inlineContent ? '' : ' ')}}`;
  };
  if (doc.type.name === 'phrase') return write(doc, -1);
  const parts: string[] = [];
  let position = 0;
  doc.forEach((child, _, index) => {
    const written = write(child, position);
    if (index > 0 || doc.type.name !== 'topic' || written !== 'h{T}') parts.push(written);
    position += child.nodeSize;
  });
  return parts.join(' ');
}
