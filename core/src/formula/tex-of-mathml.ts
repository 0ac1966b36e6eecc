import { readFormula, type MathElement } from './read-formula.js';

/** Signs of TeX that stand for themselves only when they are written so. */
const escapes: Readonly<Record<string, string>> = {
  '\\': '\\backslash ',
  '{': '\\{',
  '}': '\\}',
  $: '\\$',
  '&': '\\&',
  '#': '\\#',
  '%': '\\%',
  _: '\\_',
  '^': '\\text{\\textasciicircum}',
  '~': '\\text{\\textasciitilde}',
};
const escapesInText: Readonly<Record<string, string>> = {
  ...escapes,
  '\\': '\\textbackslash{}',
  '^': '\\textasciicircum{}',
  '~': '\\textasciitilde{}',
};

const escaped = (text: string, by: Readonly<Record<string, string>>): string =>
  text.replace(/[\\{}$&#%_^~]/g, (sign) => by[sign] ?? sign);

/** Words within a formula. */
export function texOfWords(text: string): string {
  return text === '' ? '' : `\\text{${escaped(text.replace(/\s+/g, ' '), escapesInText)}}`;
}

/** Text that was written as a formula without markup: letters and signs are mathematics, words are words. */
export function texOfPlainFormula(text: string): string {
  return text
    .split(/(\p{L}{2,}(?:\s+\p{L}{2,})*)/u)
    .map((part, at) => (at % 2 === 1 ? texOfWords(part) : escaped(part, escapes)))
    .join('');
}

/** The names of functions that TeX sets upright. */
const functions =
  /^(?:arccos|arcsin|arctan|arg|cos|cosh|cot|coth|csc|deg|det|dim|exp|gcd|hom|inf|ker|lg|lim|liminf|limsup|ln|log|max|min|Pr|sec|sin|sinh|sup|tan|tanh)$/;

const variants: Readonly<Record<string, string>> = {
  normal: 'mathrm',
  bold: 'mathbf',
  'double-struck': 'mathbb',
  script: 'mathscr',
  fraktur: 'mathfrak',
  'sans-serif': 'mathsf',
  monospace: 'mathtt',
};

/** Signs over something, by the commands that put them there. */
const over: Readonly<Record<string, string>> = {
  '^': 'hat',
  ˆ: 'hat',
  '̂': 'hat',
  '~': 'tilde',
  '˜': 'tilde',
  '¯': 'overline',
  '‾': 'overline',
  '―': 'overline',
  '→': 'vec',
  '⃗': 'vec',
  '˙': 'dot',
  '.': 'dot',
  '¨': 'ddot',
  '⏞': 'overbrace',
};
const under: Readonly<Record<string, string>> = {
  _: 'underline',
  '‾': 'underline',
  '¯': 'underline',
  '⏟': 'underbrace',
};

/** Fences as `\left` and `\right` take them. */
const fences: Readonly<Record<string, string>> = {
  '': '.',
  '{': '\\{',
  '}': '\\}',
  '⟨': '\\langle',
  '⟩': '\\rangle',
  '〈': '\\langle',
  '〉': '\\rangle',
  '‖': '\\|',
  '∥': '\\|',
  '∣': '|',
  '⌊': '\\lfloor',
  '⌋': '\\rfloor',
  '⌈': '\\lceil',
  '⌉': '\\rceil',
};
const knownFence = /^(?:[()[\]|/]|)$/;

/**
 * A formula in presentation MathML (MathML 3, W3C) as TeX.
 * @returns null where it holds something that cannot be said in TeX of ours
 */
export function texOfMathml(element: MathElement): string | null {
  try {
    const source = tex(element).replace(/\s+/g, ' ').trim();
    return readFormula(source, true).fault === null ? source : null;
  } catch (error) {
    if (error instanceof Unsayable) return null;
    throw error;
  }
}

class Unsayable extends Error {}

function tex({ tag, attributes, children, text }: MathElement): string {
  const [first, second, third] = children;
  const said = text.replace(/\s+/g, ' ').trim();
  switch (tag) {
    case 'mi': {
      const variant = variants[attributes['mathvariant'] ?? ''];
      if (functions.test(said)) return `\\${said} `;
      if (variant !== undefined) return `\\${variant}{${escaped(said, escapes)}}`;
      return [...said].length > 1 ? `\\operatorname{${escaped(said, escapesInText)}}` : sign(said);
    }
    case 'mn':
      return escaped(said, escapes);
    case 'mo':
      return sign(said);
    case 'mtext':
    case 'ms':
      return texOfWords(text.replace(/^\s+|\s+$/g, ' '));
    case 'mspace':
      return '\\;';
    case 'mfrac':
      return /^0/.test(attributes['linethickness'] ?? '')
        ? `{${group(first)} \\atop ${group(second)}}`
        : `\\frac${group(first)}${group(second)}`;
    case 'msqrt':
      return `\\sqrt{${row(children)}}`;
    case 'mroot':
      return `\\sqrt[${group(second)}]${group(first)}`;
    case 'msub':
      return `${base(first)}_${group(second)}`;
    case 'msup':
      return `${base(first)}^${group(second)}`;
    case 'msubsup':
      return `${base(first)}_${group(second)}^${group(third)}`;
    case 'mover':
      return placed(first, second, over, (limit) => `\\overset${limit}`, '^');
    case 'munder':
      return placed(first, second, under, (limit) => `\\underset${limit}`, '_');
    case 'munderover':
      return `${limited(first)}_${group(second)}^${group(third)}`;
    case 'mfenced':
      return fenced(attributes, children);
    case 'mtable':
      return `\\begin{matrix}${children.map((each) => each.children.map(tex).join(' & ')).join(' \\\\ ')}\\end{matrix}`;
    case 'mphantom':
      return `\\phantom{${row(children)}}`;
    case 'menclose':
      return attributes['notation'] === 'box' ? `\\boxed{${row(children)}}` : `\\cancel{${row(children)}}`;
    case 'semantics':
      return first ? tex(first) : '';
    case 'annotation':
    case 'annotation-xml':
    case 'maligngroup':
    case 'malignmark':
      return '';
    case 'math':
    case 'mrow':
    case 'mstyle':
    case 'mpadded':
    case 'mtd':
    case 'merror':
    case '':
      return row(children);
    default:
      // Content MathML, pictures, elementary arithmetic.
      throw new Unsayable();
  }
}

function sign(said: string): string {
  // Signs between what they join are not written.
  if (/^[\u2061-\u2064]$/.test(said)) return '';
  if (said === '′') return "'";
  const written = escaped(said, escapes);
  return /^[a-zA-Z]{2,}$/.test(said) ? `\\mathrm{${said}}` : /\\[a-zA-Z]+$/.test(written) ? `${written} ` : written;
}

/** A row; what stands between fences grows with them. */
function row(children: readonly MathElement[]): string {
  const [first] = children;
  const last = children.at(-1);
  const isFence = (each: MathElement | undefined): each is MathElement =>
    each?.tag === 'mo' && each.attributes['stretchy'] !== 'false' && fenceOf(each.text.trim()) !== null;
  if (children.length > 2 && isFence(first) && isFence(last) && opens(first.text) && !opens(last.text))
    return `\\left${fenceOf(first.text.trim()) ?? ''} ${children.slice(1, -1).map(tex).join('')}\\right${fenceOf(last.text.trim()) ?? ''} `;
  if (children.length > 1 && first?.tag === 'mo' && first.text.trim() === '{' && first.attributes['fence'] === 'true')
    return `\\left\\{ ${children.slice(1).map(tex).join('')}\\right.`;
  return children.map(tex).join('');
}

const opens = (text: string): boolean => /^[([{⟨〈⌊⌈]$/.test(text.trim());

function fenceOf(text: string): string | null {
  return fences[text] ?? (knownFence.test(text) ? text : null);
}

function group(element: MathElement | undefined): string {
  return `{${element ? tex(element).trim() : ''}}`;
}

/** What scripts hang on: one sign or a group. */
function base(element: MathElement | undefined): string {
  const written = element ? tex(element).trim() : '';
  return element && ['mi', 'mn', 'mo'].includes(element.tag) && written !== '' ? written : `{${written}}`;
}

/** What limits stand over and under. */
function limited(element: MathElement | undefined): string {
  return `\\mathop{${base(element)}}\\limits`;
}

function placed(
  first: MathElement | undefined,
  limit: MathElement | undefined,
  commands: Readonly<Record<string, string>>,
  set: (limit: string) => string,
  script: string,
): string {
  const command = limit?.tag === 'mo' ? commands[limit.text.trim()] : undefined;
  if (command !== undefined) return `\\${command}${group(first)}`;
  const isLarge = first?.tag === 'mo' && /^[∑∏∐⋀⋁⋂⋃⨁⨂]$/u.test(first.text.trim());
  const isFunction = first?.tag === 'mi' && functions.test(first.text.trim());
  return isLarge || isFunction ? `${limited(first)}${script}${group(limit)}` : `${set(group(limit))}${group(first)}`;
}

function fenced(
  { open = '(', close = ')', separators = ',' }: MathElement['attributes'],
  children: readonly MathElement[],
): string {
  const [begin, end] = [fenceOf(open), fenceOf(close)];
  if (begin === null || end === null) throw new Unsayable();
  const signs = [...separators.replace(/\s/g, '')];
  const inside = children.map(
    (each, at) => (at === 0 ? '' : sign(signs[Math.min(at, signs.length) - 1] ?? '')) + tex(each),
  );
  return `\\left${begin} ${inside.join('')}\\right${end} `;
}
