import type { ContentNode, VariableBody } from '@allomorph/core';
import type { DemoComponent } from './demo-component.js';
import { phrase, placeInline, variable, when } from './content.js';

type Case = readonly [condition: string, value: ContentNode | string];

const value = (
  key: string,
  title: string,
  otherwise: ContentNode | string | null,
  ...cases: readonly Case[]
): DemoComponent => {
  const asPhrase = (each: ContentNode | string): ContentNode => (typeof each === 'string' ? phrase(each) : each);
  const body: VariableBody = {
    type: 'variable',
    default: otherwise === null ? null : asPhrase(otherwise),
    rules: cases.map(([condition, each]) => ({ when: condition, language: null, value: asPhrase(each) })),
  };
  return { key, kind: 'variable', title, body };
};

const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';
const america = 'market is north-america';
const australia = 'market is australia';

export const variables: readonly DemoComponent[] = [
  value(
    'product-name',
    'Product name',
    null,
    ['product is dunlin-2', 'Dunlin 2'],
    ['product is dunlin-4x and not product is dunlin-4', 'Dunlin 4X'],
    ['product is dunlin-4 and not product is dunlin-4x', 'Dunlin 4'],
    [family4, 'Dunlin 4 and Dunlin 4X'],
  ),
  value('company', 'Company', 'Fennick Instruments'),
  value('mains', 'Mains supply', '230 V, 50 Hz', [america, '120 V, 60 Hz']),
  value('plug', 'Plug of the adapter', 'type F', [america, 'type B'], [australia, 'type I']),
  value('help-line', 'Help line', '+00 555 0100', [america, '+00 555 0142'], [australia, '+00 555 0177']),
  value(
    'help-hours',
    'Hours of the help line',
    'Monday to Friday, 8:00 to 17:00 CET',
    [america, 'Monday to Friday, 8 am to 6 pm ET'],
    [australia, 'Monday to Friday, 8:30 am to 5 pm AEST'],
  ),
  value('report-interval', 'Report interval', '10 minutes', ['product is dunlin-4x', '1 minute']),
  value('wind-unit', 'Unit of wind speed', 'm/s', [america, 'mph']),
  value('rain-unit', 'Unit of rain', 'mm', [america, 'in']),
  value('temperature-unit', 'Unit of temperature', '°C', [america, '°F']),
  value('pressure-unit', 'Unit of air pressure', 'hPa', [america, 'inHg']),
  value('bolt-torque', 'Torque of the bracket bolts', '12 N·m', [america, '9 lbf·ft']),
  value('mast-diameter', 'Mast diameter', '30 to 50 mm', [america, '1.25 to 2 in']),
  value('spanner', 'Spanner for the bracket', '13 mm', [america, '1/2 in']),
  value('radio-range', 'Range of the radio link', '300 m', ['product is dunlin-4x', '600 m'], [america, '900 ft']),
  value('battery', 'Backup battery', 'CR2450', [family4, '18650']),
  value('battery-life', 'Life of the backup battery', '2 years', [family4, '5 years']),
  value('console', 'Console', phrase(variable('product-name'), ' console')),
  value('firmware', 'Firmware version', '4.2', ['product is dunlin-2', '2.9']),
  value('warranty', 'Warranty', '24 months', [america, '12 months']),
  value('operating-temperature', 'Operating temperature', phrase('−30 to +60 °C', when(america, ' (−22 to +140 °F)'))),
  value('settings-way', 'Way to the settings', phrase(placeInline('menu-settings'))),
  value('touch-code', 'Service code', null, ['audience is technician, field, workshop', '7741']),
];
