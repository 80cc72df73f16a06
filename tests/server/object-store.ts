/** An object store with an S3 interface: the one that the environment names, else a small one of our own in memory of a folder. */
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import S3rver from 's3rver';
import type { S3Settings } from '../../packages/server/src/platform/storage/s3-store.ts';

export interface ObjectStore {
  settings: S3Settings;
  close(): Promise<void>;
}

export async function objectStore(): Promise<ObjectStore> {
  const { KS_TEST_S3: given } = process.env;
  if (given) return { settings: JSON.parse(given) as S3Settings, close: async () => undefined };
  const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'kindred-objects-'));
  const bucket = 'kindred';
  const server = new S3rver({
    address: '127.0.0.1',
    port: 0,
    silent: true,
    directory: folder,
    configureBuckets: [{ name: bucket, configs: [] }],
  });
  const { port } = await server.run();
  return {
    settings: { endpoint: `http://127.0.0.1:${port}`, region: 'us-east-1', bucket, key: 'S3RVER', secret: 'S3RVER' },
    async close() {
      await server.close();
      fs.rmSync(folder, { recursive: true, force: true });
    },
  };
}
