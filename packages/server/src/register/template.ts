/** Folders of a template, with their permissions, and the home folders of teams. */
import { conventionOf } from '../naming/service.ts';
import { setHomeFolder } from '../people/template.ts';
import { listPeople } from '../people/service.ts';
import type { TemplatePart } from '../portfolio/parts.ts';
import { allPermissions, listFolders, numberFolders } from './folders.ts';
import { folderPermissions, folders } from './schema.ts';

export const foldersTemplate: TemplatePart = {
  async add(db, { projectId, ids: known }, content) {
    const ids = new Map<string, string>();
    for (const { path, team, convention, permissions } of content.folders) {
      const [row] = await db
        .insert(folders)
        .values({
          projectId,
          name: path.at(-1)!,
          path: path.join(' / '),
          parentId: ids.get(path.slice(0, -1).join(' / ')) ?? null,
          teamId: known.teams.get(team) ?? null,
          conventionId: known.conventions.get(convention) ?? null,
        })
        .returning();
      ids.set(row!.path, row!.id);
      const kept = permissions.flatMap(({ subject, name, level }) => {
        const subjectId = known[subject === 'role' ? 'roles' : 'teams'].get(name);
        return subjectId ? [{ folderId: row!.id, subject, subjectId, level }] : [];
      });
      if (kept.length) await db.insert(folderPermissions).values(kept);
    }
    await numberFolders(db, projectId);
    for (const { name, home } of content.teams)
      if (ids.has(home)) await setHomeFolder(db, known.teams.get(name)!, ids.get(home)!);
    known.folders = ids;
  },

  async read(platform, member) {
    const { db } = platform;
    const { projectId } = member;
    const { roles, teams } = await listPeople(platform, projectId);
    const rows = await listFolders(db, member);
    const permissions = await allPermissions(db, projectId);
    const nameOf = (list: { id: string; name: string }[], id: string | null): string =>
      list.find((one) => one.id === id)?.name ?? '';
    const conventionNames = new Map<string, string>();
    for (const { conventionId } of rows)
      if (conventionId && !conventionNames.has(conventionId))
        conventionNames.set(conventionId, (await conventionOf(db, projectId, conventionId)).definition.name);
    return {
      teams: teams.map(({ name, discipline, colour, homeFolderId }) => ({
        name,
        discipline,
        colour,
        home: rows.find(({ id }) => id === homeFolderId)?.path ?? '',
      })),
      folders: rows.map(({ path, teamId, conventionId }) => ({
        path: path.split(' / '),
        team: nameOf(teams, teamId),
        convention: (conventionId && conventionNames.get(conventionId)) || '',
        // People and companies differ from project to project; roles and teams stay.
        permissions: permissions.flatMap(({ folderPath, subject, subjectId, level }) => {
          if (folderPath !== path || (subject !== 'role' && subject !== 'team')) return [];
          return [{ subject, name: nameOf(subject === 'role' ? roles : teams, subjectId), level }];
        }),
      })),
    };
  },
};
