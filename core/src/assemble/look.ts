import { valueAt } from '../design/resolve.js';
import { settings } from '../design/settings.js';
import { isPageField, partsOfText, type PageField, type ResolvedText } from '../design/fields.js';
import type { Design } from '../design/design.js';
import type { ImageFile } from '../model/component.js';
import type { AssembledNode } from '../model/node.js';
import type { Reference } from '../model/references.js';
import type { Assembly } from './assembly.js';
import { preparedComponent } from './memory.js';
import { chosenFile } from './pictures.js';
import type { Place } from './place.js';
import { assembled, partsOf, plainText } from './prepared.js';
import { builtInValue, variableValue } from './variables.js';

/** What a design shows of the library and of the recipe, by the path of the setting. */
export interface AssembledLook {
  /** Texts with their variables read; only those that are not empty. */
  readonly texts: ReadonlyMap<string, ResolvedText>;
  readonly pictures: ReadonlyMap<string, { readonly file: ImageFile; readonly alt: string }>;
  readonly snippets: ReadonlyMap<string, { readonly component: string; readonly blocks: readonly AssembledNode[] }>;
}

const builtIn = {
  title: '@publication-title',
  variant: '@variant-title',
  date: '@build-date',
  language: '@language',
} as const;

/** Reads what a design shows of the library, as everything else that is read. */
export function assembleLook(assembly: Assembly, design: Design, place: Place): AssembledLook {
  const texts = new Map<string, ResolvedText>();
  const pictures = new Map<string, { readonly file: ImageFile; readonly alt: string }>();
  const snippets = new Map<string, { readonly component: string; readonly blocks: readonly AssembledNode[] }>();
  for (const setting of settings) {
    const value = valueAt(design, setting.path);
    if (typeof value !== 'string' || value === '') continue;
    if (setting.kind === 'text' && (setting.fields === 'page' || setting.fields === 'publication'))
      texts.set(setting.path, textOf(assembly, value, place));
    else if (setting.kind === 'component' && setting.of === 'image') {
      const found = chosenFile(assembly, { type: 'picture', attrs: { component: value } }, place);
      if (found) pictures.set(setting.path, found);
    } else if (setting.kind === 'component') {
      const blocks = snippetOf(assembly, value, place);
      if (blocks) snippets.set(setting.path, { component: value, blocks });
    }
  }
  return { texts, pictures, snippets };
}

/** What a design refers to, for reading what it takes to build with it. */
export function referencesOfDesign(design: Design): readonly Reference[] {
  const to = (target: string, kind: Reference['kind']): Reference => ({
    target,
    kind,
    place: null,
    targetBlock: null,
    held: null,
  });
  return settings.flatMap((setting) => {
    const value = valueAt(design, setting.path);
    if (typeof value !== 'string' || value === '') return [];
    return referencesOfSetting(setting, value).map(({ target, kind }) => to(target, kind));
  });
}

/** What the value of a setting refers to. */
export function referencesOfSetting(
  setting: (typeof settings)[number],
  value: string,
): readonly { readonly target: string; readonly kind: 'variable' | 'image' | 'placement' }[] {
  if (setting.kind === 'component' && value !== '')
    return [{ target: value, kind: setting.of === 'image' ? 'image' : 'placement' }];
  if (setting.kind !== 'text' || setting.fields === 'none' || setting.fields === 'label') return [];
  return partsOfText(value).flatMap((part) =>
    typeof part !== 'string' && 'variable' in part ? [{ target: part.variable, kind: 'variable' as const }] : [],
  );
}

function textOf(assembly: Assembly, text: string, place: Place): ResolvedText {
  const parts: (string | { readonly f: PageField })[] = [];
  for (const part of partsOfText(text)) {
    if (typeof part === 'string') parts.push(part);
    else if ('variable' in part) parts.push(read(variableValue(assembly, part.variable, place)));
    else if (isPageField(part.field)) parts.push({ f: part.field });
    else parts.push(read(builtInValue(assembly, builtIn[part.field], place)));
  }
  return parts;
}

function read(value: ReturnType<typeof variableValue>): string {
  return value?.nodes.map(plainText).join('').trim() ?? '';
}

function snippetOf(assembly: Assembly, key: string, place: Place): readonly AssembledNode[] | null {
  const found = assembly.component({ type: 'placement', attrs: { component: key } }, ['snippet'], place);
  if (!found) return null;
  const { body } = preparedComponent(assembly.reading.remembered, found);
  const inside: Place = { ...place, component: found };
  const line = (): ReturnType<Assembly['line']> => assembly.line(body, inside);
  return assembly.inside(() =>
    body.type === 'phrase'
      ? [{ type: 'paragraph', content: assembled(line()) }]
      : assembled(assembly.flow(partsOf(body), inside)),
  );
}
