import { FileStore } from '@tus/file-store';
import { ERRORS } from '@tus/server';
import fs, { type FileHandle } from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { GrowingHashes } from './growing-hashes.ts';

/** Bytes that are gathered before they are written: the next ones arrive meanwhile. */
const BATCH = 2 ** 20;

/** Files on their way in: written in large batches, and hashed as far as they are written. */
export class HashingStore extends FileStore {
  private readonly hashes = new GrowingHashes();

  override async write(stream: Readable, id: string, offset: number): Promise<number> {
    const file = this.pathOf(id);
    const handle = await fs.open(file, 'r+');
    try {
      return await this.append(stream, handle, offset, (upTo) => this.hashes.advance(file, upTo));
    } catch {
      throw ERRORS.FILE_WRITE_ERROR;
    } finally {
      await handle.close();
    }
  }

  /** What arrived is written even where the stream breaks off. `written` hears how far the file is whole. Answers where it ends. */
  private async append(
    stream: Readable,
    handle: FileHandle,
    offset: number,
    written: (upTo: number) => void,
  ): Promise<number> {
    let [parts, gathered, end]: [Buffer[], number, number] = [[], 0, offset];
    let writing: Promise<void> = Promise.resolve();
    const flush = async (): Promise<void> => {
      await writing;
      const [batch, at] = [parts, end];
      if (!batch.length) return;
      [parts, end, gathered] = [[], end + gathered, 0];
      const upTo = end;
      writing = writeAll(handle, batch, at).then(() => written(upTo));
      // A failure is told by whoever waits for it next.
      writing.catch(() => undefined);
    };
    try {
      // A write that fails leaves the stream to whoever gave it: they say what became of the request.
      for await (const part of stream.iterator({ destroyOnReturn: false }) as AsyncIterable<Buffer>) {
        parts.push(part);
        gathered += part.length;
        if (gathered >= BATCH) await flush();
      }
    } finally {
      await flush();
      await writing;
    }
    return end;
  }

  /** The hash of a file that arrived whole; undefined when it has to be read for that. */
  takeHash(id: string, size: number): Promise<string | undefined> {
    return this.hashes.finish(this.pathOf(id), size);
  }

  private pathOf(id: string): string {
    return path.join(this.directory, id);
  }
}

async function writeAll(handle: FileHandle, parts: Buffer[], at: number): Promise<void> {
  const size = parts.reduce((sum, { length }) => sum + length, 0);
  const { bytesWritten } = await handle.writev(parts, at);
  if (bytesWritten === size) return;
  // A disk that is nearly full takes a part, and says why with the next one.
  await writeAll(handle, [Buffer.concat(parts).subarray(bytesWritten)], at + bytesWritten);
}
