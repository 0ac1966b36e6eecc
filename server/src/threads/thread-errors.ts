/** Work took longer than it may. */
export class ThreadTimeout extends Error {}

/** Work was given up because nobody waits for it. */
export class Cancelled extends Error {}

/** Whether work was given up because it took more time or memory than it may. */
export function isThreadLimit(error: unknown): boolean {
  return error instanceof ThreadTimeout || isOutOfMemory(error);
}

export function isOutOfMemory(error: unknown): boolean {
  return error instanceof Error && 'code' in error && error.code === 'ERR_WORKER_OUT_OF_MEMORY';
}
