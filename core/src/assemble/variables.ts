import { handlerFor } from '../model/kinds.js';
import { chosenRule } from '../variation/chosen.js';
import type { Assembly } from './assembly.js';
import type { Finding } from './finding.js';
import { Memo, type Piece } from './memo.js';
import { preparedComponent, preparedPhrase, type Inline } from './memory.js';
import type { Place } from './place.js';
import { makePrepared, preparedText } from './prepared.js';

/** What a variable reads at a place, worked out anew or found among what it read before. */
export function variablePiece(assembly: Assembly, key: string, place: Place): Piece<Inline | null> {
  const { variables } = assembly.reading.remembered;
  let memo = variables.get(key);
  if (!memo) variables.set(key, (memo = new Memo()));
  // A value stands on its own: it reads the same wherever the same values are in force.
  const inside: Place = { ...place, component: null, around: null, evaluating: { key, outer: place.evaluating } };
  return assembly.reading.piece(memo, inside, () => assembly.inside(() => workOut(assembly, key, inside)));
}

/**
 * The value of a variable where it stands.
 * @returns null for one that only the format knows
 */
export function variableValue(assembly: Assembly, key: string, place: Place): Inline | null {
  const { reading } = assembly;
  const { evaluating } = place;
  if (evaluating === null) {
    const piece = reading.useVariable(key, place);
    assembly.findHere(piece.findings, place);
    return piece.result;
  }
  // While a value is worked out, what it reads depends on the values that are worked out around it.
  const cycle = reading.cycleOfValues(key, place);
  if (cycle !== null) return inCycle(assembly, cycle, place);
  const piece = variablePiece(assembly, key, place);
  reading.includeReads(piece, 'evaluating', key);
  // In the text of a value the way down to what is missing is told; a snippet in it may stand elsewhere, too.
  const isOwnText = place.component === null || place.component.kind === 'variable';
  const further = (each: Finding): Finding =>
    each.place === null && each.trail && isOwnText ? { ...each, trail: [evaluating.key, ...each.trail] } : each;
  assembly.findHere(piece.findings.map(further), place);
  return piece.result;
}

function inCycle(assembly: Assembly, cycle: string, place: Place): Inline {
  assembly.report('error', 'variable-cycle', `The variable refers to itself: ${cycle}.`, place);
  return missing();
}

/** The value that is chosen for a variable: that of the surroundings, of the first rule that fits, or the default. */
function workOut(assembly: Assembly, key: string, place: Place): Inline | null {
  const { reading } = assembly;
  const own = reading.value(key, place);
  if (own) return assembly.value(own.phrase, place);
  const component = reading.component(key);
  if (component?.kind !== 'variable') return withoutValue(assembly, key, 'does not exist.');
  reading.checkConditions(preparedComponent(reading.remembered, component));
  const { rules, default: otherwise } = component.body;
  const rule = chosenRule(
    component.body,
    (when) => reading.holds(when),
    () => reading.language,
  );
  const value = rules[rule]?.value ?? otherwise;
  if (!value) return withoutValue(assembly, key, 'has no value here.');
  return assembly.value(preparedPhrase(reading.remembered, value).phrase, { ...place, component });
}

function withoutValue(assembly: Assembly, key: string, message: string): Inline {
  assembly.reading.report({ severity: 'error', code: 'missing-variable', message, place: null, trail: [key] });
  return missing();
}

function missing(): Inline {
  return { nodes: [makePrepared('missing')], gaps: [] };
}

/** The value of a built-in variable; null for one that is only known where it stands in the output. */
export function builtInValue(assembly: Assembly, key: string, place: Place): Inline | null {
  const handler = Object.hasOwn(builtIn, key) ? handlerFor(builtIn, key) : null;
  if (handler) return handler(assembly, place);
  assembly.report('error', 'missing-variable', `There is no built-in variable ${key}.`, place);
  return missing();
}

const text = (content: string): Inline => ({ nodes: [preparedText(content)], gaps: [] });

const builtIn: Readonly<Record<string, (assembly: Assembly, place: Place) => Inline | null>> = {
  '@publication-title': (assembly, place) => {
    const { reading } = assembly;
    const key = '@publication-title';
    const cycle = reading.cycleOfValues(key, place);
    if (cycle !== null) return inCycle(assembly, cycle, place);
    const { phrase, value } = reading.publicationTitle;
    const inside: Place = { ...place, component: null, around: null, evaluating: { key, outer: place.evaluating } };
    const piece = reading.piece(value, inside, () => assembly.inside(() => assembly.value(phrase, inside)));
    reading.includeReads(piece, 'evaluating', key);
    assembly.findHere(piece.findings, place);
    return piece.result;
  },
  '@variant-title': (assembly) => text(assembly.reading.variantTitle),
  '@build-date': (assembly) => text(assembly.reading.buildDate),
  '@language': (assembly) => text(assembly.reading.language),
  '@revision': (_, { component }) => text(component ? String(component.revision) : ''),
  '@chapter-title': () => null,
  '@page-number': () => null,
};
