// What every worker thread begins with: it makes TypeScript modules loadable, then runs the one it was given.
import { parentPort, workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
const { run } = await import(workerData.module);
const answer = await run(workerData.order, (report) => parentPort.postMessage({ report }));
parentPort.postMessage({ answer });
