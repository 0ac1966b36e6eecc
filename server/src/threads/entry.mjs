// What every worker thread begins with: it runs the module that comes with each order. A refusal is an answer; work that
// fails otherwise ends the thread.
import { parentPort } from 'node:worker_threads';

/** What the person is told, where an error was made for them. */
const refusalOf = ({ name, message, status, detail, members }) =>
  typeof status === 'number' && typeof detail === 'string'
    ? { status, detail, members }
    : name === 'TooLargeError'
      ? { status: 422, detail: message, members: {} }
      : null;

parentPort.on('message', async ({ module, name, order }) => {
  const { [name]: run } = await import(module);
  try {
    const answer = await run(order, (report) => parentPort.postMessage({ report }));
    parentPort.postMessage({ answer });
  } catch (error) {
    const refusal = refusalOf(error);
    if (refusal === null) throw error;
    parentPort.postMessage({ refusal });
  }
});
