import type { DemoComponent } from './demo-component.js';
import { phrase, placeInline, valueOf, variable, when } from './content.js';

const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';
const america = 'market is north-america';
const australia = 'market is australia';

export const variables: readonly DemoComponent[] = [
  valueOf(
    'product-name',
    'Product name',
    null,
    ['product is dunlin-2', 'Dunlin 2'],
    ['product is dunlin-4x and not product is dunlin-4', 'Dunlin 4X'],
    ['product is dunlin-4 and not product is dunlin-4x', 'Dunlin 4'],
    [family4, 'Dunlin 4 and Dunlin 4X'],
  ),
  valueOf('company', 'Company', 'Fennick Instruments'),
  valueOf('mains', 'Mains supply', '230 V, 50 Hz', [america, '120 V, 60 Hz']),
  valueOf('plug', 'Plug of the adapter', 'type F', [america, 'type B'], [australia, 'type I']),
  valueOf('help-line', 'Help line', '+00 555 0100', [america, '+00 555 0142'], [australia, '+00 555 0177']),
  valueOf(
    'help-hours',
    'Hours of the help line',
    'Monday to Friday, 8:00 to 17:00 CET',
    [null, 'Montag bis Freitag, 8 bis 17 Uhr', 'de'],
    [america, 'Monday to Friday, 8 am to 6 pm ET'],
    [australia, 'Monday to Friday, 8:30 am to 5 pm AEST'],
  ),
  valueOf('report-interval', 'Report interval', '10 minutes', ['product is dunlin-4x', '1 minute']),
  valueOf('wind-unit', 'Unit of wind speed', 'm/s', [america, 'mph']),
  valueOf('rain-unit', 'Unit of rain', 'mm', [america, 'in']),
  valueOf('temperature-unit', 'Unit of temperature', '°C', [america, '°F']),
  valueOf('pressure-unit', 'Unit of air pressure', 'hPa', [america, 'inHg']),
  valueOf('bolt-torque', 'Torque of the bracket bolts', '12 N·m', [america, '9 lbf·ft']),
  valueOf('mast-diameter', 'Mast diameter', '30 to 50 mm', [america, '1.25 to 2 in']),
  valueOf('spanner', 'Spanner for the bracket', '13 mm', [america, '1/2 in']),
  valueOf('radio-range', 'Range of the radio link', '300 m', ['product is dunlin-4x', '600 m'], [america, '900 ft']),
  valueOf('battery', 'Backup battery', 'CR2450', [family4, '18650']),
  valueOf(
    'battery-life',
    'Life of the backup battery',
    '2 years',
    [family4, '5 Jahre', 'de'],
    [null, '2 Jahre', 'de'],
    [family4, '5 years'],
  ),
  valueOf('console', 'Console', phrase(variable('product-name'), ' console')),
  valueOf('firmware', 'Firmware version', '4.2', ['product is dunlin-2', '2.9']),
  valueOf('warranty', 'Warranty', '24 months', [america, '12 months']),
  valueOf(
    'operating-temperature',
    'Operating temperature',
    phrase('−30 to +60 °C', when(america, ' (−22 to +140 °F)')),
  ),
  valueOf('settings-way', 'Way to the settings', phrase(placeInline('menu-settings'))),
  valueOf('touch-code', 'Service code', null, ['audience is technician, field, workshop', '7741']),
];
