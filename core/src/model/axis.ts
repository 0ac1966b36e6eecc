/** One value of an axis, with the values below it. */
export interface AxisValue {
  readonly key: string;
  readonly title: string;
  /** One or two letters shown in lanes, so that colour never stands alone. */
  readonly code: string;
  /** Index into the palette of lane colours. */
  readonly colour: number;
  /** Index into the set of lane patterns. */
  readonly pattern: number;
  readonly values?: readonly AxisValue[];
}

/** One dimension of variation with its tree of values. */
export interface Axis {
  readonly key: string;
  readonly title: string;
  readonly values: readonly AxisValue[];
}

/** A value with the keys of the values that it stands under, outermost first. */
export interface PlacedValue {
  readonly value: AxisValue;
  readonly ancestors: readonly string[];
}

/** All values of an axis in tree order, parents before children. */
export function flattenValues(axis: Axis): readonly PlacedValue[] {
  const flat: PlacedValue[] = [];
  const add = (values: readonly AxisValue[], ancestors: readonly string[]): void => {
    for (const value of values) {
      flat.push({ value, ancestors });
      if (value.values) add(value.values, [...ancestors, value.key]);
    }
  };
  add(axis.values, []);
  return flat;
}
