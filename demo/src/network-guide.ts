import type { DemoComponent } from './demo-component.js';
import {
  admonition,
  bullets,
  choice,
  code,
  copied,
  definitions,
  displayed,
  example,
  figure,
  fragment,
  label,
  link,
  listing,
  mark,
  only,
  p,
  phrase,
  place,
  placeInline,
  row,
  see,
  snippetOf,
  steps,
  strong,
  table,
  titled,
  valueOf,
  variable,
} from './content.js';

/** The guide for those who gather the readings of many stations. */

const cellular = 'product is dunlin-4x';
const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';
const america = 'market is north-america';

export const networkVariables: readonly DemoComponent[] = [
  valueOf('server-address', 'Address of the gathering server', 'collect.fennick.example'),
  valueOf('server-port', 'Port of the gathering server', '8883', [america, '8884']),
  valueOf('packet-size', 'Size of a report', '96 bytes', [cellular, '240 bytes']),
  valueOf('storage-days', 'Days kept in the console', '30 days', [family4, '120 days'], [cellular, '400 days']),
  valueOf('cellular-bands', 'Cellular bands', '800, 900 and 1800 MHz', [america, '700, 850 and 1900 MHz']),
  valueOf('radio-band', 'Band of the radio link', '868 MHz', [america, '915 MHz'], ['market is australia', '921 MHz']),
  valueOf('antenna-length', 'Length of the antenna', '82 mm', [america, '3.1 in']),
  valueOf('clock-drift', 'Drift of the clock', 'two seconds a day'),
  valueOf('retry-interval', 'Time between two tries', '5 minutes', [cellular, '90 seconds']),
  valueOf('data-fee', 'Data volume of a month', '4 MB', [cellular, '31 MB']),
];

export const networkSnippets: readonly DemoComponent[] = [
  snippetOf(
    'note-time',
    'Note: times in reports',
    fragment(admonition('note', p('Times in reports are in UTC. The display shows the local time.'))),
  ),
  snippetOf(
    'note-fees',
    'Note: fees of the network',
    fragment(
      admonition(
        'note',
        p('The operator of the mobile network may ask fees; a station sends about ', variable('data-fee'), ' a month.'),
      ),
    ),
  ),
  snippetOf(
    'caution-antenna',
    'Caution: antenna',
    fragment(
      admonition('caution', p('Never switch the console on without its antenna: the transmitter would be damaged.')),
    ),
  ),
  snippetOf('menu-network', 'Menu › Settings › Network', phrase(placeInline('menu-settings'), ' › ', label('Network'))),
  snippetOf('menu-reports', 'Menu › Settings › Reports', phrase(placeInline('menu-settings'), ' › ', label('Reports'))),
  snippetOf(
    'save-and-leave',
    'Steps: keep and leave',
    fragment(steps(p('Choose ', label('Keep'), '.'), 'Leave the menu; the station reports within a minute.')),
  ),
  snippetOf(
    'report-fields',
    'Table: fields of a report',
    fragment(
      table(
        'fields',
        'Fields of a report',
        ['Field', 'Meaning', 'Unit'],
        row(null, 't', 'time', 'seconds since 1970, UTC'),
        row(null, 'ta', 'air temperature', variable('temperature-unit')),
        row(null, 'rh', 'humidity', '%'),
        row(null, 'rr', 'rain since the last report', variable('rain-unit')),
        row(null, 'pa', 'air pressure', variable('pressure-unit')),
        row(family4, 'wv', 'wind speed, mean', variable('wind-unit')),
        row(family4, 'wg', 'gust', variable('wind-unit')),
        row(family4, 'wd', 'wind direction', 'degrees'),
        row(cellular, 'sq', 'quality of the signal', '0 to 31'),
      ),
    ),
  ),
  snippetOf(
    'quality-marks',
    'Definitions: marks of quality',
    fragment(
      definitions(
        ['good', 'measured and checked.'],
        ['doubtful', 'measured, and out of the limits of the place and season.'],
        ['estimated', 'worked out of what the neighbours measured.'],
        ['missing', 'neither measured nor worked out.'],
      ),
    ),
  ),
  snippetOf(
    'tip-night',
    'Tip: compare at night',
    fragment(admonition('tip', p('Compare at night and with wind: sun and still air make neighbours differ.'))),
  ),
  snippetOf('key-of-network', 'Key of the network', phrase('the key that the keeper of the network gave you')),
  snippetOf(
    'note-owner',
    'Note: ask the owner',
    fragment(admonition('note', p('Owners are asked first, once for each station.'))),
  ),
  snippetOf(
    'wait-for-link',
    'Wait for the link',
    fragment(
      choice(
        [cellular, p('Wait until the sign of the mobile network stands still; that takes up to three minutes.')],
        [null, p('Wait until the sign of the link stands still; that takes up to a minute.')],
      ),
    ),
  ),
];

