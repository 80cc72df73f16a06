/** Roles and teams of a template. */
import { eq } from 'drizzle-orm';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import type { TemplatePart } from '../portfolio/parts.ts';
import { memberRoles, members, roles, teams } from './schema.ts';
import { listPeople } from './service.ts';
import { CREATOR_ROLE } from '../portfolio/starters/people.ts';

const byName = (rows: { id: string; name: string }[]) => new Map(rows.map(({ id, name }) => [name, id]));

export const peopleTemplate: TemplatePart = {
  /** Whoever creates the project becomes its administrator. */
  async add(db, project, content) {
    const { projectId, creatorId, ids } = project;
    const roleRows = await db
      .insert(roles)
      .values(content.roles.map((role) => ({ ...role, projectId })))
      .returning();
    const teamRows = content.teams.length
      ? await db
          .insert(teams)
          .values(content.teams.map(({ name, discipline, colour }) => ({ name, discipline, colour, projectId })))
          .returning()
      : [];
    const [member] = await db
      .insert(members)
      .values({ projectId, userId: creatorId, administrator: true, addedAt: now() })
      .returning();
    ids.roles = byName(roleRows);
    ids.teams = byName(teamRows);
    const roleId = ids.roles.get(CREATOR_ROLE) ?? roleRows[0]!.id;
    await db.insert(memberRoles).values({ memberId: member!.id, roleId });
  },
  /** Home folders are named by whoever reads the folders. */
  async read(platform, { projectId }) {
    const { roles, teams } = await listPeople(platform, projectId);
    return {
      roles: roles.map(({ name, grid }) => ({ name, grid })),
      teams: teams.map(({ name, discipline, colour }) => ({ name, discipline, colour, home: '' })),
    };
  },
};

/** Home folders can be named once the folders are there. */
export async function setHomeFolder(db: Db, teamId: string, homeFolderId: string): Promise<void> {
  await db.update(teams).set({ homeFolderId }).where(eq(teams.id, teamId));
}
