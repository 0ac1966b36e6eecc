import {
  assignIds,
  checkContent,
  idsAfter,
  isImageBody,
  isLinkBody,
  isVariableBody,
  tidyBody,
  type ComponentBody,
  type ComponentKind,
  type ContentNode,
} from '@allomorph/core';
import { HttpProblem } from '../http/problem.js';

/**
 * Checks a body against its kind and the content schema, and brings it into the form that is stored.
 * @throws HttpProblem 422 with the first fault and its place
 */
export function acceptBody(kind: ComponentKind, body: ComponentBody): ComponentBody {
  const allowed: Readonly<Record<ComponentKind, readonly string[]>> = {
    topic: ['topic'],
    snippet: ['fragment', 'phrase'],
    variable: ['variable'],
    image: ['image'],
    link: ['link'],
  };
  if (!allowed[kind].includes(body.type))
    throw new HttpProblem(422, `A ${kind} cannot have a body of type “${body.type}”.`);
  if (isVariableBody(body)) {
    return {
      type: 'variable',
      default: body.default ? acceptPhrase(body.default) : null,
      rules: body.rules.map((rule) => ({ ...rule, value: acceptPhrase(rule.value) })),
    };
  }
  return isImageBody(body) || isLinkBody(body) ? body : acceptContent(body);
}

/** A phrase as it is stored; refuses other nodes. */
function acceptPhrase(node: ContentNode): ContentNode {
  if (node.type !== 'phrase') throw new HttpProblem(422, 'A value is a phrase.');
  if (node.attrs?.['when'])
    throw new HttpProblem(422, 'A value has no condition of its own: put it on the rule that the value stands in.');
  return acceptContent(node);
}

function acceptContent(body: ContentNode): ContentNode {
  const [fault] = checkContent(body);
  if (fault) throw new HttpProblem(422, `The content is not valid: ${fault.message}`, { path: fault.path });
  return tidyBody(assignIds(body, idsAfter(body)));
}
