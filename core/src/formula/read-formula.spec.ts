import { makeNode, makeText } from '../model/node.js';
import { numberedOf } from '../../../tests/support/build.js';
import { entry, p, publicationOf, recipeOf, sourceOf, topic } from '../../../tests/support/library-parts.js';
import { formulaMarkup, withoutFormulas } from '../output/write-formula.js';
import { mathematicalLetters } from './letters.js';
import { mathText, readFormula } from './read-formula.js';

const read = (source: string, block = false): string =>
  (readFormula(source, block).elements ?? []).map(mathText).join('');
const fault = (source: string, block = false): string | null => readFormula(source, block).fault;

describe('Letters of mathematics', () => {
  const variants = [
    'bold',
    'italic',
    'bold-italic',
    'script',
    'bold-script',
    'fraktur',
    'bold-fraktur',
    'double-struck',
    'sans-serif',
    'bold-sans-serif',
    'sans-serif-italic',
    'sans-serif-bold-italic',
    'monospace',
  ];
  const letters = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789ΑΒΓΔΘΣΩαβγδεθςσω∇∂';

  // Unicode says of each of them which letter it is in another font: its compatibility decomposition (UAX 15, NFKC).
  it('are those that Unicode says are the plain ones in another font, each one of its own', () => {
    const made = variants.flatMap((variant) =>
      [...letters].map((letter) => ({ variant, letter, styled: mathematicalLetters(letter, variant) })),
    );
    for (const { variant, letter, styled } of made) {
      expect(styled.normalize('NFKC')).withContext(`${letter} ${variant}`).toBe(letter.normalize('NFKC'));
      expect([...styled].length)
        .withContext(`${letter} ${variant}`)
        .toBe(1);
    }
    const changed = made.filter(({ letter, styled }) => styled !== letter).map(({ styled }) => styled);
    expect(new Set(changed).size).toBe(changed.length);
    // Latin letters have all of them.
    expect(changed.length).toBeGreaterThan(variants.length * 52);
  });
});

describe('Formulas', () => {
  it('say all that was written, in its order', () => {
    expect(read('E = mc^2')).toBe('E=mc2');
    expect(read('\\frac{a_1}{\\sqrt[3]{b}}')).toBe('a1b3');
    expect(read('\\mathbb{R} \\text{where}\\,x').replace(/\s/g, '')).toBe('ℝwherex');
    expect(read('50\\,\\%').replace(/\s/g, '')).toBe('50%');
    expect(read('\\overset{!}{=}')).toBe('=!');
    expect(read('\\begin{pmatrix} 1 & 2 \\\\ 3 & 4 \\end{pmatrix}')).toBe('(1234)');
  });

  it('that cannot be drawn say why, in a part of a sentence', () => {
    expect(fault('\\frac{1')).toContain('unexpected end of input');
    expect(fault('\\nothing')).toBe('undefined control sequence: \\nothing');
    expect(fault(' ')).toBe('it is empty');
    expect(fault('x'.repeat(4001))).toBe('it is longer than 4000 characters');
    expect(fault('x \\tag{1}')).toContain('\\tag works only in display');
    expect(fault('x \\tag{1}', true)).toBeNull();
  });

  it('lose nothing to remarks, lead nowhere and define nothing', () => {
    expect(fault('50 %')).toContain('“%” would begin a remark');
    expect(fault('50\\%')).toBeNull();
    expect(fault('a \\\\% b')).toContain('remark');
    expect(fault('\\href{https://example.org}{x}')).toBe('“\\href” cannot be used');
    expect(fault('\\includegraphics{x.png}')).toContain('cannot be used');
    for (const command of ['\\def\\a{b}', '\\let\\a b', '\\newcommand{\\a}{b}', '\\gdef\\a{b}'])
      expect(fault(command)).withContext(command).toContain('commands are not defined in formulas');
    expect(fault('\\defined')).toContain('undefined control sequence');
  });

  it('of hostile people are stopped, by depth and by work', () => {
    expect(fault('{'.repeat(1900) + 'x' + '}'.repeat(1900))).toBe('it is nested too deeply');
    expect(fault('\\frac{'.repeat(300) + 'x' + '}{2}'.repeat(300))).toBe('it is nested too deeply');
    expect(fault('\\pmb{'.repeat(600) + 'x' + '}'.repeat(600))).not.toBeNull();
  });

  it('are the same for their own line, where sums have their limits above and below', () => {
    const inLine = readFormula('\\sum_{i=1}^{n} i', false).elements?.[0]?.children[0];
    const alone = readFormula('\\sum_{i=1}^{n} i', true).elements?.[0]?.children[0];
    expect([inLine?.tag, alone?.tag]).toEqual(['msubsup', 'munderover']);
  });

  it('are MathML on screens, with all signs escaped, and their source where they cannot be drawn', () => {
    const markup = formulaMarkup('a < b & c', false);
    expect(markup).toBe('<code class="formula">a &lt; b &amp; c</code>');
    const drawn = formulaMarkup('a < "b"', true);
    expect(drawn).toContain('display="block" alttext="a &lt; &quot;b&quot;"');
    expect(drawn).toContain('<mo>&lt;</mo>');
    expect(withoutFormulas(`x ${drawn} y`)).toBe('x  y');
  });

  it('set columns at their sides, which MathML Core leaves to style sheets', () => {
    const markup = formulaMarkup('\\begin{aligned} a &= b \\\\ cd &= e \\end{aligned}', true);
    expect(markup.match(/<mtd class="right close" [^>]*displaystyle="true">/g)?.length).toBe(2);
    expect(markup.match(/<mtd class="left close"/g)?.length).toBe(2);
  });

  it('that cannot be drawn are problems of the build, with their block', () => {
    const source = sourceOf([
      topic(
        't',
        p('so ', makeNode('formula', { source: 'x^2' })),
        makeNode('paragraph', { id: 'here' }, [makeText('and '), makeNode('formula', { source: '\\frac{1' })]),
        makeNode('display_formula', { id: 'alone', source: '5 %' }),
      ),
    ]);
    const { problems } = numberedOf(source, recipeOf(publicationOf([entry('e', 't')])));
    expect(problems.map(({ code, severity, place }) => [code, severity, place.component, place.block])).toEqual([
      ['bad-formula', 'error', 't', 'here'],
      ['bad-formula', 'error', 't', 'alone'],
    ]);
    expect(problems[1]?.message).toBe(
      'The formula “5 %” cannot be drawn: a “%” would begin a remark; a percent sign is written “\\%”.',
    );
  });
});
