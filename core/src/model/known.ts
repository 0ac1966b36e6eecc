/**
 * What is there because the code around it has made sure of it, such as an item at an index below the length.
 * @throws Error where it is missing after all
 */
export function known<T>(value: T | undefined): T {
  if (value === undefined) throw new Error('A value that must be there is missing.');
  return value;
}
