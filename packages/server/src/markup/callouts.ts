/** The numbers on the tags of callouts: within a sheet or within a set, as the project chooses. */
import { eq, max } from 'drizzle-orm';
import type { Db } from '../platform/database.ts';
import { projects } from '../portfolio/schema.ts';
import type { VisibleVersion } from '../register/versions.ts';
import { markups } from './schema.ts';

/** Gives one number after the other, by the page of the callout; the lock of `nextNumber` keeps them for this transaction. */
export async function calloutTags(db: Db, { id, projectId }: VisibleVersion): Promise<(page: number) => number> {
  const [project] = await db
    .select({ numbering: projects.calloutNumbering })
    .from(projects)
    .where(eq(projects.id, projectId));
  const rows = await db
    .select({ page: markups.page, last: max(markups.tag) })
    .from(markups)
    .where(eq(markups.versionId, id))
    .groupBy(markups.page);
  const within = (page: number): number => (project!.numbering === 'sheet' ? page : 0);
  const given = new Map<number, number>();
  for (const { page, last } of rows) given.set(within(page), Math.max(given.get(within(page)) ?? 0, last ?? 0));
  return (page) => {
    const tag = (given.get(within(page)) ?? 0) + 1;
    given.set(within(page), tag);
    return tag;
  };
}
