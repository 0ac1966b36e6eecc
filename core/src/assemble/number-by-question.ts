import type { Question } from './memo.js';

/** A number from 0 on for every question; -1 where none was set. Asked millions of times in a build. */
export class NumberByQuestion {
  private numbers: Int32Array;

  /** @param size how many questions there are; there may be more later */
  constructor(size: number) {
    this.numbers = new Int32Array(Math.max(64, size)).fill(-1);
  }

  of(question: Question): number {
    return this.numbers[question] ?? -1;
  }

  set(question: Question, number: number): void {
    if (question >= this.numbers.length) {
      const more = new Int32Array(2 * question).fill(-1);
      more.set(this.numbers);
      this.numbers = more;
    }
    this.numbers[question] = number;
  }
}
