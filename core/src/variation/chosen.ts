import type { ImageBody, ImageFile, VariableBody } from '../model/component.js';
import { languageMatches } from './languages.js';

/** Whether a condition holds. */
export type Holds = (when: string | null) => boolean;

/**
 * The rule that gives a variable its value: the first one whose condition holds and whose language matches.
 * @param language asked for when a rule names one
 * @returns the position of the rule; -1: the default stands
 */
export function chosenRule({ rules }: VariableBody, holds: Holds, language: () => string): number {
  return rules.findIndex(
    (rule) => holds(rule.when) && (rule.language === null || languageMatches(rule.language, language())),
  );
}

/** The file of an image: that of the first version whose condition holds, else its own. */
export function chosenImage({ file, versions }: ImageBody, holds: Holds): ImageFile {
  return versions.find((version) => holds(version.when))?.file ?? file;
}
