import type { Axis, Stamp, StoredProfile } from '@allomorph/core';

/** The people of Fennick Instruments, a made-up maker of weather stations. */
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
          { key: 'dunlin-4', title: 'Dunlin 4', code: 'D4', colour: 1, pattern: 2 },
          { key: 'dunlin-4x', title: 'Dunlin 4X', code: '4X', colour: 1, pattern: 3 },
        ],
      },
    ],
  },
  {
    key: 'audience',
    title: 'Audience',
    values: [
      { key: 'observer', title: 'Observer', code: 'Ob', colour: 2, pattern: 0 },
      { key: 'installer', title: 'Installer', code: 'In', colour: 3, pattern: 1 },
      {
        key: 'technician',
        title: 'Service technician',
        code: 'Te',
        colour: 4,
        pattern: 2,
        values: [
          { key: 'field', title: 'Field technician', code: 'Fi', colour: 4, pattern: 3 },
          { key: 'workshop', title: 'Workshop technician', code: 'Wo', colour: 4, pattern: 4 },
        ],
      },
    ],
  },
  {
    key: 'market',
    title: 'Market',
    values: [
      { key: 'europe', title: 'Europe', code: 'EU', colour: 5, pattern: 0 },
      { key: 'north-america', title: 'North America', code: 'NA', colour: 6, pattern: 1 },
      { key: 'australia', title: 'Australia', code: 'AU', colour: 7, pattern: 2 },
    ],
  },
  {
    key: 'mounting',
    title: 'Mounting',
    values: [
      { key: 'mast', title: 'Mast', code: 'Ma', colour: 0, pattern: 4 },
      { key: 'roof', title: 'Roof', code: 'Ro', colour: 3, pattern: 5 },
    ],
  },
];

export const stamps: readonly Stamp[] = [
  { key: 'set-value', title: 'Set value', on: 'phrases', from: null, when: null },
  {
    key: 'trained-staff',
    title: 'Trained staff only',
    on: 'blocks',
    from: null,
    when: 'audience is installer, technician, field, workshop',
  },
  {
    key: 'workshop-only',
    title: 'Workshop only',
    on: 'blocks',
    from: 'trained-staff',
    when: 'audience is workshop, technician',
  },
];

const profile = (
  key: string,
  title: string,
  product: readonly string[],
  audience: readonly string[],
  market: readonly string[],
  mounting: readonly string[] | null = null,
): StoredProfile => ({
  key,
  title,
  axes: {
    product: { default: 'out', in: [...product] },
    audience: { default: 'out', in: [...audience] },
    market: { default: 'out', in: [...market] },
    mounting: mounting ? { default: 'out', in: [...mounting] } : { default: 'in' },
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
    'dunlin-2-installer-europe',
    'Dunlin 2, installers, Europe',
    ['dunlin-2'],
    ['installer'],
    ['europe'],
    ['roof'],
  ),
  profile(
    'dunlin-4-installer-australia',
    'Dunlin 4 family, installers, Australia',
    ['dunlin-4-family'],
    ['installer'],
    ['australia'],
    ['mast'],
  ),
  profile(
    'dunlin-4x-technician-north-america',
    'Dunlin 4X, technicians, North America',
    ['dunlin-4x'],
    ['technician'],
    ['north-america'],
  ),
  profile('dunlin-4-field-europe', 'Dunlin 4 family, field, Europe', ['dunlin-4-family'], ['field'], ['europe']),
  profile(
    'dunlin-4x-workshop-north-america',
    'Dunlin 4X, workshop, North America',
    ['dunlin-4x'],
    ['workshop'],
    ['north-america'],
  ),
];
