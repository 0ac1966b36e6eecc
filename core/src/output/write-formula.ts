import { readFormula, type MathElement } from '../formula/read-formula.js';
import { element, escapeHtml } from './markup.js';

/** The namespace of MathML, which EPUB wants said and HTML knows. */
const namespace = 'http://www.w3.org/1998/Math/MathML';

/**
 * A formula as MathML (MathML Core, W3C), for HTML and EPUB. What cannot be drawn stands as it was written.
 * @param source in TeX
 */
export function formulaMarkup(source: string, block: boolean): string {
  const { elements } = readFormula(source, block);
  if (!elements) return element('code', { class: 'formula' }, escapeHtml(source));
  const attributes = { xmlns: namespace, display: block ? 'block' : null, alttext: source.trim() };
  return element('math', attributes, elements.map(mathMarkup).join(''));
}

const drawn = /<math[ >].*?<\/math>/gs;

/** Markup without its formulas, which have a font of their own. */
export function withoutFormulas(markup: string): string {
  return markup.replace(drawn, '');
}

/** Whether some markup has a formula that is drawn. */
export function hasFormulas(markup: string): boolean {
  return markup.includes('<math ');
}

function mathMarkup({ tag, attributes, children, text }: MathElement): string {
  if (tag === 'mspace') return element(tag, attributes, '');
  // Frames and strikes are no part of MathML Core: the style sheet draws them.
  if (tag === 'menclose') return element('mrow', { class: enclosed(attributes['notation']) }, inner(children, text));
  // So is how columns are set.
  if (tag === 'mtable') return element(tag, undefined, children.map((row) => tableRow(row, attributes)).join(''));
  return element(tag, attributes, inner(children, text));
}

function tableRow({ children }: MathElement, { columnalign, columnspacing }: MathElement['attributes']): string {
  const sides = columnalign?.split(' ') ?? [];
  const close = columnspacing?.startsWith('0') ? 'close' : null;
  const cells = children.map((child, at) => {
    // A cell that only sets a style has it itself: only then what it holds lies at its side.
    const [only] = child.children;
    const styled = child.children.length === 1 && only?.tag === 'mstyle' ? only : null;
    const cell = styled ?? child;
    const side = sides[at] ?? 'center';
    const classes = [side === 'center' ? null : side, close].filter((each) => each !== null).join(' ');
    return element('mtd', { class: classes || null, ...styled?.attributes }, inner(cell.children, cell.text));
  });
  return element('mtr', undefined, cells.join(''));
}

function inner(children: readonly MathElement[], text: string): string {
  return text === '' ? children.map(mathMarkup).join('') : escapeHtml(text);
}

function enclosed(notation = ''): string {
  return notation === 'box' ? 'boxed' : 'struck';
}

/** The rules of style sheets for formulas. */
export const formulaStyle = `math{font-family:"Own math",math}math[display=block]{margin:0;font-size:1.1em}
mtd.left{text-align:left}mtd.right{text-align:right}mtd.close{padding-inline:0}
math .boxed{border:1px solid;padding:.25em}math .struck{background:linear-gradient(to top right,transparent 47%,currentcolor 47%,currentcolor 53%,transparent 53%)}
`;
