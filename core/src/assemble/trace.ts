import type { Component } from '../library/component.js';
import { ProblemList, type Problem } from '../problems/problem.js';

/** What was come upon while a piece was assembled, and in the pieces that stand in it. */
export class Trace {
  private ownProblems: ProblemList | null = null;
  private readonly components: Component[] = [];
  private missing: string[] | null = null;
  private ownSlots: Set<string> | null = null;
  private parts: Trace[] | null = null;
  private anyProblem = false;
  private anySlot = false;
  private anyDate = false;

  /** Takes down that the newest revision of a component is shown. */
  use(component: Component): void {
    this.components.push(component);
  }

  /** Takes down that a component is asked for which does not exist. */
  useMissing(key: string): void {
    (this.missing ??= []).push(key);
  }

  report(problem: Problem): void {
    this.anyProblem = true;
    (this.ownProblems ??= new ProblemList()).add(problem);
  }

  /** Takes down the rule of a slot. */
  fill(rule: string): void {
    this.anySlot = true;
    (this.ownSlots ??= new Set()).add(rule);
  }

  /** Takes down that the date of the build is shown. */
  useDate(): void {
    this.anyDate = true;
  }

  /** Adds a piece that is complete. */
  include(part: Trace): void {
    (this.parts ??= []).push(part);
    this.anyProblem ||= part.anyProblem;
    this.anySlot ||= part.anySlot;
    this.anyDate ||= part.anyDate;
  }

  /** Whether there is any problem here or in the parts. */
  get troubled(): boolean {
    return this.anyProblem;
  }

  get hasSlots(): boolean {
    return this.anySlot;
  }

  get usesDate(): boolean {
    return this.anyDate;
  }

  /** The components whose newest revision is shown, each with that revision; 0 for one that does not exist. */
  get uses(): ReadonlyMap<string, number> {
    const uses = new Map<string, number>();
    this.visit((trace) => {
      for (const { key, revision } of trace.components) uses.set(key, revision);
      for (const key of trace.missing ?? []) uses.set(key, 0);
    });
    return uses;
  }

  /** The rules of slots, as `slotRule` makes them. */
  get slots(): ReadonlySet<string> {
    const slots = new Set<string>();
    if (!this.anySlot) return slots;
    this.visit((trace) => trace.ownSlots?.forEach((rule) => slots.add(rule)));
    return slots;
  }

  get problems(): readonly Problem[] {
    if (!this.anyProblem) return [];
    const problems = new ProblemList();
    this.visit((trace) => trace.ownProblems?.all.forEach((problem) => problems.add(problem)));
    return problems.all;
  }

  private visit(found: (trace: Trace) => void, seen = new Set<Trace>()): void {
    if (seen.has(this)) return;
    seen.add(this);
    for (const part of this.parts ?? []) part.visit(found, seen);
    found(this);
  }
}
