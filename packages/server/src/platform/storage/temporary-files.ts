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

/** Files of a folder that nobody has changed since then; answers how many went. */
export async function removeOlder(folder: string, until: Date): Promise<number> {
  let removed = 0;
  for (const name of await namesIn(folder)) {
    const file = path.join(folder, name);
    const at = await changedAt(file);
    if (!at || at >= until) continue;
    await fs.rm(file, { recursive: true, force: true });
    removed++;
  }
  return removed;
}

const isAbsent = (error: unknown): boolean => (error as { code?: string }).code === 'ENOENT';

/** Names in a folder; none where it is not there. */
export async function namesIn(folder: string): Promise<string[]> {
  try {
    return await fs.readdir(folder);
  } catch (error) {
    if (isAbsent(error)) return [];
    throw error;
  }
}

/** Undefined where another process removed it meanwhile. */
export async function changedAt(file: string): Promise<Date | undefined> {
  try {
    return (await fs.stat(file)).ctime;
  } catch (error) {
    if (isAbsent(error)) return undefined;
    throw error;
  }
}

export async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file, { highWaterMark: 1 << 20 }), hash);
  return hash.digest('hex');
}
