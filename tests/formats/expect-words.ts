import { parse } from 'node-html-parser';
import { textOfPdf, wordsMissing, wordsOf, wordsOfMarkup } from './read-formats.js';

/** The words of the topics as the web site has them, topic by topic. */
export function wordsOfSite(
  files: readonly { readonly path: string; readonly bytes: Buffer | null }[],
): readonly string[] {
  return files
    .filter(({ path }) => path.endsWith('.html'))
    .flatMap(({ bytes }) => {
      const main = parse(bytes?.toString() ?? '', { blockTextElements: {} }).querySelector('main:not(.generated)');
      return main ? wordsOfMarkup(main) : [];
    });
}

/** Expects that paper has the words of the web site, 999 of a thousand. */
export function expectOnPaper(words: readonly string[], pdf: Uint8Array): void {
  expectWords(words, textOfPdf(pdf));
}

/**
 * Expects that a text has words of the web site, 999 of a thousand. Signal words stand in capitals on paper, and footnotes
 * count on from topic to topic.
 */
export function expectWords(words: readonly string[], text: string): void {
  const share = new WordShare();
  share.add(words, text);
  share.expectAll();
}

/** The words of several texts that are found in others: 999 of a thousand of all of them together. */
export class WordShare {
  wanted = 0;
  private readonly missing: string[] = [];

  add(words: readonly string[], text: string): void {
    const folded = (list: readonly string[]): readonly string[] => list.map((word) => word.toLowerCase());
    const wanted = folded(words.filter((word) => /\p{L}/u.test(word)));
    this.wanted += wanted.length;
    this.missing.push(...wordsMissing(wanted, folded(wordsOf(text))));
  }

  expectAll(): void {
    // Of few words one may be parted at the end of a page, where head and foot stand between its parts.
    expect(this.missing.length)
      .withContext(`${this.missing.slice(0, 100).join(' ')} of ${this.wanted}`)
      .toBeLessThanOrEqual(Math.max(1, this.wanted / 1000));
  }
}
