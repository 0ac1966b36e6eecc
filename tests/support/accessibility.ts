import { AxeBuilder } from '@axe-core/playwright';
import type { Page } from '@playwright/test';

/** What is looked for: everything that axe knows, only whether letters stand out from their ground, or all but that. */
export type Looked = 'everything' | 'colours' | 'all but colours';

/**
 * What axe finds on a page: rules of WCAG and of good practice, of any impact, each with the first pieces that break it.
 * @param within a selector: only what lies in it is looked at
 */
export async function findings(page: Page, looked: Looked = 'everything', within?: string): Promise<readonly string[]> {
  // Putting the answers together in a window of its own takes longer than the looking.
  const axe = new AxeBuilder({ page }).setLegacyMode().options({
    ...(looked === 'colours'
      ? { runOnly: ['color-contrast'] }
      : { rules: { 'target-size': { enabled: true }, 'color-contrast': { enabled: looked === 'everything' } } }),
    // Nobody reads what is right, or how to select it: a third of the time went there.
    resultTypes: ['violations'],
    selectors: false,
  });
  const { violations } = await (within === undefined ? axe : axe.include(within)).analyze();
  return violations.map(({ id, nodes }) => {
    const pieces = nodes.slice(0, 3).map(({ html }) => html.slice(0, 200));
    return `${id}: ${pieces.join(' | ')}`;
  });
}
