import { extname } from 'node:path';
import compression from 'compression';
import expressStaticGzip from 'express-static-gzip';
import express, { type ErrorRequestHandler, type Express, type RequestHandler } from 'express';
import helmet from 'helmet';
import type { Pool } from 'mysql2/promise';
import type { Logger } from 'pino';
import { pinoHttp } from 'pino-http';
import { isAway, isFull } from '../db.js';
import type { Changes } from '../changes.js';
import type { Instruments } from '../instruments/bridge.js';
import type { Live } from '../live.js';
import { Refused } from '../problems.js';
import { Computing } from '../computing/computing.js';
import { computeRoutes } from './compute.js';
import { onlyOurs } from './origin.js';
import { breakRoutes } from './breaks.js';
import { dayRoutes } from './day.js';
import { decisionRoutes } from './decisions.js';
import { instrumentRoutes } from './instruments.js';
import { kitRoutes } from './kit.js';
import { liveRoutes } from './live.js';
import { mixRoutes } from './mixes.js';
import { ownCopyRoutes } from './own-copies.js';
import { pourRoutes } from './pours.js';
import { peopleRoutes } from './people.js';
import { projectRoutes } from './projects.js';
import { fileRoutes } from './files.js';
import { importRoutes } from './imports.js';
import { ledgerRoutes } from './ledger.js';
import { openapiRoutes } from './openapi.js';
import { reportRoutes } from './reports.js';
import { recordRoutes } from './records.js';
import { itemRoutes } from './items.js';
import { sampleRoutes } from './samples.js';

export interface Parts {
  readonly pool: Pool;
  readonly live: Live;
  readonly changes: Changes;
  readonly log: Logger;
  /** Where big computations run; its own where none is given. */
  readonly computing?: Computing;
  /** Names by which this server may be asked, beside this machine's own. */
  readonly hosts?: readonly string[];
  /** What is wired to this server. */
  readonly instruments?: Instruments;
  /** Folder whose disk the database fills; health watches it. */
  readonly data?: string | undefined;
  /** Folder of the built page. */
  readonly web?: string | undefined;
}

/** Builds the application; starting it is somebody else's job, so that tests can inject requests. */
export function build(parts: Parts): Express {
  const app = express();
  app.disable('x-powered-by');
  app.use(pinoHttp({ logger: parts.log, autoLogging: { ignore: (req) => req.url === '/api/v1/health' } }));
  app.use(
    helmet({
      contentSecurityPolicy: {
        directives: {
          'default-src': ["'self'"],
          'style-src': ["'self'", "'unsafe-inline'"],
          'img-src': ["'self'", 'data:'],
          'upgrade-insecure-requests': null,
        },
      },
      strictTransportSecurity: false,
      // For browsers that nobody has any more: each would go with every file.
      xDownloadOptions: false,
      xPermittedCrossDomainPolicies: false,
      xDnsPrefetchControl: false,
      xXssProtection: false,
    }),
  );
  app.use(onlyOurs(parts.hosts ?? []));
  app.use(
    compression({ filter: (req, res) => !String(res.getHeader('content-type')).includes('event-stream') && compression.filter(req, res) }),
  );
  app.use('/api', noStore);
  app.use('/api/v1/compute', express.json({ limit: COMPUTE_LIMIT }));
  app.use('/api/v1/imports', express.json({ limit: IMPORT_LIMIT }));
  app.use('/api', express.json({ limit: '256kb' }));
  app.use(
    '/api/v1',
    peopleRoutes(parts),
    projectRoutes(parts),
    mixRoutes(parts),
    ownCopyRoutes(parts),
    kitRoutes(parts),
    pourRoutes(parts),
    sampleRoutes(parts),
    importRoutes(parts),
    recordRoutes(parts),
    ledgerRoutes(parts),
    reportRoutes(parts),
    openapiRoutes(),
    breakRoutes(parts),
    dayRoutes(parts),
    decisionRoutes(parts),
    instrumentRoutes(parts),
    itemRoutes(parts),
    fileRoutes(parts),
    computeRoutes(parts.computing ?? new Computing()),
    liveRoutes(parts),
  );
  app.use('/api', (req) => {
    throw new Refused('not-found', `There is nothing at ${req.method} ${req.originalUrl}.`);
  });
  if (parts.web !== undefined) servePage(app, parts.web);
  app.use(asProblem(parts.log));
  return app;
}

const noStore: RequestHandler = (_req, res, next) => {
  res.setHeader('cache-control', 'no-store');
  next();
};

/** A long series is more than a record of one test. */
const COMPUTE_LIMIT = '2mb';
/** And a table that a lab begins with. */
const IMPORT_LIMIT = '3mb';

/** Hashed files for ever, the page itself never from a cache. A file that is not there is not the page. */
function servePage(app: Express, folder: string): void {
  app.use(
    // Built with its smallest form beside each file.
    expressStaticGzip(folder, {
      index: false,
      enableBrotli: true,
      orderPreference: ['br'],
      serveStatic: {
        // The project may lie below a folder that begins with a dot.
        dotfiles: 'allow',
        setHeaders: (res, path) =>
          void res.setHeader('cache-control', /-[A-Z0-9]{8}\./.test(path) ? 'public, max-age=31536000, immutable' : 'no-cache'),
      },
    }),
  );
  app.get('/{*path}', (req, res) => {
    if (extname(req.path) !== '') throw new Refused('not-found', `There is no file ${req.path}.`);
    res.setHeader('cache-control', 'no-cache');
    res.sendFile('index.html', { root: folder, dotfiles: 'allow' });
  });
  app.use((req) => {
    throw new Refused('not-allowed', `${req.method} is nothing that a page takes.`);
  });
}

function refusedFrom(error: unknown): Refused {
  if (error instanceof Refused) return error;
  if (isFull(error))
    return new Refused('disk-full', 'The disk under the database is full. Nothing was kept; free some space and try again.');
  if (isAway(error)) return new Refused('database-away', 'The database does not answer. Nothing was kept; try again.');
  const { status, type, message } = error as { status?: number; type?: string; message?: string };
  if (type === 'entity.too.large')
    return new Refused('too-large', `The request is larger than ${Math.round(((error as { limit?: number }).limit ?? 0) / 1024)} kB.`);
  if (status === 404) return new Refused('not-found', 'There is no such file.');
  if (status !== undefined && status >= 400 && status < 500) return new Refused('bad-request', message ?? 'The request cannot be read.');
  return new Refused('internal', 'Something went wrong here. Nothing was kept.');
}

/** What went wrong, without the statement and the values in it: a log is read by others than the record. */
function withoutValues(error: unknown): unknown {
  if (!(error instanceof Error)) return error;
  const { name, stack } = error;
  const { code, errno } = error as { code?: string; errno?: number };
  const message = code === undefined ? error.message : code;
  return { type: name, message, code, errno, stack: stack?.split('\n').slice(1).join('\n') };
}

/** Every error leaves as an RFC 9457 problem. */
const asProblem =
  (log: Logger): ErrorRequestHandler =>
  (error, req, res, next) => {
    const refused = refusedFrom(error);
    if (refused.status >= 500) log.error({ err: withoutValues(error), url: req.originalUrl }, refused.message);
    if (res.headersSent) {
      next(error);
      return;
    }
    res
      .status(refused.status)
      .type('application/problem+json')
      .send({
        type: `about:blank#${refused.code}`,
        title: refused.title,
        status: refused.status,
        detail: refused.message,
        code: refused.code,
        ...(refused.errors.length > 0 ? { errors: refused.errors } : {}),
      });
  };
