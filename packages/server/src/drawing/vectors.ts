/** What a sheet draws, for whoever gets the sheet. */
import { HEAD_BYTES, pageAt, pageCount, tableLength } from '@kindred/core/drawing/vectors/vectors-file';
import type { Response } from 'express';
import type { Member } from '../platform/caller.ts';
import { notFound } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { pagesFor } from '../register/shared-sheets.ts';
import { productOf, visibleVersion } from '../register/versions.ts';

export async function sendVectors(
  { db, store }: Platform,
  member: Member,
  versionId: string,
  page: number,
  response: Response,
): Promise<void> {
  const version = await visibleVersion(db, member, versionId);
  const gets = await pagesFor(db, member, [version]);
  if (!gets(versionId, page)) throw notFound('sheet');
  const file = await productOf(db, versionId, 'vectors');
  const pages = pageCount(await store.readBytes(file, 0, HEAD_BYTES));
  if (page > pages) throw notFound('sheet');
  const [offset, length] = pageAt(await store.readBytes(file, 0, tableLength(pages)), page);
  response.setHeader('Cache-Control', 'private, no-cache');
  response.type('application/octet-stream').send(Buffer.from(await store.readBytes(file, offset, length)));
}
