/** Models as their preparation kept them. */
import { and, eq, or, sql } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import type { Encoding } from '../platform/send-blob.ts';
import type { BlobStore } from '../platform/storage/store.ts';
import { products } from '../register/schema.ts';
import type { KeptFile, ModelFiles } from './messages.ts';

interface KeptProduct {
  sha256: string;
  encoding: Encoding;
}
export interface KeptModel {
  scenes: KeptProduct[];
  elements: KeptProduct;
  properties: KeptProduct;
}

/** Undefined where the version is no model, or not prepared. */
export async function keptModel(db: Db, versionId: string): Promise<KeptModel | undefined> {
  const { product, sha256, encoding } = products;
  const wanted = or(sql`${product} ~ '^scene(-[0-9]+)?$'`, sql`${product} in ('elements', 'properties')`);
  const rows = await db
    .select({ product, sha256, encoding })
    .from(products)
    .where(and(eq(products.versionId, versionId), wanted));
  const one = (name: string) => rows.find(({ product }) => product === name);
  const [elements, properties] = [one('elements'), one('properties')];
  const part = (name: string): number => Number(name.split('-')[1] ?? 0);
  const scenes = rows
    .filter((row) => row.product.startsWith('scene'))
    .sort((a, b) => part(a.product) - part(b.product));
  return elements && properties && scenes.length ? { scenes, elements, properties } : undefined;
}

/** All files of the models at once, for as long as they are used. */
export async function withModels<T>(
  store: BlobStore,
  models: readonly KeptModel[],
  use: (files: ModelFiles[]) => Promise<T>,
): Promise<T> {
  const wanted = models.flatMap(({ scenes, elements, properties }) => [...scenes, elements, properties]);
  const open = (paths: readonly string[]): Promise<T> => {
    const next = wanted[paths.length];
    if (next) return store.withFile(next.sha256, (path) => open([...paths, path]));
    let at = 0;
    const file = ({ encoding }: KeptProduct): KeptFile => ({ path: paths[at++]!, gzipped: encoding === 'gzip' });
    return use(
      models.map(({ scenes, elements, properties }) => ({
        scenes: scenes.map(file),
        elements: file(elements),
        properties: file(properties),
      })),
    );
  };
  return open([]);
}
