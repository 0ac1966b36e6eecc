import fc from 'fast-check';
import { generatedLists, type Design } from '../../core/src/design/design.js';
import { resolveDesign, type DesignSettings } from '../../core/src/design/resolve.js';
import { stampSettings } from '../../core/src/design/stamp-looks.js';
import { anyStamps } from './any-library.js';
import { settings, type Setting, type SettingValue } from '../../core/src/design/settings.js';
import { shippedDesigns } from '../../core/src/design/shipped.js';

/** Any value that a setting may have, but for the keys of components. */
function anyValue(setting: Setting): fc.Arbitrary<SettingValue> {
  switch (setting.kind) {
    case 'choice':
      return fc.constantFrom(...setting.options.map(({ value }) => value));
    case 'number':
      return fc
        .integer({ min: 0, max: 20 })
        .map((at) => setting.least + ((setting.most - setting.least) * at) / 20)
        .map((value) => (setting.step % 1 === 0 ? Math.round(value) : value));
    case 'flag':
      return fc.boolean();
    case 'colour':
      return fc.constantFrom('#000000', '#ffffff', '#c8102e', ...(setting.orAccent ? ['accent'] : []));
    case 'font':
      return fc.constantFrom('serif', 'sans', 'mono');
    case 'lists':
      return fc.subarray([...generatedLists]);
    case 'text':
      return fc.constantFrom(
        '',
        '{title}',
        '{page} / {pages}',
        '{chapter} {section}',
        'A "text" of <our> #own {variant}',
      );
    case 'component':
      return fc.constant('');
    case 'css':
      return fc.constantFrom('', 'p{color:red}', '</style><script>alert(1)</script>');
    case 'address':
      return fc.constantFrom('', 'https://docs.example.org/guide/');
  }
}

/** Margins leave room for text on the smallest paper, and type is of a size that fits it. */
const within: Readonly<Record<string, number>> = {
  'paper.top': 30,
  'paper.bottom': 30,
  'paper.inner': 30,
  'paper.outer': 30,
  'paper.width': 600,
  'paper.height': 600,
};

/** Designs that derive from one that comes with the application, and say some settings themselves. */
export const anyDesign: fc.Arbitrary<Design> = fc
  .tuple(
    fc.constantFrom(...shippedDesigns.map(({ key }) => key)),
    fc.array(
      fc
        .constantFrom(...settings, ...anyStamps.flatMap(({ key }) => stampSettings(key, anyStamps)))
        .chain((setting) => anyValue(setting).map((value): [string, SettingValue] => [setting.path, value])),
      { maxLength: 40 },
    ),
    fc.constantFrom('en', 'de'),
  )
  .map(([from, own, language]) => {
    const said: DesignSettings = Object.fromEntries(
      own.map(([path, value]) => [
        path,
        typeof value === 'number' && within[path] !== undefined ? Math.min(value, within[path]) : value,
      ]),
    );
    const designs = [...shippedDesigns, { key: 'any', title: 'Any', from, settings: said }];
    return resolveDesign('any', designs, language, anyStamps);
  });
