import { mathText, readFormula, type MathElement } from './read-formula.js';
import { texOfMathml, texOfPlainFormula, texOfWords } from './tex-of-mathml.js';

const token = (tag: string, text: string, attributes: MathElement['attributes'] = {}): MathElement => ({
  tag,
  attributes,
  children: [],
  text,
});
const group = (tag: string, ...children: readonly MathElement[]): MathElement => ({
  tag,
  attributes: {},
  children,
  text: '',
});
const signs = (elements: readonly MathElement[]): string => elements.map(mathText).join('').replace(/\s/g, '');

describe('MathML as TeX', () => {
  // The examples of Presentation MathML in “Mathematical Markup Language 3.0” (W3C), chapter 3; from memory.
  const x = token('mi', 'x');
  const examples: readonly (readonly [MathElement, string])[] = [
    [
      group(
        'msup',
        group('mrow', token('mo', '('), x, token('mo', '+'), token('mi', 'y'), token('mo', ')')),
        token('mn', '2'),
      ),
      '{\\left( x+y\\right)}^{2}',
    ],
    [group('mfrac', token('mn', '1'), group('msqrt', x)), '\\frac{1}{\\sqrt{x}}'],
    [group('mroot', x, token('mn', '3')), '\\sqrt[{3}]{x}'],
    [group('mrow', token('mi', 'sin'), token('mo', '\u2061'), x), '\\sin x'],
    [group('munderover', token('mo', '∫'), token('mn', '0'), token('mi', '∞')), '\\mathop{∫}\\limits_{0}^{∞}'],
    [group('mover', x, token('mo', '¯')), '\\overline{x}'],
    [token('mtext', 'if 5% & more_'), '\\text{if 5\\% \\& more\\_}'],
    [group('mrow', token('mn', '50'), token('mo', '%')), '50\\%'],
  ];
  it('says what was written', () => {
    for (const [element, source] of examples) expect(texOfMathml(element)).toBe(source);
  });

  it('comes back with the same signs in the same places from what TeX was drawn as', () => {
    const sources = [
      'E = mc^2',
      'x = \\frac{-b \\pm \\sqrt{b^2 - 4ac}}{2a}',
      '\\sqrt[3]{b}',
      '\\sum_{i=0}^{n} x_i^2',
      '\\prod_k k',
      '\\left( \\frac ab \\right)',
      '\\begin{matrix}1&2\\\\3&4\\end{matrix}',
      '\\hat{x} \\vec v \\dot x',
      'f(x)=\\begin{cases}1&x>0\\\\0&\\text{else}\\end{cases}',
      '\\lim_{x\\to 0} \\sin x',
      '50\\,\\%',
      '\\underbrace{a+b}_{n}',
      '\\binom nk',
      "f'(x)",
      '\\int_0^1 x\\,dx',
      '\\overset{!}{=}',
      '\\text{a_b \\{\\$\\}}',
      'p_s = 6.112\\,\\mathrm{hPa}\\cdot e^{\\frac{17.62\\,t}{243.12 + t}}',
    ];
    for (const source of sources) {
      const drawn = readFormula(source, true).elements ?? [];
      const again = texOfMathml(group('math', ...drawn));
      expect(signs(readFormula(again ?? '', true).elements ?? []))
        .withContext(`${source} → ${again ?? ''}`)
        .toBe(signs(drawn));
    }
  });

  it('is null where it says what TeX has no words for', () => {
    expect(texOfMathml(group('math', group('apply', group('plus'), x)))).toBeNull();
    expect(texOfMathml(group('math', token('mglyph', '')))).toBeNull();
  });
});

describe('Plain text as a formula', () => {
  it('keeps every sign, and words as words', () => {
    for (const text of ['E = mc', 'area = width × height (in m)', '50 % of a_b & {c}', 'a\\b ^ ~ $5 #1']) {
      const source = texOfPlainFormula(text);
      const { elements, fault } = readFormula(source, false);
      expect(fault).withContext(source).toBeNull();
      expect(
        signs(elements ?? [])
          .replaceAll('∼', '~')
          .replaceAll('−', '-'),
      )
        .withContext(source)
        .toBe(text.replace(/\s/g, ''));
    }
    expect(texOfPlainFormula('area = w')).toBe('\\text{area} = w');
    expect(texOfWords('')).toBe('');
  });
});
