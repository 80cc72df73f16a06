import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { expect, it } from 'vitest';
import { makeOwnFolder, removeAbandonedFolders } from './own-folder.ts';

const folderOf = (pid: number): string => fs.mkdtempSync(path.join(os.tmpdir(), `kindred-preparing-${pid}-`));

it('folders of killed processes go, those of running ones and our own stay', () => {
  const gone = spawnSync(process.execPath, ['-e', '']).pid;
  const [own, abandoned, reused, running] = [
    makeOwnFolder(),
    folderOf(gone),
    folderOf(process.pid),
    folderOf(process.ppid),
  ];
  fs.writeFileSync(path.join(abandoned, 'half.json'), '{');
  expect(removeAbandonedFolders()).toBeGreaterThanOrEqual(2);
  expect([own, abandoned, reused, running].map((folder) => fs.existsSync(folder))).toEqual([true, false, false, true]);
  for (const folder of [own, running]) fs.rmSync(folder, { recursive: true });
});
