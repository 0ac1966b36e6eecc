import { spawn, type ChildProcess } from 'node:child_process';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../../', import.meta.url));

/** A server in a process of its own, that can be killed like one. */
export async function spawnServer(
  url: string,
  port: number,
): Promise<{ readonly process: ChildProcess; readonly origin: string }> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'server/src/main.ts'], {
    cwd: root,
    env: { ...process.env, DATABASE_URL: url, PORT: String(port), TSX_TSCONFIG_PATH: `${root}server/tsconfig.json` },
    stdio: ['ignore', 'pipe', 'inherit'],
  });
  await new Promise<void>((resolve, reject) => {
    child.stdout.on('data', (chunk: Buffer) => {
      if (chunk.toString().includes('ready at')) resolve();
    });
    child.on('exit', (code) => reject(new Error(`The server ended with ${code}.`)));
  });
  return { process: child, origin: `http://127.0.0.1:${port}` };
}

/** Kills a process the hard way and waits until it is gone. */
export async function kill(child: ChildProcess): Promise<void> {
  const gone = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGKILL');
  await gone;
}
