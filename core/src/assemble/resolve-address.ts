import { isBuiltInVariable } from '../model/references.js';
import { expandAddress, safeAddress } from './addresses.js';
import type { Assembly } from './assembly.js';
import type { Place } from './place.js';
import { plainText } from './prepared.js';
import { builtInValue, variableValue } from './variables.js';

/** An address with the values of its variables; one that links must not lead to is reported. */
export function resolvedAddress(assembly: Assembly, template: string, place: Place): string {
  const href = expandAddress(template, (key) => {
    const value = isBuiltInVariable(key) ? builtInValue(assembly, key, place) : variableValue(assembly, key, place);
    return value?.nodes.map(plainText).join('').trim() ?? '';
  });
  if (safeAddress(href) === null) {
    assembly.report(
      'error',
      'refused-address',
      `The address “${href.slice(0, 200)}” is refused: links lead to web, mail and other known kinds of addresses.`,
      place,
    );
  }
  return href;
}
