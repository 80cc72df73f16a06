/** What a sheet draws, for whoever gets the sheet. */
import { HEAD_BYTES, pageAt, pageCount, tableLength } from '@kindred/core/drawing/vectors/vectors-file';
import type { Response } from 'express';
import type { Member } from '../platform/caller.ts';
import { notFound, unlessMissing } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { pagesFor } from '../register/shared-sheets.ts';
import { productOf, visibleVersion } from '../register/versions.ts';

export async function sendVectors(
  platform: Platform,
  member: Member,
  versionId: string,
  page: number,
  response: Response,
): Promise<void> {
  const version = await visibleVersion(platform.db, member, versionId);
  const gets = await pagesFor(platform.db, member, [version]);
  const packed = gets(versionId, page) ? await vectorsOfPage(platform, versionId, page) : undefined;
  if (!packed) throw notFound('sheet');
  response.setHeader('Cache-Control', 'private, no-cache');
  response.type('application/octet-stream').send(Buffer.from(packed));
}

/** A packed page; undefined where there is none, or the drawing was prepared before this was kept. */
export async function vectorsOfPage(
  { db, store }: Platform,
  versionId: string,
  page: number,
): Promise<Uint8Array | undefined> {
  const product = await unlessMissing(productOf(db, versionId, 'vectors'), () => undefined);
  if (!product) return undefined;
  const file = product.sha256;
  const pages = pageCount(await store.readBytes(file, 0, HEAD_BYTES));
  if (page > pages) return undefined;
  const [offset, length] = pageAt(await store.readBytes(file, 0, tableLength(pages)), page);
  return store.readBytes(file, offset, length);
}
