import compression from 'compression';
import express, { type Express } from 'express';
import helmet from 'helmet';
import http from 'node:http';
import type { AddressInfo } from 'node:net';
import path from 'node:path';
import { openApiDocument } from '@kindred/contract/openapi';
import { capabilities } from './capabilities.ts';
import { tellBy } from './identity/notices.ts';
import { personsById } from './identity/persons.ts';
import { tokenEndpoint } from './identity/programs.ts';
import type { Config } from './platform/config.ts';
import { alone, MIGRATION_LOCK, migrateDatabase, openDatabase, type DatabaseHandle } from './platform/database.ts';
import { ProblemError } from './platform/errors.ts';
import { Gate } from './platform/gate.ts';
import { endSlow } from './platform/incoming.ts';
import { healthRoutes, sendStarting } from './platform/health.ts';
import { apiRouter, problemHandler } from './platform/http.ts';
import { Jobs, type JobKind } from './platform/jobs.ts';
import { Live } from './platform/live.ts';
import { createLog } from './platform/log.ts';
import { longJobKind } from './platform/long-jobs.ts';
import { Outbox } from './platform/mail.ts';
import { limitTries } from './platform/rate-limit.ts';
import type { Platform } from './platform/services.ts';
import { storeFor } from './platform/storage/choose.ts';
import { Subjects } from './platform/subjects.ts';
import { VERSION } from './platform/version.ts';
import { MIGRATIONS, PDFJS } from './places.ts';
import { endedCredentials, identifyPerson, memberships } from './register/callers.ts';
import { uploadHandler } from './register/uploads.ts';

export interface RunningServer {
  platform: Platform;
  port: number;
  close(): Promise<void>;
}

/** A connection on which nothing moves in either direction. */
const IDLE_MS = 120_000;

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
  app.set('trust proxy', config.trustedProxies);
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
  app.use('/api/sign-in', limitTries(platform.pool, { name: 'sign-in', tries: 60, seconds: 60 }));
  app.use(
    '/api',
    apiRouter(
      platform,
      capabilities.all.flatMap(({ routes }) => routes?.(platform) ?? []),
    ),
    (_request, _response, next) => {
      next(
        new ProblemError(404, 'not-found', 'Not found', 'The API has nothing at this address. See /api/openapi.json.'),
      );
    },
  );
  app.use('/oauth/token', limitTries(platform.pool, { name: 'oauth', tries: 60, seconds: 60 }));
  app.post('/oauth/token', ...tokenEndpoint(platform));
  app.use(
    apiRouter(
      platform,
      capabilities.all.flatMap(({ standards }) => standards?.(platform) ?? []),
    ),
  );
  app.use(['/bcf', '/foundation'], (_request, _response, next) => {
    next(
      new ProblemError(404, 'not-found', 'Not found', 'Neither the BCF API nor the Foundation API has this address.'),
    );
  });
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

/** A worker serves nobody; it only says how it is. */
function workerAnswers(platform: Platform): Express {
  const app = express();
  app.use('/api', apiRouter(platform, healthRoutes(platform)));
  app.use(problemHandler(platform));
  return app;
}

/** Brings the database up to date, one node at a time. */
async function prepareDatabase(handle: DatabaseHandle, jobs: Jobs, kinds: readonly JobKind[]): Promise<void> {
  await alone(handle, MIGRATION_LOCK, async () => {
    await migrateDatabase(handle, MIGRATIONS);
    await handle.pool.query(
      'create table if not exists socket_io_attachments (id bigserial unique, created_at timestamptz default now(), payload bytea)',
    );
    await jobs.start(kinds);
  });
}

export async function startServer(config: Config): Promise<RunningServer> {
  const log = createLog(config.logLevel);
  const handle = openDatabase(config.databaseUrl);
  const { pool } = handle;
  const gate = new Gate([(credentials, projectId) => identifyPerson(pool, credentials, projectId)], (ids, projectId) =>
    memberships(pool, ids, projectId),
  );
  const outbox = new Outbox(config.publicUrl);
  const platform: Platform = {
    ...handle,
    config,
    log,
    gate,
    outbox,
    capabilities,
    jobs: new Jobs(config.databaseUrl, pool, (error) => log.warn({ err: error }, 'jobs')),
    subjects: new Subjects(capabilities.all.flatMap(({ subjects = [] }) => subjects)),
    store: await storeFor(config),
    tell: tellBy(outbox),
    live: Live.silent,
  };
  const workers = capabilities.all.flatMap(({ work }) => work?.(platform) ?? []);
  const kinds = [
    ...capabilities.all.flatMap(({ jobs }) => jobs?.(platform) ?? []),
    ...workers.flatMap((worker) => worker.kinds),
    longJobKind(platform, async ({ ownerId, projectId }) => (await gate.members([ownerId], projectId))[0]) as JobKind,
  ];
  let answer: http.RequestListener = (_request, response) => sendStarting(response);
  // How fast somebody has to send is `endSlow`'s affair: a large file takes its time.
  const server = http.createServer(
    { requestTimeout: 0, headersTimeout: 15_000, maxHeaderSize: 32 * 1024 },
    (request, response) => {
      endSlow(request, config.patience);
      answer(request, response);
    },
  );
  server.setTimeout(IDLE_MS);
  await new Promise<void>((resolve, reject) => server.once('error', reject).listen(config.port, config.host, resolve));
  const { port } = server.address() as AddressInfo;
  await prepareDatabase(handle, platform.jobs, kinds);
  answer = config.role === 'worker' ? workerAnswers(platform) : application(platform);
  const live = new Live(server, {
    ...handle,
    nodeUrl: config.nodeUrl ?? `http://${config.host}:${port}`,
    publicUrl: config.publicUrl,
    onError: (error) => log.warn({ err: error }, 'live'),
    gate: {
      async personOf(cookie, token) {
        const caller = await gate.identify({ cookie, authorization: token && `Bearer ${token}` }, null);
        return caller && 'initials' in caller ? caller : undefined;
      },
      ended: (credentials) => endedCredentials(pool, credentials),
      async mayEnter(personId, projectId) {
        const [member] = await gate.members([personId], projectId);
        return member && { teamId: member.teamId, seesAllTeams: member.standing.administrator };
      },
      people: async (ids) => [...(await personsById(handle.db, ids)).values()],
    },
  });
  await live.open();
  platform.live = live;
  if (config.role !== 'web') await platform.jobs.work(kinds);
  return {
    platform,
    port,
    async close() {
      await live.close();
      server.closeAllConnections();
      await platform.jobs.stop(() => workers.forEach(({ interrupt }) => interrupt()));
      await pool.end();
    },
  };
}
