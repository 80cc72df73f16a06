import compression from 'compression';
import express, { type Express } from 'express';
import { rateLimit } from 'express-rate-limit';
import helmet from 'helmet';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import pino from 'pino';
import { openApiDocument } from '@kindred/contract/openapi';
import { drawingRoutes } from './drawing/routes.ts';
import { identityRoutes } from './identity/routes.ts';
import { insightRoutes } from './insight/routes.ts';
import { issueRoutes } from './issues/routes.ts';
import { markupRoutes } from './markup/routes.ts';
import { namingRoutes } from './naming/routes.ts';
import { peopleRoutes } from './people/routes.ts';
import { liveEntry } from './people/service.ts';
import { identify } from './platform/actor.ts';
import type { Config } from './platform/config.ts';
import { migrateDatabase, openDatabase } from './platform/database.ts';
import { ProblemError } from './platform/errors.ts';
import { healthRoutes } from './platform/health.ts';
import { apiRouter, problemHandler, type Route } from './platform/http.ts';
import { Jobs } from './platform/jobs.ts';
import { Live } from './platform/live.ts';
import { Outbox } from './platform/mail.ts';
import type { Platform } from './platform/services.ts';
import { startUpkeep } from './platform/upkeep.ts';
import { FolderStore } from './platform/storage.ts';
import { VERSION } from './platform/version.ts';
import { portfolioRoutes } from './portfolio/routes.ts';
import { startPreparation } from './preparation/jobs.ts';
import { PDFJS } from './preparation/pdfjs.ts';
import { CLEAN_UP, DAILY_MAIL, PREPARE, SHARE_COPY } from './preparation/queue.ts';
import { registerRoutes } from './register/routes.ts';
import { uploadHandler } from './register/uploads.ts';
import { reviewRoutes } from './review/routes.ts';
import { sceneRoutes } from './scene/routes.ts';
import { transmittalRoutes } from './transmittal/routes.ts';

export interface RunningServer {
  platform: Platform;
  port: number;
  close(): Promise<void>;
}

export function routesOf(platform: Platform): Route[] {
  return [
    // Addresses are tried in this order: what is asked for most comes first.
    registerRoutes,
    healthRoutes,
    identityRoutes,
    portfolioRoutes,
    peopleRoutes,
    namingRoutes,
    drawingRoutes,
    markupRoutes,
    sceneRoutes,
    issueRoutes,
    reviewRoutes,
    transmittalRoutes,
    insightRoutes,
  ].flatMap((routes) => routes(platform));
}

const POLICY = {
  defaultSrc: ["'self'"],
  scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
  styleSrc: ["'self'", "'unsafe-inline'"],
  imgSrc: ["'self'", 'data:', 'blob:'],
  fontSrc: ["'self'", 'data:'],
  connectSrc: ["'self'", 'ws:', 'wss:'],
  workerSrc: ["'self'", 'blob:'],
  objectSrc: ["'none'"],
  frameAncestors: ["'none'"],
  upgradeInsecureRequests: null,
};

function application(platform: Platform): Express {
  const { config } = platform;
  const app = express();
  app.disable('x-powered-by');
  app.set('query parser', 'simple');
  app.use(
    helmet({
      contentSecurityPolicy: { useDefaults: false, directives: POLICY },
      strictTransportSecurity: config.publicUrl.startsWith('https:'),
    }),
  );
  app.use('/api/uploads', uploadHandler(platform));
  app.use(
    compression({
      threshold: 2048,
      filter: (request, response) =>
        !request.path.endsWith('/zip') &&
        (compression.filter(request, response) || response.getHeader('Content-Type') === 'application/octet-stream'),
    }),
  );
  app.get('/api/openapi.json', (_request, response) => void response.json(openApiDocument(VERSION)));
  app.use(
    '/api/sign-in',
    rateLimit({
      windowMs: 60_000,
      limit: 60,
      legacyHeaders: false,
      standardHeaders: true,
      handler: (_request, _response, next) =>
        next(new ProblemError(429, 'too-many-tries', 'Too many tries', 'Wait a minute, then sign in again.')),
    }),
  );
  app.use(
    '/api',
    express.json({ limit: '10mb' }),
    apiRouter(platform, routesOf(platform)),
    (_request, _response, next) => {
      next(
        new ProblemError(404, 'not-found', 'Not found', 'The API has nothing at this address. See /api/openapi.json.'),
      );
    },
  );
  for (const part of ['cmaps', 'standard_fonts', 'wasm'])
    app.use(`/pdfjs/${part}`, express.static(path.join(PDFJS, part), { maxAge: '1d' }));
  if (config.webFolder) serveWeb(app, config.webFolder);
  app.use(problemHandler(platform));
  return app;
}

/** Hashed assets for good, everything else through the one page. */
function serveWeb(app: Express, folder: string): void {
  app.use(
    '/assets',
    express.static(path.join(folder, 'assets'), { immutable: true, maxAge: '1y', fallthrough: false }),
  );
  app.use(express.static(folder, { index: false }));
  app.get(/^\/(?!api\/)/, (_request, response) => response.sendFile(path.join(folder, 'index.html')));
}

export async function startServer(config: Config): Promise<RunningServer> {
  const log = pino({ level: config.logLevel });
  const handle = openDatabase(config.databaseUrl);
  await migrateDatabase(handle);
  const jobs = new Jobs(config.databaseUrl, (error) => log.warn({ err: error }, 'jobs'));
  await jobs.start([PREPARE, SHARE_COPY, DAILY_MAIL, CLEAN_UP]);
  const platform: Platform = {
    ...handle,
    config,
    log,
    jobs,
    store: new FolderStore(config.dataFolder),
    outbox: new Outbox(config.publicUrl),
    live: Live.silent,
  };
  const server = http.createServer({ requestTimeout: 0 }, config.role === 'worker' ? undefined : application(platform));
  platform.live = new Live(
    server,
    handle.pool,
    {
      async personOf(cookie, token) {
        const actor = await identify(handle.pool, cookie, token && `Bearer ${token}`, null);
        return actor && { id: actor.id, name: actor.name, initials: actor.initials, colour: actor.colour };
      },
      mayEnter: (personId, projectId) => liveEntry(platform, personId, projectId),
    },
    (error) => log.warn({ err: error }, 'live'),
  );
  await handle.pool.query(
    'create table if not exists socket_io_attachments (id bigserial unique, created_at timestamptz default now(), payload bytea)',
  );
  if (config.role !== 'web') await startUpkeep(platform);
  const stopPreparation = config.role === 'web' ? () => undefined : await startPreparation(platform);
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(config.port, config.host, resolve));
  return {
    platform,
    port: (server.address() as AddressInfo).port,
    async close() {
      await platform.live.close();
      server.closeAllConnections();
      stopPreparation();
      await jobs.stop();
      await handle.pool.end();
    },
  };
}
