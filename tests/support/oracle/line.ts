import type { Node } from './nodes.js';

/** Mends a line sign by sign: gaps are tried again and again until nothing changes. */
export function mend(nodes: readonly Node[]): Node[] {
  let cells = nodes.flatMap((node) =>
    node.text === undefined
      ? [{ sign: node.type === 'gap' ? '␡' : '\uFFFC', node }]
      : [...node.text].map((sign) => ({ sign, node })),
  );
  const rules: readonly RegExp[] = [
    /\((\s*)␡(\s*)\)|\[(\s*)␡(\s*)\]|\{(\s*)␡(\s*)\}|‘(\s*)␡(\s*)’|“(\s*)␡(\s*)”|«(\s*)␡(\s*)»/,
    /(?<=^\s*|[,;([{‘“«]\s*)␡\s*[,;]/,
    /[,;]\s*␡(?=\s*(?:[.,;:!?)\]}]|$))/,
  ];
  for (;;) {
    const at = cells.findIndex(({ sign }) => sign === '␡');
    if (at < 0) break;
    // The first gap stands alone among the signs before the next one.
    const text = cells.map(({ sign }, index) => (sign === '␡' && index !== at ? '' : sign)).join('');
    const rule = rules.find((each) => each.test(text));
    const line = cells.filter(({ sign }, index) => sign !== '␡' || index === at);
    const drop = (from: number, to: number, keepGap: boolean): void => {
      const gone = new Set(line.slice(from, to).filter(({ sign }) => !keepGap || sign !== '␡'));
      cells = cells.filter((cell) => !gone.has(cell));
    };
    if (rule) {
      const match = rule.exec(text) as RegExpExecArray;
      drop(match.index, match.index + match[0].length, true);
      continue;
    }
    const left = text.slice(0, at);
    const right = text.slice(at + 1);
    const spacesRight = /^\s*/.exec(right)?.[0].length ?? 0;
    const trimsRight = left === '' || /[\s([{‘“«]$/.test(left);
    if (trimsRight) drop(at + 1, at + 1 + spacesRight, true);
    const rest = trimsRight ? right.slice(spacesRight) : right;
    if (rest === '' || /^[.,;:!?)\]}’”»…]/.test(rest)) drop(left.trimEnd().length, at, true);
    cells = cells.filter(
      (_, index) => cells[index]?.sign !== '␡' || index !== cells.findIndex(({ sign }) => sign === '␡'),
    );
  }
  if (cells.every(({ sign }) => sign.trim() === '')) return [];
  const kept = new Map<Node, string>();
  for (const { sign, node } of cells) kept.set(node, (kept.get(node) ?? '') + sign);
  return [...kept].map(([node, text]) => (node.text === undefined ? node : { ...node, text }));
}

/** A line as one text: words with their marks, and a sign for whatever is no text. */
export function readLine(nodes: readonly Node[], leaf: (node: Node) => string): string {
  let line = '';
  let open = '';
  for (const node of nodes) {
    const marks = node.marks
      .filter(({ type }) => type !== 'condition')
      .map(({ type, attrs }) => `${type}${attrs?.['href'] === undefined ? '' : `=${String(attrs['href'])}`}`)
      .join();
    if (marks !== open) line += `‹${marks}›`;
    open = marks;
    line += node.text ?? leaf(node);
  }
  return line;
}

export function plainLeaf(node: Node): string {
  switch (node.type) {
    case 'line_break':
      return '⏎';
    case 'image':
    case 'picture':
      return `⟦image ${String(node.attrs['file'])}⟧`;
    case 'footnote_reference':
      return `⟦note ${String(node.attrs['target'])}⟧`;
    case 'index_marker':
      return '';
    case 'missing':
      return '⟦missing⟧';
    case 'formula':
      return `⟦formula ${String(node.attrs['source'])}⟧`;
    default:
      return '';
  }
}

/** The words of a title as references name it. */
export function plain(nodes: readonly Pick<Node, 'type' | 'text'>[]): string {
  return nodes
    .map((node) => (node.type === 'line_break' ? ' ' : (node.text ?? '')))
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
}

const silent = ['line_break', 'index_marker', 'footnote_reference'];

/**
 * A title with a marker where nobody can read anything in it.
 * @param alsoSilent what says nothing there, besides what never does
 */
export function withMarker(title: readonly Node[], alsoSilent: readonly string[] = []): readonly Node[] {
  const isWordless = title.every(({ text, type }) =>
    text === undefined ? [...silent, ...alsoSilent].includes(type) : text.trim() === '',
  );
  return isWordless ? [...title, { type: 'missing', attrs: {}, marks: [], content: [] }] : title;
}
