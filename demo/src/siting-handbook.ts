import type { DemoComponent } from './demo-component.js';
import {
  admonition,
  bullets,
  choice,
  definitions,
  example,
  figure,
  fragment,
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
  table,
  titled,
  valueOf,
  variable,
} from './content.js';

/** How a place is chosen and kept. */

const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';
const america = 'market is north-america';

export const sitingVariables: readonly DemoComponent[] = [
  valueOf('shield-height', 'Height of the shield', '1.25 to 2 m', [america, '4 to 6.5 ft']),
  valueOf('gauge-height', 'Height of the rain gauge', '1 m', [america, '3 ft']),
  valueOf('anemometer-height', 'Height of the anemometer', '10 m', [america, '33 ft']),
  valueOf('grass-height', 'Height of the grass', '10 cm', [america, '4 in']),
  valueOf('pavement-distance', 'Distance to pavement', '10 m', [america, '30 ft']),
  valueOf('water-distance', 'Distance to water', '50 m', [america, '160 ft']),
];

export const sitingSnippets: readonly DemoComponent[] = [
  snippetOf(
    'obstacle-rule',
    'Rule: obstacles',
    fragment(p('Keep twice the height of an obstacle away from it; for the anemometer, ten times.')),
  ),
  snippetOf(
    'heights-table',
    'Table: heights above ground',
    fragment(
      table(
        'heights',
        'Heights above ground',
        ['Part', 'Height'],
        row(null, 'Shield', variable('shield-height')),
        row(null, 'Rain gauge', variable('gauge-height')),
        row(family4, 'Anemometer', variable('anemometer-height')),
      ),
    ),
  ),
  snippetOf(
    'ask-owner',
    'Ask the owner',
    fragment(
      p('Ask the owner of the ground before you dig, and agree in writing who cuts the grass.'),
      only('market is europe', p('Ask the municipality whether a mast needs a permit.')),
    ),
  ),
  snippetOf(
    'four-pictures',
    'Pictures to the four sides',
    fragment(
      p('Take a picture to each side of the world, from the height of the shield, with the horizon in the middle.'),
    ),
  ),
  snippetOf('low-grass', 'Low grass', phrase('grass, no higher than ', variable('grass-height'))),
  snippetOf(
    'notice-roof',
    'Notice: roofs',
    fragment(
      admonition(
        'notice',
        p('Over a roof, air is warmer by day and gusts are stronger. Use a roof only where there is no ground.'),
      ),
    ),
  ),
];

export const sitingTopics: readonly DemoComponent[] = [
  titled(
    'sit-about',
    'Why the place matters',
    p(
      'A good instrument in a bad place measures the place. Most doubts about readings end at a wall, a tree or a car park.',
    ),
  ),
  titled(
    'sit-classes',
    'Classes of places',
    p(
      'Places are graded from 1, the best, to 5. What is seldom reached in a town is no shame, as long as it is known.',
    ),
    table(
      'sit-class-table',
      'Classes for temperature',
      ['Class', 'Ground', 'Shade'],
      row(null, '1', 'low grass within 100 m', 'none when the sun stands above 5°'),
      row(null, '2', 'low grass within 30 m', 'none above 7°'),
      row(null, '3', 'grass within 10 m', 'none above 7°'),
      row(null, '4', 'less than half paved within 10 m', 'less than a third of the day'),
      row(null, '5', 'any other', 'any'),
    ),
    p('The classes follow common practice; ', see('sit-record'), ' tells where to note them.'),
  ),
  titled('sit-heights', 'Heights above ground', place('heights-table'), only('mounting is roof', place('notice-roof'))),
  titled(
    'sit-obstacles',
    'Obstacles',
    figure('sit-distance', 'picture-siting', 'Distances to a house and a tree'),
    place('obstacle-rule'),
    example('A house of six metres', p('The shield stands at least twelve metres away, the anemometer sixty.')),
  ),
  titled(
    'sit-ground',
    'The ground',
    p(
      mark('ground'),
      'Best is ',
      placeInline('low-grass'),
      '. Keep ',
      variable('pavement-distance'),
      ' from pavement and ',
      variable('water-distance'),
      ' from water.',
    ),
  ),
  titled(
    'sit-shade',
    'Shade and sun',
    place('notice-sun'),
    p('Note in June and in December when the shade of trees and houses reaches the shield.'),
  ),
  titled(
    'sit-wind',
    'Open to the wind',
    only(
      family4,
      p(
        'Wind is measured at ',
        variable('anemometer-height'),
        ' over open ground. Lower readings are multiplied by a factor.',
      ),
    ),
    only(
      family4,
      table(
        'sit-factor',
        'Factors for lower masts over open ground',
        ['Height', 'Factor'],
        row(null, '2 m', '1.4'),
        row(null, '4 m', '1.2'),
        row(null, '6 m', '1.1'),
      ),
    ),
  ),
  titled(
    'sit-rain',
    'Rain and snow',
    p(
      mark('rain', { secondary: 'gauge' }),
      'Wind carries rain past a gauge that stands free on a ridge. A hedge of its height, at four times its height, helps.',
    ),
    place('tip-dew'),
  ),
  titled(
    'sit-mast-or-roof',
    'Mast or roof',
    choice(
      [
        'mounting is mast and not mounting is roof',
        p('A mast of its own is the better place. Go on with ', see('mount-mast'), '.'),
      ],
      [
        'mounting is roof and not mounting is mast',
        p('On a roof, stay away from chimneys and vents. Go on with ', see('mount-roof'), '.'),
      ],
      [null, p('Choose a mast wherever the ground allows it.')],
    ),
    place('danger-lightning'),
  ),
  titled('sit-owner', 'Owners and permits', place('ask-owner')),
  titled(
    'sit-visit',
    'The first visit',
    steps(
      'Look at the place from all sides.',
      'Measure the height of each obstacle, and how far it is.',
      p('Find the class: ', see('sit-classes'), '.'),
    ),
    place('four-pictures'),
  ),
  titled(
    'sit-record',
    'The record of the place',
    definitions(
      ['Position', 'in degrees, with four decimals.'],
      ['Height', 'of the ground above the sea, in metres.'],
      ['Class', 'for each quantity, with the year.'],
      ['Pictures', 'to the four sides, taken each spring.'],
    ),
  ),
  titled(
    'sit-change',
    'When the place changes',
    p(
      'A new house, a felled tree, a paved yard: note the day, and grade the place anew. Readings before and after are two series.',
    ),
  ),
  titled(
    'sit-winter',
    'Winter',
    section('sit-snow', 'Snow', p('Snow on the shield makes readings too low. Brush it off.'), place('tip-brush')),
    section(
      'sit-ice',
      'Ice',
      only(family4, p('An anemometer that is frozen shows 0. Thaw it with lukewarm water, never with a flame.')),
    ),
    bullets('Take the funnel’s sieve out in frost.', 'Keep the way to the station free.'),
  ),
];
