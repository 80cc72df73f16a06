/** A whole installation for tests, pictures and measurements: its own database and files, gone afterwards. */
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { buildWeb, webFolder } from './prepare.mjs';
import { startPostgres } from './postgres.mjs';
import { startServer, startWithDemo } from './server.mjs';

export async function openStage({ demo = true, env = {} } = {}) {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-stage-'));
  fs.chmodSync(folder, 0o755);
  const postgres = await startPostgres(path.join(folder, 'postgres'), { settings: ['fsync=off'] });
  try {
    buildWeb();
    const settings = {
      DATABASE_URL: postgres.url,
      PORT: '0',
      KS_DATA: path.join(folder, 'files'),
      KS_WEB: webFolder,
      KS_LOG: 'warn',
      ...env,
    };
    const server = demo ? (await startWithDemo(settings)).server : await startServer({ ...settings, KS_DEMO: '1' });
    return {
      address: server.address,
      folder,
      databaseUrl: postgres.url,
      server,
      async close() {
        await server.stop();
        postgres.remove();
        fs.rmSync(folder, { recursive: true, force: true });
      },
    };
  } catch (error) {
    postgres.remove();
    throw error;
  }
}
