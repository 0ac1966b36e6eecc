import { randomUUID } from 'node:crypto';
import type { IncomingMessage, ServerResponse } from 'node:http';
import type { RequestHandler } from 'express';
import { pino, type Logger } from 'pino';
import { pinoHttp } from 'pino-http';

export type { Logger } from 'pino';

/** The log of a process: one line of JSON for each thing that happened, on standard error. */
export function makeLog(level: string): Logger {
  // Errors of the database carry the connection with them, which nobody reads.
  const serializers = {
    err: (error: unknown) => {
      if (!(error instanceof Error)) return String(error);
      const code = 'code' in error ? String(error.code) : undefined;
      return { type: error.name, message: error.message, code, stack: error.stack };
    },
  };
  return pino({ level, base: null, timestamp: pino.stdTimeFunctions.isoTime, serializers }, pino.destination(2));
}

/** A log that says nothing. */
export const silentLog: Logger = pino({ level: 'silent' });

/**
 * Takes down each request when it has been answered, under an id that its answer carries too. Neither headers, which hold
 * cookies and tokens, nor what stands after the path, which holds what people look for, get into the log.
 */
export function logRequests(log: Logger): RequestHandler {
  const middleware = pinoHttp<IncomingMessage, ServerResponse>({
    logger: log,
    genReqId: (_request, response) => {
      const id = randomUUID();
      response.setHeader('X-Request-Id', id);
      return id;
    },
    customLogLevel: (_request, response, error) =>
      error || response.statusCode >= 500 ? 'error' : response.statusCode >= 400 ? 'info' : 'debug',
    serializers: {
      req: ({ id, method, url }: { id: string; method: string; url: string }) => ({ id, method, path: pathOf(url) }),
      res: ({ statusCode }: { statusCode: number }) => ({ status: statusCode }),
    },
  });
  return (request, response, next) => middleware(request, response, next);
}

/** What of an address may be written down: deliverables are read by addresses that open them. */
export function pathOf(address: string): string {
  const [path = ''] = address.split('?');
  return path.replace(/^\/deliverables\/[^/]+/, '/deliverables/…');
}
