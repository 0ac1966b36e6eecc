import { copyFileSync, existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';

/** File name of the book that `prepareSource` writes. */
export const bookFile = 'install.en.xml';

/**
 * Puts the real manual's book together as its own build does: fills the marks of its templates with
 * paths relative to the source folder.
 * @param folder the folder that the fetch script filled
 * @returns the path of the book's file
 */
export function prepareSource(folder: string): string {
  const source = join(folder, 'source');
  const templates = join(source, 'build', 'templates');
  const marks: Readonly<Record<string, string>> = {
    '##SRCPATH##': 'en',
    '##ENTPATH##': 'build/entities',
    '##LANG##': 'en',
    '##LANG_ID##': 'en',
    '../##TEMPDIR##/': '',
  };
  const fill = (name: string): string => {
    let text = readFileSync(join(templates, name), 'utf8');
    for (const [mark, value] of Object.entries(marks)) text = text.replaceAll(mark, value);
    return text;
  };
  writeFileSync(join(source, 'dynamic.ent'), fill('docstruct.ent'));
  const book = join(source, bookFile);
  writeFileSync(book, fill('install.xml.template'));
  // The language has no entity file of its own in some releases; the build then uses an empty one.
  const language = join(source, 'build', 'entities', 'l10n', 'en.ent');
  if (!existsSync(language)) {
    mkdirSync(join(source, 'build', 'entities', 'l10n'), { recursive: true });
    const shipped = join(source, 'en', 'docstruct.ent');
    if (existsSync(shipped)) copyFileSync(shipped, language);
    else writeFileSync(language, '');
  }
  return book;
}
