import { fork, type ChildProcess } from 'node:child_process';
import fs from 'node:fs';
import { fileURLToPath } from 'node:url';
import type { PreparationAnswer, PreparationTask } from './messages.ts';

export interface Limits {
  seconds: number;
  megabytes: number;
}

const ENTRY = fileURLToPath(new URL('./process.ts', import.meta.url));
const WATCH_MS = 500;
/** A process that grew beyond this is not used again: what it freed does not always return to the system. */
const REUSE_MB = 700;

/** A small nursery for what lives a moment: reading a file makes so much of it that a large one would outweigh the file. */
export const SMALL_NURSERY = '--max-semi-space-size=8';

/**
 * Runs tasks in a process of its own, under limits of time and of memory as the system sees it: WebAssembly and native
 * memory lie outside every limit that a worker thread can be given. Whatever happens in there, the server goes on.
 */
export class PreparationRunner {
  private child: ChildProcess | undefined;
  constructor(private readonly limits: Limits) {}

  /** A process that dies of itself may have died of an earlier file: the task gets a second chance in a fresh one. */
  async run(task: PreparationTask, progress: (answer: PreparationAnswer) => void): Promise<PreparationAnswer> {
    const fresh = this.child === undefined;
    const answer = await this.attempt(task, progress);
    if (answer !== 'died') return answer;
    const again = fresh ? answer : await this.attempt(task, progress);
    if (again !== 'died') return again;
    return {
      state: 'failed',
      note: 'Preparing this file ended unexpectedly: it may be damaged. The file is kept as it is.',
    };
  }

  private async attempt(
    task: PreparationTask,
    progress: (answer: PreparationAnswer) => void,
  ): Promise<PreparationAnswer | 'died'> {
    const child = (this.child ??= this.start());
    const { seconds, megabytes } = this.limits;
    let peak = 0;
    let cleanup = (): void => undefined;
    const answer = await new Promise<PreparationAnswer | 'died'>((resolve) => {
      const kill = (note: string): void => {
        resolve({ state: 'failed', note });
        child.kill('SIGKILL');
      };
      const timer = setTimeout(
        () =>
          kill(`Preparing this file took longer than ${seconds} seconds and was stopped. The file is kept as it is.`),
        seconds * 1000,
      );
      const watch = setInterval(() => {
        peak = Math.max(peak, residentMegabytes(child.pid));
        if (peak > megabytes)
          kill(
            `Preparing this file needs more than ${megabytes} MB of memory and was stopped. The file is kept as it is.`,
          );
      }, WATCH_MS);
      const onExit = (): void => resolve('died');
      child.once('exit', onExit);
      const onMessage = (message: PreparationAnswer): void => {
        if (message.state === 'preparing') progress(message);
        else resolve(message);
      };
      child.on('message', onMessage);
      child.send(task, (error) => error && onExit());
      cleanup = () => {
        clearTimeout(timer);
        clearInterval(watch);
        child.off('message', onMessage);
        child.off('exit', onExit);
      };
    });
    cleanup();
    if (answer === 'died' || child.exitCode !== null || child.killed || residentMegabytes(child.pid) > REUSE_MB)
      this.stop();
    return answer;
  }

  stop(): void {
    this.child?.kill('SIGKILL');
    this.child = undefined;
  }

  private start(): ChildProcess {
    const heap = `--max-old-space-size=${this.limits.megabytes}`;
    const execArgv = ['--import', import.meta.resolve('tsx'), heap, SMALL_NURSERY];
    const child = fork(ENTRY, { execArgv, stdio: ['ignore', 'ignore', 'ignore', 'ipc'], serialization: 'advanced' });
    child.once('exit', () => {
      if (this.child === child) this.child = undefined;
    });
    return child;
  }
}

/** Linux tells it in /proc; elsewhere only the time limit and the heap limit hold. */
function residentMegabytes(pid: number | undefined): number {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(fs.readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
  } catch {
    return 0;
  }
}
