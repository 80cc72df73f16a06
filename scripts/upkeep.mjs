/** `npm run backup -- FOLDER`, `npm run restore -- FOLDER`, `npm run check`: of the installation that the settings name, else of this checkout's. */
import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { installPackages, root } from './prepare.mjs';

installPackages();
const { buildProgram } = await import('./build.mjs');
const [command, folder] = process.argv.slice(2);
const main = await buildProgram('server');
const home = path.join(root, '.data');
let postgres;
if (!process.env.DATABASE_URL) {
  const { startPostgres } = await import('./postgres.mjs');
  fs.mkdirSync(home, { recursive: true });
  postgres = await startPostgres(path.join(home, 'postgres'));
}
const { status } = spawnSync(
  process.execPath,
  [
    path.join(path.dirname(main), 'upkeep.mjs'),
    command,
    ...(folder ? [path.resolve(process.env.INIT_CWD ?? '.', folder)] : []),
  ],
  {
    stdio: 'inherit',
    env: {
      ...process.env,
      ...(postgres && { DATABASE_URL: postgres.url }),
      KS_DATA: process.env.KS_DATA ?? path.join(home, 'files'),
    },
  },
);
if (postgres && !postgres.found) postgres.stop();
process.exitCode = status ?? 1;
