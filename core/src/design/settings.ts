import { admonitionKinds, tableRules } from '../model/kinds.js';
import {
  admonitionStyles,
  webAppearances,
  bulletSigns,
  codeFrames,
  coverArrangements,
  matterParts,
  labelKinds,
  letterCases,
  paperSizes,
  pdfParts,
  pdfStandards,
  signNames,
  tableHeads,
  type MatterPart,
} from './design.js';
import { numerals } from './numerals.js';
import { stampSettingAt } from './stamp-looks.js';

/** What a design says of one setting. */
export type SettingValue = string | number | boolean | readonly string[];

/** The parts of a design, in the order in which they are offered. */
export const settingGroups = [
  'paper',
  'type',
  'cover',
  'heads',
  'numbers',
  'lists',
  'blocks',
  'stamps',
  'web',
] as const;
export type SettingGroup = (typeof settingGroups)[number];

interface SettingFacts {
  /** Where the value stands in a design: names joined by dots. */
  readonly path: string;
  readonly group: SettingGroup;
  /** Settings that belong together stand under one heading. */
  readonly under: string;
  readonly title: string;
  readonly help?: string;
  /** It does something only where another setting has a value. */
  readonly onlyWith?: { readonly path: string; readonly value: SettingValue };
  /** Paths of settings that are asked where no design says anything of this one, the nearest first. */
  readonly otherwise?: readonly string[];
  /** Whether it may be said anew for a language. */
  readonly byLanguage?: true;
}

/** One thing that a design can say, with all values that it may have. */
export type Setting = SettingFacts &
  (
    | { readonly kind: 'choice'; readonly options: readonly { readonly value: string; readonly title: string }[] }
    | {
        readonly kind: 'number';
        readonly least: number;
        readonly most: number;
        readonly step: number;
        readonly unit: string;
      }
    | { readonly kind: 'flag' }
    /** A colour as `#rrggbb`; where it may be, `accent` for the accent's. */
    | { readonly kind: 'colour'; readonly orAccent?: true }
    /** @member fields what may stand in braces: nothing but label parts, fields of the publication, or those of pages, too */
    | { readonly kind: 'text'; readonly fields: 'none' | 'label' | 'publication' | 'page'; readonly long?: true }
    | { readonly kind: 'font' }
    /** The key of a component; empty: none. */
    | { readonly kind: 'component'; readonly of: 'image' | 'snippet' }
    | { readonly kind: 'lists' }
    | { readonly kind: 'address' }
    | { readonly kind: 'css' }
  );

/** A setting in one place of the table, before that place is known. */
type SettingIn<S> = S extends Setting ? Omit<S, 'group' | 'under'> : never;

function group(
  name: SettingGroup,
  under: string,
  settings: readonly SettingIn<Setting>[],
  onlyWith?: SettingFacts['onlyWith'],
): readonly Setting[] {
  return settings.map((setting): Setting => ({ ...(onlyWith ? { onlyWith } : {}), ...setting, group: name, under }));
}

const choice = <Value extends string>(
  path: string,
  title: string,
  values: readonly Value[],
  titles: Readonly<Record<Value, string>>,
  help?: string,
): SettingIn<Setting> => ({
  path,
  title,
  kind: 'choice',
  options: values.map((value) => ({ value, title: titles[value] })),
  ...(help === undefined ? {} : { help }),
});
const number = (
  path: string,
  title: string,
  [least, most, step]: readonly [number, number, number],
  unit = '',
  help?: string,
): SettingIn<Setting> => ({
  path,
  title,
  kind: 'number',
  least,
  most,
  step,
  unit,
  ...(help === undefined ? {} : { help }),
});
const flag = (path: string, title: string, help?: string): SettingIn<Setting> => ({
  path,
  title,
  kind: 'flag',
  ...(help === undefined ? {} : { help }),
});
const colour = (path: string, title: string): SettingIn<Setting> => ({ path, title, kind: 'colour' });
const text = (path: string, title: string, fields: 'publication' | 'page', help?: string): SettingIn<Setting> => ({
  path,
  title,
  kind: 'text',
  fields,
  byLanguage: true,
  ...(help === undefined ? {} : { help }),
});
const font = (path: string, title: string): SettingIn<Setting> => ({ path, title, kind: 'font', byLanguage: true });
const component = (path: string, title: string, of: 'image' | 'snippet'): SettingIn<Setting> => ({
  path,
  title,
  kind: 'component',
  of,
  ...(of === 'snippet' ? { byLanguage: true } : {}),
});

