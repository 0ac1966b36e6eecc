import type { ContentNode } from '@allomorph/core';
import type { DemoComponent } from './demo-component.js';
import {
  bearing,
  bears,
  bullets,
  code,
  definitions,
  emphasis,
  displayed,
  example,
  figure,
  formula,
  held,
  key,
  label,
  link,
  listing,
  mark,
  only,
  p,
  place,
  placeInline,
  row,
  section,
  see,
  slot,
  steps,
  strong,
  table,
  titled,
  topic,
  variable,
  when,
} from './content.js';
import { sound } from './sounds.js';

const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';
const technician = 'audience is technician, field, workshop';

const page = (name: string, title: string, body: ContentNode): DemoComponent => ({
  key: name,
  kind: 'topic',
  title,
  body,
});

/** A topic with the subjects that slots find its tips by. */
const labelled = (subjects: readonly string[], name: string, title: string, ...flow: ContentNode[]): DemoComponent => ({
  ...titled(name, title, ...flow),
  labels: { collection: null, tags: { subject: subjects } },
});

export const topics: readonly DemoComponent[] = [
  page(
    'welcome',
    'Welcome',
    topic(
      ['Welcome to your ', variable('product-name')],
      p(
        'Your ',
        variable('product-name'),
        ' measures temperature, humidity, rain',
        when(family4, ', wind'),
        ' and air pressure, and reports every ',
        variable('report-interval'),
        '.',
      ),
      figure('overview', 'picture-station', 'The station and its console'),
      p('Read ', see('safety'), ' first.'),
      only(
        'audience is observer',
        p('The readings of many stations are gathered by the ', link('observer-network'), '.'),
      ),
    ),
  ),
  titled(
    'safety',
    'For your safety',
    place('warning-mains'),
    place('danger-lightning'),
    only('audience is installer, technician, field, workshop', place('caution-height')),
    section(
      'signal-words',
      'Signal words',
      definitions(
        ['Danger', 'leads to death or grave injury unless it is avoided.'],
        ['Warning', 'can lead to death or grave injury.'],
        ['Caution', 'can lead to slight injury.'],
        ['Notice', 'concerns damage to things, not to people.'],
      ),
    ),
  ),
  titled(
    'parts',
    'What is in the box',
    place('parts-table'),
    p('The adapter is made for ', variable('mains'), ' and has a plug of ', variable('plug'), '.'),
    p('Note the serial number ', placeInline('serial-place'), '.'),
  ),
  titled(
    'display',
    'The display',
    figure('display', 'picture-display', 'What stands where on the display'),
    p('The ', variable('console'), ' shows the newest values. An arrow beside a value tells how it changes.'),
    only('product is dunlin-4x', p('Tap a value to see its last 24 hours.')),
  ),
  labelled(
    ['rain', 'wind'],
    'readings',
    'Reading the values',
    p('The values come in every ', variable('report-interval'), '; see ', see('display', 'display'), '.'),
    section(
      'temperature',
      'Temperature and humidity',
      p(
        mark('temperature'),
        mark('humidity'),
        'Temperature is shown in ',
        variable('temperature-unit'),
        ', humidity in percent of saturation.',
      ),
      place('notice-sun'),
    ),
    only(
      family4,
      section(
        'wind',
        'Wind',
        p(
          mark('wind', { secondary: 'speed' }),
          mark('gust', { see: 'wind' }),
          'Wind speed is shown in ',
          variable('wind-unit'),
          ' as the mean of two minutes; gusts stand below it.',
        ),
        p(
          mark('wind', { secondary: 'direction' }),
          'The direction is the one that the wind comes ',
          emphasis('from'),
          '.',
        ),
      ),
    ),
    section(
      'rain',
      'Rain',
      p(mark('rain'), 'Rain is summed from midnight, in ', variable('rain-unit'), '.'),
      example(
        'Reading the rain',
        p('If the display says 3.2 at noon, 3.2 ', variable('rain-unit'), ' have fallen since midnight.'),
      ),
    ),
    slot('tips', 'subject'),
    section(
      'pressure',
      'Air pressure',
      p(
        mark('air pressure'),
        mark('pressure', { see: 'air pressure' }),
        'Pressure is given in ',
        variable('pressure-unit'),
        ', reduced to sea level.',
      ),
    ),
  ),
  titled(
    'settings',
    'Changing the settings',
    place('open-settings'),
    p('Choose a value with the wheel.'),
    place('confirm'),
    p('Leave the menu; the values are kept without power.'),
  ),
  titled(
    'units',
    'Choosing units',
    p('Open ', placeInline('menu-units'), ' and choose for each quantity.'),
    table(
      'unit-table',
      'Units to choose from',
      ['Quantity', 'Units', 'As delivered'],
      row(null, 'Temperature', '°C, °F', variable('temperature-unit')),
      row(family4, 'Wind', 'm/s, km/h, mph, kn', variable('wind-unit')),
      row(null, 'Rain', 'mm, in', variable('rain-unit')),
      row(null, 'Pressure', 'hPa, inHg', variable('pressure-unit')),
    ),
  ),
  titled(
    'alarms',
    'Setting alarms',
    p(
      'The station warns when a value leaves the limits that you set. The same menu as in ',
      see('settings'),
      ' holds them.',
    ),
    bullets(
      'frost',
      'heat',
      only(family4, p('gusts')),
      'heavy rain',
      only('product is dunlin-4x', p('lightning within 30 km')),
    ),
    p('The console sounds until somebody presses ', key('OK'), '.'),
    sound('alarm.wav', 'Three tones, the last one higher, once a minute.'),
  ),
  titled(
    'history',
    'Looking back',
    p('Press ', key('OK'), ' in the main view. The wheel moves through the hours.'),
    only('product is dunlin-4x', p('The panel keeps 400 days; ', see('export'), ' tells how to take them along.')),
  ),
  only4x(
    'export',
    'Taking readings along',
    p('Put a storage stick into the console and choose ', label('Copy all'), '.'),
  ),
  labelled(
    ['cleaning'],
    'care',
    'Care',
    p('Wipe the sensor head with a damp cloth twice a year.'),
    p(mark('cleaning'), strong('Never'), ' use solvents.'),
    slot('tips', 'subject'),
    section(
      'gauge',
      'Emptying the rain gauge',
      p(
        mark('rain', { secondary: 'gauge' }),
        mark('cleaning', { seeAlso: 'rain' }),
        'Take leaves and insects out of the funnel. Turn it upside down and shake it.',
      ),
    ),
    section(
      'battery',
      'Changing the battery',
      p(mark('battery', { secondary: 'changing' }), 'The battery lasts about ', variable('battery-life'), '.'),
      place('caution-battery'),
    ),
  ),
  titled(
    'faults',
    'When something is wrong',
    table(
      'fault-table',
      'Faults and what to do',
      ['What you see', 'What to do', ['Part to have ready', technician]],
      row(null, 'Dashes instead of values', see('restart-topic'), 'None'),
      row(family4, 'Wind stays at 0', 'Look whether ice or a web holds the anemometer.', 'Bearing of the anemometer'),
      row(null, 'Too much rain', see('care', 'gauge'), 'Funnel'),
      row(technician, 'Code E7', see('sensor-test'), 'Sensor board'),
    ),
    p('If this does not help, ', see('help', null, 'title'), ' tells how to reach us.'),
  ),
  titled('restart-topic', 'Restarting the station', held('restart', 1)),
  titled('help', 'When you need help', place('contact'), section('disposal', 'Disposal', place('dispose'))),
  titled('warranty-topic', 'Warranty', place('warranty-terms')),
  titled('legal', 'Legal notices', place('conformity'), place('warranty-topic', { withTitle: true })),
  titled(
    'data',
    'Technical data',
    table(
      'data-table',
      'Technical data',
      ['Quantity', 'Value'],
      row(null, 'Operating temperature', variable('operating-temperature')),
      row(null, 'Mains supply', variable('mains')),
      row(null, 'Range of the radio link', variable('radio-range')),
      row(null, 'Backup battery', variable('battery')),
    ),
    section(
      'worked-out',
      'How values are worked out',
      p(
        'The dew point ',
        formula('t_d'),
        ' follows from the air temperature ',
        formula('t'),
        ' and the humidity ',
        formula('U'),
        ' (Magnus formula over water, temperatures in °C):',
      ),
      displayed(
        'dew-point',
        't_d = \\frac{243.12\\,\\gamma}{17.62 - \\gamma} \\qquad \\text{with} \\quad \\gamma = \\ln\\frac{U}{100\\,\\%} + \\frac{17.62\\,t}{243.12 + t}',
      ),
    ),
  ),
  titled(
    'glossary',
    'Words',
    definitions(
      ['Gust', 'the highest wind speed within two minutes.'],
      ['Shield', 'the white plates that keep sun and rain off the sensors.'],
      ['Link', 'the radio connection between sensor head and console.'],
    ),
  ),
  titled(
    'site',
    'Choosing the place',
    p('Keep twice the height of an obstacle away from it.'),
    place('notice-sun'),
    only('mounting is mast', p('The mast must be ', variable('mast-diameter'), ' thick and stand free.')),
    only('mounting is roof', p('The roof must bear a person. Ask the owner before you drill.')),
    p('Sensor head and console may be ', variable('radio-range'), ' apart.'),
  ),
  titled(
    'mount-mast',
    'Mounting on a mast',
    place('caution-height'),
    place('tools-mounting'),
    figure('bracket', 'picture-bracket', 'Bracket on the mast'),
    steps(
      'Put the bracket around the mast (B) and the bolts (A) in place.',
      p('Tighten the bolts', when(family4, ' to '), when(family4, 'the given torque'), '.'),
      'Set the sensor head on the arm (C).',
    ),
    only(family4, p('The torque is ', bearing('set-value', variable('bolt-torque')), '.')),
    bears('trained-staff', p('After the first storm, check the bolts again and note it in the service record.')),
    place('level-check'),
  ),
  titled(
    'mount-roof',
    'Mounting on a roof',
    place('caution-height'),
    place('danger-lightning'),
    place('tools-mounting'),
    steps(
      'Lay the seal and the roof plate.',
      'Fasten the plate with four screws.',
      bears('trained-staff', p('Bond the plate to the lightning protection of the house.')),
      'Set the sensor head on the plate.',
    ),
    place('level-check'),
  ),
  only4(
    'mount-anemometer',
    'Mounting the anemometer',
    p('The mark N must point north.'),
    steps('Put the anemometer on its shaft.', 'Turn it until N points north.', 'Tighten the set screw.'),
  ),
  titled(
    'connect',
    'Connecting',
    p('Lay the cable so that it cannot chafe.'),
    place('warning-mains'),
    p('Then go on with ', see('settings'), '.'),
  ),
  titled(
    'pair',
    'Pairing head and console',
    p('Open ', placeInline('menu-link'), ' within two minutes after the sensor head has got power.'),
    place('confirm'),
  ),
  titled(
    'handover',
    'Handing over',
    bullets(
      'Show the owner the display.',
      p('Hand over the ', emphasis('Observer Handbook'), '.'),
      'Note the serial number in the log.',
    ),
  ),
  titled(
    'checklist',
    'Checklist for installers',
    place('level-check'),
    bullets(
      'bolts tight',
      'cable tied',
      only(family4, p('anemometer points north')),
      only('mounting is roof', p('seal dry')),
    ),
    only('market is austraila', p('Electrical work is done by a licensed electrician.')),
  ),
  titled(
    'service-menu',
    'Service menu',
    p('Hold ', key('OK'), ' while the console starts, then enter ', variable('touch-code'), '.'),
    place('note-firmware'),
  ),
  titled(
    'sensor-test',
    'Testing the sensors',
    p('In the service menu, enter ', code('test all', 'input'), '.'),
    listing('TEMP  ok   12.41\nHUM   ok   68.0\nWIND  ok   5.2\nRAIN  ok   0.0'),
    only('audience is workshop', p('Replace a sensor that differs from the reference by more than its tolerance.')),
    only('audience is field', p('Send a head that fails to the workshop.')),
  ),
  titled(
    'firmware-update',
    'Updating the firmware',
    place('note-firmware'),
    p('The update takes ten minutes. Do not unplug the adapter.'),
  ),
  titled(
    'reset',
    'Resetting to factory settings',
    p('In the service menu, ', placeInline('press-hold'), '.'),
    p('All readings are lost.'),
  ),
];

function only4(name: string, title: string, ...flow: ContentNode[]): DemoComponent {
  return titled(name, title, ...flow.map((block) => only(family4, block)));
}

function only4x(name: string, title: string, ...flow: ContentNode[]): DemoComponent {
  return titled(name, title, ...flow.map((block) => only('product is dunlin-4x', block)));
}
