/// <reference lib="webworker" />
import { read, type ToRead } from './reading';
import type { ReadingAnswer } from './readings';

/** Reads content apart from the page, so that large content does not hold up whoever writes. */
addEventListener('message', ({ data }: MessageEvent<ToRead>) => {
  postMessage(answerTo(data));
});

function answerTo(asked: ToRead): ReadingAnswer {
  try {
    return { reading: read(asked) };
  } catch (error) {
    return { failed: error instanceof Error ? error.message : String(error) };
  }
}
