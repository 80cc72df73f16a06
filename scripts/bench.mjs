/** `npm run bench`: ratios, each against a baseline that is measured in the same run. */
import { spawnSync } from 'node:child_process';
import path from 'node:path';
import { installPackages, root } from './prepare.mjs';

installPackages();
const parts = process.argv.slice(2);
const all = [
  'preparation',
  'browser',
  'campus',
  'scene',
  'register',
  'intake',
  'drawing',
  'compare',
  'model-changes',
  'clash',
  'sheets',
  'naming',
  'exchange',
  'issues',
  'server',
  'attack',
  'crowd',
];
for (const part of parts.length ? parts : all) {
  const entry = path.join(root, 'scripts/bench', `${part}.ts`);
  const { status } = spawnSync(
    process.execPath,
    ['--import', 'tsx', '--disable-warning=ExperimentalWarning', '--expose-gc', entry],
    { cwd: root, stdio: 'inherit' },
  );
  if (status !== 0) process.exitCode = 1;
}
