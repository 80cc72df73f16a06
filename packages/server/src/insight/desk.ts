/** My desk: what is mine, waits for me and is new for me, in all my projects. */
import type { DeskItem } from '@kindred/contract/insight/insight';
import { inArray } from 'drizzle-orm';
import type { Actor } from '../platform/caller.ts';
import type { Platform } from '../platform/services.ts';
import { projects } from '../portfolio/schema.ts';

const MOST = 300;

export async function showDesk({ db, gate, subjects }: Platform, actor: Actor): Promise<DeskItem[]> {
  const members = await gate.members([actor.id]);
  if (!members.length) return [];
  const rows = await db
    .select({ id: projects.id, name: projects.name })
    .from(projects)
    .where(
      inArray(
        projects.id,
        members.map(({ projectId }) => projectId),
      ),
    );
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  const piles = await Promise.all(
    members.map(async (member) => {
      const { projectId } = member;
      return (await subjects.waiting(db, member, MOST)).map(({ path, at, ...item }) => ({
        ...item,
        at: at.toISOString(),
        projectId,
        project: names.get(projectId) ?? '',
        link: path.startsWith('/') ? path : `/projects/${projectId}/${path}`,
      }));
    }),
  );
  return piles.flat().sort(mostPressing).slice(0, MOST);
}

/** What is due comes first, then what is newest. */
function mostPressing(a: DeskItem, b: DeskItem): number {
  if (a.dueOn !== b.dueOn) return a.dueOn === null ? 1 : b.dueOn === null ? -1 : a.dueOn < b.dueOn ? -1 : 1;
  return a.at < b.at ? 1 : a.at > b.at ? -1 : 0;
}
