/** Whether two lists hold the very same values, in the same order. */
export function isSameList<Value>(a: readonly Value[], b: readonly Value[]): boolean {
  if (a.length !== b.length) return false;
  for (let at = 0; at < a.length; at += 1) if (a[at] !== b[at]) return false;
  return true;
}
