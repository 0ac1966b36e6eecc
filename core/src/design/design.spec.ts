import { fillTemplate, labelKinds, plainDesign, type Design } from './design.js';
import { partsOfText, staticText } from './fields.js';
import { formatNumber, numerals } from './numerals.js';
import { answerOf, faultsOf, resolveDesign, valueAt, wayOf, type StoredDesign } from './resolve.js';
import { faultOf, settingOf, settings, type SettingValue } from './settings.js';
import { shippedDesign, shippedDesigns } from './shipped.js';

const design = (key: string, from: string | null, own: Record<string, SettingValue> = {}): StoredDesign => ({
  key,
  title: key.toUpperCase(),
  from,
  settings: own,
});
const required = (name: string) => {
  const found = settingOf(name);
  if (!found) throw new Error(`There is no setting ${name}.`);
  return found.setting;
};

/** All paths to values of a design, but for its names and the fonts that builds add. */
function pathsIn(value: unknown, path = ''): readonly string[] {
  if (typeof value !== 'object' || value === null || Array.isArray(value)) return [path];
  return Object.entries(value).flatMap(([name, below]) => pathsIn(below, path === '' ? name : `${path}.${name}`));
}

describe('The settings of designs', () => {
  it('are all that a design says, each once', () => {
    const rest = Object.fromEntries(Object.entries(plainDesign).filter(([name]) => name !== 'key' && name !== 'title'));
    // Steps and blocks have no heading that a template could begin.
    const without = ['templates.step.heading', 'templates.block.heading'];
    const paths = pathsIn(rest).filter((path) => !without.includes(path));
    expect(settings.map(({ path }) => path).sort()).toEqual([...paths].sort());
  });

  it('allow what everything begins with, and what the designs say that come with the application', () => {
    for (const setting of settings) expect(faultOf(setting, valueAt(plainDesign, setting.path))).toBeNull();
    for (const { settings: own } of shippedDesigns) expect(faultsOf(own)).toEqual([]);
  });

  it('refuse what they cannot be, with a sentence', () => {
    const wrong: readonly [string, SettingValue][] = [
      ['paper.size', 'foolscap'],
      ['paper.top', 2],
      ['paper.top', Number.NaN],
      ['lists.paperDepth', 2.5],
      ['type.justify', 'yes'],
      ['colours.accent', 'red'],
      ['colours.accent', '#12345'],
      ['lists.front', ['contents', 'contents']],
      ['lists.front', ['everything']],
      ['web.address', 'javascript:alert(1)'],
      ['web.address', 'docs'],
      ['cover.over', 'x'.repeat(1001)],
      ['paper.top@de', 20],
      ['paper.colour', 'white'],
      ['__proto__', 'x'],
      ['constructor.name', 'x'],
    ];
    for (const [name, value] of wrong) {
      const own: Record<string, SettingValue> = Object.fromEntries([[name, value]]);
      expect(faultsOf(own).length)
        .withContext(`${name} ${String(value)}`)
        .toBe(1);
    }
  });
});

describe('A design', () => {
  it('takes what it does not say from those behind it', () => {
    const all = [
      design('a', 'b', { 'paper.top': 30 }),
      design('b', 'c', { 'paper.top': 40, 'paper.bottom': 50 }),
      design('c', null),
    ];
    const resolved = resolveDesign('a', all, 'en');
    expect([resolved.paper.top, resolved.paper.bottom, resolved.paper.inner]).toEqual([
      30,
      50,
      plainDesign.paper.inner,
    ]);
    expect([resolved.key, resolved.title]).toEqual(['a', 'A']);
    const said = (path: string): readonly (string | null)[] => [answerOf(required(path), wayOf('a', all), null).by];
    expect(['paper.top', 'paper.bottom', 'paper.inner'].flatMap(said)).toEqual(['a', 'b', null]);
  });

  it('says words by language: any word for the language goes before those for all', () => {
    const heading = 'templates.figure.heading';
    const all = [
      design('own', 'base', { [heading]: 'Fig. {number}' }),
      design('base', null, { [`${heading}@de`]: 'Bild {number}', [`${heading}@de-at`]: 'Abb. {number}' }),
    ];
    const headingIn = (language: string): string => resolveDesign('own', all, language).templates.figure.heading;
    expect(['en', 'de', 'de-DE', 'de-AT', 'fr'].map(headingIn)).toEqual([
      'Fig. {number}',
      'Bild {number}',
      'Bild {number}',
      'Abb. {number}',
      'Fig. {number}',
    ]);
  });

  it('is plain where there is none, however its way goes', () => {
    expect(resolveDesign('gone', [], 'en')).toEqual(plainDesign);
    const round = [design('a', 'b', { 'paper.top': 30 }), design('b', 'a', { 'paper.bottom': 31 })];
    expect(wayOf('a', round).map(({ key }) => key)).toEqual(['a', 'b']);
    const { paper } = resolveDesign('a', round, 'en');
    expect([paper.top, paper.bottom]).toEqual([30, 31]);
  });

  it('does not keep a value that a later version of the application does not know', () => {
    const { paper } = resolveDesign('a', [design('a', null, { 'paper.size': 'foolscap', 'paper.top': 33 })], 'en');
    expect([paper.size, paper.top]).toEqual(['a4', 33]);
  });

  it('shows each list once, where it comes first', () => {
    const own = { 'lists.front': ['contents', 'index'], 'lists.back': ['index', 'glossary'] };
    const { lists } = resolveDesign('a', [design('a', null, own)], 'en');
    expect([lists.front, lists.back]).toEqual([['contents', 'index'], ['glossary']]);
    const both = { 'lists.front': ['topics', 'contents'], 'lists.back': ['glossary', 'topics'] };
    expect(resolveDesign('a', [design('a', null, both)], 'en').lists.back).toEqual(['glossary', 'topics']);
  });

  it('of those that come with the application has a template for everything that carries a label', () => {
    for (const { key } of shippedDesigns)
      for (const language of ['en', 'de']) {
        const { templates }: Design = shippedDesign(key, language);
        for (const kind of labelKinds) expect(templates[kind].number).withContext(`${key} ${kind}`).not.toBe('');
      }
  });
});

describe('Texts of designs', () => {
  it('are told apart into what stands as it is, fields, and variables', () => {
    expect(partsOfText('{company} · {title}, page {page}')).toEqual([
      { variable: 'company' },
      ' · ',
      { field: 'title' },
      ', page ',
      { field: 'page' },
    ]);
    expect(partsOfText('no { braces } and {} here')).toEqual(['no { braces } and {} here']);
    expect(partsOfText('')).toEqual([]);
  });

  it('say without pages only what holds on all of them', () => {
    expect(staticText(['Fennick, ', { f: 'page' }, ' '])).toBe('Fennick,');
  });

  it('fill templates once, whatever stands in the values', () => {
    expect(fillTemplate('Section {number}, “{title}”', { number: '1.2', title: 'A {number} of things' })).toBe(
      'Section 1.2, “A {number} of things”',
    );
    expect(fillTemplate('{title}', { number: '', title: '$&' })).toBe('$&');
    expect(fillTemplate('no marks', { number: '1', title: 'x' })).toBe('no marks');
  });
});

describe('Numerals', () => {
  it('write numbers that tell positions apart', () => {
    for (const numeral of numerals.filter((each) => each !== 'none')) {
      const written = Array.from({ length: 60 }, (_, at) => formatNumber(at + 1, numeral));
      expect(new Set(written).size).withContext(numeral).toBe(60);
    }
  });
});
