/** Folders that preparation works in, named by the process that made them: what a killed one left is found by that. */
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';

const NAME = /^kindred-preparing-(\d+)-/;
const made = new Set<string>();

export function makeOwnFolder(): string {
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), `kindred-preparing-${process.pid}-`));
  made.add(folder);
  return folder;
}

/** Removes the folders of processes that are gone; answers how many. */
export function removeAbandonedFolders(): number {
  const abandoned = fs
    .readdirSync(os.tmpdir())
    .filter((name) => {
      const pid = Number(NAME.exec(name)?.[1]);
      // After a restart of its container a process has the number of the one before.
      return pid === process.pid ? !made.has(path.join(os.tmpdir(), name)) : pid > 0 && !isRunning(pid);
    })
    .map((name) => path.join(os.tmpdir(), name));
  for (const folder of abandoned) fs.rmSync(folder, { recursive: true, force: true });
  return abandoned.length;
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    // Of another user: it runs.
    return (error as { code?: string }).code === 'EPERM';
  }
}
