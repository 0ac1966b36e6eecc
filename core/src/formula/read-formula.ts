import katex from 'katex';
import { SaxesParser } from 'saxes';
import { mathematicalLetters } from './letters.js';

/**
 * An element of presentation MathML (MathML Core, W3C): `mi`, `mn`, `mo`, `mtext`, `mspace`, `mrow`, `mfrac`, `msqrt`, `mroot`,
 * `msub`, `msup`, `msubsup`, `munder`, `mover`, `munderover`, `mtable`, `mtr`, `mtd`, `mstyle`, `mphantom`,
 * `menclose`.
 */
export interface MathElement {
  readonly tag: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: readonly MathElement[];
  /** What a token (`mi`, `mn`, `mo`, `mtext`) says; empty for all others. */
  readonly text: string;
}

/** What became of a source: its elements in a row, or one sentence that says why it cannot be drawn. */
export type ReadFormula =
  | { readonly elements: readonly MathElement[]; readonly fault: null }
  | { readonly elements: null; readonly fault: string };

/** What unknown commands are drawn in, so that they are found. */
const unknownColour = '#a00001';
const options = {
  output: 'mathml',
  throwOnError: true,
  errorColor: unknownColour,
  strict: 'ignore',
  trust: false,
  // No formula of a manual needs more; a hostile one is stopped.
  maxExpand: 300,
  maxSize: 50,
} as const;

/** How many formulas are remembered, and how long a source may be. */
const mostRemembered = 2000;
const longest = 4000;
/** How deep groups may stand in each other: all formats are made of what is within. */
const deepest = 24;
const tooDeep = 'it is nested too deeply';
const remembered = new Map<string, ReadFormula>();

/**
 * Reads a formula in TeX (the commands of LaTeX's mathematics).
 * @param block whether it stands on a line of its own, where sums and fractions have more room
 */
export function readFormula(source: string, block: boolean): ReadFormula {
  const name = `${block ? 'block' : 'line'} ${source}`;
  let known = remembered.get(name);
  if (!known) {
    if (remembered.size >= mostRemembered) remembered.clear();
    remembered.set(name, (known = read(source, block)));
  }
  return known;
}

function read(source: string, block: boolean): ReadFormula {
  if (source.trim() === '') return failed('it is empty');
  if (source.length > longest) return failed(`it is longer than ${longest} characters`);
  for (const [refused, why] of refusals) {
    const found = refused.exec(source);
    if (found) return failed(why(found[0]));
  }
  let markup: string;
  try {
    markup = katex.renderToString(source, { ...options, displayMode: block });
  } catch (error) {
    return failed(error instanceof katex.ParseError ? sentence(error.rawMessage) : tooDeep);
  }
  const root = parsed(markup);
  const unknown = find(root, ({ attributes }) => attributes['mathcolor'] === unknownColour);
  if (unknown) return failed(`“${mathText(unknown)}” cannot be used`);
  const semantics = find(root, ({ tag }) => tag === 'semantics');
  const drawn = semantics?.children.filter(({ tag }) => tag !== 'annotation') ?? [];
  const elements = tidyAll(drawn);
  return depthOf(elements) > deepest ? failed(tooDeep) : { elements, fault: null };
}

/** What TeX would take without drawing it: nothing that was written is to vanish, and no formula changes how others read. */
const refusals: readonly (readonly [RegExp, (found: string) => string])[] = [
  [/(?<=(?:^|[^\\])(?:\\\\)*)%/, () => 'a “%” would begin a remark; a percent sign is written “\\%”'],
  [
    /\\(?:[gex]?def|let|futurelet|(?:re)?newcommand|providecommand|global|long)(?![A-Za-z])/,
    (found) => `“${found}” cannot be used: commands are not defined in formulas`,
  ],
];

function failed(why: string): ReadFormula {
  return { elements: null, fault: why };
}

