import type { AssembledNode } from './node.js';

interface Made<Result> {
  readonly component: string;
  readonly result: Result;
  /** What was made of the same content in other components, which is rare. */
  others: Map<string, Result> | undefined;
}

/**
 * Makes something of assembled content and remembers it for as long as the content is kept: content never changes, so each
 * is gone through once.
 * @param make what becomes of content that a component holds; must depend on nothing else
 */
export function perContent<Result>(
  make: (content: readonly AssembledNode[], component: string) => Result,
): (content: readonly AssembledNode[], component: string) => Result {
  const made = new WeakMap<readonly AssembledNode[], Made<Result>>();
  return (content, component) => {
    const first = made.get(content);
    if (!first) {
      const result = make(content, component);
      made.set(content, { component, result, others: undefined });
      return result;
    }
    if (first.component === component) return first.result;
    const others = (first.others ??= new Map<string, Result>());
    let result = others.get(component);
    if (result === undefined) others.set(component, (result = make(content, component)));
    return result;
  };
}
