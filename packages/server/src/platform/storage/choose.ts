import type { Config } from '../config.ts';
import { FolderStore } from './folder-store.ts';
import type { BlobStore } from './store.ts';

/** The store that the settings name. */
export async function storeFor({ s3, dataFolder }: Pick<Config, 's3' | 'dataFolder'>): Promise<BlobStore> {
  if (!s3) return new FolderStore(dataFolder);
  // Loaded where it is used: it would make every start slower.
  const { S3Store } = await import('./s3-store.ts');
  return new S3Store(s3, dataFolder);
}
