import { contentBody, type Component, type ComponentBody } from '../model/component.js';
import { childrenOf, makeNode, makeText, withContent } from '../model/node.js';

/**
 * The body of a component as that of a new one under another title, which a topic says itself, too. Ids stay: they are of the body,
 * and references to them within it go on to lead there.
 */
export function duplicateBody(component: Component, title: string): ComponentBody {
  const content = contentBody(component);
  if (content?.type !== 'topic') return component.body;
  return withContent(content, [makeNode('title', null, [makeText(title)]), ...childrenOf(content).slice(1)]);
}
