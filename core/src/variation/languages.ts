/** Whether a rule for one language applies to another: equal, or a prefix of it (RFC 4647, 3.3.1 basic filtering). */
export function languageMatches(range: string, language: string): boolean {
  const [wanted, actual] = [range.toLowerCase(), language.toLowerCase()];
  return actual === wanted || actual.startsWith(`${wanted}-`);
}
