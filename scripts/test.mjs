/** `npm test`: everything, unattended. Closes with “N passed, N failed”. */
import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { withStage } from './end-to-end.mjs';
import { installPackages, root } from './prepare.mjs';

let passed = 0;
let failed = 0;
const results = path.join(root, 'test-results');

installPackages();
fs.mkdirSync(results, { recursive: true });
check('Lint', 'npm', ['run', '-s', 'lint']);
check('Types', 'npm', ['run', '-s', 'types']);
count(
  'Unit and server tests',
  ['vitest', 'run', '--reporter=default', '--reporter=json', `--outputFile.json=${results}/vitest.json`],
  'vitest.json',
  (report) => [
    report.numPassedTests,
    report.numFailedTests +
      report.testResults.filter(({ status, assertionResults }) => status === 'failed' && !assertionResults.length)
        .length,
  ],
);
await withStage((env) =>
  count(
    'End-to-end tests',
    ['playwright', 'test'],
    'playwright.json',
    ({ stats }) => [stats.expected, stats.unexpected + stats.flaky],
    { ...env, PLAYWRIGHT_JSON_OUTPUT_NAME: path.join(results, 'playwright.json') },
  ),
);

console.log(`\n${passed} passed, ${failed} failed`);
process.exit(failed ? 1 : 0);

function run(command, args, env = {}) {
  return spawnSync(command, args, { cwd: root, stdio: 'inherit', env: { ...process.env, ...env } }).status;
}

/** A step that passes or fails as one. */
function check(title, command, args) {
  console.log(`\n${title}`);
  if (run(command, args) === 0) passed++;
  else failed++;
}

/** A runner whose report tells how many tests passed and failed; one that ends badly without a failure counts as one. */
function count(title, args, file, read, env) {
  console.log(`\n${title}`);
  const report = path.join(results, file);
  fs.rmSync(report, { force: true });
  const status = run('npx', args, env);
  const [good, bad] = fs.existsSync(report) ? read(JSON.parse(fs.readFileSync(report, 'utf8'))) : [0, 0];
  passed += good;
  failed += bad || (status === 0 && good > 0 ? 0 : 1);
}
