import {
  AbortMultipartUploadCommand,
  CompleteMultipartUploadCommand,
  CopyObjectCommand,
  CreateMultipartUploadCommand,
  DeleteObjectCommand,
  GetObjectCommand,
  ListObjectsV2Command,
  S3Client,
  UploadPartCopyCommand,
} from '@aws-sdk/client-s3';
import { Upload } from '@aws-sdk/lib-storage';
import { S3Store as S3Parts } from '@tus/s3-store';
import { createHash, type Hash } from 'node:crypto';
import { createReadStream } from 'node:fs';
import fs from 'node:fs/promises';
import path from 'node:path';
import { PassThrough, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { requireHash, type BlobStore, type Receiving, type StoredBlob } from './store.ts';
import { hashOf, removeOlder, TemporaryFiles } from './temporary-files.ts';

export interface S3Settings {
  endpoint: string;
  region: string;
  bucket: string;
  key: string;
  secret: string;
}

const PART = 16 * 2 ** 20;
/** The most that one request copies (S3's own limit is 5 GB). */
const COPIED_AT_ONCE = 512 * 2 ** 20;
const isAbsent = (error: unknown): boolean =>
  ['NoSuchKey', 'NotFound', 'NoSuchUpload'].includes((error as { name?: string }).name ?? '');

/** Blobs in an object store with an S3 interface, below `blobs/`; files on their way in beside them. */
export class S3Store implements BlobStore {
  readonly receiving: Receiving;
  private readonly client: S3Client;
  private readonly temporary: TemporaryFiles;

  /** `folder`: for files that live for a moment. */
  constructor(
    private readonly settings: S3Settings,
    folder: string,
  ) {
    const { endpoint, region, key, secret } = settings;
    const connection = {
      endpoint,
      region,
      forcePathStyle: true,
      credentials: { accessKeyId: key, secretAccessKey: secret },
      // Not every store knows the newer checksums; the hash that names a blob says more.
      requestChecksumCalculation: 'WHEN_REQUIRED',
      responseChecksumValidation: 'WHEN_REQUIRED',
    } as const;
    this.client = new S3Client(connection);
    this.temporary = new TemporaryFiles(path.join(folder, 'temporary'));
    this.receiving = new ReceivingS3(this, new HashingParts({ ...connection, bucket: settings.bucket }));
  }

  private at(key: string): { Bucket: string; Key: string } {
    return { Bucket: this.settings.bucket, Key: key };
  }

  private blob(sha256: string): { Bucket: string; Key: string } {
    return this.at(`blobs/${requireHash(sha256)}`);
  }

  async putFile(source: string, known?: string): Promise<StoredBlob> {
    const sha256 = known ?? (await hashOf(source));
    const { size } = await fs.stat(source);
    const params = { ...this.blob(sha256), Body: createReadStream(source, { highWaterMark: 1 << 20 }) };
    await new Upload({ client: this.client, params, partSize: PART, queueSize: 3 }).done();
    await fs.rm(source, { force: true });
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

  async read(sha256: string): Promise<Readable> {
    return this.readKey(this.blob(sha256).Key);
  }

  async readKey(key: string, range?: string): Promise<Readable> {
    const { Body } = await this.client.send(new GetObjectCommand({ ...this.at(key), ...(range && { Range: range }) }));
    return Body as Readable;
  }

  async readBytes(sha256: string, offset: number, length: number): Promise<Uint8Array> {
    const parts: Buffer[] = [];
    for await (const part of await this.readKey(this.blob(sha256).Key, `bytes=${offset}-${offset + length - 1}`))
      parts.push(part as Buffer);
    return Buffer.concat(parts);
  }

  async withFile<T>(sha256: string, use: (path: string) => Promise<T>): Promise<T> {
    const { file } = await this.temporary.write(await this.read(sha256));
    try {
      return await use(file);
    } finally {
      await fs.rm(file, { force: true });
    }
  }

  async remove(sha256: string): Promise<void> {
    await this.removeKey(this.blob(sha256).Key);
  }

  async removeKey(key: string): Promise<void> {
    await this.client.send(new DeleteObjectCommand(this.at(key)));
  }

  removeLeftOvers(until: Date): Promise<number> {
    return removeOlder(this.temporary.folder, until);
  }

  async *list(): AsyncGenerator<{ sha256: string; at: Date }> {
    let token: string | undefined;
    do {
      const answer = await this.client.send(
        new ListObjectsV2Command({
          Bucket: this.settings.bucket,
          Prefix: 'blobs/',
          ...(token && { ContinuationToken: token }),
        }),
      );
      for (const { Key, LastModified } of answer.Contents ?? [])
        if (Key && LastModified) yield { sha256: Key.slice('blobs/'.length), at: LastModified };
      token = answer.IsTruncated ? answer.NextContinuationToken : undefined;
    } while (token);
  }

  /** An object becomes a blob without passing through here. */
  async copyToBlob(key: string, sha256: string, size: number): Promise<void> {
    const source = `${this.settings.bucket}/${key}`;
    const target = this.blob(sha256);
    if (size <= COPIED_AT_ONCE) {
      await this.client.send(new CopyObjectCommand({ ...target, CopySource: source }));
      return;
    }
    const { UploadId } = await this.client.send(new CreateMultipartUploadCommand(target));
    const upload = { ...target, UploadId };
    try {
      const Parts = [];
      for (let from = 0, PartNumber = 1; from < size; from += COPIED_AT_ONCE, PartNumber++) {
        const CopySourceRange = `bytes=${from}-${Math.min(from + COPIED_AT_ONCE, size) - 1}`;
        const part = { ...upload, CopySource: source, CopySourceRange, PartNumber };
        const { CopyPartResult } = await this.client.send(new UploadPartCopyCommand(part));
        Parts.push({ PartNumber, ETag: CopyPartResult!.ETag });
      }
      await this.client.send(new CompleteMultipartUploadCommand({ ...upload, MultipartUpload: { Parts } }));
    } catch (error) {
      await this.client.send(new AbortMultipartUploadCommand(upload));
      throw error;
    }
  }
}

type Connection = ConstructorParameters<typeof S3Parts>[0]['s3ClientConfig'];

/** Writes parts, and hashes what comes in order through this process. */
class HashingParts extends S3Parts {
  private readonly hashes = new Map<string, { hash: Hash; size: number }>();

  constructor(s3ClientConfig: Connection) {
    super({ s3ClientConfig, partSize: PART, useTags: false });
  }

  override async write(stream: Readable, id: string, offset: number): Promise<number> {
    const known = offset === 0 ? { hash: createHash('sha256'), size: 0 } : this.hashes.get(id);
    this.hashes.delete(id);
    if (known?.size !== offset) return super.write(stream, id, offset);
    const passing = new PassThrough({ highWaterMark: 1 << 20 });
    stream.on('data', (part: Buffer) => {
      known.hash.update(part);
      known.size += part.length;
    });
    stream.on('error', (error) => passing.destroy(error));
    const written = await super.write(stream.pipe(passing), id, offset);
    // What broke off may be hashed, but not written: then the whole file is read for its hash at the end.
    if (known.size === written) this.hashes.set(id, known);
    return written;
  }

  /** The hash of a file that came whole and in order through this process; the file is forgotten afterwards. */
  takeHash(id: string, size: number): string | undefined {
    const known = this.hashes.get(id);
    this.hashes.delete(id);
    return known?.size === size ? known.hash.digest('hex') : undefined;
  }
}

class ReceivingS3 implements Receiving {
  constructor(
    private readonly store: S3Store,
    readonly parts: HashingParts,
  ) {}

  async finish(id: string, size: number): Promise<StoredBlob> {
    const sha256 = this.parts.takeHash(id, size) ?? (await this.hashOf(id));
    await this.store.copyToBlob(id, sha256, size);
    await this.discard(id);
    return { sha256, size };
  }

  private async hashOf(id: string): Promise<string> {
    const hash = createHash('sha256');
    await pipeline(await this.store.readKey(id), hash);
    return hash.digest('hex');
  }

  async discard(id: string): Promise<void> {
    for (const key of [id, `${id}.info`, `${id}.part`])
      try {
        await this.store.removeKey(key);
      } catch (error) {
        if (!isAbsent(error)) throw error;
      }
  }

  hasRoom(): Promise<boolean> {
    return Promise.resolve(true);
  }
}
