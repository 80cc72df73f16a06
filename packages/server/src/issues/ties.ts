/** What issues are tied to: other issues, things of other kinds, elements, versions that answer them. */
import type * as contract from '@kindred/contract/issues/ties';
import type { IssueAnswer, IssueRelation } from '@kindred/contract/issues/ties';
import type { Body, Response } from '@kindred/contract/platform/operation';
import type { Thing } from '@kindred/contract/things/things';
import { mayTakeStep } from '@kindred/core/issues/may-change';
import { ruleOf } from '@kindred/core/issues/settings';
import { issueTransitions } from '@kindred/core/issues/states';
import { allows } from '@kindred/core/people/rights';
import { next } from '@kindred/core/platform/machine';
import { and, asc, eq, inArray, or } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notAllowed, requireRow, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { visibleVersion, visibleVersions } from '../register/versions.ts';
import { changeWithin } from './changing.ts';
import { concernsOf } from './responsible.ts';
import type { Which } from './requirements.ts';
import { issueRow } from './rows.ts';
import { issueAnswers, issueRelations, issues, issueThings } from './schema.ts';
import { settingsOf } from './settings.ts';
import { tellOfIssue } from './telling.ts';
import { issueVisibleTo } from './visibility.ts';

export async function thingsOf({ db, subjects }: Platform, actor: Member, issueId: string): Promise<Thing[]> {
  const rows = await db
    .select({ type: issueThings.type, id: issueThings.thingId })
    .from(issueThings)
    .where(eq(issueThings.issueId, issueId));
  return subjects.named(db, actor, rows);
}

export async function tieIssue(platform: Platform, actor: Member, issueId: string, which: Which): Promise<Thing[]> {
  const title = await platform.subjects.titleOf(platform.db, actor, which.type, which.id);
  await change(platform, actor, async ({ db, record }) => {
    await issueRow(db, actor, issueId);
    if (which.id === issueId) throw refused('itself', 'An issue is not tied to itself. Nothing was changed.');
    await db.insert(issueThings).values({ issueId, type: which.type, thingId: which.id }).onConflictDoNothing();
    await record({
      ...{ projectId: actor.projectId, verb: 'tied', subjectType: 'issue', subjectId: issueId },
      after: { type: which.type, title },
    });
  });
  return thingsOf(platform, actor, issueId);
}

export async function untieIssue(
  platform: Platform,
  actor: Member,
  issueId: string,
  { type, id }: Which,
): Promise<Thing[]> {
  await change(platform, actor, async ({ db, record }) => {
    await issueRow(db, actor, issueId);
    const rows = await db
      .delete(issueThings)
      .where(and(eq(issueThings.issueId, issueId), eq(issueThings.type, type), eq(issueThings.thingId, id)))
      .returning();
    requireRow(rows, 'tie');
    await record({
      ...{ projectId: actor.projectId, verb: 'untied', subjectType: 'issue', subjectId: issueId },
      after: { type },
    });
  });
  return thingsOf(platform, actor, issueId);
}

/** In both directions, of those issues that the actor sees. */
export async function relationsOf(db: Db, actor: Member, issueId: string): Promise<IssueRelation[]> {
  const rows = await db
    .select()
    .from(issueRelations)
    .where(or(eq(issueRelations.issueId, issueId), eq(issueRelations.otherId, issueId)));
  const others = rows.map((row) => (row.issueId === issueId ? row.otherId : row.issueId));
  const seen = others.length
    ? await db
        .select({ id: issues.id, number: issues.number, title: issues.title, status: issues.status })
        .from(issues)
        .where(and(inArray(issues.id, others), issueVisibleTo(actor)))
    : [];
  const byId = new Map(seen.map((issue) => [issue.id, issue]));
  return rows
    .flatMap(({ id, kind, otherId }, i) => {
      const issue = byId.get(others[i]!);
      return issue ? [{ id, kind, back: otherId === issueId, issue }] : [];
    })
    .sort((a, b) => a.issue.number - b.issue.number);
}

export const relateIssue = (
  platform: Platform,
  actor: Member,
  issueId: string,
  { kind, issueId: otherId }: Body<typeof contract.relateIssue>,
): Promise<IssueRelation> =>
  change(platform, actor, async ({ db, record }) => {
    const row = await issueRow(db, actor, issueId);
    const other = await issueRow(db, actor, otherId);
    if (row.id === other.id) throw refused('itself', 'An issue is not related to itself. Nothing was changed.');
    const twice = await db
      .select({ id: issueRelations.id })
      .from(issueRelations)
      .where(
        and(
          eq(issueRelations.kind, kind),
          or(
            and(eq(issueRelations.issueId, issueId), eq(issueRelations.otherId, otherId)),
            and(eq(issueRelations.issueId, otherId), eq(issueRelations.otherId, issueId)),
          ),
        ),
      );
    if (twice.length)
      throw refused('related-already', 'These two are related in this way already. Nothing was changed.');
    const [added] = await db.insert(issueRelations).values({ issueId, kind, otherId }).returning();
    await record({
      ...{ projectId: actor.projectId, verb: 'related', subjectType: 'issue', subjectId: issueId },
      after: { kind, number: other.number, title: other.title },
    });
    return (await relationsOf(db, actor, issueId)).find(({ id }) => id === added!.id)!;
  });

