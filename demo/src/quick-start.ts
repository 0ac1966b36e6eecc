import type { DemoComponent } from './demo-component.js';
import {
  bullets,
  figure,
  fragment,
  label,
  only,
  p,
  phrase,
  place,
  snippetOf,
  steps,
  titled,
  valueOf,
  variable,
} from './content.js';

/** The quick start, in English and in German. */

export const quickVariables: readonly DemoComponent[] = [
  valueOf('quick-minutes', 'Minutes of the quick start', '15'),
  valueOf('box-weight', 'Weight of the box', '2.4 kg', ['market is north-america', '5.3 lb']),
];

export const quickSnippets: readonly DemoComponent[] = [
  snippetOf(
    'de-hinweis-netz',
    'Hinweis: Netzspannung',
    fragment(p('Das Netzteil führt ', variable('mains'), '. Ziehen Sie es, bevor Sie das Gehäuse öffnen.')),
  ),
  snippetOf('de-menue', 'Menü › Einstellungen', phrase(label('Menü'), ' › ', label('Einstellungen'))),
  snippetOf(
    'de-hilfe',
    'So erreichen Sie uns',
    fragment(p('Rufen Sie ', variable('help-line'), ' an, ', variable('help-hours'), '.')),
  ),
];

export const quickTopics: readonly DemoComponent[] = [
  titled('qs-unpack', 'Unpack', p('The box weighs ', variable('box-weight'), '.'), place('parts-table')),
  titled('qs-place', 'Choose the place', place('obstacle-rule'), place('notice-sun')),
  titled(
    'qs-power',
    'Give it power',
    place('warning-mains'),
    steps('Put the battery in.', 'Plug the adapter in.', 'Wait for the first values.'),
  ),
  titled(
    'de-willkommen',
    'Willkommen',
    p('In ', variable('quick-minutes'), ' Minuten zeigt die Konsole die ersten Werte.'),
    figure('de-bild', 'picture-station', 'Die Station und ihre Konsole'),
  ),
  titled(
    'de-auspacken',
    'Auspacken',
    bullets(
      'Sensorkopf',
      'Konsole',
      'Netzteil',
      only('mounting is mast', p('zwei Mastschellen')),
      only('mounting is roof', p('Dachplatte mit Dichtung')),
    ),
  ),
  titled(
    'de-strom',
    'Strom anschließen',
    place('de-hinweis-netz'),
    steps('Legen Sie die Batterie ein.', 'Stecken Sie das Netzteil ein.', 'Warten Sie auf die ersten Werte.'),
  ),
  titled('de-hilfe-thema', 'Wenn Sie Hilfe brauchen', place('de-hilfe')),
];
