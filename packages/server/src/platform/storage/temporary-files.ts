import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

/** Files that live for a moment, in a folder of their own. */
export class TemporaryFiles {
  constructor(readonly folder: string) {}

  async path(): Promise<string> {
    await fs.mkdir(this.folder, { recursive: true });
    return path.join(this.folder, randomUUID());
  }

  /** Writes content to a new file; gone again where that fails. */
  async write(content: Readable): Promise<{ file: string; sha256: string }> {
    const file = await this.path();
    const hash = createHash('sha256');
    const hashing = new Transform({
      transform(part: Buffer, _encoding, done) {
        hash.update(part);
        done(null, part);
      },
    });
    try {
      await pipeline(content, hashing, createWriteStream(file));
    } catch (error) {
      await fs.rm(file, { force: true });
      throw error;
    }
    return { file, sha256: hash.digest('hex') };
  }
}

export async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file, { highWaterMark: 1 << 20 }), hash);
  return hash.digest('hex');
}
