// What every worker thread begins with: it makes TypeScript modules loadable, then runs the one it was given
// for each order that comes. Work that throws ends the thread.
import { parentPort, workerData } from 'node:worker_threads';
import { register } from 'tsx/esm/api';

register();
const { run } = await import(workerData.module);
parentPort.on('message', async ({ order }) => {
  const answer = await run(order, (report) => parentPort.postMessage({ report }));
  parentPort.postMessage({ answer });
});
