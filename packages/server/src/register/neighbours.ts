/** Drawings beside one another in the sequence of a container. */
import { and, asc, desc, eq, gt, lt } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import { versions } from './schema.ts';

const neighbour = (db: Db, containerId: string, number: number, direction: 'before' | 'after') =>
  db
    .select({ id: versions.id, number: versions.number, preparation: versions.preparation })
    .from(versions)
    .where(
      and(
        eq(versions.containerId, containerId),
        eq(versions.kind, 'drawing'),
        direction === 'before' ? lt(versions.number, number) : gt(versions.number, number),
      ),
    )
    .orderBy(direction === 'before' ? desc(versions.number) : asc(versions.number))
    .limit(1);

export async function versionBefore(db: Db, containerId: string, number: number) {
  const [row] = await neighbour(db, containerId, number, 'before');
  return row;
}
export async function versionAfter(db: Db, containerId: string, number: number) {
  const [row] = await neighbour(db, containerId, number, 'after');
  return row;
}
