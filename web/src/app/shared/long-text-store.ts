/*
 * Texts in the browser's store. Writing a long one takes longer than a key stroke may, so of one that grows by what is typed
 * only the change is written: it stands beside the text, until it has grown itself.
 */

const long = 50_000;
const longestChange = 20_000;

/** The texts that this window wrote whole, by name. */
const written = new Map<string, string>();

const changeName = (name: string): string => `change of ${name}`;

/** How many characters of the text stay at its start and at its end, what stands between now, and the length of the text. */
type Change = readonly [start: number, end: number, between: string, length: number];

/** Keeps a text under a name. Where the store is full or shut, nothing is left under it. */
export function writeStored(name: string, text: string): void {
  try {
    const before = written.get(name);
    const change = before === undefined || localStorage.getItem(name) === null ? null : changeOf(before, text);
    if (change) localStorage.setItem(changeName(name), JSON.stringify(change));
    else {
      localStorage.setItem(name, text);
      localStorage.removeItem(changeName(name));
      if (text.length > long) written.set(name, text);
      else written.delete(name);
    }
  } catch {
    removeStored(name);
  }
}

/** The text under a name; null: there is none. */
export function readStored(name: string): string | null {
  const text = localStorage.getItem(name);
  const change = localStorage.getItem(changeName(name));
  if (text === null || change === null) return text;
  try {
    const [start, end, between, length] = JSON.parse(change) as Change;
    // The text was written anew since.
    if (length !== text.length) return text;
    return text.slice(0, start) + between + text.slice(text.length - end);
  } catch {
    return text;
  }
}

export function removeStored(name: string): void {
  written.delete(name);
  localStorage.removeItem(name);
  localStorage.removeItem(changeName(name));
}

/** What makes one text of another; null: nearly all of it. */
function changeOf(before: string, text: string): Change | null {
  const shorter = Math.min(before.length, text.length);
  const start = equalLength(shorter, (from, to) => before.slice(from, to) === text.slice(from, to));
  const end = equalLength(
    shorter - start,
    (from, to) =>
      before.slice(before.length - to, before.length - from) === text.slice(text.length - to, text.length - from),
  );
  const between = text.slice(start, text.length - end);
  return between.length > longestChange ? null : [start, end, between, before.length];
}

/** How far two texts are equal, up to a length: in great steps, which the browser compares at once, and then in smaller ones. */
function equalLength(most: number, areEqual: (from: number, to: number) => boolean): number {
  let length = 0;
  for (let step = 1 << 16; step >= 1; step >>= 1)
    while (length + step <= most && areEqual(length, length + step)) length += step;
  return length;
}
