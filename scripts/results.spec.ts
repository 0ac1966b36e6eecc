import { failuresIn, jasmineCounts, karmaCounts, playwrightCounts } from './lib/results.mjs';

describe('The counts of the test command', () => {
  it('are read from Jasmine’s closing line, the last one printed', () => {
    expect(jasmineCounts('Started\n....\n\n\n4 specs, 0 failures\nFinished in 1 second')).toEqual({
      passed: 4,
      failed: 0,
      skipped: 0,
    });
    expect(jasmineCounts('12 specs, 1 failure, 2 pending specs')).toEqual({ passed: 9, failed: 1, skipped: 2 });
    expect(jasmineCounts('a test printed: 99 specs, 0 failures\n1 spec, 1 failure\n')).toEqual({
      passed: 0,
      failed: 1,
      skipped: 0,
    });
    expect(jasmineCounts('it crashed')).toBeNull();
  });

  it('are read from Karma’s last progress line, with its colours', () => {
    const line = (text: string): string => `Chrome Headless 156 (Linux 0.0.0): ${text}\n`;
    expect(
      karmaCounts(line('Executed 1 of 33 SUCCESS') + line('Executed 33 of 33\u001b[32m SUCCESS\u001b[39m (0.4 secs)')),
    ).toEqual({ passed: 33, failed: 0, skipped: 0 });
    expect(karmaCounts(line('Executed 12 of 13\u001b[31m (1 FAILED)\u001b[39m (skipped 1) (0.4 secs)'))).toEqual({
      passed: 11,
      failed: 1,
      skipped: 1,
    });
    expect(karmaCounts('')).toBeNull();
  });

  it('are read from Playwright’s summary', () => {
    expect(playwrightCounts('\n  2 failed\n    x\n  1 flaky\n  3 skipped\n  17 passed (4.4m)\n')).toEqual({
      passed: 18,
      failed: 2,
      skipped: 3,
    });
    expect(playwrightCounts('  19 passed (3.2m)')).toEqual({ passed: 19, failed: 0, skipped: 0 });
    expect(playwrightCounts('Error: no tests found')).toBeNull();
  });

  it('come with what failed, told again at the end', () => {
    expect(failuresIn('Started\n..F\n\nFailures:\n1) It works\n  Message: no\n\n2 specs, 1 failure')).toMatch(
      /^Failures:\n1\) It works/,
    );
    expect(
      failuresIn(
        'Chrome Headless 156 (Linux): Executed 1 of 2\n\u001b[31mChrome Headless 156 (Linux) It works FAILED\u001b[39m\n  no',
      ),
    ).toBe('Chrome Headless 156 (Linux) It works FAILED\n  no');
    expect(failuresIn('  ✓  2 b\n\n  1) tests/a.spec.ts:1:1 › a\n\n    Error: no\n\n  1 failed')).toMatch(/^1\) tests/);
    expect(failuresIn('a\nb\nc', 2)).toBe('b\nc');
  });
});
