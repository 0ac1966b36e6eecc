import type { MathElement } from '@allomorph/core';
import { ImportedXmlComponent, type ParagraphChild } from 'docx';

/** An element of Office Math (ISO/IEC 29500-1, 22.1), without its prefix. */
function math(name: string, ...children: readonly (ImportedXmlComponent | string)[]): ImportedXmlComponent {
  const made = new ImportedXmlComponent(`m:${name}`);
  children.forEach((child) => made.push(child));
  return made;
}

/** A property with its value. */
function said(name: string, value: string): ImportedXmlComponent {
  return new ImportedXmlComponent(`m:${name}`, { 'm:val': value });
}

/**
 * A formula as word processors edit it.
 * @param block whether it stands on a line of its own
 */
export function wordFormula(elements: readonly MathElement[], block: boolean): ParagraphChild[] {
  const formula = math('oMath', ...row(elements));
  const whole = block ? math('oMathPara', formula) : formula;
  return [whole];
}

/** Signs that take what follows as their operand, and grow with it. */
const largeOperators = /^[∑∏∐∫∬∭∮∯∰⋀⋁⋂⋃⨀⨁⨂⨄⨆]$/u;
const scripted: ReadonlySet<string> = new Set(['msub', 'msup', 'msubsup', 'munder', 'mover', 'munderover']);

function row(elements: readonly MathElement[]): ImportedXmlComponent[] {
  const made: ImportedXmlComponent[] = [];
  for (let at = 0; at < elements.length; at += 1) {
    const element = elements[at];
    if (!element) continue;
    const operator = operatorOf(element);
    // The space before what a function is applied to is made by the word processor.
    const skipped = isFunction(element) && elements[at + 1]?.tag === 'mspace' ? 1 : 0;
    const operand = elements[at + 1 + skipped];
    if (operator !== null) made.push(large(element, operator, operand ? drawn(operand) : []));
    else if (isFunction(element) && operand)
      made.push(math('func', math('fName', ...drawn(element)), math('e', ...drawn(operand))));
    else {
      made.push(...drawn(element));
      continue;
    }
    at += 1 + skipped;
  }
  return made;
}

/** The large operator that an element is, with limits or without. */
function operatorOf({ tag, text, children }: MathElement): string | null {
  if (tag === 'mo') return largeOperators.test(text) ? text : null;
  const [base] = children;
  return scripted.has(tag) && base?.tag === 'mo' && largeOperators.test(base.text) ? base.text : null;
}

/** The name of a function, such as “sin”, with limits or without. */
function isFunction({ tag, text, children }: MathElement): boolean {
  if (tag === 'mi') return [...text].length > 1;
  return scripted.has(tag) && children[0]?.tag === 'mi' && isFunction(children[0]);
}

function large(
  { tag, children }: MathElement,
  operator: string,
  operand: readonly ImportedXmlComponent[],
): ImportedXmlComponent {
  const [, first, second] = children;
  const isOver = tag === 'msup' || tag === 'mover';
  const [low, high] = isOver ? [undefined, first] : [first, second];
  const properties = math(
    'naryPr',
    said('chr', operator),
    said('limLoc', tag.startsWith('mu') || tag === 'mover' ? 'undOvr' : 'subSup'),
    ...(low ? [] : [said('subHide', '1')]),
    ...(high ? [] : [said('supHide', '1')]),
  );
  return math('nary', properties, math('sub', ...parts(low)), math('sup', ...parts(high)), math('e', ...operand));
}

function parts(element: MathElement | undefined): ImportedXmlComponent[] {
  if (!element) return [];
  return element.tag === 'mrow' && !isFenced(element) ? row(element.children) : drawn(element);
}

function isFence(element: MathElement | undefined): element is MathElement {
  return element?.tag === 'mo' && element.attributes['fence'] === 'true';
}

function isFenced({ children }: MathElement): boolean {
  return isFence(children[0]) || isFence(children.at(-1));
}

/** Signs that lie over or under something and grow with it. */
const braces = /^[⏞⏟⏠⏡⎴⎵]$/u;
const lines = /^[‾¯_]$/u;
/** The combining characters that stand for signs over a letter. */
const accents: Readonly<Record<string, string>> = {
  '^': '\u0302',
  '~': '\u0303',
  ˉ: '\u0304',
  '˘': '\u0306',
  '˙': '\u0307',
  '¨': '\u0308',
  ˇ: '\u030c',
  '´': '\u0301',
  ˊ: '\u0301',
  '`': '\u0300',
  ˋ: '\u0300',
  '˚': '\u030a',
  '⃗': '\u20d7',
  '→': '\u20d7',
  '←': '\u20d6',
};

