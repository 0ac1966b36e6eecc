import { parseCondition, printCondition, type Condition } from '@allomorph/core';

/** What the builder can show: for each axis at most one list of values, asked for or excluded. */
export type ConditionParts = ReadonlyMap<string, { readonly values: readonly string[]; readonly not: boolean }>;

/**
 * Takes a condition apart for the builder.
 * @param when the text form; empty: no condition
 * @returns null where the condition is more than the builder can show, or cannot be read
 */
export function takeApart(when: string): ConditionParts | null {
  if (when.trim() === '') return new Map();
  const parsed = parseCondition(when);
  if (!parsed.ok) return null;
  const parts = new Map<string, { values: readonly string[]; not: boolean }>();
  const operands = 'all' in parsed.condition ? parsed.condition.all : [parsed.condition];
  for (const operand of operands) {
    const not = 'not' in operand;
    const leaf = not ? operand.not : operand;
    if (!('axis' in leaf) || parts.has(leaf.axis)) return null;
    parts.set(leaf.axis, { values: leaf.values, not });
  }
  return parts;
}

/** Puts the parts together again; the empty string where nothing is left. */
export function putTogether(parts: ConditionParts): string {
  const operands: Condition[] = [];
  for (const [axis, { values, not }] of parts) {
    if (values.length === 0) continue;
    const leaf = { axis, values };
    operands.push(not ? { not: leaf } : leaf);
  }
  const [first] = operands;
  if (!first) return '';
  return printCondition(operands.length === 1 ? first : { all: operands });
}
