// Counts of passed, failed and skipped tests, read from what each runner prints.

/** Reads the closing line of Jasmine: “12 specs, 1 failure, 2 pending specs”. */
export function jasmineCounts(output) {
  const match = [...output.matchAll(/(\d+) specs?, (\d+) failures?(?:, (\d+) pending specs?)?/g)].at(-1);
  if (!match) return null;
  const [total, failed, skipped] = match.slice(1).map((count) => Number(count ?? 0));
  return { passed: total - failed - skipped, failed, skipped };
}

/** Reads the last progress line of Karma: “Executed 12 of 13 (1 FAILED) (skipped 1)”. */
export function karmaCounts(output) {
  const lines = [...output.matchAll(/Executed (\d+) of (\d+)([^\r\n]*)/g)];
  const last = lines.at(-1);
  if (!last) return null;
  const executed = Number(last[1]);
  const failed = Number(/\((\d+) FAILED\)/.exec(last[3])?.[1] ?? 0);
  const skipped = Number(/\(skipped (\d+)\)/.exec(last[3])?.[1] ?? 0);
  return { passed: executed - failed, failed, skipped };
}

/** Reads the summary of Playwright's line reporter. */
export function playwrightCounts(output) {
  const count = (word) => Number(new RegExp(`^\\s*(\\d+) ${word}`, 'm').exec(output)?.[1] ?? 0);
  const counts = {
    passed: count('passed') + count('flaky'),
    failed: count('failed') + count('interrupted') + count('did not run'),
    skipped: count('skipped'),
  };
  return counts.passed + counts.failed + counts.skipped > 0 ? counts : null;
}
