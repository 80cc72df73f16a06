/** Versions of one kind beside one another in the sequence of a container. */
import type { FileKind } from '@kindred/core/register/file-kind';
import { and, asc, desc, eq, gt, lt } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import { versions } from './schema.ts';

export interface Sequence {
  containerId: string;
  kind: FileKind;
}
const neighbour = (db: Db, { containerId, kind }: Sequence, number: number, direction: 'before' | 'after') =>
  db
    .select({ id: versions.id, number: versions.number, preparation: versions.preparation })
    .from(versions)
    .where(
      and(
        eq(versions.containerId, containerId),
        eq(versions.kind, kind),
        direction === 'before' ? lt(versions.number, number) : gt(versions.number, number),
      ),
    )
    .orderBy(direction === 'before' ? desc(versions.number) : asc(versions.number))
    .limit(1);

export async function versionBefore(db: Db, sequence: Sequence, number: number) {
  const [row] = await neighbour(db, sequence, number, 'before');
  return row;
}
export async function versionAfter(db: Db, sequence: Sequence, number: number) {
  const [row] = await neighbour(db, sequence, number, 'after');
  return row;
}
