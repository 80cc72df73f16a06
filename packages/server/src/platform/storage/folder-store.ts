import { createReadStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import type { Readable } from 'node:stream';
import { HashingStore } from './hashing-store.ts';
import { requireHash, type BlobStore, type Receiving, type StoredBlob } from './store.ts';
import { changedAt, hashOf, namesIn, removeOlder, TemporaryFiles } from './temporary-files.ts';

/** With less free than this, a write that failed has failed for want of room. */
const LEAST_FREE = 2 ** 20;
const isCode = (error: unknown, code: string): boolean => (error as { code?: string }).code === code;

/** Blobs in a local folder: written to a temporary name, synced, then renamed. */
export class FolderStore implements BlobStore {
  readonly receiving: Receiving;
  private readonly temporary: TemporaryFiles;

  constructor(private readonly folder: string) {
    this.temporary = new TemporaryFiles(path.join(folder, 'temporary'));
    this.receiving = new ReceivingFolder(path.join(folder, 'uploads'), this);
  }

  private pathOf(sha256: string): string {
    return path.join(this.folder, 'blobs', requireHash(sha256).slice(0, 2), sha256);
  }

  async putFile(source: string, known?: string): Promise<StoredBlob> {
    const sha256 = known ?? (await hashOf(source));
    const handle = await fs.open(source, 'r+');
    const { size } = await handle.stat();
    await handle.sync();
    await handle.close();
    const target = this.pathOf(sha256);
    await fs.mkdir(path.dirname(target), { recursive: true });
    try {
      await fs.rename(source, target);
    } catch (error) {
      if (!isCode(error, 'EXDEV')) throw error;
      // It lies on another disk: copied beside its place first, so that it appears there whole.
      const near = await this.temporary.path();
      await fs.copyFile(source, near);
      await fs.rm(source);
      return this.putFile(near, sha256);
    }
    return { sha256, size };
  }

  async putBytes(bytes: Uint8Array): Promise<StoredBlob> {
    const file = await this.temporary.path();
    await fs.writeFile(file, bytes);
    return this.putFile(file);
  }

  async putStream(content: Readable): Promise<StoredBlob> {
    const { file, sha256 } = await this.temporary.write(content);
    return this.putFile(file, sha256);
  }

  read(sha256: string): Promise<Readable> {
    return Promise.resolve(createReadStream(this.pathOf(sha256)));
  }

  async readBytes(sha256: string, offset: number, length: number): Promise<Uint8Array> {
    const handle = await fs.open(this.pathOf(sha256));
    try {
      const { buffer, bytesRead } = await handle.read(new Uint8Array(length), 0, length, offset);
      return buffer.subarray(0, bytesRead);
    } finally {
      await handle.close();
    }
  }

  withFile<T>(sha256: string, use: (path: string) => Promise<T>): Promise<T> {
    return use(this.pathOf(sha256));
  }

  async remove(sha256: string): Promise<void> {
    await fs.rm(this.pathOf(sha256), { force: true });
  }

  async removeLeftOvers(until: Date): Promise<number> {
    const folders = [this.temporary.folder, path.join(this.folder, 'uploads')];
    let removed = 0;
    for (const folder of folders) removed += await removeOlder(folder, until);
    return removed;
  }

  async *list(): AsyncGenerator<{ sha256: string; at: Date }> {
    const root = path.join(this.folder, 'blobs');
    for (const part of await namesIn(root))
      for (const sha256 of await namesIn(path.join(root, part))) {
        const at = await changedAt(path.join(root, part, sha256));
        if (at) yield { sha256, at };
      }
  }
}

class ReceivingFolder implements Receiving {
  readonly parts: HashingStore;

  constructor(
    private readonly folder: string,
    private readonly store: FolderStore,
  ) {
    this.parts = new HashingStore({ directory: folder });
  }

  async finish(id: string, size: number): Promise<StoredBlob> {
    const stored = await this.store.putFile(path.join(this.folder, id), await this.parts.takeHash(id, size));
    await fs.rm(path.join(this.folder, `${id}.json`), { force: true });
    return stored;
  }

  async discard(id: string): Promise<void> {
    for (const suffix of ['', '.json']) await fs.rm(path.join(this.folder, id + suffix), { force: true });
  }

  async hasRoom(): Promise<boolean> {
    const { bavail, bsize } = await fs.statfs(this.folder);
    return bavail * bsize >= LEAST_FREE;
  }
}
