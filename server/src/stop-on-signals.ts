/** How long a process takes to end at most: what it waits for may be gone, such as the database. */
const longestSeconds = 10;

/** Ends the process in an orderly way when it is told to, once, and in any case soon. */
export function stopOnSignals(stop: () => Promise<void>): void {
  let isStopping = false;
  const end = (): void => {
    if (isStopping) return;
    isStopping = true;
    setTimeout(() => process.exit(1), longestSeconds * 1000).unref();
    stop().then(
      () => process.exit(0),
      (error: unknown) => {
        console.error(error instanceof Error ? error.message : error);
        process.exit(1);
      },
    );
  };
  process.on('SIGINT', end);
  process.on('SIGTERM', end);
}
