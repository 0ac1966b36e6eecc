/** A use of a term in a text: which term, and from where to where it stands. */
export interface TermUse {
  readonly term: number;
  readonly from: number;
  readonly to: number;
}

const wordSigns = /[\p{L}\p{M}\p{N}]+/gu;

/** Finds terms in texts, whole words only, whatever their capitals. The longest one that fits at a place is taken. */
export class TermFinder {
  /** By their first word, the words of terms; the longest first. */
  private readonly terms = new Map<string, { readonly words: readonly string[]; readonly term: number }[]>();

  /** @param language a language tag (BCP 47), which says what capitals a letter has */
  constructor(
    terms: readonly string[],
    private readonly language: string,
  ) {
    terms.forEach((term, at) => {
      const words = this.wordsOf(term).map(({ word }) => word);
      const [first] = words;
      if (first === undefined) return;
      const same = this.terms.get(first) ?? [];
      this.terms.set(first, same);
      same.push({ words, term: at });
      same.sort((a, b) => b.words.length - a.words.length);
    });
  }

  /** The uses of terms in a text, in their order. Time grows with the text, not with the number of terms. */
  usesIn(text: string): readonly TermUse[] {
    const words = this.wordsOf(text);
    const uses: TermUse[] = [];
    for (let at = 0; at < words.length;) {
      const found = this.terms
        .get(words[at]?.word ?? '')
        ?.find((term) => term.words.every((word, offset) => isSame(word, words, at + offset, text, offset > 0)));
      const [first, last] = [words[at], words[at + (found?.words.length ?? 1) - 1]];
      if (found && first && last) uses.push({ term: found.term, from: first.from, to: last.to });
      at += found?.words.length ?? 1;
    }
    return uses;
  }

  private wordsOf(text: string): readonly Word[] {
    return [...text.matchAll(wordSigns)].map(({ 0: word, index }) => ({
      word: word.normalize().toLocaleLowerCase(this.language),
      from: index,
      to: index + word.length,
    }));
  }
}

interface Word {
  readonly word: string;
  readonly from: number;
  readonly to: number;
}

/** Whether the words of a term go on at a place: the same word, with nothing but a space or a hyphen before it. */
function isSame(word: string, words: readonly Word[], at: number, text: string, goesOn: boolean): boolean {
  const there = words[at];
  if (there?.word !== word) return false;
  return !goesOn || /^[\s\u00ad-]+$/.test(text.slice(words[at - 1]?.to, there.from));
}
