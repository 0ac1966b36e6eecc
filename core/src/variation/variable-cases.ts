import type { VariableBody, VariableRule } from '../model/component.js';
import type { ContentNode } from '../model/node.js';
import { parseCondition, printKey } from './condition-syntax.js';
import { languageMatches } from './languages.js';

/** A case that variables are looked at by: one value of an axis in every language, or one language whatever applies. */
export type VariableCase = { readonly axis: string; readonly value: string } | { readonly language: string };

/** What a variable has in a case. */
export interface CaseValue {
  /** Null: no value. */
  readonly value: ContentNode | null;
  /** `own`: a rule for just this case; `wider`: a rule for it and others; `default`: what stands where no rule does. */
  readonly from: 'own' | 'wider' | 'default';
}

/** The condition of a rule that is for one case and nothing else. */
const conditionOf = (each: VariableCase): string | null =>
  'axis' in each ? `${printKey(each.axis)} is ${printKey(each.value)}` : null;

function isFor({ when, language }: VariableRule, each: VariableCase): boolean {
  if ('language' in each) return language === each.language && !when;
  return language === null && valuesOn(when, each.axis)?.join() === each.value;
}

/** Whether a rule holds in a case, whatever else is in: other axes and languages may still choose before it. */
function covers(rule: VariableRule, each: VariableCase): boolean {
  if (rule.when === null && rule.language === null) return true;
  if ('language' in each) return !rule.when && rule.language !== null && languageMatches(rule.language, each.language);
  return rule.language === null && (valuesOn(rule.when, each.axis)?.includes(each.value) ?? false);
}

/** The values that a condition asks for, where it asks for nothing but values of one axis. */
function valuesOn(when: string | null, axis: string): readonly string[] | null {
  const parsed = when === null ? null : parseCondition(when);
  return parsed?.ok && 'axis' in parsed.condition && parsed.condition.axis === axis ? parsed.condition.values : null;
}

/** What a variable has in a case, by the first of its rules that holds there. */
export function valueInCase(body: VariableBody, each: VariableCase): CaseValue {
  const rule = body.rules.find((candidate) => covers(candidate, each));
  if (!rule) return { value: body.default, from: 'default' };
  return { value: rule.value, from: isFor(rule, each) ? 'own' : 'wider' };
}

/**
 * A variable with a value of its own in a case: a new rule comes before the first that held there until now, and after
 * all that ask for more.
 * @param value null: the rule for just this case goes
 */
export function withValueInCase(body: VariableBody, each: VariableCase, value: ContentNode | null): VariableBody {
  const own = body.rules.findIndex((rule) => isFor(rule, each));
  if (value === null) return own < 0 ? body : { ...body, rules: body.rules.toSpliced(own, 1) };
  const rule: VariableRule = { when: conditionOf(each), language: 'language' in each ? each.language : null, value };
  const first = body.rules.findIndex((candidate) => covers(candidate, each));
  // One that a wider rule before it kept from ever being used comes to stand before that.
  const rest = own < 0 ? body.rules : body.rules.toSpliced(own, 1);
  return { ...body, rules: rest.toSpliced(first < 0 ? rest.length : first, 0, rule) };
}
