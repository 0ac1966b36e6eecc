import fc from 'fast-check';
import { Memo, type Piece, type Question } from './memo.js';

/** What is asked next, by the answers so far: the same answers lead to the same questions, as with content. */
type Program = (answers: readonly number[]) => Question | null;

const questions = 12;

/** A program that asks up to eight questions, none twice, in an order that depends on the answers. */
function programOf(seed: number): Program {
  return (answers) => {
    if (answers.length >= 8) return null;
    let hash = seed;
    for (const answer of answers) hash = Math.imul(hash ^ (answer + 7), 0x01000193) >>> 0;
    return hash % 5 === 0 && answers.length > 2 ? null : (hash + answers.length * 5) % questions;
  };
}

function run(program: Program, answerOf: (question: Question) => number): { reads: Question[]; answers: number[] } {
  const [reads, answers]: [Question[], number[]] = [[], []];
  for (let next = program(answers); next !== null && !reads.includes(next); next = program(answers)) {
    reads.push(next);
    answers.push(answerOf(next));
  }
  return { reads, answers };
}

describe('What pieces are remembered by', () => {
  const worlds = fc.array(fc.array(fc.integer({ min: 0, max: 2 }), { minLength: questions, maxLength: questions }), {
    minLength: 1,
    maxLength: 120,
  });

  it('is all that they read: a piece is found where everything is answered as it was, and nowhere else', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1_000_000 }), worlds, (seed, all) => {
        const program = programOf(seed);
        const memo = new Memo<string>();
        // The oracle is a plain list; of more than 40 pieces all are forgotten.
        let pieces: Piece<string>[] = [];
        for (const [at, world] of all.entries()) {
          const answerOf = (question: Question): number => world[question] ?? -1;
          const { reads, answers } = run(program, answerOf);
          const wanted = pieces.find((piece) => piece.result === JSON.stringify([reads, answers]));
          const found = memo.find({ answerOf, quickAnswerOf: answerOf });
          expect(found?.result).toBe(wanted?.result);
          if (found) continue;
          if (pieces.length >= 40) pieces = [];
          pieces.push(memo.add(JSON.stringify([reads, answers]), reads, answers, [], at));
        }
      }),
      { numRuns: 300 },
    );
  });

  it('asks for what takes work only where it comes up', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1_000_000 }), worlds, (seed, all) => {
        const program = programOf(seed);
        const memo = new Memo<string>();
        for (const [at, world] of all.entries()) {
          const takesWork = (question: Question): boolean => question % 3 === 0;
          const answerOf = (question: Question): number => world[question] ?? -1;
          const { reads, answers } = run(program, answerOf);
          const found = memo.find({
            answerOf: (question) => {
              if (takesWork(question)) expect(reads).toContain(question);
              return answerOf(question);
            },
            quickAnswerOf: (question) => (takesWork(question) ? -1 : answerOf(question)),
          });
          if (found) expect(found.result).toBe(JSON.stringify([reads, answers]));
          else memo.add(JSON.stringify([reads, answers]), reads, answers, [], at);
        }
      }),
      { numRuns: 300 },
    );
  });
});
