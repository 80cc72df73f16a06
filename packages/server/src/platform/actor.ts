import { allows, type Grid, type Right, type Standing } from '@kindred/core/people/rights';
import { registerCeiling } from '@kindred/core/people/reasons';
import { decidedIntervals, type FolderRule, type Interval, type Level } from '@kindred/core/register/folder-rights';
import { createHash } from 'node:crypto';
import { parse } from 'cookie';
import type { Request } from 'express';
import type pg from 'pg';
import { ProblemError, notAllowed, notFound } from './errors.ts';
import type { Access } from '@kindred/contract/platform/operation';

export interface Actor {
  id: string;
  name: string;
  email: string;
  initials: string;
  colour: string;
  installationAdministrator: boolean;
  /** Absent for tokens, which no browser sends by itself. */
  csrfToken: string | null;
  sessionId: string | null;
}

/** A person within the project that the request names. */
export interface Member extends Actor {
  projectId: string;
  memberId: string;
  teamId: string | null;
  partyId: string | null;
  standing: Standing;
  /** What folder permissions leave of the register's rights, by the numbers of the folder tree. */
  folders: { ceiling: Level; decided: Interval[] };
}

export const SESSION_COOKIE = 'ks_session';
export const hashSecret = (secret: string): string => createHash('sha256').update(secret).digest('hex');

/** Who calls and what they are in the project, in one query: every request begins with it. */
const WHO = (column: 'session' | 'token') => `
  select u.id, u.name, u.email, u.initials, u.colour, u.installation_administrator as "installationAdministrator",
         ${column === 'session' ? 's.csrf_token' : 'null'} as "csrfToken", ${column === 'session' ? 's.id' : 'null'} as "sessionId",
         ${column === 'session' ? 'false' : `s.last_used_at is null or s.last_used_at < now() - interval '1 minute'`} as "tokenIsStale",
         m.id as "memberId", m.team_id as "teamId", m.party_id as "partyId", m.administrator,
         coalesce((select json_agg(r.grid) from member_roles mr join roles r on r.id = mr.role_id where mr.member_id = m.id), '[]') as grids,
         -- The folder of each permission is looked up by its key ("offset 0"): a join would read all folders of the project.
         case when m.administrator then null else (select json_agg(json_build_object('first', f.first, 'last', f.last, 'subject', p.subject, 'subjectId', p.subject_id, 'level', p.level))
            from folder_permissions p
            cross join lateral (select first, last from folders where id = p.folder_id and project_id = m.project_id offset 0) f
           where p.subject_id in (select m.id union all select m.team_id union all select m.party_id
                                  union all select mr.role_id from member_roles mr where mr.member_id = m.id)) end as rules
  from ${column === 'session' ? 'sessions s' : 'tokens s'}
  join users u on u.id = s.user_id
  left join members m on m.user_id = u.id and m.project_id = $2 and m.left_at is null
  where ${column === 'session' ? 's.id = $1 and s.expires_at > now()' : 's.hash = $1'}`;
const QUERIES = { session: WHO('session'), token: WHO('token') };

type Row = Actor & {
  memberId: string | null;
  teamId: string | null;
  partyId: string | null;
  administrator: boolean;
  grids: Grid[];
  rules: FolderRule[] | null;
  tokenIsStale: boolean;
};

/** The caller, by session cookie or bearer token; undefined when neither is valid. */
export async function identify(
  pool: pg.Pool,
  cookieHeader: string | undefined,
  authorization: string | undefined,
  projectId: string | null,
): Promise<Actor | Member | undefined> {
  const bearer = /^Bearer (\S+)$/.exec(authorization ?? '')?.[1];
  const cookie = bearer ? undefined : parse(cookieHeader ?? '')[SESSION_COOKIE];
  const secret = bearer ?? cookie;
  if (!secret) return undefined;
  const by = bearer ? 'token' : 'session';
  const { rows } = await pool.query<Row>({
    name: `who-by-${by}`,
    text: QUERIES[by],
    values: [hashSecret(secret), projectId],
  });
  const row = rows[0];
  if (!row) return undefined;
  if (row.tokenIsStale)
    await pool.query('update tokens set last_used_at = now() where hash = $1', [hashSecret(secret)]);
  const { memberId, teamId, partyId, administrator, grids, rules, tokenIsStale: _stale, ...actor } = row;
  void _stale;
  if (!projectId || !memberId) return actor;
  const standing = { administrator, grids };
  const decided = administrator || !rules ? [] : decidedIntervals(rules);
  return {
    ...actor,
    projectId,
    memberId,
    teamId,
    partyId,
    standing,
    folders: { ceiling: registerCeiling(standing), decided },
  };
}

const SAFE_METHODS = new Set(['GET', 'HEAD', 'OPTIONS']);

/**
 * The one place that decides who may call what. Outside a project its things do not exist (404);
 * inside, a missing right is named (403).
 */
export async function authorise(pool: pg.Pool, request: Request, access: Access): Promise<Actor | Member | undefined> {
  const projectId = (request.params.projectId as string | undefined) ?? null;
  const actor = await identify(pool, request.headers.cookie, request.headers.authorization, projectId);
  if (access === 'public') return actor;
  if (!actor)
    throw new ProblemError(
      401,
      'sign-in-first',
      'Sign in first',
      'Your session has ended or was never begun. Sign in, then try again.',
    );
  if (actor.csrfToken && !SAFE_METHODS.has(request.method) && request.headers['x-csrf-token'] !== actor.csrfToken)
    throw new ProblemError(
      403,
      'csrf',
      'Not from our own page',
      'The request lacks the token of your session. Reload the page and try again.',
    );
  if (access === 'signed in') return actor;
  if (!('memberId' in actor)) throw notFound('project');
  requireAccess(actor, access);
  return actor;
}

function requireAccess(member: Member, access: 'member' | 'administrator' | Right): void {
  if (access === 'member') return;
  if (access === 'administrator') {
    if (!member.standing.administrator) throw notAllowed('Only administrators of this project may do this.');
    return;
  }
  if (!allows(member.standing, access))
    throw notAllowed(
      `None of your roles in this project has the right “${access.action}” for “${access.kind}”. Ask an administrator of the project.`,
    );
}
