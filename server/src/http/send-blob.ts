import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { Request, Response } from 'express';
import type { Queryable } from '../db/database.js';
import { readBlobParts, sizesOfBlobs } from '../images/blobs.js';
import { HttpProblem } from './problem.js';

/**
 * Sends stored bytes part by part, all of them or the range that is asked for (RFC 9110, section 14): players jump about in
 * films. Several ranges at once are not served; the whole is sent instead, as the standard allows.
 * @throws HttpProblem 404 where there are none, 416 where the range lies behind their end
 */
export async function sendBlob(db: Queryable, digest: string, request: Request, response: Response): Promise<void> {
  const size = (await sizesOfBlobs(db, [digest])).get(digest);
  if (size === undefined) throw new HttpProblem(404, 'The file is not there any more.');
  response.set('Accept-Ranges', 'bytes');
  const ranges = request.range(size);
  if (ranges === -1) {
    response.set('Content-Range', `bytes */${size}`);
    throw new HttpProblem(416, 'The file ends before that.');
  }
  const [range] = Array.isArray(ranges) && ranges.type === 'bytes' && ranges.length === 1 ? ranges : [];
  const { start, end } = range ?? { start: 0, end: size - 1 };
  if (range) response.status(206).set('Content-Range', `bytes ${start}-${end}/${size}`);
  response.set('Content-Length', String(end - start + 1));
  if (request.method === 'HEAD') {
    response.end();
    return;
  }
  try {
    await pipeline(Readable.from(readBlobParts(db, digest, start, end + 1)), response);
  } catch (error) {
    // Players break off what they need no more of.
    if (!response.destroyed) throw error;
  }
}
