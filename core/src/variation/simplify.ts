import { printCondition, type Condition } from './condition-syntax.js';
import { Diagrams } from './decision-diagram.js';

/** A condition for display, or that it always or never holds. */
export type Simplified =
  | { readonly kind: 'condition'; readonly condition: Condition }
  | { readonly kind: 'always' }
  | { readonly kind: 'never' };

/**
 * The same condition, shorter: nested operators of one kind are joined, `not` stands on leaves, values of
 * one axis are gathered, and operands that the others imply are left out. Simplifying twice changes
 * nothing more, and the result is never longer as text than what was given. What would take too much work stays as it is.
 */
export function simplify(condition: Condition): Simplified {
  const diagrams = new Diagrams();
  return diagrams.within<Simplified>(
    () => simplifyBy(condition, diagrams),
    () => ({ kind: 'condition', condition }),
  );
}

function simplifyBy(condition: Condition, diagrams: Diagrams): Simplified {
  const whole = diagrams.of(condition);
  if (whole === diagrams.always) return { kind: 'always' };
  if (whole === diagrams.never) return { kind: 'never' };
  let best = condition;
  // Each round may make the next one possible; texts get shorter, so this ends.
  for (;;) {
    const next = reduce(gather(pushNot(best, false)), diagrams);
    if (printCondition(next).length >= printCondition(best).length) break;
    best = next;
  }
  return { kind: 'condition', condition: best };
}

/** Moves `not` down to the leaves (De Morgan) and joins nested operators. */
function pushNot(condition: Condition, not: boolean): Condition {
  if ('axis' in condition) return not ? { not: condition } : condition;
  if ('not' in condition) return pushNot(condition.not, !not);
  const all = 'all' in condition ? !not : not;
  const operands = ('all' in condition ? condition.all : condition.any).map((each) => pushNot(each, not));
  return join(all ? 'all' : 'any', operands);
}

function join(kind: 'all' | 'any', operands: readonly Condition[]): Condition {
  const flat = operands.flatMap((each) =>
    kind === 'all' && 'all' in each ? each.all : kind === 'any' && 'any' in each ? each.any : [each],
  );
  const [first] = flat;
  if (flat.length === 1 && first) return first;
  return kind === 'all' ? { all: flat } : { any: flat };
}

/** Gathers alternatives on one axis into one leaf: `a is x or a is y`, `not a is x and not a is y`. */
function gather(condition: Condition): Condition {
  if ('axis' in condition || 'not' in condition) return condition;
  const kind = 'all' in condition ? 'all' : 'any';
  const operands = ('all' in condition ? condition.all : condition.any).map(gather);
  const gathered: Condition[] = [];
  const places = new Map<string, number>();
  for (const operand of operands) {
    const leaf = kind === 'any' ? operand : 'not' in operand ? operand.not : null;
    if (!leaf || !('axis' in leaf)) {
      gathered.push(operand);
      continue;
    }
    const place = places.get(leaf.axis);
    const earlier = place === undefined ? null : gathered[place];
    const before = earlier ? ('not' in earlier ? earlier.not : earlier) : null;
    if (place === undefined || !before || !('axis' in before)) {
      places.set(leaf.axis, gathered.length);
      gathered.push(operand);
      continue;
    }
    const joined = { axis: leaf.axis, values: [...new Set([...before.values, ...leaf.values])] };
    gathered[place] = kind === 'any' ? joined : { not: joined };
  }
  return join(kind, gathered);
}

/** Leaves out operands that do not matter because of the others. */
function reduce(condition: Condition, diagrams: Diagrams): Condition {
  if ('axis' in condition || 'not' in condition) return condition;
  const kind = 'all' in condition ? 'all' : 'any';
  let operands = ('all' in condition ? condition.all : condition.any).map((each) => reduce(each, diagrams));
  for (let index = operands.length - 1; index >= 0 && operands.length > 1; index -= 1) {
    const rest = operands.filter((_, at) => at !== index);
    const without = diagrams.of(kind === 'all' ? { all: rest } : { any: rest });
    if (without === diagrams.of(kind === 'all' ? { all: operands } : { any: operands })) operands = rest;
  }
  return join(kind, operands);
}
