/** Who is in which project right now, on whichever node: rows that a node which dies leaves behind count no more. */
import { and, eq, sql } from 'drizzle-orm';
import type { Db } from './database.ts';
import { uuids } from './subjects.ts';
import { presences } from './schema.ts';

/** A node that has not been seen for so long is gone. */
export const NODE_GONE_SECONDS = 15;

export class Presence {
  constructor(
    private readonly db: Db,
    private readonly nodeId: string,
  ) {}

  async enter(socketId: string, projectId: string, personId: string): Promise<void> {
    const { nodeId } = this;
    await this.db
      .insert(presences)
      .values({ nodeId, socketId, projectId, personId })
      .onConflictDoUpdate({ target: [presences.nodeId, presences.socketId], set: { projectId } });
  }

  async leave(socketId: string): Promise<void> {
    await this.db.delete(presences).where(and(eq(presences.nodeId, this.nodeId), eq(presences.socketId, socketId)));
  }
}

/** Ids of the people in each of these projects, in one query. */
export async function presentIn(db: Db, projectIds: readonly string[]): Promise<Map<string, string[]>> {
  if (!projectIds.length) return new Map();
  const { rows } = await db.execute(sql`
    select p.project_id as "projectId", array_agg(distinct p.person_id) as people
    from presences p join nodes n on n.id = p.node_id and n.seen_at > now() - make_interval(secs => ${NODE_GONE_SECONDS})
    where p.project_id = any(${uuids(projectIds)}) group by p.project_id`);
  return new Map(
    (rows as unknown as { projectId: string; people: string[] }[]).map((row) => [row.projectId, row.people]),
  );
}
