import { tidyBody } from '../../content/body.js';
import type { VariableBody } from '../../model/component.js';
import { makeNode, type ContentNode } from '../../model/node.js';
import type { AxisChoice } from '../../model/profile.js';
import type { VariableValues } from '../../model/publication.js';
import { ImportFault, type ImportedProfile } from '../import-result.js';
import { normalizeValue } from './elements.js';
import { entityLimits } from './entities.js';
import type { Context, ImportSession } from './session.js';
import { parseXml, type XmlEntityReference } from './xml.js';

/** The variable that a text entity became, made at its first use. */
export function variableFor(session: ImportSession, reference: XmlEntityReference): string {
  const { name } = reference;
  const known = session.variables.get(name);
  if (known !== undefined) return known;
  const key = session.newKey(name.replace(/^@+/, ''));
  session.variables.set(name, key);
  const context: Context = { component: key, footnotes: [], anchors: [] };
  const nodes = session.valueNodes(reference) ?? [];
  const value = makeNode('phrase', null, normalizeValue(session.inline(nodes, [], context)));
  if (context.footnotes.length > 0)
    session.note('left out', `The footnotes in the entity “${name}” were left out.`, reference);
  const body: VariableBody = { type: 'variable', default: session.withoutDefault.has(name) ? null : value, rules: [] };
  session.components.set(key, { key, kind: 'variable', title: name, revision: 1, body });
  return key;
}

export function isBlockValue(session: ImportSession, reference: XmlEntityReference): boolean {
  const nodes = session.valueNodes(reference);
  return nodes?.some((node) => session.isBlock(node)) ?? false;
}

/** Refuses declarations that contain themselves or grow beyond measure, before anything is expanded. */
export function checkExpansion(session: ImportSession): void {
  for (const name of session.entities.names) expandedSize(session, name, []);
}

function expandedSize(session: ImportSession, name: string, stack: readonly string[]): number {
  const known = session.expandedSizes.get(name);
  if (known !== undefined) return known;
  const declaration = session.entities.declared(name);
  if (!declaration || declaration.value === null) return 0;
  if (stack.includes(name)) {
    throw new ImportFault(
      `An entity contains itself: ${[...stack, name].join(' › ')}.`,
      declaration.file,
      declaration.line,
    );
  }
  if (stack.length > entityLimits.depth)
    throw new ImportFault('Entities nest too deep.', declaration.file, declaration.line);
  let size = declaration.value.length;
  for (const [, inner] of declaration.value.matchAll(/&([^#;\s][^;\s]*);/g))
    size += expandedSize(session, inner ?? '', [...stack, name]);
  if (size > entityLimits.characters) {
    throw new ImportFault(
      `The entity “${name}” expands to more text than any manual needs.`,
      declaration.file,
      declaration.line,
    );
  }
  session.expandedSizes.set(name, size);
  return size;
}

export function importedProfiles(session: ImportSession): readonly ImportedProfile[] {
  const file = session.options.profiles;
  if (!file) return [];
  return file.profiles.map((profile) => {
    const axes: Record<string, AxisChoice> = {};
    for (const [axis, { default: otherwise }] of Object.entries(file.axes)) {
      const inValues = profile.in?.[axis] ?? [];
      const outValues = profile.out?.[axis] ?? [];
      const known = session.axes.get(axis) ?? new Set<string>();
      [...inValues, ...outValues].forEach((value) => known.add(value));
      session.axes.set(axis, known);
      axes[axis] = { default: otherwise, in: inValues, out: outValues };
    }
    return { title: profile.profile, profile: { axes }, values: profileValues(session, profile.variables ?? {}) };
  });
}

function profileValues(session: ImportSession, variables: Readonly<Record<string, string>>): VariableValues {
  const values: Record<string, ContentNode> = {};
  for (const [name, text] of Object.entries(variables)) {
    const key = variableFor(session, { kind: 'entity', name, file: 'profiles', line: 1 });
    const context: Context = { component: key, footnotes: [], anchors: [] };
    values[key] = tidyBody(
      makeNode('phrase', null, normalizeValue(session.inline(parseXml(text, 'profiles'), [], context))),
    );
  }
  return values;
}
