import type { Format } from './format.js';
import { markdown } from './markdown/markdown.js';
import { web } from './web/web.js';

/** All formats, by the names that recipes know them by. */
export const formats = [web, markdown] as const satisfies readonly Format[];

const byName: ReadonlyMap<string, Format> = new Map(formats.map((format) => [format.name, format]));

/** Whether there is a format of a name. */
export function isFormat(name: string): boolean {
  return byName.has(name);
}

/** The formats of a recipe; names that no format has any more are passed over. */
export function formatsOf(names: readonly string[]): readonly Format[] {
  return names.flatMap((name) => byName.get(name) ?? []);
}
