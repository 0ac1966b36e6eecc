import { known } from '../model/known.js';
import { isSameList } from '../model/same-list.js';
import type { Finding } from './finding.js';

/** A question to what surrounds a piece of content, by its number among the `Questions` of a memory. */
export type Question = number;

/** What surrounds a piece of content. */
export interface Surroundings {
  /** The answer of a question as a number that is equal for equal answers. */
  answerOf(question: Question): number;
  /** The same where it takes no work that would have to be asked for in its order; -1: it takes some. */
  quickAnswerOf(question: Question): number;
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
  /** The ways behind further answers; most questions have two. */
  private more: Map<number, Way<Result>> | undefined;

  /**
   * @param question the next question of all pieces behind it
   * @param depth how many reads they have in common, with their answers
   * @param sample one of them
   */
  constructor(
    readonly question: Question,
    private readonly first: number,
    private behindFirst: Way<Result>,
    private readonly second: number,
    private behindSecond: Way<Result>,
    readonly depth: number,
    readonly sample: Piece<Result>,
  ) {}

  behind(answer: number): Way<Result> | undefined {
    if (this.first === answer) return this.behindFirst;
    if (this.second === answer) return this.behindSecond;
    return this.more?.get(answer);
  }

  put(answer: number, way: Way<Result>): void {
    if (this.first === answer) this.behindFirst = way;
    else if (this.second === answer) this.behindSecond = way;
    else (this.more ??= new Map<number, Way<Result>>()).set(answer, way);
  }
}

type Way<Result> = Fork<Result> | Piece<Result>;

/**
 * What a piece of content becomes, remembered by what was read on the way: whoever gets the same answers to
 * the same questions would make the same piece. Equal answers lead to equal questions, so the pieces stand in a tree:
 * its forks are the questions that tell them apart, and the one piece at the end of the way is compared as a whole.
 */
export class Memo<Result> {
  private root: Way<Result> | undefined;
  private count = 0;

  /** The piece that was made with the answers of now; undefined where none was. */
  find(surroundings: Surroundings): Piece<Result> | undefined {
    let way = this.root;
    let compared = 0;
    while (way instanceof Fork) {
      let answer = surroundings.quickAnswerOf(way.question);
      if (answer < 0) {
        // Whether the question comes up at all is known only when those before it are answered as they were.
        if (!isAsBefore(way.sample, compared, way.depth, surroundings)) return undefined;
        compared = way.depth;
        answer = surroundings.answerOf(way.question);
      }
      way = way.behind(answer);
    }
    return way !== undefined && isAsBefore(way, compared, way.reads.length, surroundings) ? way : undefined;
  }

  /** Remembers a piece that was not found. */
  add(
    result: Result,
    asked: readonly Question[],
    answers: readonly number[],
    findings: readonly Finding[],
    serial: number,
  ): Piece<Result> {
    if (this.count >= mostPieces) {
      this.root = undefined;
      this.count = 0;
    }
    this.count += 1;
    const nearest = this.nearest(answers);
    const alike = nearest ? commonReads(nearest, asked, answers) : 0;
    // Most pieces of a memo read the same things.
    const reads = nearest && isSameList(nearest.reads, asked) ? nearest.reads : asked;
    const piece: Piece<Result> = { result, reads, answers, findings, serial };
    this.root = this.root && nearest ? put(this.root, piece, nearest, alike) : piece;
    return piece;
  }

  /** The piece that has most in common with some answers, or one of several. */
  private nearest(answers: readonly number[]): Piece<Result> | undefined {
    let way = this.root;
    while (way instanceof Fork) {
      const answer = answers[way.depth];
      way = answer === undefined ? way.sample : (way.behind(answer) ?? way.sample);
    }
    return way;
  }
}

/** How many reads a piece shares with another one's, with their answers, before they part. */
function commonReads(piece: Piece<unknown>, reads: readonly Question[], answers: readonly number[]): number {
  const end = Math.min(reads.length, piece.reads.length);
  let at = 0;
  while (at < end && piece.answers[at] === answers[at] && piece.reads[at] === reads[at]) at += 1;
  return at;
}

/** A tree with one more piece in it, which has a number of reads in common with one that is there. */
function put<Result>(root: Way<Result>, piece: Piece<Result>, nearest: Piece<Result>, alike: number): Way<Result> {
  let around: Fork<Result> | undefined;
  let way = root;
  while (way instanceof Fork && way.depth < alike) {
    around = way;
    way = known(way.behind(known(piece.answers[way.depth])));
  }
  const answer = piece.answers[alike];
  if (way instanceof Fork && way.depth === alike && answer !== undefined) {
    way.put(answer, piece);
    return root;
  }
  const before = nearest.answers[alike];
  const question = nearest.reads[alike];
  // Where they part without a question, equal answers led to different questions, which no rule does: the later is kept.
  const parts =
    answer !== undefined && before !== undefined && question !== undefined && question === piece.reads[alike];
  const both = parts ? new Fork(question, before, way, answer, piece, alike, nearest) : piece;
  if (!around) return both;
  around.put(known(piece.answers[around.depth]), both);
  return root;
}

/** Whether the questions of a piece from one up to another are answered as when it was made. */
function isAsBefore({ reads, answers }: Piece<unknown>, from: number, to: number, surroundings: Surroundings): boolean {
  for (let at = from; at < to; at += 1) {
    if (answers[at] !== surroundings.answerOf(known(reads[at]))) return false;
  }
  return true;
}
