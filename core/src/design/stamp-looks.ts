import { wayOfStamp, type Stamp } from '../model/stamp.js';
import type { Setting, SettingValue } from './settings.js';

export const stampFrames = ['none', 'bar', 'box', 'tint'] as const;

/** How a design shows what bears a stamp. */
export interface StampLook {
  /** What it is called, where styles are named. */
  readonly title: string;
  readonly frame: (typeof stampFrames)[number];
  /** Of the frame and the word; `accent`: the colour of the design. */
  readonly colour: string;
  readonly letters: 'ink' | 'colour';
  readonly weight: 'regular' | 'bold';
  readonly slant: 'upright' | 'italic';
  readonly capitals: boolean;
  /** Stands over what bears it, and before phrases; empty: nothing does. */
  readonly word: string;
}

type Said = Omit<StampLook, 'title'>;

/** What a stamp looks like of which no design says anything: a block stands at a bar, a phrase stays as it is. */
const plain: Said = {
  frame: 'bar',
  colour: 'accent',
  letters: 'ink',
  weight: 'regular',
  slant: 'upright',
  capitals: false,
  word: '',
};

const path = (key: string, property: string): string => `stamps.${key}.${property}`;

/** What a design can say of a stamp. What it does not, is taken from the stamp that this one derives from. */
export function stampSettings(key: string, stamps: readonly Stamp[]): readonly Setting[] {
  const way = wayOfStamp(key, stamps);
  const common = (property: keyof Said, title: string) => ({
    path: path(key, property),
    group: 'stamps' as const,
    under: way[0]?.title ?? key,
    title,
    otherwise: way.slice(1).map((stamp) => path(stamp.key, property)),
  });
  const choice = <Value extends string>(
    property: keyof Said,
    title: string,
    options: readonly { readonly value: Value; readonly title: string }[],
  ): Setting => ({ ...common(property, title), kind: 'choice', options });
  return [
    choice('frame', 'Frame', [
      { value: 'none', title: 'none' },
      { value: 'bar', title: 'a bar at the side; phrases underlined' },
      { value: 'box', title: 'a box' },
      { value: 'tint', title: 'tinted' },
    ] satisfies readonly { readonly value: StampLook['frame']; readonly title: string }[]),
    { ...common('colour', 'Colour'), kind: 'colour', orAccent: true },
    choice('letters', 'Letters', [
      { value: 'ink', title: 'as the text' },
      { value: 'colour', title: 'in its colour' },
    ]),
    choice('weight', 'Weight', [
      { value: 'regular', title: 'as the text' },
      { value: 'bold', title: 'bold' },
    ]),
    choice('slant', 'Slant', [
      { value: 'upright', title: 'as the text' },
      { value: 'italic', title: 'italic' },
    ]),
    { ...common('capitals', 'In capitals'), kind: 'flag' },
    {
      ...common('word', 'Word'),
      kind: 'text',
      fields: 'none',
      byLanguage: true,
      help: 'Stands over blocks and before phrases. Empty: nothing does.',
    },
  ];
}

/** The stamp and the property that the path of a setting names; null where it names none. */
function partsOfPath(name: string): { readonly key: string; readonly property: string } | null {
  const match = /^stamps\.(.+)\.(\w+)$/u.exec(name);
  return match?.[1] !== undefined && match[2] !== undefined ? { key: match[1], property: match[2] } : null;
}

/** The setting of a stamp's look that a path names, as far as it is known without the stamps; undefined: there is none. */
export function stampSettingAt(name: string): Setting | undefined {
  const parts = partsOfPath(name);
  return parts ? stampSettings(parts.key, []).find((setting) => setting.path === name) : undefined;
}

/** What holds where no design says anything; undefined for what is no setting of a stamp's look. */
export function plainStampValue(name: string): SettingValue | undefined {
  const { property = '' } = partsOfPath(name) ?? {};
  // A name of one of its members, as is asked before.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  return Object.hasOwn(plain, property) ? plain[property as keyof Said] : undefined;
}

/** The look of a stamp. @param answer what the design says of a setting */
export function stampLook(
  { key, title }: Stamp,
  stamps: readonly Stamp[],
  answer: (setting: Setting) => SettingValue,
): StampLook {
  const said = stampSettings(key, stamps).map((setting) => [partsOfPath(setting.path)?.property, answer(setting)]);
  // The settings are those of a look, and each value was checked.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  return { title, ...(Object.fromEntries(said) as Said) };
}
