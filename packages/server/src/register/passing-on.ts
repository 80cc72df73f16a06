import { sql } from 'drizzle-orm';
import type { TeamLeaving } from '../platform/capability.ts';
import type { Change } from '../platform/change.ts';
import { refreshEntries } from './entries.ts';

/** Folders, containers, deliveries and share sets of a team that is removed become another’s; of what both used, the newer use stays. */
export async function passTeamOn({ db }: Change, { projectId, fromId, toId }: TeamLeaving): Promise<void> {
  const { rows } = await db.execute(sql`
    update containers set team_id = ${toId} where project_id = ${projectId} and team_id = ${fromId} returning id`);
  await db.execute(sql`update folders set team_id = ${toId} where project_id = ${projectId} and team_id = ${fromId}`);
  await db.execute(
    sql`update deliveries set team_id = ${toId} where project_id = ${projectId} and team_id = ${fromId}`,
  );
  await db.execute(sql`
    update share_sets s set team_id = ${toId}, name = case when exists (
        select 1 from share_sets o where o.project_id = s.project_id and o.team_id = ${toId} and lower(o.name) = lower(s.name))
      then s.name || ' (' || left(s.id::text, 4) || ')' else s.name end
    where s.project_id = ${projectId} and s.team_id = ${fromId}`);
  // What was another's before is its own now: nobody uses what is theirs.
  await db.execute(sql`
    delete from uses u using containers c where c.id = u.container_id and u.team_id in (${fromId}, ${toId}) and c.team_id = ${toId}`);
  await db.execute(sql`
    insert into uses (team_id, container_id, version_number, how, by, at)
    select ${toId}, container_id, version_number, how, by, at from uses where team_id = ${fromId}
    on conflict (team_id, container_id) do update set version_number = excluded.version_number, how = excluded.how,
      by = excluded.by, at = excluded.at where uses.version_number < excluded.version_number`);
  await db.execute(sql`delete from uses where team_id = ${fromId}`);
  await db.execute(sql`
    delete from folder_permissions p using folders f where f.id = p.folder_id and f.project_id = ${projectId}
      and p.subject = 'team' and p.subject_id = ${fromId}`);
  await refreshEntries(
    db,
    (rows as unknown as { id: string }[]).map(({ id }) => id),
  );
}
