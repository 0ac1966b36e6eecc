/**
 * Whether two values are the same as JSON, in whatever order the names of objects stand (RFC 8259, 4: objects are
 * unordered; the database keeps an order of its own). A name that is undefined is not said.
 */
export function sameJson(a: unknown, b: unknown): boolean {
  if (a === b) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (Array.isArray(a) || Array.isArray(b))
    return (
      Array.isArray(a) && Array.isArray(b) && a.length === b.length && a.every((each, at) => sameJson(each, b[at]))
    );
  const [left, right] = [new Map(Object.entries(a)), new Map(Object.entries(b))];
  return [...new Set([...left.keys(), ...right.keys()])].every((name) => sameJson(left.get(name), right.get(name)));
}
