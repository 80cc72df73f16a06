/** Photos, and pictures of stamps: made anew from what was sent, so that nothing else comes along in them. */
import { eq } from 'drizzle-orm';
import type { Response } from 'express';
import type { Member } from '../platform/caller.ts';
import { notFound } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { keepPictures, sendPicture } from '../preparation/pictures.ts';
import { stamps } from './schema.ts';
import { requireStamp } from './stamps.ts';
import { visibleMarkup } from './visibility.ts';

/** The picture of a new markup: a photo that was sent, or that of the stamp which is placed; null for none. */
export async function pictureOf(
  platform: Platform,
  actor: Member,
  { uploadId, stampId }: { uploadId?: string; stampId?: string },
): Promise<string | null> {
  if (uploadId) return (await keepPictures(platform, actor, 'markup', [uploadId]))[0]!;
  return stampId ? (await requireStamp(platform.db, actor, stampId)).pictureSha256 : null;
}

export async function sendMarkupPicture(
  platform: Platform,
  actor: Member,
  markupId: string,
  response: Response,
): Promise<void> {
  const { row } = await visibleMarkup(platform.db, actor, markupId);
  await sendPicture(platform, response, row.pictureSha256);
}

export async function sendStampPicture(
  platform: Platform,
  actor: Member,
  stampId: string,
  response: Response,
): Promise<void> {
  const [row] = await platform.db.select().from(stamps).where(eq(stamps.id, stampId));
  if (row?.projectId !== actor.projectId) throw notFound('stamp');
  await sendPicture(platform, response, row.pictureSha256);
}

/** For what is known to be small. */
export async function wholeBlob({ store }: Pick<Platform, 'store'>, sha256: string): Promise<Buffer> {
  const chunks: Buffer[] = [];
  for await (const chunk of await store.read(sha256)) chunks.push(chunk as Buffer);
  return Buffer.concat(chunks);
}
