/** Other people's PDF programs: what we write is held against them. */
import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import { installDebian } from './postgres.mjs';

const there = (command) => spawnSync(command, ['--version'], { stdio: 'ignore' }).error === undefined;

/** poppler and qpdf; installs Debian's where it may. */
export function requirePdfTools() {
  const missing = [
    ['pdftoppm', 'poppler-utils'],
    ['qpdf', 'qpdf'],
  ].filter(([command]) => !there(command));
  if (!missing.length) return;
  const packages = missing.map(([, name]) => name);
  if (process.getuid?.() !== 0 || !fs.existsSync('/usr/bin/apt-get'))
    throw new Error(
      `Missing for the tests: ${packages.join(', ')}. Install with “sudo apt-get install ${packages.join(' ')}”.`,
    );
  installDebian(packages);
}
