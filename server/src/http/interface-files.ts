import express, { Router } from 'express';
import { HttpProblem } from './problem.js';

/** Whether a file is named after what it holds, as the parts of the interface are. */
const isNamedByContent = (path: string): boolean => /-[A-Z0-9]{8}\.[a-z0-9]+$/.test(path);

/**
 * The files of the interface. What is named after what it holds is kept by browsers for good; every address that is no file is
 * one of its places.
 */
export function interfaceFiles(folder: string): Router {
  const router = Router();
  router.use(
    express.static(folder, {
      index: false,
      cacheControl: false,
      setHeaders: (response, path) => {
        response.setHeader(
          'Cache-Control',
          isNamedByContent(path) ? 'public, max-age=31536000, immutable' : 'no-cache',
        );
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
