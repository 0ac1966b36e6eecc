import type {
  Axis,
  ComponentBody,
  ComponentKind,
  ContentNode,
  OutlineEntry,
  StoredProfile,
  VariantRecipe,
} from '@allomorph/core';
import {
  admonition,
  bullets,
  fragment,
  label,
  only,
  p,
  phrase,
  place,
  placeInline,
  section,
  see,
  steps,
  strong,
  table,
  topic,
  variable,
  when,
} from './content.js';

/** The made-up library of Fennick Instruments, a maker of weather stations. */

export const people = [
  { signIn: 'ines', name: 'Ines Varga', role: 'writer', password: 'dunlin-ines' },
  { signIn: 'tomasz', name: 'Tomasz Reed', role: 'keeper', password: 'dunlin-tomasz' },
  { signIn: 'mara', name: 'Mara Lind', role: 'reviewer', password: 'dunlin-mara' },
] as const;

export const axes: readonly Axis[] = [
  {
    key: 'product',
    title: 'Product',
    values: [
      { key: 'dunlin-2', title: 'Dunlin 2', code: 'D2', colour: 0, pattern: 0 },
      {
        key: 'dunlin-4-family',
        title: 'Dunlin 4 family',
        code: '4F',
        colour: 1,
        pattern: 1,
        values: [
          { key: 'dunlin-4', title: 'Dunlin 4', code: 'D4', colour: 2, pattern: 2 },
          { key: 'dunlin-4x', title: 'Dunlin 4X', code: '4X', colour: 3, pattern: 3 },
        ],
      },
    ],
  },
  {
    key: 'audience',
    title: 'Audience',
    values: [
      { key: 'observer', title: 'Observer', code: 'Ob', colour: 4, pattern: 0 },
      { key: 'installer', title: 'Installer', code: 'In', colour: 5, pattern: 1 },
      {
        key: 'technician',
        title: 'Service technician',
        code: 'Te',
        colour: 6,
        pattern: 2,
        values: [
          { key: 'field', title: 'Field technician', code: 'Fi', colour: 7, pattern: 3 },
          { key: 'workshop', title: 'Workshop technician', code: 'Wo', colour: 0, pattern: 4 },
        ],
      },
    ],
  },
  {
    key: 'market',
    title: 'Market',
    values: [
      { key: 'europe', title: 'Europe', code: 'EU', colour: 1, pattern: 0 },
      { key: 'north-america', title: 'North America', code: 'NA', colour: 2, pattern: 1 },
      { key: 'australia', title: 'Australia', code: 'AU', colour: 3, pattern: 2 },
    ],
  },
];

const profile = (
  key: string,
  title: string,
  product: string[],
  audience: string[],
  market: string[],
): StoredProfile => ({
  key,
  title,
  axes: {
    product: { default: 'out', in: product },
    audience: { default: 'out', in: audience },
    market: { default: 'out', in: market },
  },
});

export const profiles: readonly StoredProfile[] = [
  profile('dunlin-2-observer-europe', 'Dunlin 2, observers, Europe', ['dunlin-2'], ['observer'], ['europe']),
  profile('dunlin-4-observer-europe', 'Dunlin 4, observers, Europe', ['dunlin-4'], ['observer'], ['europe']),
  profile(
    'dunlin-4x-observer-north-america',
    'Dunlin 4X, observers, North America',
    ['dunlin-4x'],
    ['observer'],
    ['north-america'],
  ),
  profile(
    'dunlin-4x-installer-north-america',
    'Dunlin 4X, installers, North America',
    ['dunlin-4x'],
    ['installer'],
    ['north-america'],
  ),
];

export interface DemoComponent {
  readonly key: string;
  readonly kind: ComponentKind;
  readonly title: string;
  readonly body: ComponentBody;
}

const value = (
  key: string,
  title: string,
  otherwise: ContentNode | null,
  ...rules: [string, ContentNode][]
): DemoComponent => ({
  key,
  kind: 'variable',
  title,
  body: {
    type: 'variable',
    default: otherwise,
    rules: rules.map(([condition, phraseNode]) => ({ when: condition, language: null, value: phraseNode })),
  },
});
const snippet = (key: string, title: string, body: ContentNode): DemoComponent => ({
  key,
  kind: 'snippet',
  title,
  body,
});
const page = (key: string, body: ContentNode): DemoComponent => ({
  key,
  kind: 'topic',
  title: body.content?.[0]?.content?.map((node) => node.text ?? '').join('') ?? key,
  body,
});

const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';