const numeralTitles = {
  decimal: '1, 2, 3',
  'upper-alpha': 'A, B, C',
  'lower-alpha': 'a, b, c',
  'upper-roman': 'I, II, III',
  'lower-roman': 'i, ii, iii',
  none: 'no number',
};
const captionTitles = {
  'per-chapter': 'anew in each chapter',
  through: 'through the publication',
  none: 'no number',
};
const caseTitles = { 'as-written': 'as written', capitals: 'CAPITALS', title: 'Title Case' };
const kindTitles: Readonly<Record<(typeof labelKinds)[number], string>> = {
  front: 'Front matter',
  part: 'Part',
  chapter: 'Chapter',
  appendix: 'Appendix',
  section: 'Section',
  figure: 'Figure',
  table: 'Table',
  example: 'Example',
  step: 'Step',
  block: 'Other block',
};
const admonitionTitles: Readonly<Record<(typeof admonitionKinds)[number], string>> = {
  note: 'Note',
  tip: 'Tip',
  important: 'Important',
  notice: 'Notice',
  caution: 'Caution',
  warning: 'Warning',
  danger: 'Danger',
};
const signTitles = {
  none: 'no sign',
  info: 'i in a disc',
  bulb: 'lamp',
  star: 'star',
  exclamation: 'exclamation mark in a disc',
  triangle: 'exclamation mark in a triangle',
  bolt: 'flash in a triangle',
  stop: 'bar in an octagon',
};
const places = [
  ['left', 'left'],
  ['middle', 'middle'],
  ['right', 'right'],
] as const;
const lineOfPage = (path: string, what: string): readonly SettingIn<Setting>[] =>
  places.map(([at, title]) => text(`${path}.${at}`, `${what}, ${title}`, 'page'));
const label = (path: string, title: string): SettingIn<Setting> => ({
  path,
  title,
  kind: 'text',
  fields: 'label',
  byLanguage: true,
});

const ownSize = { path: 'paper.size', value: 'own' };

/**
 * All settings of designs but those of the looks of stamps, see `stampSettings`. The form, the checks and the words for
 * conflicts are made of this table.
 */
