import type { WaitingUpload } from '@kindred/contract/register/uploads';
import { and, eq } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { requireRow } from '../platform/errors.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { uploads } from './schema.ts';

const ownOf = (actor: Member) =>
  and(eq(uploads.projectId, actor.projectId), eq(uploads.userId, actor.id), eq(uploads.purpose, 'delivery'));

export async function listUploads(
  { db }: Platform,
  actor: Member,
  asked: PageAsked,
): Promise<{ items: WaitingUpload[]; next: string | null }> {
  const { where, orderBy, limit } = pageOf(uploads.createdAt, uploads.id, false, asked);
  const rows = await db
    .select()
    .from(uploads)
    .where(and(ownOf(actor), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, (row) => [row.createdAt, row.id]);
  return {
    items: items.map(({ id, fileName, size, sha256, createdAt }) => ({
      id,
      fileName,
      size,
      arrived: sha256 !== null,
      createdAt: createdAt.toISOString(),
    })),
    next,
  };
}

/** What has arrived stays in the store until the nightly clean-up: another file may be the same. */
export async function discardUpload({ db, store }: Platform, actor: Member, uploadId: string): Promise<void> {
  requireRow(
    await db
      .delete(uploads)
      .where(and(ownOf(actor), eq(uploads.id, uploadId)))
      .returning(),
    'upload',
  );
  await store.receiving.discard(uploadId);
}
