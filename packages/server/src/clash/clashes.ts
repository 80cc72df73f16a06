/** Clashes as people see them, and what they decide of them. */
import type {
  Clash,
  ClashGroup,
  decideClashes as operation,
  listClashesOfIssue as ofIssue,
} from '@kindred/contract/clash/clashes';
import type { Body } from '@kindred/contract/platform/operation';
import type { Static } from '@sinclair/typebox';
import { allows } from '@kindred/core/people/rights';
import { and, asc, eq, inArray, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import { issues } from '../issues/schema.ts';
import { issueVisibleTo } from '../issues/visibility.ts';
import { contacts } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notFound, refused, requireRow } from '../platform/errors.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { isAccepted, ruleRow } from './rules.ts';
import { clashes, clashGroups, clashRules } from './schema.ts';
import { clashVisibleTo } from './visibility.ts';

type Row = typeof clashes.$inferSelect;

async function toClashes(db: Db, actor: Member, rows: readonly (Row & { accepted: boolean })[]): Promise<Clash[]> {
  const persons = await personsById(
    db,
    rows.flatMap(({ acceptedBy, assigneeId }) => [acceptedBy, assigneeId]),
  );
  const issueIds = [...new Set(rows.flatMap(({ issueId }) => issueId ?? []))];
  const seen =
    issueIds.length && allows(actor.standing, { kind: 'issues', action: 'see' })
      ? await db
          .select({ id: issues.id, number: issues.number, status: issues.status })
          .from(issues)
          .where(and(inArray(issues.id, issueIds), issueVisibleTo(actor)))
      : [];
  return rows.map((row) => {
    const { id, number, groupId, kind, state, depth, gap, at, since } = row;
    return {
      ...{ id, number, groupId, kind, state, depth, gap, at, since: since.toISOString() },
      a: { ...row.a, versionId: row.aVersionId, containerId: row.aContainerId },
      b: { ...row.b, versionId: row.bVersionId, containerId: row.bContainerId },
      accepted: row.accepted
        ? {
            by: persons.get(row.acceptedBy!)!,
            at: row.acceptedAt!.toISOString(),
            reason: row.acceptedReason,
            until: row.acceptedUntil,
          }
        : null,
      assignee: (row.assigneeId && persons.get(row.assigneeId)) || null,
      issue: seen.find((one) => one.id === row.issueId) ?? null,
    };
  });
}

export async function listClashes(
  { db }: Platform,
  actor: Member,
  ruleId: string,
  asked: PageAsked,
): Promise<{ items: Clash[]; next: string | null }> {
  await ruleRow(db, actor.projectId, ruleId);
  const { where, orderBy, limit } = pageOf(clashes.number, clashes.number, false, asked);
  const rows = await db
    .select({ row: clashes, accepted: isAccepted })
    .from(clashes)
    .where(and(eq(clashes.ruleId, ruleId), clashVisibleTo(actor), where))
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, ({ row }) => [row.number, String(row.number)]);
  return {
    items: await toClashes(
      db,
      actor,
      items.map(({ row, accepted }) => ({ ...row, accepted })),
    ),
    next,
  };
}

export async function listClashGroups({ db }: Platform, actor: Member, ruleId: string): Promise<ClashGroup[]> {
  await ruleRow(db, actor.projectId, ruleId);
  const { id, number, name } = clashGroups;
  return db
    .select({ id, number, name })
    .from(clashGroups)
    .where(
      and(
        eq(clashGroups.ruleId, ruleId),
        sql`exists (select 1 from ${clashes} where ${clashes.groupId} = ${clashGroups.id} and ${clashVisibleTo(actor)})`,
      ),
    )
    .orderBy(asc(number));
}

export async function listClashesOfIssue(
  { db }: Platform,
  actor: Member,
  issueId: string,
): Promise<Static<typeof ofIssue.response>> {
  await requireIssue(db, actor, issueId);
  const rows = await db
    .select({ row: clashes, accepted: isAccepted, rule: clashRules.name })
    .from(clashes)
    .innerJoin(clashRules, eq(clashRules.id, clashes.ruleId))
    .where(and(eq(clashes.issueId, issueId), clashVisibleTo(actor)))
    .orderBy(asc(clashRules.name), asc(clashes.number));
  const told = await toClashes(
    db,
    actor,
    rows.map(({ row, accepted }) => ({ ...row, accepted })),
  );
  return rows.map(({ row, rule }, i) => ({
    ...{ ruleId: row.ruleId, rule, clash: told[i]!, goneAt: row.goneAt?.toISOString() ?? null },
  }));
}

export const decideClashes = (
  platform: Platform,
  actor: Member,
  ruleId: string,
  { clashIds, accepted, assigneeId, issueId }: Body<typeof operation>,
): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const rule = await ruleRow(db, actor.projectId, ruleId);
    const which = and(eq(clashes.ruleId, ruleId), inArray(clashes.id, clashIds));
    const seen = await db
      .select({ number: clashes.number })
      .from(clashes)
      .where(and(which, clashVisibleTo(actor)))
      .orderBy(clashes.number);
    if (seen.length < clashIds.length) throw notFound('clash');
    if (assigneeId && !(await contacts(db, actor.projectId, [assigneeId])).length)
      throw refused('not-a-member', 'This person is not in the project. Nothing was changed.');
    if (issueId) await requireIssue(db, actor, issueId);
    await db
      .update(clashes)
      .set({
        ...(accepted !== undefined && {
          acceptedBy: accepted ? actor.id : null,
          acceptedAt: accepted ? now() : null,
          acceptedReason: accepted?.reason ?? '',
          acceptedUntil: accepted?.until ?? null,
        }),
        ...(assigneeId !== undefined && { assigneeId }),
        ...(issueId !== undefined && { issueId }),
      })
      .where(which);
    const verb =
      accepted === null
        ? 'clashes taken up again'
        : accepted
          ? 'clashes accepted'
          : issueId
            ? 'issue raised from clashes'
            : 'clashes assigned';
    await record({
      ...{ projectId: actor.projectId, verb, subjectType: 'clash rule', subjectId: ruleId },
      after: {
        ...{ name: rule.name, clashes: seen.length, numbers: seen.slice(0, 20).map(({ number }) => number) },
        ...(accepted && { reason: accepted.reason, until: accepted.until }),
      },
    });
  });

async function requireIssue(db: Db, actor: Member, issueId: string): Promise<void> {
  requireRow(
    await db
      .select({ id: issues.id })
      .from(issues)
      .where(and(eq(issues.projectId, actor.projectId), eq(issues.id, issueId), issueVisibleTo(actor))),
    'issue',
  );
}
