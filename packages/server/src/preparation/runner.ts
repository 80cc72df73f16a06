import { storable } from '@kindred/core/platform/storable';
import { unreadableFile } from '@kindred/words/files';
import { fork, type ChildProcess } from 'node:child_process';
import fs from 'node:fs';
import path from 'node:path';
import { PREPARATION_PROCESS } from '../places.ts';
import { Interrupted } from '../platform/jobs.ts';
import { confinement } from './confinement.ts';
import { makeOwnFolder } from './own-folder.ts';
import type { KeptFile, ModelFiles, Outcome, PreparationAnswer, PreparationTask } from './messages.ts';

export interface Limits {
  seconds: number;
  megabytes: number;
}

const WATCH_MS = 500;
/** A process that grew beyond this is not used again: what it freed does not always return to the system. */
const REUSE_MB = 700;

/** A small nursery for what lives a moment: reading a file makes so much of it that a large one would outweigh the file. */
export const SMALL_NURSERY = '--max-semi-space-size=8';

/** A limit was reached: as it stands, or after what earlier files left behind. */
interface Exceeded {
  state: 'exceeded';
  note: string;
}
type Attempt = Exclude<PreparationAnswer, { state: 'preparing' }> | Exceeded | { state: 'died' };

/**
 * Runs tasks in a process of its own, under limits of time and of memory as the system sees it: WebAssembly and native
 * memory lie outside every limit that a worker thread can be given. Whatever happens in there, the server goes on.
 * A process in which anything happened that was not expected is never used again.
 */
export class PreparationRunner {
  private child: ChildProcess | undefined;
  private interrupted = false;
  /** All that its processes may write to, and, besides their code, read. */
  private readonly folder = makeOwnFolder();
  constructor(private readonly limits: Limits) {}

  /** An empty folder for what is made of one file; it is gone afterwards. */
  async withOutput<T>(use: (folder: string) => Promise<T>): Promise<T> {
    const output = await fs.promises.mkdtemp(path.join(this.folder, 'file-'));
    try {
      return await use(output);
    } finally {
      await fs.promises.rm(output, { recursive: true, force: true });
    }
  }

  /**
   * Through links beside its output the process reads these files of all that are kept.
   * What went wrong may be the fault of an earlier file, or of the machine: the task gets one more try in a fresh process.
   */
  async run(asked: PreparationTask, progress: (answer: PreparationAnswer) => void): Promise<Outcome> {
    const task = await linked(asked);
    const fresh = this.child === undefined;
    const first = await this.attempt(task, progress);
    const again = first.state === 'exceeded' ? !fresh : first.state === 'died' || first.state === 'unsound';
    const last = again ? await this.attempt(task, progress) : first;
    if (last.state === 'ready' || last.state === 'failed') return storable(last);
    return { state: 'failed', note: last.state === 'exceeded' ? last.note : unreadableFile(task.kind) };
  }

  private async attempt(task: PreparationTask, progress: (answer: PreparationAnswer) => void): Promise<Attempt> {
    const child = (this.child ??= this.start());
    const { seconds, megabytes } = this.limits;
    const stops: (() => void)[] = [];
    const answer = await new Promise<Attempt>((resolve) => {
      const exceed = (what: string): void =>
        resolve({ state: 'exceeded', note: `Preparing this file ${what} and was stopped. The file is kept as it is.` });
      const timer = setTimeout(() => exceed(`took longer than ${seconds} seconds`), seconds * 1000);
      const watch = setInterval(() => {
        if (residentMegabytes(child.pid) > megabytes) exceed(`needs more than ${megabytes} MB of memory`);
      }, WATCH_MS);
      const onExit = (): void => resolve({ state: 'died' });
      const onMessage = (message: PreparationAnswer): void =>
        message.state === 'preparing' ? progress(message) : resolve(message);
      child.once('exit', onExit);
      child.on('message', onMessage);
      child.send(task, (error) => error && onExit());
      stops.push(
        () => clearTimeout(timer),
        () => clearInterval(watch),
        () => child.off('message', onMessage),
        () => child.off('exit', onExit),
      );
    });
    for (const stop of stops) stop();
    const sound = answer.state === 'ready' || answer.state === 'failed';
    if (!sound || child.exitCode !== null || residentMegabytes(child.pid) > REUSE_MB) this.stop();
    if (this.interrupted) throw new Interrupted();
    return answer;
  }

  stop(): void {
    this.child?.kill('SIGKILL');
    this.child = undefined;
  }

  /** Ends what runs, which has neither been done nor failed then. */
  interrupt(): void {
    this.interrupted = true;
    this.end();
  }

  /** Nothing is asked of it any more. */
  end(): void {
    this.stop();
    fs.rmSync(this.folder, { recursive: true, force: true });
  }

  /** Without our environment, which holds secrets; in a folder of its own, which goes with it. */
  private start(): ChildProcess {
    const home = fs.mkdtempSync(path.join(this.folder, 'home-'));
    const own = PREPARATION_PROCESS.confined
      ? [`--allow-fs-read=${this.folder}/*`, `--allow-fs-write=${this.folder}/*`]
      : [];
    const [command = process.execPath, ...confined] = [...confinement(), process.execPath];
    const heap = `--max-old-space-size=${this.limits.megabytes}`;
    const child = fork(PREPARATION_PROCESS.file, {
      execPath: command,
      execArgv: [...confined, ...PREPARATION_PROCESS.execArgv, ...own, heap, SMALL_NURSERY],
      cwd: home,
      env: { TMPDIR: home, HOME: home },
      stdio: ['ignore', 'ignore', 'ignore', 'ipc'],
      serialization: 'advanced',
    });
    child.once('exit', () => {
      fs.rmSync(home, { recursive: true, force: true });
      if (this.child === child) this.child = undefined;
    });
    // Where it cannot be started at all, `send` says so.
    child.once('error', () => child.kill('SIGKILL'));
    return child;
  }
}

/** The task with links in its output in place of its files. */
async function linked(asked: PreparationTask): Promise<PreparationTask> {
  const { output, path: file, beside, question } = asked;
  const link = async (target: string, name: string): Promise<string> => {
    const at = path.join(output, name);
    await fs.promises.symlink(path.resolve(target), at);
    return at;
  };
  const task = { ...asked, path: await link(file, 'input') };
  if (beside) task.beside = await link(beside, 'beside');
  if (question) {
    let count = 0;
    const linkKept = async (kept: KeptFile): Promise<KeptFile> => {
      return { ...kept, path: await link(kept.path, `kept-${count++}`) };
    };
    const models: ModelFiles[] = [];
    for (const { scenes, elements, properties } of question.models) {
      const parts: KeptFile[] = [];
      for (const scene of scenes) parts.push(await linkKept(scene));
      models.push({ scenes: parts, elements: await linkKept(elements), properties: await linkKept(properties) });
    }
    task.question = { ...question, models };
  }
  return task;
}

/** Linux tells it in /proc; elsewhere only the time limit and the heap limit hold. */
function residentMegabytes(pid: number | undefined): number {
  try {
    return Number(/VmRSS:\s+(\d+)/.exec(fs.readFileSync(`/proc/${pid}/status`, 'utf8'))?.[1] ?? 0) / 1024;
  } catch {
    return 0;
  }
}
