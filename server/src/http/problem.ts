import type { ErrorRequestHandler, Response } from 'express';
import * as z from 'zod';
import type { Logger } from './log.js';
import { isDatabaseAway } from '../db/database.js';
import { Cancelled, isThreadLimit } from '../threads/thread-errors.js';

/** An error that a client is told about as problem details (RFC 9457). */
export class HttpProblem extends Error {
  constructor(
    readonly status: number,
    /** One sentence for the person. */
    readonly detail: string,
    /** Further members of the problem object. */
    readonly members: Readonly<Record<string, unknown>> = {},
  ) {
    super(detail);
  }
}

const titles: Readonly<Record<number, string>> = {
  400: 'The request cannot be read',
  401: 'Sign in first',
  403: 'Not allowed',
  404: 'Not found',
  409: 'Conflict',
  413: 'Too large',
  422: 'Refused',
  429: 'Too many attempts',
  500: 'Something went wrong here',
  503: 'Not just now',
  507: 'No space left',
};

/** Sends problem details. */
export function sendProblem(response: Response, problem: HttpProblem): void {
  response
    .status(problem.status)
    .type('application/problem+json')
    .send(
      JSON.stringify({
        type: 'about:blank',
        title: titles[problem.status] ?? 'Error',
        status: problem.status,
        detail: problem.detail,
        ...problem.members,
      }),
    );
}

/** Turns whatever a route threw into problem details. */
export function problemHandler(log: Logger): ErrorRequestHandler {
  return (error: unknown, request, response, next) => {
    if (!response.headersSent) {
      sendProblem(
        response,
        asProblem(error, (unknown) => log.error({ err: unknown, request: request.id }, 'unexpected')),
      );
      // That somebody broke a download off is no fault.
    } else if (!response.destroyed) next(error);
  };
}

/** What errors of the packages and of PostgreSQL say of themselves. */
const errorSchema = z.object({
  status: z.number().optional().catch(undefined),
  code: z.string().optional().catch(undefined),
  type: z.string().optional().catch(undefined),
});

function asProblem(error: unknown, tell: (error: unknown) => void): HttpProblem {
  if (error instanceof HttpProblem) return error;
  if (error instanceof z.ZodError) {
    const [first] = error.issues;
    const where = first && first.path.length > 0 ? `${first.path.join('.')}: ` : '';
    return new HttpProblem(400, `${where}${first?.message ?? 'The input is not as expected.'}`, {
      issues: error.issues.map((issue) => ({ path: issue.path, message: issue.message })),
    });
  }
  if (error instanceof Cancelled) return new HttpProblem(503, 'This was broken off; try again.');
  if (error instanceof Error && error.name === 'TooLargeError') return new HttpProblem(422, error.message);
  const { status, code, type } = errorSchema.safeParse(error).data ?? {};
  if (type === 'entity.too.large' || code === 'LIMIT_FILE_SIZE')
    return new HttpProblem(413, 'The upload is larger than allowed.');
  if (type === 'entity.parse.failed') return new HttpProblem(400, 'The request body is not JSON.');
  if (isThreadLimit(error))
    return new HttpProblem(422, 'This is too large to be worked out; it took more time or memory than it may.');
  if (isDatabaseAway(error))
    return new HttpProblem(503, 'The database cannot be reached just now; nothing was saved. Try again in a moment.');
  // PostgreSQL: disk full (class 53), and a key that another request has just taken.
  if (code === '53100') return new HttpProblem(507, 'The disk of the database is full; nothing was saved.');
  if (code === '23503') return new HttpProblem(409, 'Something that this belongs to was deleted meanwhile.');
  if (code === '40001' || code === '40P01')
    return new HttpProblem(503, 'Somebody changed the same thing at the same moment; nothing was saved. Try again.');
  if (code?.startsWith('22')) return new HttpProblem(422, 'It holds a value that cannot be stored.');
  if (code === '23505') return new HttpProblem(409, 'Something with this key or title exists already.');
  if (status && status >= 400 && status < 500)
    return new HttpProblem(status, titles[status] ?? 'The request cannot be read.');
  tell(error);
  return new HttpProblem(500, 'The server could not do this; nothing was saved. Its log says more.');
}
