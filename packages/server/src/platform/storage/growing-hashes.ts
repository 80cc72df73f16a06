import { Worker } from 'node:worker_threads';

/** A file is written up to a place; `finish`: the number of the question for the hash of it all. */
interface Advance {
  file: string;
  upTo: number;
  finish?: number;
}
type Answer = (sha256: string | undefined) => void;

/** SHA-256 of files while they are being written, computed in a thread of its own that starts with the first file. */
export class GrowingHashes {
  private thread: Worker | undefined;
  private readonly asked = new Map<number, Answer>();
  private questions = 0;

  /** All bytes of the file before `upTo` are written, and stay as they are. */
  advance(file: string, upTo: number): void {
    this.send({ file, upTo });
  }

  /** The hash of the first `size` bytes; undefined when the thread cannot say. The file is forgotten afterwards. */
  finish(file: string, size: number): Promise<string | undefined> {
    const finish = ++this.questions;
    return new Promise((resolve) => {
      this.asked.set(finish, resolve);
      this.send({ file, upTo: size, finish });
    });
  }

  private send(advance: Advance): void {
    this.thread ??= this.start();
    this.thread.postMessage(advance);
  }

  private start(): Worker {
    const thread = new Worker(new URL('hash-thread.mjs', import.meta.url), { execArgv: [] });
    thread.unref();
    thread.on('message', ({ finish, sha256 }: { finish: number; sha256?: string }) => {
      this.asked.get(finish)?.(sha256);
      this.asked.delete(finish);
    });
    // The next file starts another one.
    const end = (): void => {
      if (this.thread !== thread) return;
      this.thread = undefined;
      for (const answer of this.asked.values()) answer(undefined);
      this.asked.clear();
    };
    thread.on('error', end).on('exit', end);
    return thread;
  }
}
