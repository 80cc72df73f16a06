/** Who calls: a session or a token, the member behind it, and what folder permissions leave them, in one query. */
import type { Grid, WorkArea } from '@kindred/core/people/rights';
import { decidedIntervals, type FolderRule } from '@kindred/core/register/folder-rights';
import { registerCeiling } from '@kindred/core/register/check-access';
import { sql } from 'drizzle-orm';
import type pg from 'pg';
import { parse } from 'cookie';
import { hashSecret, SESSION_COOKIE } from '../identity/secrets.ts';
import type { Actor, Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import type { Credentials } from '../platform/gate.ts';

const MEMBER = `
  m.id as "memberId", m.team_id as "teamId", m.party_id as "partyId", m.administrator, m.work_areas as "workAreas",
  coalesce((select json_agg(r.grid) from member_roles mr join roles r on r.id = mr.role_id where mr.member_id = m.id), '[]') as grids,
  -- The folder of each permission is looked up by its key ("offset 0"): a join would read all folders of the project.
  case when m.administrator then null else (select json_agg(json_build_object('first', f.first, 'last', f.last, 'subject', p.subject, 'subjectId', p.subject_id, 'level', p.level))
     from folder_permissions p
     cross join lateral (select first, last from folders where id = p.folder_id and project_id = m.project_id offset 0) f
    where p.subject_id in (select m.id union all select m.team_id union all select m.party_id
                           union all select mr.role_id from member_roles mr where mr.member_id = m.id)) end as rules`;
const PERSON = `u.id, u.name, u.email, u.initials, u.colour, u.installation_administrator as "installationAdministrator"`;

const WHO = (by: 'session' | 'token') => `
  select ${PERSON},
         ${by === 'session' ? 's.csrf_token' : 'null'} as "csrfToken", ${by === 'session' ? 's.id' : 'null'} as "sessionId",
         s.last_used_at is null or s.last_used_at < now() - interval '1 minute' as "isStale",
         ${by === 'session' ? `'session:' || s.id` : `'token:' || s.id`} as credential,
         $2::uuid as "projectId", ${MEMBER}
  from ${by === 'session' ? 'sessions s' : 'tokens s'}
  join users u on u.id = s.user_id
  left join members m on m.user_id = u.id and m.project_id = $2 and m.left_at is null
  where ${by === 'session' ? 's.id = $1 and s.expires_at > now()' : 's.hash = $1 and (s.expires_at is null or s.expires_at > now())'}`;
const QUERIES = { session: WHO('session'), token: WHO('token') };

const MEMBERS = `
  select ${PERSON}, null as "csrfToken", null as "sessionId", null as credential, m.project_id as "projectId", ${MEMBER}
  from members m join users u on u.id = m.user_id`;
const MEMBERSHIPS = `${MEMBERS}
  where m.user_id = any($1::uuid[]) and ($2::uuid is null or m.project_id = $2) and m.left_at is null`;

type Row = Omit<Actor, 'kind'> & {
  projectId: string | null;
  memberId: string | null;
  teamId: string | null;
  partyId: string | null;
  administrator: boolean;
  workAreas: WorkArea[] | null;
  grids: Grid[];
  rules: FolderRule[] | null;
  isStale?: boolean;
};

function callerOf(row: Row): Actor | Member {
  const {
    projectId,
    memberId,
    teamId,
    partyId,
    administrator,
    workAreas,
    grids,
    rules,
    isStale: _stale,
    ...actor
  } = row;
  void _stale;
  if (!projectId || !memberId) return { ...actor, kind: 'person' };
  const standing = { administrator, grids };
  const decided = administrator || !rules ? [] : decidedIntervals(rules);
  const folders = { ceiling: registerCeiling(standing), decided };
  return { ...actor, kind: 'member', projectId, memberId, teamId, partyId, workAreas, standing, folders };
}

/** By session cookie or bearer token; undefined when neither is valid. */
export async function identifyPerson(
  pool: pg.Pool,
  { cookie, authorization }: Credentials,
  projectId: string | null,
): Promise<Actor | Member | undefined> {
  const bearer = /^Bearer (\S+)$/.exec(authorization ?? '')?.[1];
  const secret = bearer ?? parse(cookie ?? '')[SESSION_COOKIE];
  if (!secret) return undefined;
  const by = bearer ? 'token' : 'session';
  const { rows } = await pool.query<Row>({
    name: `who-by-${by}`,
    text: QUERIES[by],
    values: [hashSecret(secret), projectId],
  });
  const row = rows[0];
  if (!row) return undefined;
  if (row.isStale)
    await pool.query(
      by === 'session'
        ? 'update sessions set last_used_at = now() where id = $1'
        : 'update tokens set last_used_at = now() where hash = $1',
      [hashSecret(secret)],
    );
  return callerOf(row);
}

/** What these people are in one project, or in all of theirs. */
export async function memberships(
  pool: pg.Pool,
  personIds: readonly string[],
  projectId: string | null = null,
): Promise<Member[]> {
  const { rows } = await pool.query<Row>({ name: 'memberships', text: MEMBERSHIPS, values: [personIds, projectId] });
  return rows.map((row) => callerOf(row) as Member);
}

/** The same within a change: one that waited for a second connection could wait for itself. */
export async function membershipsWithin(db: Db, personIds: readonly string[], projectId: string): Promise<Member[]> {
  if (!personIds.length) return [];
  const { rows } = await db.execute(sql`${sql.raw(MEMBERS)}
    where m.user_id = any(${sql.param([...personIds])}::uuid[]) and m.project_id = ${projectId} and m.left_at is null`);
  return (rows as unknown as Row[]).map((row) => callerOf(row) as Member);
}

/** Which of these credentials are good no longer: ended, removed, or too old. */
export async function endedCredentials(pool: pg.Pool, credentials: readonly string[]): Promise<string[]> {
  const { rows } = await pool.query<{ credential: string }>(
    `select credential from unnest($1::text[]) credential
     where not exists (select 1 from sessions s where s.id = substring(credential from '^session:(.*)$') and s.expires_at > now())
       and not exists (select 1 from tokens t where t.id::text = substring(credential from '^token:(.*)$') and (t.expires_at is null or t.expires_at > now()))`,
    [credentials],
  );
  return rows.map(({ credential }) => credential);
}
