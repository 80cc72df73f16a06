/** `npm run e2e -- [words of a file or title]`: the browser tests alone, on an application of their own with the demo data. */
import { spawnSync } from 'node:child_process';
import { installPackages, root } from './prepare.mjs';

/** Runs `work` with the environment that the browser tests need. */
export async function withStage(work) {
  // Both need the installed packages.
  const { findChromium } = await import('./chromium.mjs');
  const { requirePdfTools } = await import('./pdf-tools.mjs');
  const { openStage } = await import('./stage.mjs');
  const CHROMIUM = findChromium();
  requirePdfTools();
  const stage = await openStage({ env: { KS_CHECK_ANSWERS: '1' } });
  try {
    return await work({ CHROMIUM, BASE_URL: stage.address });
  } finally {
    await stage.close();
  }
}

if (process.argv[1] === import.meta.filename) {
  installPackages();
  process.exitCode = await withStage(
    (env) =>
      spawnSync('npx', ['playwright', 'test', '--reporter=list', ...process.argv.slice(2)], {
        cwd: root,
        stdio: 'inherit',
        env: { ...process.env, ...env },
      }).status,
  );
}
