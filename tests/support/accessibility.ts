import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import type { Frame, Page } from '@playwright/test';
import type axe from 'axe-core';

/**
 * What is looked for: everything that axe knows, only whether letters stand out from their ground, all but that, or only
 * what hangs on the room there is.
 */
export type Looked = 'everything' | 'colours' | 'all but colours' | 'room';

const only = { colours: ['color-contrast'], room: ['target-size', 'scrollable-region-focusable'] };

const program = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');

const axeHere = async (frame: Frame): Promise<void> => {
  if (!(await frame.evaluate<boolean>('"axe" in window'))) await frame.evaluate(program);
};

/**
 * What axe finds on a page and in what it frames: rules of WCAG and of good practice, of any impact, each with the first
 * pieces that break it.
 * @param within a selector: only what lies in it is looked at
 */
export async function findings(page: Page, looked: Looked = 'everything', within?: string): Promise<readonly string[]> {
  // Once for each page that is loaded, and not for each look at it.
  await Promise.all(page.frames().map(axeHere));
  const options: axe.RunOptions = {
    ...(looked === 'colours' || looked === 'room'
      ? { runOnly: only[looked] }
      : { rules: { 'target-size': { enabled: true }, 'color-contrast': { enabled: looked === 'everything' } } }),
    // Nobody reads what is right, or how to select it: a third of the time went there.
    resultTypes: ['violations'],
    selectors: false,
  };
  const { violations } = await page.evaluate(
    ([within, options]) => {
      const { axe: here, document } = globalThis as unknown as { axe: typeof axe; document: axe.ElementContext };
      return here.run(within ?? document, options);
    },
    [within, options] as const,
  );
  return violations.map(({ id, nodes }) => {
    const pieces = nodes.slice(0, 3).map(({ html }) => html.slice(0, 200));
    return `${id}: ${pieces.join(' | ')}`;
  });
}
