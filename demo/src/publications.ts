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
  {
    key: 'quick-start',
    title: 'Quick Start',
    values: {},
    entries: [entry('e1', 'qs-unpack'), entry('e2', 'qs-place'), entry('e3', 'qs-power'), entry('e4', 'help')],
  },
  {
    key: 'schnellstart',
    title: 'Schnellstart',
    values: {},
    entries: [
      entry('e1', 'de-willkommen'),
      entry('e2', 'de-auspacken'),
      entry('e3', 'de-strom'),
      entry('e4', 'de-hilfe-thema'),
    ],
  },
  {
    key: 'network-guide',
    title: 'Network Guide',
    values: { 'report-interval': phrase('10 minutes, unless the network asks for less') },
    entries: [
      entry('e1', 'net-about', { role: 'front' }),
      entry('e2', 'net-plan', { entries: [entry('e3', 'net-names'), entry('e4', 'net-account')] }),
      {
        id: 'e5',
        title: 'Connecting stations',
        entries: [
          entry('e6', 'net-connect-radio', { when: 'not product is dunlin-4x' }),
          entry('e7', 'net-connect-cellular', { when: 'product is dunlin-4x' }),
          entry('e8', 'net-server'),
          entry('e9', 'net-signal'),
        ],
      },
      {
        id: 'e10',
        title: 'Reports',
        entries: [
          entry('e11', 'net-reports'),
          entry('e12', 'net-interval'),
          entry('e13', 'net-time'),
          entry('e14', 'net-lost'),
        ],
      },
      {
        id: 'e15',
        title: 'Good data',
        entries: [entry('e16', 'net-quality'), entry('e17', 'net-neighbours'), entry('e18', 'net-gaps')],
      },
      {
        id: 'e19',
        title: 'Warnings',
        entries: [
          entry('e20', 'net-frost'),
          entry('e21', 'net-rain'),
          entry('e22', 'net-wind', { when: family4 }),
          entry('e29', 'alarms'),
        ],
      },
      entry('e23', 'net-export', { entries: [entry('e24', 'net-share')] }),
      entry('e25', 'net-visits', { entries: [entry('e26', 'net-change'), entry('e30', 'care')] }),
      { id: 'e27', link: 'network-rules', role: 'appendix' },
      entry('e28', 'data', { role: 'appendix' }),
    ],
  },
  {
    key: 'calibration-manual',
    title: 'Calibration and Repair',
    values: {},
    entries: [
      entry('e1', 'safety'),
      entry('e2', 'cal-about', {
        entries: [entry('e3', 'cal-tools'), entry('e4', 'cal-tolerances'), entry('e5', 'cal-prepare')],
      }),
      entry('e6', 'cal-compare', {
        entries: [
          entry('e7', 'cal-temperature'),
          entry('e8', 'cal-humidity'),
          entry('e9', 'cal-pressure'),
          entry('e10', 'cal-rain'),
          entry('e11', 'cal-wind', { when: family4 }),
          entry('e12', 'cal-direction', { when: family4 }),
        ],
      }),
      entry('e13', 'cal-adjust', { entries: [entry('e14', 'cal-report')] }),
      entry('e15', 'rep-find', {
        entries: [
          entry('e16', 'rep-open'),
          entry('e17', 'rep-board'),
          entry('e18', 'rep-bearing', { when: family4 }),
          entry('e19', 'rep-bucket'),
          entry('e20', 'rep-antenna'),
          entry('e21', 'rep-battery'),
        ],
      }),
      entry('e22', 'rep-send'),
      entry('e23', 'faults', { role: 'appendix' }),
      entry('e24', 'sensor-test', { role: 'appendix' }),
      entry('e25', 'restart-topic', { role: 'appendix' }),
      entry('e26', 'help', { role: 'appendix' }),
      entry('e27', 'care', { role: 'appendix' }),
      entry('e28', 'net-signal', { role: 'appendix', title: 'Looking at the signal of a station' }),
    ],
  },
  {
    key: 'siting-handbook',
    title: 'Siting Handbook',
    values: {},
    entries: [
      entry('e1', 'sit-about', { role: 'front' }),
      entry('e2', 'sit-classes', {
        entries: [
          entry('e3', 'sit-heights'),
          entry('e4', 'sit-obstacles'),
          entry('e5', 'sit-ground'),
          entry('e6', 'sit-shade'),
          entry('e7', 'sit-wind', { when: family4 }),
          entry('e8', 'sit-rain'),
        ],
      }),
      entry('e9', 'sit-mast-or-roof', {
        entries: [
          entry('e10', 'mount-mast', { when: 'mounting is mast' }),
          entry('e11', 'mount-roof', { when: 'mounting is roof' }),
        ],
      }),
      entry('e12', 'sit-owner', { entries: [entry('e13', 'sit-visit'), entry('e14', 'sit-record')] }),
      entry('e15', 'sit-change'),
      entry('e16', 'sit-winter'),
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

/** A leaflet: on paper only. */
const short = (title: string, profile: string, more: Partial<VariantRecipe> = {}): VariantRecipe =>
  recipe(title, profile, { formats: ['pdf'], design: 'compact', ...more });
const web = (title: string, profile: string, more: Partial<VariantRecipe> = {}): VariantRecipe =>
  recipe(title, profile, { formats: ['html'], ...more });

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
  { publication: 'quick-start', recipe: short('Quick start, Dunlin 2, Europe', 'dunlin-2-observer-europe') },
  { publication: 'quick-start', recipe: short('Quick start, Dunlin 4, Europe', 'dunlin-4-observer-europe') },
  {
    publication: 'schnellstart',
    recipe: short('Schnellstart, Dunlin 2', 'dunlin-2-observer-europe', { language: 'de' }),
  },
  {
    publication: 'schnellstart',
    recipe: short('Schnellstart, Dunlin 4', 'dunlin-4-observer-europe', { language: 'de' }),
  },
  { publication: 'network-guide', recipe: web('Network, Dunlin 4, Europe', 'dunlin-4-observer-europe') },
  {
    publication: 'network-guide',
    recipe: web('Network, Dunlin 4X, North America', 'dunlin-4x-observer-north-america'),
  },
  {
    publication: 'calibration-manual',
    recipe: web('Calibration in the field, Europe', 'dunlin-4-field-europe', { design: 'fennick-service' }),
  },
  {
    publication: 'calibration-manual',
    recipe: web('Calibration in the workshop, North America', 'dunlin-4x-workshop-north-america', {
      design: 'fennick-service',
    }),
  },
  { publication: 'siting-handbook', recipe: web('Siting, Dunlin 2, Europe, roof', 'dunlin-2-installer-europe') },
  {
    publication: 'siting-handbook',
    recipe: web('Siting, Dunlin 4 family, Australia, mast', 'dunlin-4-installer-australia'),
  },
];
