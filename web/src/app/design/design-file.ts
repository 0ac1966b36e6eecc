import {
  answerOf,
  designFileFormat,
  designFileSchema,
  faultOf,
  settingOf,
  settings,
  wayOf,
  type DesignFile,
  type DesignSettings,
  type StoredDesign,
} from '@allomorph/core';

/**
 * A design as a file: what it takes from others of the team stands in it, so that it looks the same elsewhere. What names things of
 * one library, such as pictures, snippets and uploaded fonts, is left out.
 */
export function designFile(design: StoredDesign, designs: readonly StoredDesign[]): DesignFile {
  const way = [design, ...wayOf(design.from ?? '', designs)];
  const names = new Set(way.flatMap(({ settings: own }) => Object.keys(own)));
  const all: Record<string, DesignSettings[string]> = {};
  const stampLooks = [...names].flatMap((name) => (name.startsWith('stamps.') ? (settingOf(name)?.setting ?? []) : []));
  for (const setting of [...settings, ...new Map(stampLooks.map((each) => [each.path, each])).values()]) {
    if (setting.kind === 'component') continue;
    const languages = [...names].filter((name) => name.startsWith(`${setting.path}@`));
    for (const name of [setting.path, ...languages]) {
      if (!names.has(name)) continue;
      const [, language = null] = name.split('@');
      const { value, by } = answerOf(setting, way, language);
      const isOfLibrary = setting.kind === 'font' && !['serif', 'sans', 'mono'].includes(String(value));
      if (by !== null && !isOfLibrary && faultOf(setting, value) === null) all[name] = value;
    }
  }
  return { format: designFileFormat, version: 1, title: design.title, settings: all };
}

/** @returns the design in a file, or what is wrong with the file, as a sentence */
export function readDesignFile(text: string): { readonly file: DesignFile } | { readonly fault: string } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    return { fault: 'This file holds no design: it is not JSON.' };
  }
  const parsed = designFileSchema.safeParse(value);
  if (parsed.success) return { file: parsed.data };
  const [issue] = parsed.error.issues;
  const at = issue?.path.join('.') ?? '';
  return { fault: `This file holds no design${at === '' ? '' : `; at ${at}`}: ${issue?.message ?? 'it is damaged.'}` };
}
