import { contentBody, isVariableBody, type Component, type ComponentBody } from '../model/component.js';
import type { ContentNode } from '../model/node.js';

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
  bodiesOf(holder).forEach(visit);
  return count;
}

/** The body of a component with all it holds of another one at the newest revision; live and copied content stays. */
export function broughtUpToDate(holder: Component, component: string, newest: number): ComponentBody {
  const bring = (node: ContentNode): ContentNode => {
    const attrs = isBehind(node, component, newest) ? { ...node.attrs, revision: newest } : node.attrs;
    return { ...node, ...(attrs ? { attrs } : {}), ...(node.content ? { content: node.content.map(bring) } : {}) };
  };
  const { body } = holder;
  if (isVariableBody(body)) {
    const rules = body.rules.map((rule) => ({ ...rule, value: bring(rule.value) }));
    return { ...body, default: body.default && bring(body.default), rules };
  }
  const content = contentBody(holder);
  return content ? bring(content) : body;
}

function bodiesOf(holder: Component): readonly ContentNode[] {
  if (isVariableBody(holder.body))
    return [...(holder.body.default ? [holder.body.default] : []), ...holder.body.rules.map(({ value }) => value)];
  const content = contentBody(holder);
  return content ? [content] : [];
}
