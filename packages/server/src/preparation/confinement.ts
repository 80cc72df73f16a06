/** What the system offers to keep a process from what it does not need; each way is tried once, and left out where it is not there. */
import { spawnSync } from 'node:child_process';

const WAYS: readonly (readonly string[])[] = [
  // No network at all, not even loopback.
  ['unshare', '--net', '--map-root-user', '--'],
  // Dies with whoever started it, also where that is killed; never gains rights.
  ['setpriv', '--pdeathsig', 'KILL', '--no-new-privs', '--'],
];

const works = ([command, ...args]: readonly string[]): boolean =>
  process.platform === 'linux' && spawnSync(command!, [...args, 'true'], { stdio: 'ignore' }).status === 0;

let found: string[] | undefined;
/** What stands before a command line so that it runs confined. */
export const confinement = (): string[] => (found ??= WAYS.filter(works).flat());
