import type { Edge } from '@allomorph/core';
import { randomFrom } from './random.js';

/**
 * 200,000 references among 20,000 components `c0` to `c19999`, without cycles: every component may use any
 * one before it, so that most are used by thousands through others.
 */
export function tangledReferences(): readonly Edge[] {
  const random = randomFrom(1);
  return Array.from({ length: 200_000 }, () => {
    const used = random(19_999);
    return { user: `c${used + 1 + random(19_999 - used)}`, used: `c${used}` };
  });
}

/**
 * 200,000 references among 20,000 components in three layers, as libraries have them: 5,000 snippets
 * (from `c0`), 5,000 snippets that place 10 of these each (from `c5000`), and 10,000 topics that place 10
 * of the second and 5 of the first.
 */
export function layeredReferences(): readonly Edge[] {
  const random = randomFrom(1);
  const edges: Edge[] = [];
  const use = (user: number, from: number, count: number): void => {
    for (let at = 0; at < count; at += 1) edges.push({ user: `c${user}`, used: `c${from + random(5000)}` });
  };
  for (let at = 5000; at < 10_000; at += 1) use(at, 0, 10);
  for (let at = 10_000; at < 20_000; at += 1) {
    use(at, 5000, 10);
    use(at, 0, 5);
  }
  return edges;
}

/** The components that where used is asked of: every hundredth. */
export const askedOf: readonly string[] = Array.from({ length: 200 }, (_, at) => `c${at * 100}`);
