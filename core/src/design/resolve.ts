import { plainDesign, type Design, type MatterPart } from './design.js';
import type { Stamp } from '../model/stamp.js';
import { plainStampValue, stampLook } from './stamp-looks.js';
import { settingOf, settings, faultOf, type Setting, type SettingValue } from './settings.js';

/** What a design says of its own accord, by setting: `path`, or `path@language` for a language. */
export type DesignSettings = Readonly<Record<string, SettingValue>>;

/** A design as it is kept: what it does not say, it takes from the one that it derives from. */
export interface StoredDesign {
  readonly key: string;
  readonly title: string;
  /** The key of the design that it derives from; null: what everything begins with. */
  readonly from: string | null;
  readonly settings: DesignSettings;
}

/** How long a way of derivations may be. */
export const mostDerivations = 20;

/**
 * A design and those that it derives from, nearest first.
 * @returns as far as the way goes: it ends before a design that is not there, or that it came by already
 */
export function wayOf(key: string, designs: readonly StoredDesign[]): readonly StoredDesign[] {
  const way: StoredDesign[] = [];
  let next: string | null = key;
  while (next !== null && way.length < mostDerivations) {
    const found = designs.find((design) => design.key === next);
    if (!found || way.includes(found)) break;
    way.push(found);
    next = found.from;
  }
  return way;
}

/** Whose word counts for a setting, and what it is. */
export interface SettingAnswer {
  readonly value: SettingValue;
  /** The key of the design that says it; null: none does. */
  readonly by: string | null;
  /** The path of the setting by which it is said: another one where a stamp takes it from the one that it derives from. */
  readonly path: string;
}

/**
 * What a design says of a setting, of its own accord or through those that it derives from. What any of them says for a
 * language goes before what they say for all.
 * @param language a language tag (BCP 47); null: what holds where no language has a word of its own
 */
export function answerOf(setting: Setting, way: readonly StoredDesign[], language: string | null): SettingAnswer {
  const { path } = setting;
  return (
    saidOf(setting, way, language) ?? { value: plainStampValue(path) ?? valueAt(plainDesign, path), by: null, path }
  );
}

/** What some design of a way says of a setting; null: none says anything. */
function saidOf(setting: Setting, way: readonly StoredDesign[], language: string | null): SettingAnswer | null {
  const tags = language === null || !setting.byLanguage ? [] : tagsOf(language);
  for (const path of [setting.path, ...(setting.otherwise ?? [])]) {
    for (const name of [...tags.map((tag) => `${path}@${tag}`), path]) {
      for (const { key, settings: own } of way) {
        const value = own[name];
        if (value !== undefined && faultOf(setting, value) === null) return { value, by: key, path };
      }
    }
  }
  return null;
}

/** A language tag and those that it belongs to: “de-AT”, “de”. */
function tagsOf(language: string): readonly string[] {
  const parts = language.toLowerCase().split('-');
  return parts.map((_, at) => parts.slice(0, parts.length - at).join('-'));
}

/**
 * A design with everything said, for a language.
 * @param designs all that there are; where the key names none of them, everything is plain
 * @param stamps those of the vocabulary: each gets a look
 */
export function resolveDesign(
  key: string,
  designs: readonly StoredDesign[],
  language: string | null,
  stamps: readonly Stamp[] = [],
): Design {
  const way = wayOf(key, designs);
  const [own] = way;
  const design = copyOf(plainDesign);
  for (const setting of settings) {
    const said = saidOf(setting, way, language);
    if (said) putAt(design, setting.path, said.value);
  }
  const { lists } = design;
  // A list stands once, where it comes first; topics stand before the text and after it.
  const back: readonly MatterPart[] = lists.back.filter((part) => part === 'topics' || !lists.front.includes(part));
  const looks = stamps.map(
    (stamp) => [stamp.key, stampLook(stamp, stamps, (setting) => answerOf(setting, way, language).value)] as const,
  );
  return {
    ...design,
    stamps: Object.fromEntries(looks),
    key: own?.key ?? plainDesign.key,
    title: own?.title ?? plainDesign.title,
    lists: { ...lists, back },
  };
}

/** What speaks against the settings of a design, sentence by sentence. */
export function faultsOf(own: DesignSettings): readonly string[] {
  return Object.entries(own).flatMap(([name, value]) => {
    const found = settingOf(name);
    if (!found) return [`Designs have no setting “${name}”.`];
    const fault = faultOf(found.setting, value);
    return fault === null ? [] : [fault];
  });
}

/** The value of a setting in a design in which everything is said. */
export function valueAt(design: Design, path: string): SettingValue {
  let value: unknown = design;
  // The table of settings names values only; its test goes through all of them.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  for (const name of path.split('.')) value = (value as Record<string, unknown>)[name];
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  return value as SettingValue;
}

function putAt(design: Design, path: string, value: SettingValue): void {
  const names = path.split('.');
  const last = names.pop() ?? '';
  // As above; the design is a copy of our own.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  let place = design as unknown as Record<string, unknown>;
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  for (const name of names) place = place[name] as Record<string, unknown>;
  place[last] = value;
}

function copyOf(design: Design): Design {
  // What is written of a design is one.
  // eslint-disable-next-line @typescript-eslint/no-unsafe-type-assertion
  return JSON.parse(JSON.stringify(design)) as Design;
}
