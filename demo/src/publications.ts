import { newRecipe, type OutlineEntry, type StoredPublication, type VariantRecipe } from '@allomorph/core';
import { phrase } from './content.js';

const entry = (id: string, topic: string, more: Partial<OutlineEntry> = {}): OutlineEntry => ({ id, topic, ...more });
const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';

export const publications: readonly Omit<StoredPublication, 'revision'>[] = [
  {
    key: 'observer-handbook',
    title: 'Observer Handbook',
    values: {},
    entries: [
      entry('e1', 'welcome', { role: 'front' }),
      entry('e2', 'safety'),
      entry('e3', 'parts'),
      entry('e4', 'display', {
        title: 'Display and readings',
        entries: [entry('e5', 'readings'), entry('e6', 'history')],
      }),
      entry('e7', 'settings', {
        entries: [
          entry('e8', 'units'),
          entry('e9', 'alarms'),
          entry('e10', 'export', { when: 'product is dunlin-4x' }),
        ],
      }),
      entry('e11', 'care'),
      entry('e12', 'faults', { entries: [entry('e13', 'restart-topic'), entry('e14', 'help')] }),
      entry('e15', 'data', { role: 'appendix' }),
      entry('e16', 'legal', { role: 'appendix' }),
      entry('e17', 'glossary', { role: 'appendix' }),
    ],
  },
  {
    key: 'installation-guide',
    title: 'Installation Guide',
    values: {},
    entries: [
      entry('e1', 'safety'),
      entry('e2', 'parts'),
      entry('e3', 'site'),
      entry('e4', 'mount-mast', { when: 'mounting is mast' }),
      entry('e5', 'mount-roof', { when: 'mounting is roof' }),
      entry('e6', 'mount-anemometer', { when: family4 }),
      entry('e7', 'connect', { entries: [entry('e8', 'pair')] }),
      entry('e9', 'checklist'),
      entry('e10', 'handover'),
      entry('e11', 'data', { role: 'appendix' }),
      entry('e12', 'legal', { role: 'appendix' }),
    ],
  },
  {
    key: 'service-manual',
    title: 'Service Manual',
    values: { 'help-hours': phrase('any time, day and night') },
    entries: [
      { id: 'e1', publication: 'installation-guide', when: 'audience is field' },
      entry('e2', 'service-menu', {
        entries: [entry('e3', 'sensor-test'), entry('e4', 'firmware-update'), entry('e5', 'reset')],
      }),
      entry('e6', 'faults', { entries: [entry('e7', 'restart-topic')] }),
      entry('e8', 'care'),
      entry('e9', 'help'),
    ],
  },
];

const recipe = (title: string, profile: string, more: Partial<VariantRecipe> = {}): VariantRecipe => ({
  ...newRecipe,
  title,
  profile,
  formats: ['html', 'pdf', 'epub'],
  ...more,
});

export const variants: readonly { readonly publication: string; readonly recipe: VariantRecipe }[] = [
  { publication: 'observer-handbook', recipe: recipe('Dunlin 2, Europe', 'dunlin-2-observer-europe') },
  { publication: 'observer-handbook', recipe: recipe('Dunlin 4, Europe', 'dunlin-4-observer-europe') },
  {
    publication: 'observer-handbook',
    recipe: recipe('Dunlin 4X, North America', 'dunlin-4x-observer-north-america', { design: 'fennick-handbook' }),
  },
  { publication: 'installation-guide', recipe: recipe('Dunlin 2, Europe, roof', 'dunlin-2-installer-europe') },
  {
    publication: 'installation-guide',
    recipe: recipe('Dunlin 4 family, Australia, mast', 'dunlin-4-installer-australia'),
  },
  {
    publication: 'service-manual',
    recipe: recipe('Dunlin 4X, North America', 'dunlin-4x-technician-north-america', {
      design: 'fennick-service',
      formats: ['html', 'page', 'pdf', 'epub', 'markdown'],
      stopsAt: 'errors',
    }),
  },
];
