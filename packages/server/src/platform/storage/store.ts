import type { DataStore } from '@tus/server';
import type { Readable } from 'node:stream';

export interface StoredBlob {
  sha256: string;
  size: number;
}

/** Files on their way in, a part at a time. */
export interface Receiving {
  /** What the upload protocol writes to. */
  readonly parts: DataStore;
  /** A file that arrived whole becomes a blob. */
  finish(id: string, size: number): Promise<StoredBlob>;
  /** Removes what has arrived of an upload; not an error where nothing is there. */
  discard(id: string): Promise<void>;
  /** Whether there is room for more; true where nobody can say. */
  hasRoom(): Promise<boolean>;
}

/** Blobs by their SHA-256: whole or absent, never changed. */
export interface BlobStore {
  readonly receiving: Receiving;
  /** Takes the file over. `sha256`: of its content, where whoever wrote the file knows it. */
  putFile(source: string, sha256?: string): Promise<StoredBlob>;
  putBytes(bytes: Uint8Array): Promise<StoredBlob>;
  putStream(content: Readable): Promise<StoredBlob>;
  read(sha256: string): Promise<Readable>;
  /** Fewer than `length` where the blob ends. */
  readBytes(sha256: string, offset: number, length: number): Promise<Uint8Array>;
  /** Runs something with a local file of the content, which it may only read. */
  withFile<T>(sha256: string, use: (path: string) => Promise<T>): Promise<T>;
  remove(sha256: string): Promise<void>;
  /** Removes what killed processes left half-written, unchanged since then; answers how many files. */
  removeLeftOvers(until: Date): Promise<number>;
  /** All blobs, with when each was last put: the moment is new whenever the same content arrives again. */
  list(): AsyncGenerator<{ sha256: string; at: Date }>;
}

export function requireHash(sha256: string): string {
  if (!/^[a-f0-9]{64}$/.test(sha256)) throw new RangeError(`Not a SHA-256: ${sha256}`);
  return sha256;
}
