/**
 * Shows the next candidate of each slot on every view. The first view shows the stated one. It keeps count in the browser,
 * and where it may not, it takes one by chance.
 */
export function turnSlots(): void {
  for (const slot of document.querySelectorAll<HTMLElement>('.slot')) {
    const all = [...slot.children] as HTMLElement[];
    const stated = all.findIndex((each) => !each.hidden);
    let at: number;
    try {
      const key = `slot ${location.pathname} ${slot.dataset['slot'] ?? ''}`;
      at = Number(localStorage.getItem(key) ?? stated);
      localStorage.setItem(key, String((at + 1) % all.length));
    } catch {
      at = Math.floor(Math.random() * all.length);
    }
    all.forEach((each, index) => (each.hidden = index !== at % all.length));
  }
}
