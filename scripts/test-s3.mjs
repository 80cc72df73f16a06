/** `npm run test:s3`: the storage tests, and a whole server, on a real object store. */
import { spawnSync } from 'node:child_process';
import { installPackages, root } from './prepare.mjs';

installPackages();
const { startObjectStore } = await import('./object-store.mjs');
const store = await startObjectStore();
const { status } = spawnSync(
  'npx',
  ['vitest', 'run', '--project', 'server', 'tests/server/storage.test.ts', ...process.argv.slice(2)],
  { cwd: root, stdio: 'inherit', env: { ...process.env, KS_TEST_S3: JSON.stringify(store.settings) } },
);
await store.close();
process.exit(status ?? 1);
