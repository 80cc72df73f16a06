/** Pictures that people send: made anew, so that nothing else comes along in them. */
import type { UploadPurpose } from '@kindred/contract/register/uploads';
import type { Response } from 'express';
import type { Member } from '../platform/caller.ts';
import { now } from '../platform/clock.ts';
import { notFound } from '../platform/errors.ts';
import { blobs } from '../platform/schema.ts';
import { sendBlob } from '../platform/send-blob.ts';
import type { Platform } from '../platform/services.ts';
import { uploadFor } from '../register/uploads.ts';
import { openPreparation } from './once.ts';

/** Their hashes; refuses what is no picture. */
export async function keepPictures(
  platform: Platform,
  actor: Member,
  purpose: Exclude<UploadPurpose, 'delivery'>,
  uploadIds: readonly string[],
): Promise<string[]> {
  const kept: string[] = [];
  if (!uploadIds.length) return kept;
  const { prepare, end } = openPreparation(platform);
  try {
    for (const uploadId of uploadIds) {
      const { sha256: sent } = await uploadFor(platform.db, actor, purpose, uploadId);
      const picture = await prepare(sent, { kind: 'image', picture: true }, 'no-picture');
      const { sha256, size } = await platform.store.putBytes(picture);
      await platform.db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
      kept.push(sha256);
    }
  } finally {
    end();
  }
  return kept;
}

export async function sendPicture(platform: Platform, response: Response, sha256: string | null): Promise<void> {
  if (!sha256) throw notFound('picture');
  const [first] = await platform.store.readBytes(sha256, 0, 1);
  await sendBlob(platform, response, sha256, first === 0x89 ? 'image/png' : 'image/jpeg');
}
