/**
 * Words that come in the place of others, in capitals as these were: where somebody looks for “mast” and “Mast” begins a
 * sentence, “pole” becomes “Pole” there. Whoever looks for words with capitals says how they are written.
 * @param find what was looked for
 * @param found what stands there
 * @param becomes what is to stand there
 */
export function inCaseOf(find: string, found: string, becomes: string): string {
  if (find === found || find !== find.toLowerCase() || found.toLowerCase() !== find) return becomes;
  if ([...found].length > 1 && found === found.toUpperCase()) return becomes.toUpperCase();
  const [first = '', ...rest] = becomes;
  return found.startsWith(find.charAt(0)) ? becomes : first.toUpperCase() + rest.join('');
}
