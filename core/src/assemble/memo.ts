import { known } from '../model/known.js';
import type { Finding } from './finding.js';

/** A question to what surrounds a piece of content, by its number among the `Questions` of a memory. */
export type Question = number;

/** Gives the answer of a question as a number that is equal for equal answers. */
export type Ask = (question: Question) => number;

/** What was made of a piece, with everything that was read on the way. */
export interface Piece<Result> {
  readonly result: Result;
  /** In the order in which they were first asked. */
  readonly reads: readonly Question[];
  /** The answers of the reads. */
  readonly answers: readonly number[];
  readonly findings: readonly Finding[];
  /** Unlike that of any other piece. */
  readonly serial: number;
}

/** How many pieces one memo keeps; of more the oldest are forgotten. */
const mostPieces = 32;

/**
 * What a piece of content becomes, remembered by what was read on the way: whoever gets the same answers to
 * the same questions would make the same piece.
 */
export class Memo<Result> {
  private readonly pieces: Piece<Result>[] = [];

  /** The piece that was made with the answers of now; undefined where none was. */
  find(ask: Ask): Piece<Result> | undefined {
    for (const piece of this.pieces) {
      const { reads, answers } = piece;
      let at = 0;
      while (at < reads.length && answers[at] === ask(known(reads[at]))) at += 1;
      if (at === reads.length) return piece;
    }
    return undefined;
  }

  /** Remembers a piece. */
  add(piece: Piece<Result>): void {
    if (this.pieces.length >= mostPieces) this.pieces.shift();
    this.pieces.push(piece);
  }

  /** The list of reads of an earlier piece, where it is the same: most pieces of a memo read the same things. */
  sameReads(reads: readonly Question[]): readonly Question[] {
    const same = this.pieces.at(-1)?.reads;
    if (same?.length !== reads.length) return reads;
    return same.every((question, at) => question === reads[at]) ? same : reads;
  }
}
