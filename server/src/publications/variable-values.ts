import { checkBody, referencesOf, valuesWithKey, type VariableValues } from '@allomorph/core';
import type { Queryable } from '../db/database.js';
import { HttpProblem } from '../http/problem.js';
import { keysNow } from '../library/former-keys.js';

/** Values of variables that were written before some components got other keys, as they would be written now. */
export async function valuesWithKeysOfNow(
  db: Queryable,
  workspace: string,
  values: VariableValues,
): Promise<VariableValues> {
  const named = Object.entries(values).flatMap(([key, value]) => [
    key,
    ...referencesOf(value).map((each) => each.target),
  ]);
  const now = await keysNow(db, workspace, named);
  return [...now].reduce((changed, [former, key]) => valuesWithKey(changed, former, key), values);
}

/** @throws HttpProblem 422 that names the first value which is no valid phrase */
export function refuseBadValues(values: VariableValues): void {
  for (const [key, value] of Object.entries(values)) {
    const fault = value.type === 'phrase' ? checkBody(value)[0] : { message: 'a value is a phrase' };
    if (fault) throw new HttpProblem(422, `The value of “${key}” is not valid: ${fault.message}`);
  }
}
