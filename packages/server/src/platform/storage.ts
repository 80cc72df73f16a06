import { createHash, randomUUID } from 'node:crypto';
import { createReadStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';

export interface StoredBlob {
  sha256: string;
  size: number;
}

/** Blobs by their SHA-256: whole or absent, never changed. */
export interface BlobStore {
  /** `sha256`: of its content, where whoever wrote the file knows it. */
  putFile(source: string, sha256?: string): Promise<StoredBlob>;
  putBytes(bytes: Uint8Array): Promise<StoredBlob>;
  read(sha256: string, range?: { start: number; end: number }): Readable;
  readBytes(sha256: string, offset: number, length: number): Promise<Uint8Array>;
  remove(sha256: string): Promise<void>;
  /** All blobs, with when each was last put: the moment is new whenever the same content arrives again. */
  list(): AsyncGenerator<{ sha256: string; at: Date }>;
  /** A path that other processes of this machine may read. */
  localPath(sha256: string): string;
}

async function hashOf(file: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(file, { highWaterMark: 1 << 20 }), hash);
  return hash.digest('hex');
}

export class FolderStore implements BlobStore {
  constructor(private readonly folder: string) {}

  localPath(sha256: string): string {
    if (!/^[a-f0-9]{64}$/.test(sha256)) throw new RangeError(`Not a SHA-256: ${sha256}`);
    return path.join(this.folder, 'blobs', sha256.slice(0, 2), sha256);
  }

  /** Takes the file over: it is hashed, synced and renamed into place. */
  async putFile(source: string, known?: string): Promise<StoredBlob> {
    const sha256 = known ?? (await hashOf(source));
    const handle = await fs.open(source, 'r+');
    const { size } = await handle.stat();
    await handle.sync();
    await handle.close();
    const target = this.localPath(sha256);
    await fs.mkdir(path.dirname(target), { recursive: true });
    await fs.rename(source, target);
    return { sha256, size };
  }

  async putBytes(bytes: Uint8Array): Promise<StoredBlob> {
    const temporary = path.join(this.folder, 'temporary', randomUUID());
    await fs.mkdir(path.dirname(temporary), { recursive: true });
    await fs.writeFile(temporary, bytes);
    return this.putFile(temporary);
  }

  read(sha256: string, range?: { start: number; end: number }): Readable {
    return createReadStream(this.localPath(sha256), range);
  }

  async remove(sha256: string): Promise<void> {
    await fs.rm(this.localPath(sha256), { force: true });
  }

  async *list(): AsyncGenerator<{ sha256: string; at: Date }> {
    const root = path.join(this.folder, 'blobs');
    for (const part of await fs.readdir(root).catch(() => []))
      for (const sha256 of await fs.readdir(path.join(root, part))) {
        const stat = await fs.stat(path.join(root, part, sha256)).catch(() => undefined);
        if (stat) yield { sha256, at: stat.ctime };
      }
  }

  async readBytes(sha256: string, offset: number, length: number): Promise<Uint8Array> {
    const handle = await fs.open(this.localPath(sha256));
    try {
      const { buffer, bytesRead } = await handle.read(new Uint8Array(length), 0, length, offset);
      return buffer.subarray(0, bytesRead);
    } finally {
      await handle.close();
    }
  }
}
