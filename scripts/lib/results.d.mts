interface Counts {
  readonly passed: number;
  readonly failed: number;
  readonly skipped: number;
}
export function jasmineCounts(output: string): Counts | null;
export function karmaCounts(output: string): Counts | null;
export function playwrightCounts(output: string): Counts | null;
export function failuresIn(output: string, limit?: number): string;
