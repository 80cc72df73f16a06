/** News of issues to those whom they concern, of whom only those hear that may see the issue. */
import { and, eq } from 'drizzle-orm';
import { contacts, type Contact } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import type { Change } from '../platform/change.ts';
import type { Db } from '../platform/database.ts';
import { membershipsWithin } from '../register/callers.ts';
import { contactsBehind, responsibleOf } from './responsible.ts';
import { linkTo, type IssueRow } from './rows.ts';
import { issues, issueWatchers } from './schema.ts';
import { issueVisibleTo } from './visibility.ts';

/** Of these members those who see the issue, as it stands in the transaction. */
export async function whoSee(db: Db, members: readonly Member[], issueId: string): Promise<Member[]> {
  const seeing: Member[] = [];
  for (const member of members) {
    const rows = await db
      .select({ id: issues.id })
      .from(issues)
      .where(and(eq(issues.id, issueId), issueVisibleTo(member)));
    if (rows.length) seeing.push(member);
  }
  return seeing;
}

const hasPlace = ({ placeVersionId, viewpointId }: IssueRow): boolean =>
  placeVersionId !== null || viewpointId !== null;

/** Of these people those who may see the issue. */
export async function contactsSeeing(db: Db, row: IssueRow, people: readonly Contact[]): Promise<Contact[]> {
  if (!hasPlace(row) || !people.length) return [...people];
  const members = await membershipsWithin(
    db,
    people.map(({ id }) => id),
    row.projectId,
  );
  const seeing = new Set((await whoSee(db, members, row.id)).map(({ id }) => id));
  return people.filter(({ id }) => seeing.has(id));
}

export interface News {
  text: string;
  letter: string;
  /** They are told first, and in words of their own. */
  asked?: { to: readonly Contact[]; text: string; letter: string };
  mentions?: readonly string[];
  /** What those read who are mentioned. */
  mentioned?: string;
}

/** Tells whoever raised it, answers it, verifies it or watches it; each of them once, by what concerns them most. */
export async function tellOfIssue(
  { db, tell }: Change,
  /** Who does it, and so need not be told. */
  actor: { id: string } | null,
  row: IssueRow,
  { text, letter, asked, mentions = [], mentioned = text }: News,
): Promise<void> {
  const { projectId } = row;
  const told = new Set(actor ? [actor.id] : []);
  const about = { projectId, link: linkTo(row), replyTo: `issue/${row.id}` };
  const send = async (
    people: readonly Contact[],
    kind: 'issue' | 'watching' | 'mention',
    words: { text: string; letter: string },
  ): Promise<void> => {
    const fresh = people.filter(({ id }) => !told.has(id));
    for (const { id } of fresh) told.add(id);
    const to = await contactsSeeing(db, row, fresh);
    if (to.length) await tell({ to, kind, ...about, ...words });
  };
  if (asked) await send(asked.to, 'issue', asked);
  await send(await contacts(db, projectId, mentions), 'mention', { text: mentioned, letter });
  const concerned = [row.authorId, row.verifierId].filter((id) => id !== null);
  await send(
    [...(await contactsBehind(db, projectId, responsibleOf(row))), ...(await contacts(db, projectId, concerned))],
    'issue',
    { text, letter },
  );
  const watchers = await db.select().from(issueWatchers).where(eq(issueWatchers.issueId, row.id));
  await send(
    await contacts(
      db,
      projectId,
      watchers.map(({ userId }) => userId),
    ),
    'watching',
    { text, letter },
  );
}
