/** My desk: what is mine, waits for me and is new for me, in all my projects. */
import type { DeskItem } from '@kindred/contract/insight/insight';
import { sql, type SQL } from 'drizzle-orm';
import type { Actor } from '../platform/actor.ts';
import type { Db } from '../platform/database.ts';

const MOST = 300;

/** Each pile is one select: type, id, project, title, note, link below the project, day it is due, moment. */
const pile = (actor: Actor): SQL[] => [
  sql`select 'waiting for me' as pile, 'issue' as type, i.id::text, i.project_id, i.number || ' ' || i.title as title,
        i.priority || ', ' || i.status as note, 'issues/' || i.id as link, i.due_on, i.updated_at as at
      from issues i where i.assignee_id = ${actor.id} and i.status in ('open', 'in hand')`,
  sql`select 'mine', 'issue', i.id::text, i.project_id, i.number || ' ' || i.title,
        'raised by me, ' || i.status, 'issues/' || i.id, i.due_on, i.updated_at
      from issues i where i.author_id = ${actor.id} and i.assignee_id is distinct from ${actor.id} and i.status in ('open', 'in hand', 'answered')`,
  sql`select 'waiting for me', 'review', r.id::text, r.project_id, r.number || ' ' || r.title, 'review, step ' || (v.step + 1),
        'reviews/' || r.id, v.due_on, r.started_at
      from reviews r join reviewers v on v.review_id = r.id
      where v.user_id = ${actor.id} and v.finished_at is null and v.due_on is not null and r.status = 'under review'`,
  sql`select 'mine', 'review', r.id::text, r.project_id, r.number || ' ' || r.title, 'started by me, under review',
        'reviews/' || r.id, (select min(v.due_on) from reviewers v where v.review_id = r.id and v.finished_at is null), r.started_at
      from reviews r where r.originator_id = ${actor.id} and r.status = 'under review'`,
  sql`select 'waiting for me', 'transmittal', t.id::text, t.project_id, t.number || ' ' || t.title, t.reason,
        'transmittals/' || t.id, null::date, t.sent_at
      from transmittals t join receipts c on c.transmittal_id = t.id where c.user_id = ${actor.id} and c.opened_at is null`,
  sql`select 'mine', 'reservation', e.container_id::text, e.project_id, e.code, 'reserved by me', 'containers/' || e.container_id,
        null::date, e.reserved_at
      from entries e where e.reserved_by = ${actor.id} and e.audience <> 'others'`,
  sql`select 'mine', 'intake', e.container_id::text, e.project_id, e.code, 'at the intake: its name does not conform',
        'containers/' || e.container_id, null::date, e.delivered_at
      from entries e where e.delivered_by = ${actor.id} and e.at_intake and e.audience <> 'others'`,
  sql`select 'waiting for me', 'decision', e.container_id::text, e.project_id, e.code, 'two versions, one to go on with',
        'containers/' || e.container_id, null::date, e.delivered_at
      from entries e join members m on m.project_id = e.project_id and m.user_id = ${actor.id} and m.team_id = e.team_id
      where e.contested > 0 and e.audience <> 'others'`,
  sql`select 'new for me', 'notice', n.id::text, n.project_id, n.text, '', n.link, null::date, n.at
      from notices n where n.user_id = ${actor.id} and n.read_at is null`,
];

export async function showDesk(db: Db, actor: Actor): Promise<DeskItem[]> {
  const { rows } = await db.execute(sql`
    select d.pile, d.type, d.id, d.project_id as "projectId", p.name as project, d.title, d.note,
      case when d.link like '/%' then d.link else '/projects/' || d.project_id || '/' || d.link end as link,
      d.due_on::text as "dueOn", to_char(d.at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"') as at
    from (${sql.join(pile(actor), sql` union all `)}) d
    join projects p on p.id = d.project_id
    join members m on m.project_id = d.project_id and m.user_id = ${actor.id} and m.left_at is null
    order by d.due_on asc nulls last, d.at desc limit ${MOST}`);
  return rows as unknown as DeskItem[];
}