/** What the parser says, as a part of a sentence of ours. */
function sentence(message: string): string {
  const [first = ''] = message.split('\n');
  const said = first.trim().replace(/\.$/, '');
  return said === '' ? 'it cannot be read' : said.charAt(0).toLowerCase() + said.slice(1);
}

interface Growing {
  readonly tag: string;
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: Growing[];
  text: string;
}

function parsed(markup: string): MathElement {
  const root: Growing = { tag: '', attributes: {}, children: [], text: '' };
  const open: Growing[] = [root];
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    const element: Growing = { tag: name, attributes: { ...attributes }, children: [], text: '' };
    open.at(-1)?.children.push(element);
    open.push(element);
  });
  parser.on('closetag', () => open.pop());
  parser.on('text', (text) => {
    const around = open.at(-1);
    if (around) around.text += text;
  });
  parser.write(markup).close();
  return root;
}

function find(element: MathElement, holds: (element: MathElement) => boolean): MathElement | null {
  if (holds(element)) return element;
  for (const child of element.children) {
    const found = find(child, holds);
    if (found) return found;
  }
  return null;
}

function depthOf(elements: readonly MathElement[]): number {
  return elements.reduce((most, { children }) => Math.max(most, 1 + depthOf(children)), 0);
}

/** All that an element says, in a row. */
export function mathText({ text, children }: MathElement): string {
  return text + children.map(mathText).join('');
}

/** The invisible sign between a function and what it is applied to (Unicode, FUNCTION APPLICATION). */
const application = '\u2061';
/** As TeX spaces the name of a function (a thin space). */
const thinSpace: MathElement = { tag: 'mspace', attributes: { width: '0.1667em' }, children: [], text: '' };

/** The attributes that formats know; looks such as colours come from designs. */
const kept: ReadonlySet<string> = new Set([
  'accent',
  'accentunder',
  'columnalign',
  'columnspacing',
  'displaystyle',
  'fence',
  'height',
  'linethickness',
  'lspace',
  'maxsize',
  'minsize',
  'notation',
  'rspace',
  'scriptlevel',
  'stretchy',
  'width',
]);

function tidyAll(elements: readonly MathElement[]): readonly MathElement[] {
  return elements.flatMap((element, at): readonly MathElement[] => {
    if (element.tag === 'mo' && element.text === application) {
      const next = elements[at + 1];
      const needsSpace = next !== undefined && !(next.tag === 'mo' || isFenced(next));
      return needsSpace ? [thinSpace] : [];
    }
    return [tidy(element)];
  });
}

function isFenced({ tag, children }: MathElement): boolean {
  return tag === 'mrow' && children[0]?.tag === 'mo' && children[0].attributes['fence'] === 'true';
}

function tidy({ tag, attributes, children, text }: MathElement): MathElement {
  const variant = attributes['mathvariant'];
  const rest = Object.entries(attributes).filter(([name]) => kept.has(name));
  const upright = tag === 'mi' && variant === 'normal' ? [['mathvariant', 'normal'] as const] : [];
  const inside = tidyAll(children);
  const [only] = inside;
  // The parser wraps what is spaced as a sign in one; only signs themselves are.
  if (tag === 'mo' && only)
    return inside.length === 1 ? only : { tag: 'mrow', attributes: {}, children: inside, text: '' };
  // A group of one is what it holds: scripts and limits hang on that.
  if (tag === 'mrow' && inside.length === 1 && only) return only;
  if (tag === 'mpadded' || (tag === 'mstyle' && rest.length === 0))
    return { tag: 'mrow', attributes: {}, children: inside, text: '' };
  return {
    tag,
    attributes: Object.fromEntries([...rest, ...upright]),
    children: inside,
    text: written(text, variant, attributes),
  };
}

/** Bars that are relations, and the same as fences, which grow. */
const bars: Readonly<Record<string, string>> = { '∣': '|', '∥': '‖' };

function written(text: string, variant: string | undefined, attributes: Readonly<Record<string, string>>): string {
  if (attributes['fence'] === 'true') return bars[text] ?? text;
  return variant === undefined ? text : mathematicalLetters(text, variant);
}
