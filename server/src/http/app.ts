import { timingSafeEqual } from 'node:crypto';
import { existsSync } from 'node:fs';
import connectPgSimple from 'connect-pg-simple';
import express, { Router, type Express, type RequestHandler } from 'express';
import session from 'express-session';
import helmet from 'helmet';
import type { Database } from '../db/database.js';
import type { BuildQueue } from '../builds/builder.js';
import { buildRoutes } from '../builds/routes.js';
import { compareRoutes } from '../compare/routes.js';
import type { Analyses } from '../threads/analyses.js';
import { reachRoutes } from '../reach/routes.js';
import type { EventHub } from '../events/events.js';
import { imageRoutes } from '../images/images.js';
import { importRoutes } from '../imports/routes.js';
import { libraryRoutes } from '../library/routes.js';
import { giveToken, peopleRoutes, readPerson } from '../people/people.js';
import { coverageRoutes } from '../publications/coverage.js';
import { publicationRoutes } from '../publications/publications.js';
import { variationRoutes } from '../variation/variation.js';
import { healthRoutes } from './health.js';
import { HttpProblem, problemHandler } from './problem.js';

/** What the application is made of. */
export interface AppParts {
  readonly db: Database;
  readonly queue: BuildQueue;
  readonly events: EventHub;
  readonly analyses: Analyses;
  readonly sessionSecret: string;
  /** The built interface; null serves the API alone. */
  readonly webFolder: string | null;
}

/** The HTTP application: the API under `/api`, the interface everywhere else. */
export function createApp({ db, queue, events, analyses, sessionSecret, webFolder }: AppParts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // The component library writes its theme into style elements; scripts stay without exception.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:'],
          objectSrc: ["'none'"],
          baseUri: ["'self'"],
          frameAncestors: ["'self'"],
          formAction: ["'self'"],
        },
      },
      strictTransportSecurity: false,
      crossOriginEmbedderPolicy: false,
    }),
  );
  healthRoutes(app, db);
  const PgStore = connectPgSimple(session);
  const api = Router();
  api.use(
    session({
      name: 'allomorph',
      secret: sessionSecret,
      store: new PgStore({ pool: db.pool, tableName: 'session' }),
      resave: false,
      saveUninitialized: false,
      rolling: true,
      cookie: { httpOnly: true, sameSite: 'lax', maxAge: 14 * 24 * 3600 * 1000 },
    }),
  );
  api.use(express.json({ limit: '8mb' }));
  api.use(readPerson(db));
  api.use(checkToken);
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  peopleRoutes(api, db);
  libraryRoutes(api, db);
  variationRoutes(api, db);
  publicationRoutes(api, db);
  coverageRoutes(api, db);
  compareRoutes(api, db, analyses);
  reachRoutes(api, db, analyses);
  imageRoutes(api, db);
  importRoutes(api, db);
  buildRoutes(api, db, queue);
  events.routes(api);
  api.use(() => {
    throw new HttpProblem(404, 'There is nothing at this address.');
  });
  app.use('/api', api);
  if (webFolder !== null && existsSync(webFolder)) {
    app.use(express.static(webFolder, { index: false, maxAge: '1h' }));
    app.get('/{*path}', (_request, response) => response.sendFile('index.html', { root: webFolder }));
  }
  app.use(problemHandler);
  return app;
}

/** Requests that change something carry the session's token in a header, which other sites cannot set. */
const checkToken: RequestHandler = (request, response, next) => {
  const { person, token } = request.session;
  if (!person || token === undefined) {
    next();
    return;
  }
  giveToken(request, response);
  if (['GET', 'HEAD', 'OPTIONS'].includes(request.method)) {
    next();
    return;
  }
  const given = Buffer.from(request.get('X-XSRF-TOKEN') ?? '');
  const wanted = Buffer.from(token);
  const good = given.length === wanted.length && timingSafeEqual(given, wanted);
  next(good ? undefined : new HttpProblem(403, 'The request does not carry the session’s token. Load the page again.'));
};
