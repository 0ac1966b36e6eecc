// Counts of passed, failed and skipped tests, and what failed, read from what each runner prints.

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

/**
 * What a runner says of its failures, to be told again at the end: Jasmine's and Playwright's own lists, Karma's lines
 * that name what failed, else the last lines; at most `limit` lines.
 */
export function failuresIn(output, limit = 60) {
  // Karma writes in colours.
  // eslint-disable-next-line no-control-regex -- these are what begins a colour
  const lines = output.replace(/\u001b\[\d+m/g, '').split(/\r?\n/);
  const begun = lines.findLastIndex((line) => /^Failures:$|^\s+1\) /.test(line));
  const karma = lines.findIndex((line) => /^Chrome.* FAILED$/.test(line));
  const from = begun >= 0 ? begun : karma >= 0 ? karma : Math.max(0, lines.length - limit);
  return lines
    .slice(from, from + limit)
    .join('\n')
    .trim();
}