export const components: readonly DemoComponent[] = [
  value(
    'product-name',
    'Product name',
    null,
    ['product is dunlin-2', phrase('Dunlin 2')],
    ['product is dunlin-4', phrase('Dunlin 4')],
    ['product is dunlin-4x', phrase('Dunlin 4X')],
  ),
  value('mains', 'Mains supply', phrase('230 V, 50 Hz'), ['market is north-america', phrase('120 V, 60 Hz')]),
  value(
    'help-line',
    'Help line',
    phrase('+00 555 0100'),
    ['market is north-america', phrase('+00 555 0142')],
    ['market is australia', phrase('+00 555 0177')],
  ),
  value('report-interval', 'Report interval', phrase('10 minutes'), ['product is dunlin-4x', phrase('1 minute')]),
  value('wind-unit', 'Unit of wind speed', phrase('m/s'), ['market is north-america', phrase('mph')]),
  value('console', 'Console', phrase(variable('product-name'), ' console')),

  snippet(
    'warning-mains',
    'Warning: mains voltage',
    fragment(
      admonition(
        'warning',
        p('The power adapter carries ', variable('mains'), '. Unplug it before you open the housing.'),
      ),
    ),
  ),
  snippet(
    'caution-height',
    'Caution: working at height',
    fragment(admonition('caution', p('Secure yourself before you work on a mast or roof, and never work alone.'))),
  ),
  snippet(
    'tools-mast',
    'Tools for the mast',
    fragment(
      p('You need:'),
      bullets('spanner, 13 mm', 'spirit level', only(family4, p('torque wrench, 5 to 25 N·m')), 'cable ties'),
    ),
  ),
  snippet(
    'contact',
    'How to reach us',
    fragment(p('Call ', variable('help-line'), ' on working days, and have the serial number at hand.')),
  ),
  snippet('menu-settings', 'Way to the settings', phrase(label('Menu'), ' → ', label('Settings'))),
  snippet(
    'dispose',
    'Disposal',
    fragment(
      only('market is europe', p('Hand the station in at a collection point for electrical equipment.')),
      only('not market is europe', p('Dispose of the station as your local rules ask.')),
    ),
  ),

  page(
    'welcome',
    topic(
      'Welcome',
      p(
        'Your ',
        variable('product-name'),
        ' measures temperature, humidity, rain',
        when(family4, ', wind'),
        ' and air pressure, and reports every ',
        variable('report-interval'),
        '.',
      ),
      p('Read ', see('safety'), ' first.'),
    ),
  ),
  page(
    'safety',
    topic('For your safety', place('warning-mains'), only('audience is installer', place('caution-height'))),
  ),
  page(
    'parts',
    topic(
      'What is in the box',
      table('Parts', ['Part', 'Quantity'], ['Sensor head', '1'], ['Console', '1'], ['Power adapter', '1']),
      p('The adapter is made for ', variable('mains'), '.'),
    ),
  ),
  page(
    'readings',
    topic(
      'Reading the values',
      p('The ', variable('console'), ' shows the newest values.'),
      section('temperature', 'Temperature and humidity', p('The upper line shows both.')),
      only(family4, section('wind', 'Wind', p('Wind speed is shown in ', variable('wind-unit'), ', gusts below it.'))),
      section('rain', 'Rain', p('Rain is summed from midnight.')),
    ),
  ),
  page(
    'settings',
    topic(
      'Changing the settings',
      steps(
        p('Open ', placeInline('menu-settings'), '.'),
        p('Choose a value with the wheel.'),
        only('product is dunlin-4x', p('Confirm on the touch panel.')),
        p('Leave the menu; the values are kept.'),
      ),
    ),
  ),
  page(
    'mount',
    topic(
      'Mounting the sensor head',
      place('caution-height'),
      place('tools-mast'),
      steps(
        'Fasten the bracket to the mast.',
        'Set the sensor head on it and level it.',
        p('Tighten the bolts', when(family4, ' to 12 N·m'), '.'),
      ),
    ),
  ),
  page(
    'connect',
    topic(
      'Connecting',
      p('Lay the cable so that it cannot chafe.'),
      place('warning-mains'),
      p('Then go on with ', see('settings'), '.'),
    ),
  ),
  page(
    'care',
    topic('Care', p('Wipe the sensor head with a damp cloth twice a year.'), p(strong('Never'), ' use solvents.')),
  ),
  page('help', topic('When you need help', place('contact'), section('disposal', 'Disposal', place('dispose')))),
];

const entry = (id: string, topicKey: string, more: Partial<OutlineEntry> = {}): OutlineEntry => ({
  id,
  topic: topicKey,
  ...more,
});

export const publications: readonly {
  readonly key: string;
  readonly title: string;
  readonly entries: readonly OutlineEntry[];
}[] = [
  {
    key: 'observer-handbook',
    title: 'Observer Handbook',
    entries: [
      entry('e1', 'welcome', { entries: [entry('e2', 'safety'), entry('e3', 'parts')] }),
      entry('e4', 'readings'),
      entry('e5', 'settings'),
      entry('e6', 'care'),
      entry('e7', 'help'),
    ],
  },
  {
    key: 'installation-guide',
    title: 'Installation Guide',
    entries: [
      entry('e1', 'safety'),
      entry('e2', 'parts'),
      entry('e3', 'mount', { entries: [entry('e4', 'connect')] }),
      entry('e5', 'settings', { when: family4 }),
      entry('e6', 'help'),
    ],
  },
];

const recipe = (title: string, profileKey: string): VariantRecipe => ({
  title,
  profile: profileKey,
  values: {},
  language: 'en',
  design: 'plain',
  formats: ['html'],
  leaveOutEmpty: true,
  strict: false,
});

export const variants: readonly { readonly publication: string; readonly recipe: VariantRecipe }[] = [
  { publication: 'observer-handbook', recipe: recipe('Dunlin 2, Europe', 'dunlin-2-observer-europe') },
  { publication: 'observer-handbook', recipe: recipe('Dunlin 4, Europe', 'dunlin-4-observer-europe') },
  { publication: 'observer-handbook', recipe: recipe('Dunlin 4X, North America', 'dunlin-4x-observer-north-america') },
  {
    publication: 'installation-guide',
    recipe: recipe('Dunlin 4X, North America', 'dunlin-4x-installer-north-america'),
  },
];
