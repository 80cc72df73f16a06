/** `npm start`: everything from a fresh clone to a served application. Options: --port N, --empty, --reset. */
import fs from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { buildWeb, installPackages, root, webFolder } from './prepare.mjs';

const HELP = `npm start [-- OPTIONS]

  --port N   the port to serve at, 8420 when absent
  --empty    without the demo
  --reset    begin anew: removes the database and files of this checkout
  --help     this text

DATABASE_URL names a PostgreSQL database of your own. See docs/operators.md for all settings.`;

const options = readOptions();
if (options.help) {
  console.log(HELP);
  process.exit(0);
}
const port = Number(options.port);
if (!Number.isInteger(port) || port < 0 || port > 65535)
  fail(`--port must be a number from 0 to 65535, not “${options.port}”.`);

const home = path.join(root, '.data');
const demoMarker = path.join(home, 'demo');

try {
  await start();
} catch (error) {
  fail(error.message);
}

function readOptions() {
  try {
    return parseArgs({
      options: {
        port: { type: 'string', default: '8420' },
        empty: { type: 'boolean' },
        reset: { type: 'boolean' },
        help: { type: 'boolean', short: 'h' },
      },
    }).values;
  } catch (error) {
    fail(`${error.message.split('. ')[0]}.\n\n${HELP}`);
  }
}

async function start() {
  installPackages();
  const { portIsFree, startPostgres } = await import('./postgres.mjs');
  const { startServer, startWithDemo } = await import('./server.mjs');
  const own = process.env.DATABASE_URL;
  if (!(await portIsFree(port)))
    fail(`Port ${port} is used by another program. Choose one with “npm start -- --port N”.`);
  if (options.reset) await reset(startPostgres, own);
  fs.mkdirSync(home, { recursive: true });
  console.log('Starting PostgreSQL …');
  const postgres = own ? { url: own, stop: () => undefined } : await startPostgres(path.join(home, 'postgres'));
  buildWeb();

  const demo = fs.existsSync(demoMarker) ? fs.readFileSync(demoMarker, 'utf8') : '';
  if (demo === 'loading') await forgetDemo(postgres.url);
  const env = {
    DATABASE_URL: postgres.url,
    PORT: String(port),
    KS_DATA: path.join(home, 'files'),
    KS_WEB: webFolder,
    KS_LOG: process.env.KS_LOG ?? 'warn',
  };
  console.log('Starting the server …');
  let running;
  const stop = async () => {
    await running?.stop();
    postgres.stop();
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());

  if (demo !== 'loaded' && !options.empty) {
    const { loaded, server } = await startWithDemo(env, {
      started: (server) => (running = server),
      loading: () => fs.writeFileSync(demoMarker, 'loading'),
    });
    if (loaded) fs.writeFileSync(demoMarker, 'loaded');
    running = server;
  } else running = await startServer({ ...env, ...(demo === 'loaded' && { KS_DEMO: '1' }) });
  console.log(`\nKindred Sheet is ready: ${running.address}\nCtrl+C stops it.`);
  const code = await running.ended;
  postgres.stop();
  process.exit(code ?? 1);
}

/** A demo that was interrupted while it was loaded is loaded anew: nobody can have worked in it. */
async function forgetDemo(databaseUrl) {
  console.log('Loading the demo was interrupted: it begins anew …');
  const { default: pg } = await import('pg');
  const client = new pg.Client(databaseUrl);
  await client.connect();
  await client.query(
    'drop schema if exists pgboss cascade; drop schema if exists drizzle cascade; drop schema public cascade; create schema public',
  );
  await client.end();
  fs.rmSync(path.join(home, 'files'), { recursive: true, force: true });
  fs.rmSync(demoMarker);
}

async function reset(startPostgres, own) {
  if (own) fail('--reset clears only a database of our own. Empty the one in DATABASE_URL yourself.');
  if (fs.existsSync(path.join(home, 'postgres'))) (await startPostgres(path.join(home, 'postgres'))).remove();
  fs.rmSync(home, { recursive: true, force: true });
}

function fail(message) {
  console.error(message);
  process.exit(1);
}
