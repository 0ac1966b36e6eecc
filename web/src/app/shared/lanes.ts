import {
  flattenValues,
  parseCondition,
  readCondition,
  stampAxis,
  standingCondition,
  type Axis,
  type AxisValue,
  type Condition,
  type Vocabulary,
} from '@allomorph/core';

/**
 * Colours of lanes: the palette of Okabe and Ito, which people with any kind of colour vision can tell
 * apart (“Color Universal Design”, 2008), with the yellow and the black replaced for use on paper.
 */
export const laneColours = [
  '#0072b2',
  '#d55e00',
  '#00805e',
  '#b8578f',
  '#a86f00',
  '#2f8fc4',
  '#6f5d28',
  '#4b4b57',
] as const;

/** How many patterns there are; the style sheet draws them as `.pattern-0` and on. */
export const lanePatterns = 6;

/** What one axis says in a condition. */
export interface Lane {
  readonly axis: Axis;
  readonly values: readonly AxisValue[];
  /** Whether the values are excluded rather than asked for. */
  readonly not: boolean;
  /** Whether the condition is more than this lane can show (alternatives across axes). */
  readonly partial: boolean;
  /** Value keys that the axis does not define. */
  readonly undefinedKeys: readonly string[];
}

/** The lanes that a condition fills, in the order of the axes. */
export function lanesOf(when: string, { axes, stamps }: Vocabulary): readonly Lane[] {
  const read = readCondition(when, stamps);
  if (!read) return [];
  const leaves: { axis: string; values: readonly string[]; not: boolean; partial: boolean }[] = [];
  const visit = (condition: Condition, not: boolean, partial: boolean): void => {
    if ('axis' in condition) leaves.push({ ...condition, not, partial });
    else if ('not' in condition) visit(condition.not, !not, partial);
    else if ('all' in condition) condition.all.forEach((each) => visit(each, not, partial || not));
    else condition.any.forEach((each) => visit(each, not, true));
  };
  visit(read, false, false);
  return axes.flatMap((axis) => {
    const own = leaves.filter((leaf) => leaf.axis === axis.key);
    const [first] = own;
    if (!first) return [];
    const keys = [...new Set(own.flatMap((leaf) => leaf.values))];
    const known = new Map(flattenValues(axis).map(({ value }) => [value.key, value]));
    return [
      {
        axis,
        values: keys.flatMap((key) => known.get(key) ?? []),
        not: first.not,
        partial: own.length > 1 || first.partial,
        undefinedKeys: keys.filter((key) => !known.has(key)),
      },
    ];
  });
}

/** The colour of a lane: that of its first value. */
export function laneColour(lane: Lane): string {
  return laneColours[(lane.values[0]?.colour ?? 7) % laneColours.length] ?? laneColours[7];
}

/** The pattern class of a lane: that of its first value. */
export function lanePattern(lane: Lane): string {
  return `pattern-${(lane.values[0]?.pattern ?? 0) % lanePatterns}`;
}

/** The short code of a lane: its values' codes, with a minus before those that are excluded. */
export function laneCode(lane: Lane): string {
  const codes = [...lane.values.map((value) => value.code), ...lane.undefinedKeys.map(() => '??')];
  return `${lane.not ? '−' : ''}${codes.join(' ')}`;
}

/** What a stamp is called. */
export function titleOfStamp(key: string, { stamps }: Vocabulary): string {
  return stamps.find((stamp) => stamp.key === key)?.title ?? `${key} (there is no such stamp)`;
}

/** A condition in the words of the vocabulary, for people: titles instead of keys. */
export function describeCondition(when: string, { axes, stamps }: Vocabulary): string {
  const parsed = parseCondition(when);
  if (!parsed.ok) return when;
  /** A stamp by its title, with what it asks for. */
  const describeStamp = (key: string): string => {
    const title = `stamp “${titleOfStamp(key, { axes, stamps })}”`;
    const standing = standingCondition(key, stamps);
    const always = 'all' in standing && standing.all.length === 0;
    const never = 'any' in standing && standing.any.length === 0;
    return always || never ? title : `${title} (${describe(standing, false)})`;
  };
  const describe = (condition: Condition, nested: boolean): string => {
    if ('axis' in condition && condition.axis === stampAxis) {
      return condition.values.map((key) => describeStamp(key)).join(' or ');
    }
    if ('axis' in condition) {
      const axis = axes.find((each) => each.key === condition.axis);
      const titles = new Map(axis ? flattenValues(axis).map(({ value }) => [value.key, value.title]) : []);
      return `${axis?.title ?? condition.axis}: ${condition.values.map((key) => titles.get(key) ?? key).join(' or ')}`;
    }
    if ('not' in condition) return `not (${describe(condition.not, false)})`;
    const [parts, word] = 'all' in condition ? [condition.all, ' and '] : [condition.any, ' or '];
    const text = parts.map((each) => describe(each, true)).join(word);
    return nested ? `(${text})` : text;
  };
  return describe(parsed.condition, false);
}
