import type { Component, ComponentBody } from '../model/component.js';
import { mapNodes, type ContentNode } from '../model/node.js';
import { ownContents, withOwnContents } from './own-contents.js';

/** Whether a node holds a component at a revision before another one. */
function isBehind({ attrs }: ContentNode, component: string, newest: number): boolean {
  return attrs?.['component'] === component && attrs['mode'] === 'held' && Number(attrs['revision']) < newest;
}

/** In how many places a component holds another one at a revision before the newest. */
export function placesBehind(holder: Component, component: string, newest: number): number {
  let count = 0;
  const visit = (node: ContentNode): void => {
    if (isBehind(node, component, newest)) count += 1;
    node.content?.forEach(visit);
  };
  ownContents(holder).forEach(({ content }) => visit(content));
  return count;
}

/** The body of a component with all it holds of another one at the newest revision; live and copied content stays. */
export function broughtUpToDate(holder: Component, component: string, newest: number): ComponentBody {
  return withOwnContents(holder, ({ content }) =>
    mapNodes(content, (node) =>
      isBehind(node, component, newest) ? { ...node, attrs: { ...node.attrs, revision: newest } } : node,
    ),
  );
}
