import { contentBody, isVariableBody, type Component, type ComponentBody } from '../model/component.js';
import type { ContentNode } from '../model/node.js';

/** A content of a component: its body, or one of a variable's values. */
export interface OwnContent {
  /** Of a variable: the case that says it, from 1; 0: its default. Null: it is no variable. */
  readonly ofCase: number | null;
  readonly content: ContentNode;
}

/** All that a component says itself; nothing of images and links. */
export function ownContents(component: Component): readonly OwnContent[] {
  const { body } = component;
  if (isVariableBody(body)) {
    return [
      ...(body.default ? [{ ofCase: 0, content: body.default }] : []),
      ...body.rules.map(({ value }, at) => ({ ofCase: at + 1, content: value })),
    ];
  }
  const content = contentBody(component);
  return content ? [{ ofCase: null, content }] : [];
}

/** The body of a component with its contents changed one by one, in the order of `ownContents`. */
export function withOwnContents(component: Component, change: (own: OwnContent) => ContentNode): ComponentBody {
  const { body } = component;
  if (isVariableBody(body)) {
    const otherwise = body.default && change({ ofCase: 0, content: body.default });
    const rules = body.rules.map((rule, at) => ({ ...rule, value: change({ ofCase: at + 1, content: rule.value }) }));
    return { ...body, default: otherwise, rules };
  }
  const content = contentBody(component);
  return content ? change({ ofCase: null, content }) : body;
}
