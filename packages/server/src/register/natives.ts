/** The native files of versions: for whoever gets all of the version. */
import type { NativeFile } from '@kindred/contract/register/register';
import { and, asc, eq, inArray } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { containers, natives, versions } from './schema.ts';
import { getsAll, versionVisibleTo } from './visibility.ts';

type NativeRow = typeof natives.$inferSelect;

/** Of these versions, as far as the actor gets all of them, by the id of the version. */
export async function nativesOf(
  db: Db,
  actor: Member,
  versionIds: readonly string[],
): Promise<Map<string, NativeRow[]>> {
  const byVersion = new Map<string, NativeRow[]>();
  if (!versionIds.length) return byVersion;
  const rows = await db
    .select({ native: natives })
    .from(natives)
    .innerJoin(versions, eq(versions.id, natives.versionId))
    .innerJoin(containers, eq(containers.id, versions.containerId))
    .where(and(inArray(natives.versionId, [...versionIds]), versionVisibleTo(actor), getsAll(actor)))
    .orderBy(asc(natives.fileName), asc(natives.id));
  for (const { native } of rows) byVersion.set(native.versionId, [...(byVersion.get(native.versionId) ?? []), native]);
  return byVersion;
}

export const toNative = ({ id, fileName, size }: NativeRow): NativeFile => ({ id, fileName, size });
