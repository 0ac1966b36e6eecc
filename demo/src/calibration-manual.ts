import type { DemoComponent } from './demo-component.js';
import {
  admonition,
  bearing,
  bears,
  bullets,
  choice,
  code,
  copied,
  displayed,
  figure,
  fragment,
  held,
  key,
  label,
  listing,
  mark,
  only,
  p,
  phrase,
  place,
  placeInline,
  row,
  section,
  see,
  snippetOf,
  steps,
  strong,
  table,
  titled,
  valueOf,
  variable,
} from './content.js';

/** Calibration and repair, for technicians in the field and in the workshop. */

const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';
const field = 'audience is field';
const workshop = 'audience is workshop';
const america = 'market is north-america';

export const calibrationVariables: readonly DemoComponent[] = [
  valueOf('temperature-tolerance', 'Tolerance of temperature', '0.3 K', [workshop, '0.15 K']),
  valueOf('humidity-tolerance', 'Tolerance of humidity', '3 %', [workshop, '2 %']),
  valueOf('pressure-tolerance', 'Tolerance of air pressure', '0.5 hPa', [america, '0.015 inHg']),
  valueOf('wind-tolerance', 'Tolerance of wind speed', '0.5 m/s', [america, '1.1 mph']),
  valueOf('rain-step', 'Rain of one tip', '0.2 mm', [america, '0.01 in']),
  valueOf('calibration-interval', 'Time between calibrations', 'two years', ['product is dunlin-4x', 'one year']),
  valueOf('screw-torque', 'Torque of the housing screws', '0.8 N·m', [america, '7 lbf·in']),
  valueOf('screwdriver', 'Screwdriver for the housing', 'TX 10'),
  valueOf('seal-grease', 'Grease for seals', 'silicone grease, free of acid'),
];

export const calibrationSnippets: readonly DemoComponent[] = [
  snippetOf(
    'warning-open',
    'Warning: open housing',
    fragment(
      admonition(
        'warning',
        p(
          'Parts inside carry ',
          variable('mains'),
          ' while the adapter is plugged in. Unplug it, and wait two minutes.',
        ),
      ),
    ),
  ),
  snippetOf(
    'notice-static',
    'Notice: static charge',
    fragment(
      admonition(
        'notice',
        p('A charge that you do not feel destroys a sensor board. Wear the strap, and touch boards at their edges.'),
      ),
    ),
  ),
  snippetOf(
    'tools-workshop',
    'Tools of the workshop',
    fragment(
      p('You need:'),
      bullets(
        p('screwdriver ', variable('screwdriver')),
        p('torque screwdriver up to ', variable('screw-torque')),
        'strap against static charge',
        only(workshop, p('climate chamber')),
        only(field, p('reference thermometer with a fan')),
        p(variable('seal-grease')),
      ),
    ),
  ),
  snippetOf(
    'open-housing',
    'Steps: open the housing',
    fragment(
      steps(
        'Unplug the adapter and take the battery out.',
        p('Loosen the four screws with ', variable('screwdriver'), '.'),
        'Lift the cover straight up, and lay it on a clean cloth.',
      ),
    ),
  ),
  snippetOf(
    'close-housing',
    'Steps: close the housing',
    fragment(
      steps(
        p('Grease the seal thinly with ', variable('seal-grease'), '.'),
        'Put the cover on; it must lie flat by itself.',
        p('Tighten the screws crosswise to ', bearing('set-value', variable('screw-torque')), '.'),
      ),
    ),
  ),
  snippetOf('enter-service', 'Enter the service menu', phrase('hold ', key('OK'), ' while the console starts')),
  snippetOf(
    'record-it',
    'Enter it in the record',
    fragment(p('Enter the value before, the value after, the reference and its number in the service record.')),
  ),
  snippetOf(
    'enter-in-record',
    'Write it into the record',
    fragment(p('Enter the value before, the value after and the reference with its number in the service record.')),
  ),
  snippetOf(
    'tolerances',
    'Table: tolerances',
    fragment(
      table(
        'tolerance-table',
        'Tolerances',
        ['Quantity', 'Tolerance', ['In the workshop, at', workshop]],
        row(null, 'Temperature', variable('temperature-tolerance'), '−20, 0 and 40 °C'),
        row(null, 'Humidity', variable('humidity-tolerance'), '35, 65 and 90 %'),
        row(null, 'Air pressure', variable('pressure-tolerance'), '950 and 1050 hPa'),
        row(family4, 'Wind speed', variable('wind-tolerance'), '5, 10 and 20 m/s'),
      ),
    ),
  ),
  snippetOf('wait-equal', 'Wait until both stand still', phrase('wait until station and reference stand still')),
  snippetOf(
    'caution-chamber',
    'Caution: climate chamber',
    fragment(
      only(
        workshop,
        admonition('caution', p('The chamber burns and freezes. Wear gloves, and open it below 50 °C only.')),
      ),
    ),
  ),
  snippetOf(
    'notice-oil',
    'Notice: no oil',
    fragment(admonition('notice', p('Never oil an axle or a bearing: dust sticks to oil.'))),
  ),
  snippetOf(
    'customer-data',
    'Data of the customer',
    fragment(p('Copy the readings before you begin: a new board begins with an empty store.')),
  ),
  snippetOf(
    'send-in',
    'Sending a head in',
    fragment(
      only(field, p('Pack the head in its own box, with the record on top, and send it to the workshop.')),
      only(workshop, p('Keep the head for ten days after the report; the customer may ask for it.')),
    ),
  ),
];