export const settings: readonly Setting[] = [
  ...group('paper', 'Sheet', [
    choice('paper.size', 'Size', paperSizes, { a4: 'A4', a5: 'A5', letter: 'Letter', own: 'own size' }),
    { ...number('paper.width', 'Own width', [70, 600, 1], 'mm'), onlyWith: ownSize },
    { ...number('paper.height', 'Own height', [70, 600, 1], 'mm'), onlyWith: ownSize },
    flag('paper.landscape', 'Landscape'),
    choice('paper.sides', 'Printed on', ['one', 'two'], { one: 'one side', two: 'both sides' }),
    choice('paper.chapterStart', 'Chapters begin on', ['page', 'right-page'], {
      page: 'a new page',
      'right-page': 'a right-hand page',
    }),
    number(
      'paper.turnFrom',
      'Turn tables from',
      [0, 40, 1],
      'columns',
      'Such tables lie across, on pages of their own. 0: none do.',
    ),
  ]),
  ...group('paper', 'PDF', [
    choice(
      'paper.standard',
      'Claims to be',
      pdfStandards,
      { 'ua-1': 'accessible (PDF/UA-1)', 'a-2b': 'for archives (PDF/A-2b)', 'a-3b': 'for archives (PDF/A-3b)' },
      'It is tagged in any case. What speaks against the claim is a problem of the build.',
    ),
    choice(
      'paper.parts',
      'Besides the whole',
      pdfParts,
      { none: 'nothing', chapters: 'one PDF per chapter', topics: 'one PDF per topic' },
      'Single parts keep their numbers, have no cover and no lists, and say where references out of them lead.',
    ),
  ]),
  ...group('paper', 'Margins', [
    number('paper.top', 'Top', [8, 100, 1], 'mm'),
    number('paper.bottom', 'Bottom', [8, 100, 1], 'mm'),
    number('paper.inner', 'At the binding', [8, 100, 1], 'mm', 'Left, where only one side is printed.'),
    number('paper.outer', 'Outside', [8, 100, 1], 'mm'),
  ]),
  ...group('type', 'Families', [
    font('type.text', 'Text'),
    font('type.headings', 'Headings'),
    font('type.labels', 'Labels, heads and feet'),
    font('type.code', 'Code'),
  ]),
  ...group('type', 'Text', [
    number('type.size', 'Size on paper', [6, 24, 0.5], 'pt'),
    number('type.leading', 'From line to line', [1, 2.5, 0.05], 'times the size'),
    flag('type.justify', 'Justified'),
    flag('type.hyphenate', 'Words are hyphenated'),
  ]),
  ...group('type', 'Headings', [
    number('type.level1', 'First level', [8, 60, 0.5], 'pt'),
    number('type.level2', 'Second level', [8, 60, 0.5], 'pt'),
    number('type.level3', 'Third level', [6, 60, 0.5], 'pt'),
    number('type.level4', 'Below', [6, 60, 0.5], 'pt'),
    choice('type.headingWeight', 'Weight', ['regular', 'semibold', 'bold'], {
      regular: 'regular',
      semibold: 'semibold',
      bold: 'bold',
    }),
    choice('letters.level1', 'Letters, first level', letterCases, caseTitles),
    choice('letters.level2', 'Letters, second level', letterCases, caseTitles),
    choice('letters.level3', 'Letters, third level', letterCases, caseTitles),
  ]),
  ...group('type', 'Colours', [
    colour('colours.ink', 'Text'),
    colour('colours.soft', 'What stands back'),
    colour('colours.accent', 'Accent'),
    colour('colours.line', 'Lines'),
    colour('colours.tint', 'Behind code and boxes'),
    choice('colours.headings', 'Headings', ['ink', 'accent'], { ink: 'as the text', accent: 'in the accent' }),
  ]),
  ...group('cover', 'Front', [
    flag('cover.on', 'Has a cover'),
    choice('cover.arrangement', 'Arrangement', coverArrangements, {
      top: 'titles high, after a line',
      middle: 'all in the middle',
      band: 'titles in a band of colour',
      foot: 'picture above, titles low',
    }),
    text(
      'cover.over',
      'Over the title',
      'publication',
      'Such as the company: {title}, {variant}, {date}, {language}, or {key} of a variable.',
    ),
    text('cover.title', 'Title', 'publication'),
    text('cover.under', 'Under the title', 'publication'),
    text('cover.foot', 'At the foot', 'publication', 'Such as a document number and a version.'),
    component('cover.picture', 'Picture', 'image'),
    component('cover.snippet', 'Snippet', 'snippet'),
  ]),
  ...group('cover', 'Back', [
    flag('cover.backOn', 'Has a back cover'),
    text('cover.back', 'Text', 'publication'),
    component('cover.backSnippet', 'Snippet', 'snippet'),
  ]),
  ...group('heads', 'All', [
    flag('heads.rule', 'Line below the head'),
    flag('heads.firstDiffers', 'First pages of chapters are different'),
  ]),
  ...group('heads', 'Right-hand pages, and all pages of one-sided paper', [
    ...lineOfPage('heads.right.head', 'Head'),
    ...lineOfPage('heads.right.foot', 'Foot'),
  ]),
  ...group(
    'heads',
    'Left-hand pages',
    [...lineOfPage('heads.left.head', 'Head'), ...lineOfPage('heads.left.foot', 'Foot')],
    { path: 'paper.sides', value: 'two' },
  ),
  ...group(
    'heads',
    'First pages of chapters',
    [...lineOfPage('heads.first.head', 'Head'), ...lineOfPage('heads.first.foot', 'Foot')],
    { path: 'heads.firstDiffers', value: true },
  ),
  ...group('numbers', 'Counting', [
    choice('numerals.front', 'Front matter', numerals, numeralTitles),
    choice('numerals.part', 'Parts', numerals, numeralTitles),
    choice('numerals.chapter', 'Chapters', numerals, numeralTitles),
    choice('numerals.appendix', 'Appendices', numerals, numeralTitles),
    choice('chapters', 'Chapters count', ['through', 'per-part'], {
      through: 'through all parts',
      'per-part': 'anew in each part',
    }),
    choice('numerals.section', 'Sections', ['decimal', 'none'], { decimal: '1.1, 1.2', none: 'no number' }),
    number('sectionDepth', 'Levels of sections with numbers', [0, 6, 1]),
    choice('numerals.figure', 'Figures', ['per-chapter', 'through', 'none'], captionTitles),
    choice('numerals.table', 'Tables', ['per-chapter', 'through', 'none'], captionTitles),
    choice('numerals.example', 'Examples', ['per-chapter', 'through', 'none'], captionTitles),
  ]),
  ...labelKinds.flatMap((kind) =>
    group('numbers', kindTitles[kind], [
      ...(kind === 'step' || kind === 'block' ? [] : [label(`templates.${kind}.heading`, 'Before the title')]),
      label(`templates.${kind}.numberAndTitle`, 'Reference with number and title'),
      label(`templates.${kind}.number`, 'Reference with the number'),
    ]),
  ),
  ...group('numbers', 'Other references', [
    label('titleReference', 'By the title'),
    label('unnumberedReference', 'To a section without number'),
  ]),
  ...group('lists', 'Generated lists', [
    { path: 'lists.front', title: 'Before the text', kind: 'lists' },
    { path: 'lists.back', title: 'After the text', kind: 'lists' },
    number('lists.contentsDepth', 'Sections of topics in the contents', [0, 6, 1], 'levels'),
    number('lists.paperDepth', 'Headings in the contents on paper', [1, 6, 1], 'levels'),
    number('paper.indexColumns', 'Columns of the index', [1, 3, 1]),
  ]),
  ...group('blocks', 'Admonitions', [
    choice('blocks.admonition', 'Look', admonitionStyles, {
      bar: 'a bar at the side',
      box: 'a box',
      plain: 'no frame',
    }),
  ]),
  ...admonitionKinds.flatMap((kind) =>
    group('blocks', admonitionTitles[kind], [
      { path: `blocks.admonitions.${kind}.colour`, title: 'Colour', kind: 'colour', orAccent: true },
      choice(`blocks.admonitions.${kind}.sign`, 'Sign', signNames, signTitles),
      {
        path: `blocks.admonitions.${kind}.word`,
        title: 'Word',
        help: 'Empty: the word of the language.',
        kind: 'text',
        fields: 'none',
        byLanguage: true,
      },
    ]),
  ),
  ...group('blocks', 'Tables', [
    choice('blocks.tableRules', 'Lines', tableRules, {
      rows: 'between rows',
      grid: 'around every cell',
      none: 'none',
    }),
    flag('blocks.tableStripes', 'Every second row is tinted'),
    choice('blocks.tableHead', 'Header', tableHeads, {
      line: 'a strong line below',
      tint: 'tinted',
      accent: 'in the accent, light letters',
    }),
  ]),
  ...group('blocks', 'Code, lists, numbers', [
    choice('blocks.code', 'Code', codeFrames, {
      tint: 'tinted',
      bar: 'tinted, a bar at the side',
      frame: 'in a frame',
    }),
    choice('blocks.bullets', 'Bullets', bulletSigns, { dots: '• – ·', squares: '▪ ▫ ·', dashes: '– – ·' }),
    flag('blocks.numbersInAccent', 'Numbers of headings and captions in the accent'),
  ]),
  ...group('web', 'Pages', [
    choice('web.appearance', 'Light and dark', webAppearances, {
      both: 'as the reader’s system',
      light: 'always light',
      dark: 'always dark',
    }),
    number('web.width', 'Width of the text', [24, 90, 1], 'times its size'),
    text('web.header', 'Header', 'publication', 'Beside the title of the publication.'),
    text('web.footer', 'Footer', 'publication'),
    component('web.logo', 'Logo', 'image'),
    {
      path: 'web.address',
      title: 'Address of the site',
      help: 'Where it will stand, such as https://docs.example.org/guide/. With it the site says where each page is (sitemap.xml).',
      kind: 'address',
      byLanguage: true,
    },
    {
      path: 'web.css',
      title: 'Own style sheet',
      help: 'Added after ours. It can load nothing from elsewhere.',
      kind: 'css',
    },
  ]),
];

