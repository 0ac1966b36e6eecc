import { known } from '../model/known.js';
import type { Finding } from './finding.js';

/** A question to what surrounds a piece of content, by its number among the `Questions` of a memory. */
export type Question = number;

/** What surrounds a piece of content. */
export interface Surroundings {
  /** The answer of a question as a number that is equal for equal answers. */
  answerOf(question: Question): number;
}

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

/** How many pieces one memo keeps; of more all are forgotten. */
const mostPieces = 40;

/** Where pieces part that read the same up to here: by the answer of the next question. */
class Fork<Result> {
  /**
   * @param depth how many reads all pieces behind it have in common, with their answers
   * @param sample one of the pieces behind it: its reads up to the fork, and the question of the fork, are those of all
   */
  constructor(
    readonly depth: number,
    readonly sample: Piece<Result>,
    readonly answers: number[],
    readonly next: Way<Result>[],
  ) {}
}

type Way<Result> = Fork<Result> | Piece<Result>;

/**
 * What a piece of content becomes, remembered by what was read on the way: whoever gets the same answers to
 * the same questions would make the same piece. Equal answers lead to equal questions, so the pieces stand in a tree
 * of questions, and on the way to a piece each is asked once.
 */
export class Memo<Result> {
  private root: Way<Result> | undefined;
  private count = 0;
  private last: Piece<Result> | undefined;

  /** The piece that was made with the answers of now; undefined where none was. */
  find(surroundings: Surroundings): Piece<Result> | undefined {
    let way = this.root;
    let depth = 0;
    while (way instanceof Fork) {
      const { sample, answers, next } = way;
      if (!isAsBefore(sample, depth, way.depth, surroundings)) return undefined;
      const answer = surroundings.answerOf(known(sample.reads[way.depth]));
      depth = way.depth + 1;
      let at = 0;
      while (at < answers.length && answers[at] !== answer) at += 1;
      way = next[at];
    }
    return way !== undefined && isAsBefore(way, depth, way.reads.length, surroundings) ? way : undefined;
  }

  /** Remembers a piece that was not found. */
  add(piece: Piece<Result>): void {
    if (this.count >= mostPieces) {
      this.root = undefined;
      this.count = 0;
    }
    this.count += 1;
    this.last = piece;
    let put = (way: Way<Result>): void => void (this.root = way);
    let way = this.root;
    let depth = 0;
    while (way !== undefined) {
      const sample: Piece<Result> = way instanceof Fork ? way.sample : way;
      const end: number = way instanceof Fork ? way.depth : sample.reads.length;
      while (
        depth < end &&
        sample.answers[depth] === piece.answers[depth] &&
        sample.reads[depth] === piece.reads[depth]
      )
        depth += 1;
      if (depth < end || !(way instanceof Fork)) {
        put(parted(depth, sample, way, piece));
        return;
      }
      const answer = known(piece.answers[depth]);
      const { answers, next } = way;
      const at: number = answers.indexOf(answer);
      if (at < 0) {
        answers.push(answer);
        next.push(piece);
        return;
      }
      put = (inner) => void (next[at] = inner);
      way = next[at];
      depth += 1;
    }
    put(piece);
  }

  /** The list of reads of an earlier piece, where it is the same: most pieces of a memo read the same things. */
  sameReads(reads: readonly Question[]): readonly Question[] {
    const same = this.last?.reads;
    if (same?.length !== reads.length) return reads;
    return same.every((question, at) => question === reads[at]) ? same : reads;
  }
}

/**
 * A fork for two ways that part where the answers to one question differ. Where they part without one, equal answers led
 * to different questions, which no rule does: then the later piece alone is kept.
 */
function parted<Result>(depth: number, sample: Piece<Result>, way: Way<Result>, piece: Piece<Result>): Way<Result> {
  const before = sample.answers[depth];
  const answer = piece.answers[depth];
  if (before === undefined || answer === undefined || before === answer || sample.reads[depth] !== piece.reads[depth])
    return piece;
  return new Fork(depth, sample, [before, answer], [way, piece]);
}

/** Whether the questions of a piece from one up to another are answered as when it was made. */
function isAsBefore({ reads, answers }: Piece<unknown>, from: number, to: number, surroundings: Surroundings): boolean {
  for (let at = from; at < to; at += 1) {
    if (answers[at] !== surroundings.answerOf(known(reads[at]))) return false;
  }
  return true;
}
