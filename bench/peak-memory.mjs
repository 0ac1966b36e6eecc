// Loaded before a measured command: says at its end how much memory it held at most, in megabytes.
process.on('exit', () => {
  process.stderr.write(`\npeak-megabytes ${Math.round(process.resourceUsage().maxRSS / 1024)}\n`);
});
