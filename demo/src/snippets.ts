import type { DemoComponent } from './demo-component.js';
import {
  admonition,
  bullets,
  choice,
  fragment,
  key,
  label,
  link,
  only,
  p,
  phrase,
  place,
  placeInline,
  row,
  snippetOf,
  steps,
  strong,
  table,
  variable,
} from './content.js';

/** A tip that slots show, with the subjects of the topics that it fits. */
const tip = (name: string, title: string, subjects: readonly string[], text: string): DemoComponent => ({
  ...snippetOf(name, title, fragment(admonition('tip', p(text)))),
  labels: { collection: 'tips', tags: { subject: subjects } },
});

const family4 = 'product is dunlin-4-family, dunlin-4, dunlin-4x';

export const snippets: readonly DemoComponent[] = [
  snippetOf(
    'warning-mains',
    'Warning: mains voltage',
    fragment(
      admonition(
        'warning',
        p('The power adapter carries ', variable('mains'), '. Unplug it before you open the housing.'),
        only('audience is technician, field, workshop', p('Wait two minutes until the capacitors have discharged.')),
      ),
    ),
  ),
  snippetOf(
    'danger-lightning',
    'Danger: lightning',
    fragment(
      admonition(
        'danger',
        choice(
          [
            'mounting is mast and not mounting is roof',
            p('A mast attracts lightning. Leave it as soon as you hear thunder.'),
          ],
          [
            'mounting is roof and not mounting is mast',
            p('A roof edge attracts lightning. Leave it as soon as you hear thunder.'),
          ],
          [null, p('Masts and roof edges attract lightning. Leave them as soon as you hear thunder.')],
        ),
      ),
    ),
  ),
  snippetOf(
    'caution-height',
    'Caution: working at height',
    fragment(admonition('caution', 'Secure yourself before you work on a mast or roof, and never work alone.')),
  ),
  snippetOf(
    'caution-battery',
    'Caution: backup battery',
    fragment(
      admonition(
        'caution',
        p('Use only batteries of the type ', variable('battery'), '. Mind the signs for plus and minus.'),
      ),
    ),
  ),
  snippetOf(
    'notice-sun',
    'Notice: direct sun',
    fragment(admonition('notice', 'Direct sun on the shield makes readings too high. Choose a place with moving air.')),
  ),
  snippetOf(
    'note-firmware',
    'Note: firmware version',
    fragment(
      admonition('note', p('This describes firmware ', variable('firmware'), '. Older versions lack some menus.')),
    ),
  ),
  snippetOf(
    'tools-mounting',
    'Tools for mounting',
    fragment(
      p('You need:'),
      bullets(
        p('spanner, ', variable('spanner')),
        'spirit level',
        only(family4, p('torque wrench up to ', variable('bolt-torque'))),
        only('mounting is roof', p('roof ladder and safety line')),
        'cable ties that withstand sunlight',
      ),
    ),
  ),
  snippetOf(
    'contact',
    'How to reach us',
    fragment(
      p('Call ', variable('help-line'), ', ', variable('help-hours'), ', and have the serial number at hand.'),
      p('Answers to many questions stand on our ', link('support-pages'), '.'),
    ),
  ),
  snippetOf('menu-settings', 'Menu › Settings', phrase(label('Menu'), ' › ', label('Settings'))),
  snippetOf('menu-units', 'Menu › Settings › Units', phrase(placeInline('menu-settings'), ' › ', label('Units'))),
  snippetOf('menu-link', 'Menu › Settings › Link', phrase(placeInline('menu-settings'), ' › ', label('Link'))),
  snippetOf('press-hold', 'Press and hold', phrase('press and hold ', key('OK'), ' for three seconds')),
  snippetOf(
    'confirm',
    'Confirm a choice',
    fragment(
      choice(
        ['product is dunlin-4x', p('Tap ', label('Confirm'), ' on the touch panel.')],
        [family4, p('Press ', key('OK'), '.')],
        [null, p('Press the wheel.')],
      ),
    ),
  ),
  snippetOf(
    'open-settings',
    'Steps: open the settings',
    fragment(steps(p('Wake the display with any key.'), p('Open ', placeInline('menu-settings'), '.'))),
  ),
  snippetOf(
    'restart',
    'Steps: restart the station',
    fragment(
      steps(
        p('Switch the console off.'),
        p('Unplug the adapter and take the battery out.'),
        p('Wait ten seconds, then put both back.'),
        only('product is dunlin-4x', p('When the display asks, ', placeInline('press-hold'), '.')),
      ),
    ),
  ),
  snippetOf(
    'dispose',
    'Disposal',
    fragment(
      only(
        'market is europe',
        p('Hand the station in at a collection point for electrical equipment. It must not go into household waste.'),
      ),
      only('not market is europe', p('Dispose of the station as your local rules ask.')),
      place('caution-battery'),
    ),
  ),
  snippetOf(
    'conformity',
    'Conformity',
    fragment(
      only(
        'market is europe',
        p('The declaration of conformity can be had from ', variable('company'), ' on request.'),
      ),
      only(
        'market is north-america',
        p('Changes that ', variable('company'), ' has not approved may void the right to operate the radio.'),
      ),
      only('market is australia', p('The supplier’s declaration is kept at the address on the label.')),
    ),
  ),
  snippetOf(
    'warranty-terms',
    'Warranty terms',
    fragment(
      p(variable('company'), ' gives a warranty of ', variable('warranty'), ' from the day of purchase.'),
      p('It does not cover damage by lightning, hail or opening the sensor head.'),
    ),
  ),
  snippetOf(
    'parts-table',
    'Table: parts in the box',
    fragment(
      table(
        'parts',
        'Parts in the box',
        ['Part', 'Quantity', 'Remark'],
        row(null, 'Sensor head', '1', 'with shield'),
        row(family4, 'Anemometer', '1', 'packed apart'),
        row(null, 'Console', '1', 'display protected by a film'),
        row(null, 'Power adapter', '1', variable('plug')),
        row('mounting is mast', 'Mast bracket', '2', variable('mast-diameter')),
        row('mounting is roof', 'Roof plate', '1', 'with seal'),
        row(null, 'Battery', '1', variable('battery')),
      ),
    ),
  ),
  snippetOf(
    'level-check',
    'Check: level',
    fragment(
      p(
        'Lay the spirit level on the rain gauge in two directions. The bubble must stand ',
        strong('between the marks'),
        ' both times.',
      ),
    ),
  ),
  snippetOf('serial-place', 'Where the serial number stands', phrase('on the label under the ', variable('console'))),
  snippetOf(
    'old-contact',
    'How to reach us (2024)',
    fragment(p('Write to the service desk at the address on the label.')),
  ),
  tip('tip-dew', 'Tip: dew', ['rain', 'cleaning'], 'Dew in the funnel is no rain: below 0.2 nothing is counted.'),
  tip('tip-spider', 'Tip: webs', ['wind', 'cleaning'], 'Spiders like the shield. A web slows the fan; look in spring.'),
  tip('tip-brush', 'Tip: brush', ['cleaning'], 'A soft brush reaches between the plates of the shield.'),
];

/** Second revisions: what was changed after the library was first filled. */
export const revised: readonly DemoComponent[] = [
  snippetOf(
    'restart',
    'Steps: restart the station',
    fragment(
      steps(
        p('Switch the console off.'),
        p('Unplug the adapter and take the battery out.'),
        p('Wait ', strong('thirty seconds'), ', then put both back.'),
        only('product is dunlin-4x', p('When the display asks, ', placeInline('press-hold'), '.')),
      ),
    ),
  ),
];

/** Links to addresses outside, kept in one place. */
export const links: readonly DemoComponent[] = [
  {
    key: 'support-pages',
    kind: 'link',
    title: 'support pages',
    body: { type: 'link', href: 'https://support.fennick.example/firmware-{+firmware}', label: 'support pages' },
  },
  {
    key: 'observer-network',
    kind: 'link',
    title: 'observer network',
    body: { type: 'link', href: 'https://network.fennick.example/', label: 'observer network' },
  },
];