export const calibrationTopics: readonly DemoComponent[] = [
  titled(
    'cal-about',
    'About calibration',
    p(
      'To calibrate is to compare with a reference that is known better, and to write down the difference. To adjust is to change what the station shows.',
    ),
    p('Calibrate every ', variable('calibration-interval'), ', after each repair, and whenever a reading is doubted.'),
    bears('trained-staff', p('Only technicians who hold the card of this year adjust.')),
  ),
  titled(
    'cal-tools',
    'Tools and references',
    place('tools-workshop'),
    p('A reference without a valid number is no reference.'),
  ),
  titled(
    'cal-tolerances',
    'Tolerances',
    place('tolerances'),
    p('What lies within is left as it is: who adjusts without need makes it worse.'),
  ),
  titled(
    'cal-prepare',
    'Preparing the station',
    place('warning-open'),
    place('notice-static'),
    steps(
      'Clean the shield and let it dry.',
      'Let station and reference stand side by side for an hour.',
      p(placeInline('enter-service'), ', and note the firmware.'),
    ),
    place('note-firmware'),
  ),
  titled(
    'cal-compare',
    'Comparing in the field',
    only(field, p('Hang the reference at the height of the shield, one metre away, in the shade and with its fan on.')),
    only(workshop, p('Put the head into the chamber, with the reference beside the sensor.')),
    place('caution-chamber'),
    steps(
      p('At each point, ', placeInline('wait-equal'), '.'),
      'Read both ten times, a minute apart.',
      'Take the mean of the differences.',
    ),
    displayed('cal-mean', '\\bar d = \\frac{1}{n} \\sum_{i=1}^{n} (x_i - r_i)'),
    place('record-it'),
  ),
  titled(
    'cal-temperature',
    'Temperature',
    p(
      mark('temperature', { secondary: 'calibrating' }),
      'Compare at three temperatures where you can, at one where you cannot.',
    ),
    only(workshop, p('Begin at −20 °C: going up, nothing drips onto the sensor.')),
    p(
      'Adjust where the mean of the differences is more than ',
      bearing('set-value', variable('temperature-tolerance')),
      '.',
    ),
    place('record-it'),
  ),
  titled(
    'cal-humidity',
    'Humidity',
    p(
      mark('humidity', { secondary: 'calibrating' }),
      'A sensor that was wet needs two days to come back. Do not hurry it with heat.',
    ),
    table(
      'cal-salts',
      'Salts and their humidity at 25 °C',
      ['Salt, saturated', 'Humidity'],
      row(null, 'Magnesium chloride', '32.8 %'),
      row(null, 'Sodium chloride', '75.3 %'),
      row(null, 'Potassium sulphate', '97.3 %'),
    ),
    place('record-it'),
  ),
  titled(
    'cal-pressure',
    'Air pressure',
    p(
      mark('air pressure', { secondary: 'calibrating' }),
      'Compare at the height of the console, with doors and windows closed.',
    ),
    p('The display shows the pressure at sea level; the service menu shows it as it is measured. Compare the latter.'),
    displayed('cal-sea-level', 'p_0 = p \\cdot \\left(1 + \\frac{g\\,h}{R\\,T_v}\\right)'),
  ),
  titled(
    'cal-rain',
    'Rain',
    figure('cal-gauge', 'picture-gauge', 'The rain gauge, cut open'),
    p('One tip of the bucket is ', variable('rain-step'), '. Pour a known volume slowly, over half an hour.'),
    displayed('cal-volume', 'n = \\frac{V}{A \\cdot h}'),
    steps(
      'Fill the bottle with 200 millilitres.',
      'Let it drip into the funnel.',
      p('Count the tips: ', code('rain count', 'input'), ' shows them.'),
      'Turn both stop screws by the same angle where it is wrong.',
    ),
    place('level-check'),
  ),
  titled(
    'cal-wind',
    'Wind speed',
    only(family4, p('Turn the shaft with the motor of the test set; 10 turns a second are 17.6 m/s.')),
    only(family4, p('The bearing must be heard no more than a watch. If it is, see ', see('rep-bearing'), '.')),
    only(family4, place('record-it')),
  ),
  titled(
    'cal-direction',
    'Wind direction',
    only(family4, p('Point the vane at four known marks. The difference is the same for all, or the vane is bent.')),
    only(family4, p('The mark N must point to true north, not to that of the compass.')),
    only(family4, only(america, p('The difference between the two is up to 20 degrees here.'))),
  ),
  titled(
    'cal-adjust',
    'Adjusting',
    p('In the service menu, choose ', label('Adjust'), ' and enter the mean of the differences with its sign.'),
    listing('ADJ TEMP  -0.21   kept\nADJ HUM   +1.8    kept'),
    p('Compare again. Two adjustments in a row without an end mean a broken sensor.'),
    bears(
      'workshop-only',
      p('In the workshop, the three points are entered one after the other; the head keeps a curve.'),
    ),
  ),
  titled(
    'cal-report',
    'The report',
    p(
      'The customer gets a report: what was compared with what, the differences before and after, who did it and when.',
    ),
    choice(
      ['market is europe', p('The report names the body that the reference is traced to.')],
      [null, p('The report carries the number of the technician’s card.')],
    ),
    place('enter-in-record'),
  ),
  titled(
    'rep-find',
    'Finding the fault',
    table(
      'rep-codes',
      'Codes and what they mean',
      ['Code', 'Meaning', 'Go on with'],
      row(null, 'E1', 'battery low', see('rep-battery')),
      row(null, 'E3', 'no link', see('rep-antenna')),
      row(family4, 'E5', 'anemometer stands', see('rep-bearing')),
      row(null, 'E7', 'sensor board', see('rep-board')),
      row(null, 'E9', 'rain bucket stuck', see('rep-bucket')),
    ),
    p('What customers can do themselves stands in ', see('faults'), '.'),
  ),
  titled('rep-open', 'Opening the housing', place('warning-open'), place('notice-static'), place('open-housing')),
  titled(
    'rep-board',
    'Changing the sensor board',
    place('customer-data'),
    place('open-housing'),
    steps(
      'Pull the flat cable at its tab.',
      'Press the two catches apart, and lift the board.',
      'Set the new board in, the notch to the left.',
    ),
    place('close-housing'),
    p(strong('Calibrate'), ' afterwards: ', see('cal-prepare'), '.'),
  ),
  titled(
    'rep-bearing',
    'Changing the bearing',
    only(
      family4,
      steps(
        'Loosen the set screw, and pull the cups off.',
        'Knock the bearing out from below.',
        'Press the new one in; never on its inner ring.',
      ),
    ),
    only(family4, place('close-housing')),
  ),
  titled(
    'rep-bucket',
    'Freeing the rain bucket',
    steps(
      'Lift the funnel off.',
      'Take what is in the way out with tweezers.',
      'Let the bucket tip ten times by hand.',
    ),
    place('notice-oil'),
    copied('tip-brush', 1, p('A soft brush reaches between the plates of the shield.')),
  ),
  titled(
    'rep-antenna',
    'Changing the antenna',
    place('caution-antenna'),
    steps('Unscrew the old antenna by hand.', p('Screw in one for the band of ', variable('radio-band'), '.')),
    p('Look at the signal as in ', see('net-signal'), '.'),
  ),
  titled('rep-battery', 'Changing the backup battery', place('caution-battery'), held('restart', 1)),
  titled(
    'rep-send',
    'Sending a head to the workshop',
    place('send-in'),
    section('rep-box', 'The box', p('Use the box of the station, or one with five centimetres of foam on each side.')),
  ),
];
