import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';

/** What a test that failed has left running ends with the tests. */
const running = new Set<ChildProcess>();
process.on('exit', () => running.forEach((child) => child.kill('SIGKILL')));

const root = fileURLToPath(new URL('../../', import.meta.url));

/** A server in a process of its own, that can be killed like one. */
export async function spawnServer(
  url: string,
  port: number,
): Promise<{ readonly process: ChildProcess; readonly origin: string }> {
  const child = await spawnUntil('server/src/main.ts', { DATABASE_URL: url, PORT: String(port) }, 'ready at');
  return { process: child, origin: `http://127.0.0.1:${port}` };
}

/** A process that does nothing but take builds. */
export function spawnWorker(url: string): Promise<ChildProcess> {
  return spawnUntil('server/src/worker.ts', { DATABASE_URL: url }, 'Taking builds');
}

async function spawnUntil(file: string, env: Readonly<Record<string, string>>, ready: string): Promise<ChildProcess> {
  const child = spawn(process.execPath, ['--import', 'tsx', file], {
    cwd: root,
    env: { ...process.env, ALLOMORPH_LOG: 'error', ...env, TSX_TSCONFIG_PATH: `${root}server/tsconfig.json` },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  running.add(child);
  child.on('exit', () => running.delete(child));
  await new Promise<void>((resolve, reject) => {
    child.stdout.on('data', (chunk: Buffer) => {
      if (chunk.toString().includes(ready)) resolve();
    });
    child.on('exit', (code) => reject(new Error(`The process ended with ${code}.`)));
  });
  return child;
}

/** Stops a process and waits until it is gone: the hard way unless it is asked for otherwise. */
export async function kill(child: ChildProcess, signal: 'SIGKILL' | 'SIGTERM' = 'SIGKILL'): Promise<void> {
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill(signal);
  await gone;
}
