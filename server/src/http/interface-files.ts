import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { gzip } from 'node:zlib';
import express, { Router } from 'express';
import { HttpProblem } from './problem.js';

/** Whether a file is named after what it holds, as the parts of the interface are. */
const isNamedByContent = (path: string): boolean => /-[A-Z0-9]{8}\.[a-z0-9]+$/.test(path);
const forGood = 'public, max-age=31536000, immutable';

/** Programs and styles that are named after what they hold: text, which is packed once for all who ask. */
const packable = /^\/([\w-]+-[A-Z0-9]{8}\.(?:js|css))$/;

/**
 * The files of the interface. What is named after what it holds is kept by browsers for good; every address that is no file is
 * one of its places.
 */
export function interfaceFiles(folder: string): Router {
  const router = Router();
  const packed = new Map<string, Promise<Buffer>>();
  router.get('/{*path}', async (request, response, next) => {
    const name = packable.exec(request.path)?.[1];
    if (name === undefined || request.acceptsEncodings('gzip') === false) return next();
    let bytes = packed.get(name);
    if (!bytes) {
      const content = await readFile(join(folder, name)).catch(() => null);
      if (content === null) return next();
      bytes = promisify(gzip)(content);
      packed.set(name, bytes);
    }
    response.type(name).set({ 'Content-Encoding': 'gzip', 'Cache-Control': forGood }).vary('Accept-Encoding');
    response.end(await bytes);
  });
  router.use(
    express.static(folder, {
      index: false,
      cacheControl: false,
      setHeaders: (response, path) => {
        response.setHeader('Cache-Control', isNamedByContent(path) ? forGood : 'no-cache');
        if (isNamedByContent(path)) response.setHeader('Vary', 'Accept-Encoding');
      },
    }),
  );
  router.get('/{*path}', (request, response) => {
    // A window that was opened before the last upgrade asks for what is gone: a page instead would not tell it so.
    if (isNamedByContent(request.path)) throw new HttpProblem(404, 'There is no such file any more.');
    response.set('Cache-Control', 'no-cache').sendFile('index.html', { root: folder, cacheControl: false });
  });
  return router;
}