function drawn(element: MathElement): ImportedXmlComponent[] {
  const { tag, attributes, children, text } = element;
  const [first, second, third] = children;
  const base = (): ImportedXmlComponent => math('e', ...parts(first));
  switch (tag) {
    case 'mi':
      return [run(text, attributes['mathvariant'] === 'normal' || [...text].length > 1 ? 'upright' : 'letters')];
    case 'mn':
    case 'mo':
      return [run(text, 'letters')];
    case 'mtext':
      return [run(text, 'words')];
    case 'mspace':
      return spaceOf(attributes['width']).map((space) => run(space, 'words'));
    case 'mfrac':
      return [
        math(
          'f',
          ...(/^0/.test(attributes['linethickness'] ?? '') ? [math('fPr', said('type', 'noBar'))] : []),
          math('num', ...parts(first)),
          math('den', ...parts(second)),
        ),
      ];
    case 'msqrt':
      return [math('rad', math('radPr', said('degHide', '1')), math('deg'), math('e', ...row(children)))];
    case 'mroot':
      return [math('rad', math('deg', ...parts(second)), base())];
    case 'msub':
      return [math('sSub', base(), math('sub', ...parts(second)))];
    case 'msup':
      return [math('sSup', base(), math('sup', ...parts(second)))];
    case 'msubsup':
      return [math('sSubSup', base(), math('sub', ...parts(second)), math('sup', ...parts(third)))];
    case 'mover':
      return [over(base(), second)];
    case 'munder':
      return [under(base(), second)];
    case 'munderover':
      return [over(math('e', under(base(), second)), third)];
    case 'mtable':
      return [matrix(element)];
    case 'mphantom':
      return [math('phant', math('phantPr', said('show', '0')), math('e', ...row(children)))];
    case 'menclose':
      return [enclosed(attributes['notation'] ?? '', math('e', ...row(children)))];
    default:
      return isFenced(element) ? [fenced(children)] : row(children);
  }
}

function over(base: ImportedXmlComponent, limit: MathElement | undefined): ImportedXmlComponent {
  const sign = limit?.tag === 'mo' ? limit.text : '';
  if (lines.test(sign)) return math('bar', math('barPr', said('pos', 'top')), base);
  if (braces.test(sign))
    return math('groupChr', math('groupChrPr', said('chr', sign), said('pos', 'top'), said('vertJc', 'bot')), base);
  const accent = accents[sign];
  if (accent !== undefined) return math('acc', math('accPr', said('chr', accent)), base);
  return math('limUpp', base, math('lim', ...parts(limit)));
}

function under(base: ImportedXmlComponent, limit: MathElement | undefined): ImportedXmlComponent {
  const sign = limit?.tag === 'mo' ? limit.text : '';
  if (lines.test(sign)) return math('bar', math('barPr', said('pos', 'bot')), base);
  if (braces.test(sign)) return math('groupChr', math('groupChrPr', said('chr', sign), said('pos', 'bot')), base);
  return math('limLow', base, math('lim', ...parts(limit)));
}

/** What stands between signs that grow with it; one of them may be none. */
function fenced(children: readonly MathElement[]): ImportedXmlComponent {
  const [first] = children;
  const last = children.length > 1 ? children.at(-1) : undefined;
  const begin = isFence(first) ? first.text : '';
  const end = isFence(last) ? last.text : '';
  const inside = children.slice(isFence(first) ? 1 : 0, isFence(last) ? -1 : undefined);
  return math('d', math('dPr', said('begChr', begin), said('endChr', end)), math('e', ...row(inside)));
}

function matrix({ attributes, children }: MathElement): ImportedXmlComponent {
  const sides = (attributes['columnalign'] ?? 'center').split(' ');
  const count = Math.max(1, ...children.map((each) => each.children.length));
  const columns = Array.from({ length: count }, (_, at) => {
    const side = sides[Math.min(at, sides.length - 1)] ?? 'center';
    return math('mc', math('mcPr', said('count', '1'), said('mcJc', side)));
  });
  const rows = children.map(({ children: cells }) =>
    math('mr', ...Array.from({ length: count }, (_, at) => math('e', ...(cells[at] ? drawn(cells[at]) : [])))),
  );
  return math('m', math('mPr', math('mcs', ...columns)), ...rows);
}

function enclosed(notation: string, inside: ImportedXmlComponent): ImportedXmlComponent {
  if (notation === 'box') return math('borderBox', inside);
  const hidden = ['hideTop', 'hideBot', 'hideLeft', 'hideRight'].map((side) => said(side, '1'));
  const strike = notation.includes('down') ? 'strikeTLBR' : notation.includes('hor') ? 'strikeH' : 'strikeBLTR';
  return math('borderBox', math('borderBoxPr', ...hidden, said(strike, '1')), inside);
}

/** A space of about a width in em; none for what draws together. */
function spaceOf(width: string | undefined): readonly string[] {
  const em = /^(\d*\.?\d+)em$/.exec(width ?? '')?.[1];
  const size = em === undefined ? 0 : Number(em);
  if (size <= 0) return [];
  if (size >= 1) return ['\u2003'.repeat(Math.min(10, Math.round(size)))];
  return [size >= 0.4 ? '\u2002' : '\u2009'];
}

function run(text: string, style: 'letters' | 'upright' | 'words'): ImportedXmlComponent {
  const properties = style === 'letters' ? [] : [math('rPr', style === 'words' ? math('nor') : said('sty', 'p'))];
  const fonts = new ImportedXmlComponent('w:rPr');
  fonts.push(new ImportedXmlComponent('w:rFonts', { 'w:ascii': mathFont, 'w:hAnsi': mathFont }));
  const shown = new ImportedXmlComponent('m:t', { 'xml:space': 'preserve' });
  shown.push(text);
  return math('r', ...properties, fonts, shown);
}

/** The font of formulas that word processors bring along. */
const mathFont = 'Cambria Math';
