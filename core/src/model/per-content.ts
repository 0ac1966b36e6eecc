import type { AssembledNode } from './node.js';

/**
 * Makes something of assembled content and remembers it for as long as the content is kept: content never changes, so each
 * is gone through once.
 * @param make what becomes of content that a component holds; must depend on nothing else
 */
export function perContent<Result>(
  make: (content: readonly AssembledNode[], component: string) => Result,
): (content: readonly AssembledNode[], component: string) => Result {
  const made = new WeakMap<readonly AssembledNode[], Map<string, Result>>();
  return (content, component) => {
    let known = made.get(content);
    if (!known) made.set(content, (known = new Map<string, Result>()));
    let result = known.get(component);
    if (result === undefined) known.set(component, (result = make(content, component)));
    return result;
  };
}