export const networkLinks: readonly DemoComponent[] = [
  {
    key: 'network-rules',
    kind: 'link',
    title: 'rules of the network',
    body: { type: 'link', href: 'https://network.fennick.example/rules', label: 'rules of the network' },
  },
  {
    key: 'report-format',
    kind: 'link',
    title: 'format of reports',
    body: {
      type: 'link',
      href: 'https://support.fennick.example/reports/{+firmware}',
      label: 'the format, field by field',
    },
  },
];

export const networkTopics: readonly DemoComponent[] = [
  titled(
    'net-about',
    'About this guide',
    p('This guide is for people who gather the readings of several stations: schools, fire brigades, wine growers.'),
    p(
      'It takes for granted that each station stands and works as its own handbook says; begin with ',
      see('net-plan'),
      '.',
    ),
    p('What all stations of a network keep to stands in the ', link('network-rules'), '.'),
  ),
  titled(
    'net-plan',
    'Planning a network',
    p(
      'Before you set up the first station, decide what the network is to answer. The question decides how far apart stations may stand.',
    ),
    table(
      'net-distance',
      'Distances between stations',
      ['What is to be told', 'Distance', 'Report'],
      row(null, 'Frost in an orchard', '200 m to 1 km', 'every 10 minutes'),
      row(null, 'Rain in a valley', '2 to 5 km', 'every 10 minutes'),
      row(family4, 'Gusts along a ridge', '1 to 3 km', 'every minute'),
      row(null, 'Climate of a district', '10 to 20 km', 'every hour'),
    ),
    figure('net-overview', 'picture-network', 'Stations, consoles and the gathering server'),
    bullets(
      'Choose one person who keeps the list of stations.',
      p('Give each station a short name that lasts; ', see('net-names'), ' tells how.'),
      'Plan a visit to each station twice a year.',
    ),
  ),
  titled(
    'net-names',
    'Naming stations',
    p('A name is made of the place and a number, such as ', code('hill-farm-2', 'input'), '. It is never given twice.'),
    p('Do not put the owner’s name into it: owners change, and the readings stay.'),
    example(
      'A good and a bad name',
      p('Good: ', code('north-orchard-1', 'input'), '. Bad: ', code('miller-new', 'input'), '.'),
    ),
  ),
  titled(
    'net-account',
    'Opening an account',
    steps(
      p('Ask the keeper of the network for an invitation.'),
      p('Open the address in it and choose a password.'),
      p('Note the ', strong('key of the network'), '; the console asks for it once.'),
    ),
    place('contact'),
  ),
  titled(
    'net-connect-radio',
    'Connecting through a gateway',
    only(
      'not product is dunlin-4x',
      p('The console sends its readings through a gateway that stands within ', variable('radio-range'), '.'),
    ),
    place('caution-antenna'),
    steps(
      p('Screw the antenna (', variable('antenna-length'), ') to the console.'),
      p('Open ', placeInline('menu-network'), ' and choose ', label('Gateway'), '.'),
      p('Enter ', placeInline('key-of-network'), '.'),
    ),
    place('wait-for-link'),
    p('The link uses the band of ', variable('radio-band'), '.'),
  ),
  titled(
    'net-connect-cellular',
    'Connecting through the mobile network',
    only(cellular, place('note-fees')),
    only(cellular, place('caution-antenna')),
    only(
      cellular,
      steps(
        p('Put the card into the slot at the back of the console, its notch ahead.'),
        p('Open ', placeInline('menu-network'), ' and choose ', label('Mobile'), '.'),
        p('Enter the access point that the operator gave you.'),
      ),
    ),
    only(cellular, place('wait-for-link')),
    only(cellular, p('The modem uses ', variable('cellular-bands'), '.')),
  ),
  titled(
    'net-server',
    'Entering the server',
    p('Open ', placeInline('menu-reports'), ' and enter what the table says.'),
    table(
      'net-server-table',
      'What to enter',
      ['Field', 'Value'],
      row(null, 'Server', variable('server-address')),
      row(null, 'Port', variable('server-port')),
      row(null, 'Encryption', 'on'),
    ),
    place('save-and-leave'),
  ),
  titled(
    'net-interval',
    'How often stations report',
    p(
      'As delivered, a station reports every ',
      variable('report-interval'),
      '. A shorter time needs more power and more data.',
    ),
    displayed('net-volume', 'V = \\frac{86\\,400 \\cdot 30}{T} \\cdot s'),
    p(
      'In a month, a report of ',
      variable('packet-size'),
      ' comes to about ',
      variable('data-fee'),
      ' at the interval of delivery.',
    ),
  ),
  titled(
    'net-time',
    'Times and zones',
    place('note-time'),
    p('The clock drifts by less than ', variable('clock-drift'), ' and is set with every report.'),
  ),
  titled(
    'net-reports',
    'What a report holds',
    place('report-fields'),
    p('Programmers find ', link('report-format'), '.'),
    listing('{"s":"north-orchard-1","t":1795910400,\n "ta":3.4,"rh":81,"rr":0.0,"pa":1013.2}'),
  ),
  titled(
    'net-lost',
    'When a report is lost',
    p(
      'A console that gets no answer tries again after ',
      variable('retry-interval'),
      ', and keeps all readings for ',
      variable('storage-days'),
      '.',
    ),
    p('What was missed comes with the next report; nothing has to be done.'),
    only(family4, p('After more than a day, look at ', see('net-signal'), '.')),
  ),
  titled(
    'net-signal',
    'Looking at the signal',
    p('Press and hold the wheel in the main view. The bars tell how well the console is heard.'),
    table(
      'net-bars',
      'Bars of the signal',
      ['Bars', 'Meaning', 'What to do'],
      row(null, '4', 'very good', 'nothing'),
      row(null, '2 or 3', 'good enough', 'nothing'),
      row(null, '1', 'reports may be late', 'turn the antenna upright'),
      row(null, 'none', 'not heard', see('net-lost')),
    ),
  ),
  titled(
    'net-quality',
    'Checking readings',
    p(
      'The server checks each reading by three rules: what can be, what has been at this place, and what the neighbours say.',
    ),
    place('quality-marks'),
    p('A reading is never changed. A mark is added, and who added it.'),
  ),
  titled(
    'net-neighbours',
    'Comparing neighbours',
    p(
      'Two stations that are less than a kilometre apart should agree within 0.5 ',
      variable('temperature-unit'),
      ' at night and with wind.',
    ),
    place('tip-night'),
    steps('Choose two stations.', 'Take a windy night.', 'Compare the minimum of each.', 'Visit the one that differs.'),
    place('notice-sun'),
  ),
  titled(
    'net-gaps',
    'Filling gaps',
    p('A gap of up to three hours is filled from the neighbours where at least three of them have readings.'),
    p('Longer gaps stay. They are marked as missing, and sums say how many hours they hold.'),
    copied('note-time', 1, p('Times in reports are in UTC.')),
  ),
  titled(
    'net-frost',
    'Frost warnings',
    p('The network warns when two stations of a district fall below the limit within an hour.'),
    bullets(
      'Choose the district.',
      p('Enter the limit, as a rule 2 degrees above the one that does harm.'),
      'Say who is called, and from when to when.',
    ),
    p('Each station warns by itself, too; see ', see('alarms'), '.'),
  ),
  titled(
    'net-rain',
    'Heavy rain',
    p(
      mark('rain', { secondary: 'heavy' }),
      'A station reports at once when more than 5 ',
      variable('rain-unit'),
      ' fall within ten minutes.',
    ),
    only(america, p('Enter limits in inches: 0.2 in is the value of delivery.')),
    place('tip-dew'),
  ),
  titled(
    'net-wind',
    'Gusts along a ridge',
    only(family4, p(mark('gust'), 'Gusts differ within metres. Put stations on the ridge itself, not in its lee.')),
    only(family4, p('Mount the anemometer as ', see('mount-anemometer'), ' says.')),
  ),
  titled(
    'net-export',
    'Taking data out',
    p('Data come out as text, a line a reading. Choose stations, the time, and the interval.'),
    listing('station,time,ta,rh,rr,pa\nnorth-orchard-1,2026-11-28T06:00Z,3.4,81,0.0,1013.2'),
    only(cellular, p('From a single console, see ', see('export'), '.')),
  ),
  titled(
    'net-share',
    'Sharing with others',
    p('A district may share its readings with the ', link('observer-network'), '.'),
    choice(
      ['market is europe', p('The owner can ask at any time that readings are shared no more.')],
      [null, p('The agreement ends with the year, unless the owner renews it.')],
    ),
  ),
  titled(
    'net-visits',
    'Visits twice a year',
    steps(
      p('Clean the station as ', see('care'), ' says.'),
      p('Compare it with the reference: ', see('cal-compare'), '.'),
      'Cut back what has grown.',
      'Take a picture to each side of the world.',
    ),
    p('Note all of it in the record of the station.'),
  ),
  titled(
    'net-change',
    'Changing a station',
    p('When a station is replaced, its name stays, and the change stands in its record with the day and the hour.'),
    place('restart'),
  ),
];
