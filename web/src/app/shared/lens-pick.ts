import { flattenValues, valueStates, type Axis, type Profile } from '@allomorph/core';

/** Values picked freely, axis by axis; an axis that is not named has all its values in. */
export type Pick = Readonly<Record<string, readonly string[]>>;

const prefix = 'pick:';

/** A pick as the name of a lens, which stands in addresses: “pick:axis=value,value;axis=value”. */
export function pickId(pick: Pick): string {
  const parts = Object.entries(pick).filter(([, values]) => values.length > 0);
  return prefix + parts.map(([axis, values]) => `${axis}=${values.join(',')}`).join(';');
}

/** The pick that a lens names; null where it names something else. Keys hold none of the signs between them. */
export function pickOf(id: string | null): Pick | null {
  if (!id?.startsWith(prefix)) return null;
  const parts = id
    .slice(prefix.length)
    .split(';')
    .filter((part) => part.includes('='));
  return Object.fromEntries(
    parts.map((part) => {
      const [axis = '', values = ''] = part.split('=');
      return [axis, values.split(',').filter((value) => value !== '')];
    }),
  );
}

/** What can be picked of an axis: the values that nothing stands under. */
export function leavesOf(axis: Axis): readonly { readonly key: string; readonly title: string }[] {
  return flattenValues(axis)
    .map(({ value }) => value)
    .filter(({ values }) => !values?.length);
}

/**
 * A pick as a profile: what is picked is in, and so are the categories above it, as content for a category is for what stands in it.
 */
export function profileOfPick(axes: readonly Axis[], pick: Pick): Profile {
  const limited = axes.filter(({ key }) => (pick[key]?.length ?? 0) > 0);
  return {
    axes: Object.fromEntries(
      limited.map((axis) => {
        const all = flattenValues(axis);
        const picked = new Set(pick[axis.key]);
        const above = all.filter(({ value }) => picked.has(value.key)).flatMap(({ ancestors }) => ancestors);
        const isIn = new Set([...picked, ...above]);
        const keys = all.map(({ value }) => value.key);
        return [
          axis.key,
          {
            default: 'out' as const,
            in: keys.filter((key) => isIn.has(key)),
            out: keys.filter((key) => !isIn.has(key)),
          },
        ];
      }),
    ),
  };
}

/** What a profile has in, as a pick to go on from. */
export function pickOfProfile(axes: readonly Axis[], profile: Profile): Pick {
  return Object.fromEntries(
    axes.flatMap((axis) => {
      const states = valueStates(axis, profile.axes[axis.key]);
      const leaves = leavesOf(axis).map(({ key }) => key);
      const kept = leaves.filter((key) => states.get(key));
      return kept.length === leaves.length ? [] : [[axis.key, kept]];
    }),
  );
}
