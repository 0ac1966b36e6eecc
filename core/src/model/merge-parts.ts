/** What two people made of one thing, put together part by part. */
export interface Merged<Parts> {
  readonly parts: Parts;
  /** The parts that both changed, and not to the same: they stand in `parts` as mine. */
  readonly both: readonly (keyof Parts)[];
}

/**
 * Merges what two made of one version: each part is taken from the side that changed it.
 * @param base what both began with
 */
export function mergeParts<Parts extends object>(base: Parts, mine: Parts, theirs: Parts): Merged<Parts> {
  const parts = { ...mine };
  const both: (keyof Parts)[] = [];
  for (const part in base) {
    const [was, own, other] = [base, mine, theirs].map((side) => JSON.stringify(side[part]));
    if (own === was) parts[part] = theirs[part];
    else if (other !== was && other !== own) both.push(part);
  }
  return { parts, both };
}
