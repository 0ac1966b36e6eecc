import type { AssembledPublication } from '../assemble/assembled.js';
import { hasList } from '../design/design.js';
import { contentBody } from '../model/component.js';
import { childrenOf, textAttr, type ContentNode } from '../model/node.js';
import { ProblemList, type Problem } from '../model/problem.js';
import type { Source } from '../model/source.js';
import { danglingIndexReferences } from './book-index.js';
import { undefinedTerms } from './glossary.js';
import type { NumberedPublication } from './numbered.js';
import type { FoundReference } from './notes.js';

/** The problems of assembly, of references, and of the generated lists. */
export function numberingProblems(
  assembled: AssembledPublication,
  numbered: NumberedPublication,
  unnamed: readonly FoundReference[],
): readonly Problem[] {
  const problems = new ProblemList();
  assembled.problems.forEach((problem) => problems.add(problem));
  numbered.dangling.forEach((reference) => problems.add(danglingReference(assembled.reading.source, reference)));
  unnamed.forEach((reference) => problems.add(unnamedTarget(reference)));
  if (hasList(numbered.design, 'index')) danglingIndexReferences(numbered).forEach((problem) => problems.add(problem));
  if (hasList(numbered.design, 'glossary')) undefinedTerms(numbered).forEach((problem) => problems.add(problem));
  return problems.all;
}

function danglingReference(source: Source, reference: FoundReference): Problem {
  const { what, component, id } = targetOf(reference);
  const exists = targetExists(source, component, id);
  return {
    severity: 'error',
    code: exists ? 'left-out-reference' : 'missing-target',
    message: exists
      ? `A reference leads to ${what}, which this variant leaves out.`
      : `A reference leads to ${what}, which does not exist.`,
    place: { component: reference.component, block: reference.block, entry: null },
  };
}

function unnamedTarget(reference: FoundReference): Problem {
  const { what } = targetOf(reference);
  return {
    severity: 'error',
    code: 'unnamed-target',
    message: `A reference leads to ${what}, which has neither number nor title, and no heading around it.`,
    place: { component: reference.component, block: reference.block, entry: null },
  };
}

function targetOf({ node, component: own }: FoundReference): { what: string; component: string; id: string | null } {
  const component = textAttr(node, 'component') ?? own;
  const id = textAttr(node, 'target');
  return { what: id === null ? `“${component}”` : `the block “${id}” of “${component}”`, component, id };
}

function targetExists(source: Source, component: string, id: string | null): boolean {
  const found = source.library.component(component);
  const body = found ? contentBody(found) : undefined;
  if (!body) return false;
  return id === null || containsId(body, id);
}

function containsId(node: ContentNode, id: string): boolean {
  return textAttr(node, 'id') === id || childrenOf(node).some((child) => containsId(child, id));
}