const byPath = new Map(settings.map((setting) => [setting.path, setting]));

/** The setting and the language that a name in a stored design names; undefined where there is none. */
export function settingOf(name: string): { readonly setting: Setting; readonly language: string | null } | undefined {
  const [path = '', language = null] = name.split('@');
  const setting = byPath.get(path) ?? stampSettingAt(path);
  return setting && (language === null || setting.byLanguage) ? { setting, language } : undefined;
}

/** What speaks against a value for a setting, as a sentence; null: nothing. The content of style sheets is not looked at. */
export function faultOf(setting: Setting, value: unknown): string | null {
  const fault = (what: string): string => `${setting.title}: ${what}`;
  switch (setting.kind) {
    case 'choice':
      return setting.options.some((option) => option.value === value) ? null : fault('there is no such choice.');
    case 'number':
      return typeof value === 'number' &&
        value >= setting.least &&
        value <= setting.most &&
        (setting.step % 1 !== 0 || Number.isInteger(value))
        ? null
        : fault(
            `a ${setting.step % 1 === 0 ? 'whole ' : ''}number from ${setting.least} to ${setting.most} is needed.`,
          );
    case 'flag':
      return typeof value === 'boolean' ? null : fault('yes or no is needed.');
    case 'colour':
      if (setting.orAccent && value === 'accent') return null;
      return typeof value === 'string' && /^#[0-9a-f]{6}$/i.test(value)
        ? null
        : fault('a colour such as #0b5d66 is needed.');
    case 'lists':
      return Array.isArray(value) && value.every(isMatterPart) && new Set(value).size === value.length
        ? null
        : fault('each list can stand there once.');
    case 'address':
      return value === '' || (typeof value === 'string' && isWebAddress(value))
        ? null
        : fault('a whole address that begins with https:// is needed.');
    case 'text':
    case 'font':
    case 'component':
    case 'css':
      if (typeof value !== 'string') return fault('a text is needed.');
      return value.length > mostSigns[setting.kind] ? fault(`at most ${mostSigns[setting.kind]} signs.`) : null;
  }
}

const mostSigns = { text: 1000, font: 80, component: 80, css: 50_000 };

function isMatterPart(value: unknown): value is MatterPart {
  return matterParts.some((list) => list === value);
}

function isWebAddress(text: string): boolean {
  if (!URL.canParse(text)) return false;
  const { protocol } = new URL(text);
  return protocol === 'https:' || protocol === 'http:';
}
