/** What must be there before anything runs: node packages, the built web application. */
import { execFileSync, spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';

export const root = path.resolve(import.meta.dirname, '..');
export const webFolder = path.join(root, 'packages/web/dist');

/** Installs the packages of the lock file when they are missing or another set. */
export function installPackages() {
  const wanted = createHash('sha256')
    .update(fs.readFileSync(path.join(root, 'package-lock.json')))
    .digest('hex');
  const marker = path.join(root, 'node_modules/.kindred-lock');
  if (fs.existsSync(marker) && fs.readFileSync(marker, 'utf8') === wanted) return;
  console.log('Installing node packages …');
  const result = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel=error'], {
    cwd: root,
    stdio: 'inherit',
  });
  if (result.status !== 0) throw new Error('npm ci failed: see above.');
  fs.writeFileSync(marker, wanted);
}

/** Builds the web application when a source is newer than the last build. */
export function buildWeb() {
  const marker = path.join(webFolder, '.sources');
  const sources = [
    'packages/web',
    'packages/core/src',
    'packages/contract/src',
    'packages/words/src',
    'packages/client/src',
    'package-lock.json',
  ];
  if (isCurrent(marker, sources)) return;
  console.log('Building the web application …');
  execFileSync('npx', ['vite', 'build', '--logLevel', 'warn'], {
    cwd: path.join(root, 'packages/web'),
    stdio: 'inherit',
  });
  markCurrent(marker, sources);
}

/** Whether these sources are as they were when the marker was written; a build that was interrupted has none. */
export const isCurrent = (marker, sources) =>
  fs.existsSync(marker) && fs.readFileSync(marker, 'utf8') === fingerprint(sources);
export const markCurrent = (marker, sources) => fs.writeFileSync(marker, fingerprint(sources));

function fingerprint(places) {
  const hash = createHash('sha256');
  const visit = (place) => {
    const stat = fs.statSync(place);
    if (!stat.isDirectory()) hash.update(`${place}:${stat.size}:${stat.mtimeMs}\n`);
    else
      for (const name of fs.readdirSync(place).sort())
        if (!['dist', 'node_modules'].includes(name)) visit(path.join(place, name));
  };
  for (const place of places) visit(path.join(root, place));
  return hash.digest('hex');
}
