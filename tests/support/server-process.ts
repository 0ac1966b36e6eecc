import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { join } from 'node:path';

/** What a test that failed has left running ends with the tests. */
const running = new Set<ChildProcess>();
process.on('exit', () => running.forEach((child) => child.kill('SIGKILL')));

/** What runs is what is shipped; whoever begins tests does so in the folder of the project, and has compiled the server. */
const compiled = join(process.cwd(), 'dist/server/src');

/** A server in a process of its own, that can be killed like one. */
export async function spawnServer(
  url: string,
  port: number,
): Promise<{ readonly process: ChildProcess; readonly origin: string }> {
  const child = await spawnUntil('main.js', { DATABASE_URL: url, PORT: String(port) }, 'ready at');
  return { process: child, origin: `http://127.0.0.1:${port}` };
}

/** A process that does nothing but take builds. */
export function spawnWorker(url: string): Promise<ChildProcess> {
  return spawnUntil('worker.js', { DATABASE_URL: url }, 'Taking builds');
}

async function spawnUntil(file: string, env: Readonly<Record<string, string>>, ready: string): Promise<ChildProcess> {
  const program = join(compiled, file);
  if (!existsSync(program)) throw new Error(`“${program}” is not there: the server has to be compiled first.`);
  const child = spawn(process.execPath, [program], {
    env: { ...process.env, ALLOMORPH_LOG: 'error', ...env },
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
