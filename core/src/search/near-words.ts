/**
 * Whether a word may be another one with a slip of the fingers: letters left out, doubled, wrong or in the wrong order. None is
 * allowed in words of up to three letters, one in words of up to seven, two in longer ones (common practice of forgiving search).
 */
export function isSlipOf(typed: string, word: string): boolean {
  const allowed = typed.length < 4 ? 0 : typed.length < 8 ? 1 : 2;
  return Math.abs(typed.length - word.length) <= allowed && slips(typed, word) <= allowed;
}

/**
 * The number of slips between two words, where two letters side by side that changed places are one: optimal string alignment
 * (Damerau 1964, in the restricted form).
 */
export function slips(a: string, b: string): number {
  let older: number[] = [];
  let above = Array.from({ length: b.length + 1 }, (_, at) => at);
  for (let row = 1; row <= a.length; row += 1) {
    const line = [row];
    for (let at = 1; at <= b.length; at += 1) {
      const same = a[row - 1] === b[at - 1] ? 0 : 1;
      let least = Math.min((above[at] ?? 0) + 1, (line[at - 1] ?? 0) + 1, (above[at - 1] ?? 0) + same);
      if (row > 1 && at > 1 && a[row - 1] === b[at - 2] && a[row - 2] === b[at - 1])
        least = Math.min(least, (older[at - 2] ?? 0) + 1);
      line.push(least);
    }
    older = above;
    above = line;
  }
  return above[b.length] ?? 0;
}
