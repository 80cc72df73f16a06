import { eq, sql } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import type { Db } from '../platform/database.ts';
import type { Platform } from '../platform/services.ts';

const MOST = 24;

/** The people of a demo installation, for signing in with one click; nobody elsewhere. */
export async function listDemoPeople({ db, config }: Platform) {
  if (!config.demo) return [];
  const people = await db
    .select()
    .from(users)
    .where(eq(users.guest, false))
    .orderBy(users.createdAt, users.name)
    .limit(MOST);
  const about = await introductions(
    db,
    people.map(({ id }) => id),
  );
  return people.map(({ id, email, name, initials, colour }) => ({
    email: email ?? '',
    name,
    initials,
    colour,
    about: about.get(id) ?? '',
  }));
}

/** “Company · roles” of each person's first project. */
async function introductions(db: Db, personIds: string[]): Promise<Map<string, string>> {
  if (!personIds.length) return new Map();
  const { rows } = await db.execute(sql`
    select distinct on (m.user_id) m.user_id as id, p.name as party,
           (select string_agg(r.name, ', ' order by r.name) from member_roles mr join roles r on r.id = mr.role_id where mr.member_id = m.id) as roles
    from members m left join parties p on p.id = m.party_id
    where m.user_id in ${personIds}
    order by m.user_id, m.added_at`);
  return new Map(rows.map(({ id, party, roles }) => [String(id), [party, roles].filter(Boolean).join(' · ')]));
}
