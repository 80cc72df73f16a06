/** Two gigabytes: received by a server, and as a baseline written and hashed. Both answer milliseconds. */
import { S3Client } from '@aws-sdk/client-s3';
import { Upload } from '@aws-sdk/lib-storage';
import { createHash } from 'node:crypto';
import fs from 'node:fs';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import type { ApiPerson } from '../../packages/demo/src/client.ts';
import type { S3Settings } from '../../packages/server/src/platform/storage/s3-store.ts';
import { timed } from './measure.ts';

const LARGE = 2 ** 31;
const PART = Buffer.alloc(2 ** 22, 'two gigabytes of a scan ');

function* parts(): Generator<Buffer> {
  for (let at = 0; at < LARGE; at += PART.length) yield PART;
}

export async function writeLarge(file: string): Promise<number> {
  const ms = await timed(async () => {
    const hash = createHash('sha256');
    await pipeline(
      Readable.from(parts()),
      async function* (source: AsyncIterable<Buffer>) {
        for await (const part of source) {
          hash.update(part);
          yield part;
        }
      },
      fs.createWriteStream(file),
    );
    hash.digest();
    const handle = fs.openSync(file, 'r+');
    fs.fsyncSync(handle);
    fs.closeSync(handle);
  });
  fs.rmSync(file);
  return ms;
}

/** Straight into an object store, in parts as large as ours, and hashed. */
export async function putLarge(settings: S3Settings): Promise<number> {
  const { endpoint, region, bucket: Bucket, key, secret } = settings;
  const client = new S3Client({
    endpoint,
    region,
    forcePathStyle: true,
    credentials: { accessKeyId: key, secretAccessKey: secret },
    requestChecksumCalculation: 'WHEN_REQUIRED',
  });
  const hash = createHash('sha256');
  const Body = Readable.from(parts()).on('data', (part: Buffer) => hash.update(part));
  return timed(async () => {
    await new Upload({ client, params: { Bucket, Key: 'baseline', Body }, partSize: 2 ** 24, queueSize: 3 }).done();
    hash.digest();
  });
}

export async function receiveLarge(address: string, person: ApiPerson, projectId: string): Promise<number> {
  const headers = { ...person.headersForFiles(), 'tus-resumable': '1.0.0' };
  const metadata = `projectId ${btoa(projectId)},filename ${btoa('scan.bin')}`;
  const created = await fetch(`${address}/api/uploads`, {
    method: 'POST',
    headers: { ...headers, 'upload-length': String(LARGE), 'upload-metadata': metadata },
  });
  const url = new URL(created.headers.get('location')!, address);
  return timed(async () => {
    const response = await fetch(url, {
      method: 'PATCH',
      headers: {
        ...headers,
        'upload-offset': '0',
        'content-type': 'application/offset+octet-stream',
        'content-length': String(LARGE),
      },
      body: Readable.toWeb(Readable.from(parts())) as ReadableStream,
      duplex: 'half',
    } as RequestInit);
    if (response.status !== 204) throw new Error(`The upload answered ${response.status}.`);
  });
}
