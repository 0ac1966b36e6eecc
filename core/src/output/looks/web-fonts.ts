import type { Design } from '../../design/design.js';
import type { FontFile, FormatFile } from '../format.js';
import { hasFormulas, withoutFormulas } from '../write-formula.js';
import { fontSubsets, latinRange, subsetsFor } from './font-subsets.js';

/** The families that come with the application, by key. */
export const shippedFamilies = {
  serif: { name: 'Source Serif 4', generic: 'serif' },
  sans: { name: 'Source Sans 3', generic: 'sans-serif' },
  mono: { name: 'JetBrains Mono', generic: 'monospace' },
} as const;
export type ShippedFamily = keyof typeof shippedFamilies;

export function isShippedFamily(key: string): key is ShippedFamily {
  return Object.hasOwn(shippedFamilies, key);
}

/** What a family is called in its files; undefined for an uploaded one that is not there any more. */
export function familyName({ families }: Design, key: string): string | undefined {
  return isShippedFamily(key) ? shippedFamilies[key].name : families?.[key]?.name;
}

/** The fonts of a deliverable that is read on screens, and the part of its style sheet that names them. */
export interface WebFonts {
  readonly files: readonly FontFile[];
  readonly css: string;
}

/** What a deliverable needs fonts for. */
export interface Written {
  /** The characters of all its texts beyond the first 256 of Unicode. */
  readonly characters: Iterable<string>;
  readonly formulas: boolean;
}

/** @param written see `writtenIn` */
export function webFonts(design: Design, written: Written): WebFonts {
  const { subsets, rest } = subsetsFor(written.characters);
  const { text, headings, labels, code } = design.type;
  const files: FontFile[] = [];
  let css = '';
  const face = (
    family: string,
    file: FontFile,
    facts: { readonly weight: string; readonly isItalic: boolean; readonly range?: string },
  ): void => {
    files.push(file);
    const italic = facts.isItalic ? ';font-style:italic' : '';
    const range = facts.range === undefined ? '' : `;unicode-range:${facts.range}`;
    css += `@font-face{font-family:"${cssName(family)}";src:url(${file.path});font-weight:${facts.weight}${italic}${range}}\n`;
  };
  for (const key of new Set([text, headings, labels, code])) {
    if (!isShippedFamily(key)) {
      design.families?.[key]?.faces.forEach(({ digest, mediaType, weight, isItalic }) => {
        const path = `fonts/${digest.slice(0, 16)}.${endings[mediaType] ?? 'ttf'}`;
        face(key, { path, file: { digest, mediaType } }, { weight: String(weight), isItalic });
      });
      continue;
    }
    const weight = key === 'mono' ? '100 800' : '200 900';
    for (const isItalic of key === text ? [false, true] : [false]) {
      const style = isItalic ? `${key}-italic` : key;
      const add = (part: string, range: string): void =>
        face(key, { path: `fonts/${style}-${part}.woff2`, font: `${style}/${part}` }, { weight, isItalic, range });
      add('latin', latinRange);
      for (const subset of subsets) add(subset, fontSubsets[subset]);
    }
    if (rest.length > 0) {
      const range = rest.map((each) => `U+${(each.codePointAt(0) ?? 0).toString(16).toUpperCase()}`).join();
      face(key, { path: `fonts/${key}-rest.ttf`, font: `${key}/rest` }, { weight: '400', isItalic: false, range });
    }
  }
  if (written.formulas) {
    const path = 'fonts/math.woff2';
    files.push({ path, font: 'math/latin' });
    css += `@font-face{font-family:"Own math";src:url(${path})}\n`;
  }
  return { files, css };
}

const endings: Readonly<Record<string, string>> = { 'font/woff2': 'woff2', 'font/otf': 'otf' };

/** The uploaded fonts that a design uses, as paper takes them. */
export function uploadedFonts({ families }: Design): readonly FontFile[] {
  return Object.values(families ?? {}).flatMap(({ faces }) =>
    faces.map(({ digest, mediaType }) => ({ path: `fonts/${digest}`, file: { digest, mediaType } })),
  );
}

/** The list of families for a part of the type, the wanted one first: the others have characters that it may lack. */
export function familyList(design: Design, key: string): string {
  const { text, headings, labels, code } = design.type;
  const all = [...new Set([key, text, headings, labels, code])].map((each) => `"${cssName(each)}"`);
  const generic = isShippedFamily(key) ? shippedFamilies[key].generic : 'sans-serif';
  return `${all.join()},${generic}`;
}

function cssName(key: string): string {
  return isShippedFamily(key) ? `Own ${key}` : key;
}

const known = new WeakMap<FormatFile, { readonly characters: readonly string[]; readonly formulas: boolean }>();

/** What is written in a file of markup. Files never change. */
function writtenInFile(file: FormatFile): { readonly characters: readonly string[]; readonly formulas: boolean } {
  const before = known.get(file);
  if (before) return before;
  const { text } = file;
  // Without the flag for code points this costs nothing where all signs are among the first 256; halves of one sign stay
  // next to each other.
  const formulas = hasFormulas(text);
  const others = (formulas ? withoutFormulas(text) : text).match(/[\u0100-\uffff]+/g);
  const found = { characters: [...new Set(others?.join(''))], formulas };
  known.set(file, found);
  return found;
}

/** What is written in some files of markup. */
export function writtenIn(files: readonly FormatFile[]): Written {
  const characters = new Set<string>();
  let formulas = false;
  for (const file of files) {
    const found = writtenInFile(file);
    for (const each of found.characters) characters.add(each);
    formulas ||= found.formulas;
  }
  return { characters, formulas };
}
