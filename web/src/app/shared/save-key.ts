/** Whether a key is the one that saves what is open, and nothing else has taken it. */
export function isSaveKey(event: KeyboardEvent): boolean {
  return (event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 's' && !event.defaultPrevented;
}
