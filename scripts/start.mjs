/** `npm start`: everything from a fresh clone to a served application. Options: --port N, --empty, --reset. */
import { randomBytes } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import { buildWeb, installPackages, root, webFolder } from './prepare.mjs';

const { values: options } = parseArgs({
  options: { port: { type: 'string', default: '8420' }, empty: { type: 'boolean' }, reset: { type: 'boolean' } },
});
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

async function start() {
  installPackages();
  const { portIsFree, startPostgres } = await import('./postgres.mjs');
  const { loadDemo, startServer } = await import('./server.mjs');
  const own = process.env.DATABASE_URL;
  if (!(await portIsFree(port)))
    fail(`Port ${port} is used by another program. Choose one with “npm start -- --port N”.`);
  if (options.reset) await reset(startPostgres, own);
  fs.mkdirSync(home, { recursive: true });
  const postgres = own ? { url: own, stop: () => undefined } : await startPostgres(path.join(home, 'postgres'));
  buildWeb();

  const clockSecret = randomBytes(24).toString('hex');
  const env = {
    DATABASE_URL: postgres.url,
    PORT: String(port),
    KS_DATA: path.join(home, 'files'),
    KS_WEB: webFolder,
    KS_LOG: process.env.KS_LOG ?? 'warn',
  };
  const unfinishedDemo = fs.existsSync(demoMarker) && fs.readFileSync(demoMarker, 'utf8') === 'loading';
  if (unfinishedDemo) fail('The demo was interrupted while it was loaded. Start again with “npm start -- --reset”.');
  const hasDemo = fs.existsSync(demoMarker);
  let server = await startServer({ ...env, ...(hasDemo ? { KS_DEMO: '1' } : { KS_DEMO_CLOCK: clockSecret }) });
  const stop = async () => {
    await server.stop();
    postgres.stop();
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());

  const { firstPerson } = await (await fetch(`${server.address}/api/sign-in`)).json();
  if (firstPerson && !options.empty) {
    fs.writeFileSync(demoMarker, 'loading');
    await loadDemo(server.address, clockSecret);
    fs.writeFileSync(demoMarker, 'loaded');
    await server.stop();
    server = await startServer({ ...env, KS_DEMO: '1' });
  }
  console.log(`\nKindred Sheet is ready: ${server.address}\nCtrl+C stops it.`);
  const code = await server.ended;
  postgres.stop();
  process.exit(code ?? 1);
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