export const unrelateIssue = (platform: Platform, actor: Member, issueId: string, relationId: string): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    await issueRow(db, actor, issueId);
    const rows = await db
      .delete(issueRelations)
      .where(
        and(
          eq(issueRelations.id, relationId),
          or(eq(issueRelations.issueId, issueId), eq(issueRelations.otherId, issueId)),
        ),
      )
      .returning();
    const { kind } = requireRow(rows, 'relation');
    await record({
      ...{ projectId: actor.projectId, verb: 'unrelated', subjectType: 'issue', subjectId: issueId },
      before: { kind },
    });
  });

/** The newest first, of those versions that the actor sees. */
export async function answersOf(db: Db, actor: Member, issueId: string): Promise<IssueAnswer[]> {
  const rows = await db
    .select()
    .from(issueAnswers)
    .where(eq(issueAnswers.issueId, issueId))
    .orderBy(asc(issueAnswers.at));
  const seen = await visibleVersions(
    db,
    actor,
    rows.map(({ versionId }) => versionId),
  );
  const byId = new Map(seen.map((version) => [version.id, version]));
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  return rows
    .flatMap(({ versionId, authorId, note, at }) => {
      const version = byId.get(versionId);
      if (!version) return [];
      const { containerId, container, number } = version;
      const by = persons.get(authorId)!;
      return [{ versionId, containerId, code: container.code, versionNumber: number, by, note, at: at.toISOString() }];
    })
    .reverse();
}

/** A version answers an issue: with it the issue is answered, where whoever says so may answer it. */
export const answerIssue = (
  platform: Platform,
  actor: Member,
  issueId: string,
  wanted: Body<typeof contract.answerIssue>,
): Promise<Response<typeof contract.answerIssue>> =>
  change(platform, actor, (unit) => answerWithin(unit, actor, issueId, wanted));

/** A version that arrives answers issues by their numbers, of those that whoever delivers it may write about. */
export async function answerByNumbers(
  unit: Change,
  actor: Member,
  versionId: string,
  numbers: readonly number[],
): Promise<void> {
  if (!allows(actor.standing, { kind: 'issues', action: 'add' }))
    throw notAllowed('You may not write about issues in this project. Nothing was delivered.');
  for (const number of numbers) {
    const [row] = await unit.db
      .select({ id: issues.id })
      .from(issues)
      .where(and(eq(issues.projectId, actor.projectId), eq(issues.number, number), issueVisibleTo(actor)));
    if (!row) throw refused('no-such-issue', `There is no issue ${number} that you see. Nothing was delivered.`);
    await answerWithin(unit, actor, row.id, { versionId });
  }
}

async function answerWithin(
  unit: Change,
  actor: Member,
  issueId: string,
  { versionId, note = '' }: Body<typeof contract.answerIssue>,
): Promise<Response<typeof contract.answerIssue>> {
  const { db, record } = unit;
  const row = await issueRow(db, actor, issueId);
  const { number, container } = await visibleVersion(db, actor, versionId);
  const added = await db
    .insert(issueAnswers)
    .values({ issueId, versionId, authorId: actor.id, note, at: now() })
    .onConflictDoNothing()
    .returning();
  const answer = async () => (await answersOf(db, actor, issueId)).find((one) => one.versionId === versionId) ?? null;
  if (!added.length) return { number: row.number, status: row.status, answer: await answer() };
  const words = `version ${number} of ${container.code}`;
  await record({
    ...{ projectId: actor.projectId, verb: 'answered with a version', subjectType: 'issue', subjectId: issueId },
    after: { code: container.code, version: number, ...(note && { note }) },
  });
  const rule = ruleOf(await settingsOf(db, actor.projectId), row.type);
  const goesOn =
    next(issueTransitions, row.status, 'answer') !== undefined &&
    mayTakeStep(rule, await concernsOf(db, actor, row), 'answer');
  if (goesOn) {
    const reason = `Answered with ${words}.${note && ` ${note}`}`;
    const after = await changeWithin(unit, actor, issueId, {
      edition: row.edition,
      action: 'answer',
      reason,
    });
    return { number: row.number, status: after.status, answer: await answer() };
  }
  await tellOfIssue(unit, actor, row, {
    text: `${actor.name} answers issue ${row.number} with ${words}`,
    letter: `${row.title}\n\n${note}`,
  });
  return { number: row.number, status: row.status, answer: await answer() };
}
