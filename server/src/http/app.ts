import { timingSafeEqual } from 'node:crypto';
import { existsSync } from 'node:fs';
import express, { Router, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import { auditRoutes } from '../audit/routes.js';
import { binRoutes } from '../bin/bin.js';
import type { BuildQueue } from '../builds/builder.js';
import { designRoutes } from '../designs/designs.js';
import { fontRoutes } from '../designs/fonts.js';
import { previewRoutes } from '../designs/preview.js';
import { storageRoutes } from '../builds/kept-deliverables.js';
import { shippedRoutes } from '../builds/shipped.js';
import { deliverableFiles, deliverablesPath } from '../builds/read-deliverable.js';
import { originRoutes } from '../builds/origin.js';
import { buildRoutes } from '../builds/routes.js';
import { compareRoutes } from '../compare/routes.js';
import type { Config } from '../config.js';
import type { Database } from '../db/database.js';
import { draftRoutes } from '../drafts/drafts.js';
import type { EventHub } from '../events/events.js';
import { imageRoutes } from '../images/images.js';
import { recordingRoutes } from '../recordings/recordings.js';
import { importRoutes } from '../imports/routes.js';
import { checkRoutes } from '../checks/checks.js';
import { firstHourRoutes } from '../first-hour/first-hour.js';
import { libraryRoutes } from '../library/routes.js';
import { invitationRoutes } from '../people/invitations.js';
import { peopleRoutes } from '../people/people.js';
import { giveToken, sessions } from '../people/sessions.js';
import { signInRoutes } from '../people/sign-in.js';
import { publicationRoutes } from '../publications/routes.js';
import { reachRoutes } from '../reach/routes.js';
import type { Analyses } from '../threads/analyses.js';
import { giveUpRoutes } from '../variation/give-up.js';
import { variationRoutes } from '../variation/variation.js';
import { healthRoutes } from './health.js';
import { interfaceFiles } from './interface-files.js';
import { logRequests, type Logger } from './log.js';
import { Metrics } from './metrics.js';
import { HttpProblem, problemHandler } from './problem.js';

/** What the application is made of. */
export interface AppParts {
  readonly config: Config;
  readonly db: Database;
  readonly queue: BuildQueue;
  readonly events: EventHub;
  readonly analyses: Analyses;
  readonly log: Logger;
  /** By which cookies and the addresses of deliverables are signed. */
  readonly secret: string;
  /** The built interface; null serves the API alone. */
  readonly webFolder: string | null;
}

/** The HTTP application: the API under `/api`, deliverables outside of it, the interface everywhere else. */
export function createApp(parts: AppParts): Express {
  const { config, db, log, secret, webFolder } = parts;
  const app = express();
  app.disable('x-powered-by');
  app.set('trust proxy', config.proxies);
  const metrics = new Metrics(parts);
  app.use(logRequests(log));
  app.use(metrics.measure);
  app.use(
    helmet({
      contentSecurityPolicy: {
        useDefaults: false,
        directives: {
          defaultSrc: ["'self'"],
          scriptSrc: ["'self'"],
          // The component library writes its theme into style elements; scripts stay without exception.
          styleSrc: ["'self'", "'unsafe-inline'"],
          imgSrc: ["'self'", 'data:', 'blob:', config.deliverablesOrigin],
          // What a design would look like is shown from where deliverables are read.
          frameSrc: ["'self'", config.deliverablesOrigin],
          objectSrc: ["'none'"],
          baseUri: ["'self'"],
          frameAncestors: ["'self'"],
          formAction: ["'self'"],
        },
      },
      strictTransportSecurity: config.secureCookies ? { maxAge: 31_536_000 } : false,
      crossOriginEmbedderPolicy: false,
    }),
  );
  healthRoutes(app, db);
  metrics.routes(app, config.metricsToken);
  app.use(deliverablesPath, deliverableFiles(db, secret, config.origin));
  app.use('/api', apiRoutes(parts));
  if (webFolder !== null && existsSync(webFolder)) app.use(interfaceFiles(webFolder));
  app.use(problemHandler(log));
  return app;
}

function apiRoutes({ config, db, queue, events, analyses, secret }: AppParts): Router {
  const api = Router();
  api.use(...sessions(db, secret, config));
  api.use(checkToken);
  api.use((_request, response, next) => {
    response.set('Cache-Control', 'no-store');
    next();
  });
  signInRoutes(api, db);
  peopleRoutes(api, db, config.origin, config.idleHours);
  invitationRoutes(api, db, config.origin);
  auditRoutes(api, db);
  draftRoutes(api, db);
  libraryRoutes(api, db);
  firstHourRoutes(api, db);
  checkRoutes(api, db);
  binRoutes(api, db);
  variationRoutes(api, db);
  giveUpRoutes(api, db);
  publicationRoutes(api, db, analyses);
  compareRoutes(api, db, analyses);
  reachRoutes(api, db, analyses);
  imageRoutes(api, db);
  recordingRoutes(api, db);
  importRoutes(api, db);
  designRoutes(api, db);
  fontRoutes(api, db);
  const at = { origin: config.deliverablesOrigin, secret };
  // Where there is no other, by the address under which the application is open.
  const here = config.deliverablesOrigin === config.origin ? '' : config.deliverablesOrigin;
  previewRoutes(api, analyses, { origin: here, secret });
  buildRoutes(api, db, queue, at);
  originRoutes(api, analyses, { origin: here, secret });
  shippedRoutes(api, db, queue);
  storageRoutes(api, db);
  events.routes(api);
  api.use(() => {
    throw new HttpProblem(404, 'There is nothing at this address.');
  });
  return api;
}

/** Requests that change something carry the session's token in a header, which other sites cannot set. */
const checkToken: RequestHandler = (request, response, next) => {
  const { token } = request.session;
  if (!request.person || token === undefined) {
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
