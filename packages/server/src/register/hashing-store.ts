import { FileStore } from '@tus/file-store';
import { ERRORS } from '@tus/server';
import { createHash, type Hash } from 'node:crypto';
import { createWriteStream } from 'node:fs';
import path from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

interface Running {
  hash: Hash;
  /** Bytes that the hash has seen, all of which are in the file. */
  size: number;
}
const MOST_RUNNING = 2000;
const BUFFER = 2 ** 22;

/**
 * Files on their way in, hashed while they are written: a large file is read again only when it was begun by another process,
 * or a part of it broke off.
 */
export class HashingStore extends FileStore {
  private readonly running = new Map<string, Running>();

  override async write(stream: Readable, id: string, offset: number): Promise<number> {
    const known = this.running.get(id) ?? { hash: createHash('sha256'), size: 0 };
    this.running.delete(id);
    if (known.size !== offset) return super.write(stream, id, offset);
    const hashing = new Transform({
      highWaterMark: BUFFER,
      transform(part: Buffer, _encoding, done) {
        known.hash.update(part);
        known.size += part.length;
        done(null, part);
      },
    });
    // A large buffer lets many small parts be written at once, while the next ones are hashed.
    const file = createWriteStream(path.join(this.directory, id), {
      flags: 'r+',
      start: offset,
      highWaterMark: BUFFER,
    });
    await pipeline(stream, hashing, file).catch(() => {
      throw ERRORS.FILE_WRITE_ERROR;
    });
    // The oldest were probably left by whoever sent them.
    if (this.running.size >= MOST_RUNNING) this.running.delete(this.running.keys().next().value!);
    this.running.set(id, known);
    return known.size;
  }

  /** The hash of a whole file of `size` bytes, where all of it went through here; it is forgotten afterwards. */
  takeHash(id: string, size: number): string | undefined {
    const known = this.running.get(id);
    this.running.delete(id);
    return known?.size === size ? known.hash.digest('hex') : undefined;
  }
}
