/** Photos, and pictures of stamps: made anew from what was sent, so that nothing else comes along in them. */
import { eq } from 'drizzle-orm';
import type { Response } from 'express';
import { Readable } from 'node:stream';
import type { Member } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import { notFound } from '../platform/errors.ts';
import { blobs } from '../platform/schema.ts';
import { sendBlob } from '../platform/send-blob.ts';
import type { Platform } from '../platform/services.ts';
import { prepareOnce } from '../preparation/once.ts';
import { uploadFor } from '../register/uploads.ts';
import { stamps } from './schema.ts';
import { requireStamp } from './stamps.ts';
import { visibleMarkup } from './visibility.ts';

/** The picture of a new markup: a photo that was sent, or that of the stamp which is placed; null for none. */
export async function pictureOf(
  platform: Platform,
  actor: Member,
  { uploadId, stampId }: { uploadId?: string; stampId?: string },
): Promise<string | null> {
  if (uploadId) return keepPicture(platform, actor, uploadId);
  return stampId ? (await requireStamp(platform.db, actor, stampId)).pictureSha256 : null;
}

/** Refuses what is no picture. */
export async function keepPicture(platform: Platform, actor: Member, uploadId: string): Promise<string> {
  const { sha256: sent } = await uploadFor(platform.db, actor, 'markup', uploadId);
  const picture = await prepareOnce(platform, sent, { kind: 'image', picture: true }, 'no-picture');
  const { sha256, size } = await platform.store.putStream(Readable.from([picture]));
  await platform.db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
  return sha256;
}

async function sendPicture(platform: Platform, response: Response, sha256: string | null): Promise<void> {
  if (!sha256) throw notFound('picture');
  const [first] = await platform.store.readBytes(sha256, 0, 1);
  await sendBlob(platform, response, sha256, first === 0x89 ? 'image/png' : 'image/jpeg');
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
