/** Fields and status of issues change; each change says what was before. */
import type { changeIssue as operation, changeIssues as manyOperation, Issue } from '@kindred/contract/issues/issues';
import type { Body, Response } from '@kindred/contract/platform/operation';
import { ISSUE_FIELDS, mayChangeField, mayTakeStep, type IssueField } from '@kindred/core/issues/may-change';
import { ruleOf, type IssueConcern, type IssueSettings, type StepRule } from '@kindred/core/issues/settings';
import { issueTransitions, type IssueAction, type IssueStatus } from '@kindred/core/issues/states';
import { actionsIn, next } from '@kindred/core/platform/machine';
import { whoMayStep } from '@kindred/words/issues';
import { and, eq, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, notAllowed, ProblemError, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { bellsOf, ring, silentBells } from './bells.ts';
import { askedOf } from './raising.ts';
import { requireKnown, requireMembers, requireSeen } from './requirements.ts';
import { assignedTo, concernsOf, requireResponsible, responsibleNames, toResponsible } from './responsible.ts';
import { issueRow, toIssue, type IssueRow } from './rows.ts';
import { issueAnswers, issueCommentDocuments, issueCommentPictures, issueComments, issues } from './schema.ts';
import { settingsOf } from './settings.ts';
import { tellOfIssue } from './telling.ts';

type Wanted = Body<typeof operation>;
type Fields = Pick<Wanted, IssueField>;

export const changeIssue = (platform: Platform, actor: Member, issueId: string, wanted: Wanted): Promise<Issue> =>
  change(platform, actor, async (unit) => toIssue(unit.db, await changeWithin(unit, actor, issueId, wanted)));

/** Each for itself: what is wrong with one keeps no other back. */
export async function changeIssues(
  platform: Platform,
  actor: Member,
  { changes }: Body<typeof manyOperation>,
): Promise<Response<typeof manyOperation>> {
  const outcomes: Response<typeof manyOperation> = [];
  for (const { issueId, ...wanted } of changes) {
    try {
      outcomes.push({ issueId, issue: await changeIssue(platform, actor, issueId, wanted), problem: '' });
    } catch (error) {
      if (!(error instanceof ProblemError) || error.status >= 500) throw error;
      outcomes.push({ issueId, issue: null, problem: error.detail });
    }
  }
  return outcomes;
}

/** What the actor may change of an issue, and which steps they may take now. */
export function allowed(
  settings: IssueSettings,
  row: IssueRow,
  concerns: ReadonlySet<IssueConcern>,
): (IssueField | IssueAction)[] {
  const rule = ruleOf(settings, row.type);
  return [
    ...ISSUE_FIELDS.filter((field) => mayChangeField(concerns, field)),
    ...actionsIn(issueTransitions, row.status).filter((action) => mayTakeStep(rule, concerns, action)),
  ];
}

/** Within a change. */
export async function changeWithin(
  unit: Change,
  actor: Member,
  issueId: string,
  { edition, action, reason = '', ...fields }: Wanted,
): Promise<IssueRow> {
  const { db, record } = unit;
  const before = await issueRow(db, actor, issueId);
  const settings = await settingsOf(db, actor.projectId);
  const concerns = await concernsOf(db, actor, before);
  requireFields(concerns, fields);
  const status = action ? await stepTo(db, settings, before, concerns, action, reason) : before.status;
  requireKnown(settings, {
    ...(fields.type !== before.type && fields.type !== undefined && { type: fields.type }),
    ...(fields.priority !== before.priority && fields.priority !== undefined && { priority: fields.priority }),
    labels: (fields.labels ?? []).filter((label) => !before.labels.includes(label)),
  });
  if (fields.responsible) await requireResponsible(db, actor.projectId, fields.responsible);
  if (fields.verifierId) await requireMembers(db, actor, [fields.verifierId]);
  const bells = await bellsOf(db, actor.projectId);
  const silent = await silentBells(db, bells, issueId);
  const { responsible, ...plain } = fields;
  const [after] = await db
    .update(issues)
    .set({
      ...plain,
      ...(responsible !== undefined && assignedTo(responsible)),
      ...(action && dated(before, status, actor)),
      ...{ status, edition: edition + 1, updatedAt: now() },
    })
    .where(and(eq(issues.id, issueId), eq(issues.edition, edition)))
    .returning();
  if (!after)
    throw conflict(
      'Someone else changed this issue meanwhile. What you typed is still here; reload to see theirs, then save again.',
    );
  await requireSeen(db, after, fields);
  const said = await differences(db, before, after);
  await record({
    ...{ projectId: actor.projectId, verb: action ?? 'changed', subjectType: 'issue', subjectId: issueId },
    before: said.before,
    after: { ...said.after, ...(reason && { reason }) },
  });
  await tellOfChange(unit, actor, { before, after, reason, action: action !== undefined });
  await ring(unit, bells, silent, after);
  return after;
}

function requireFields(concerns: ReadonlySet<IssueConcern>, fields: Fields): void {
  const named = Object.entries(fields).flatMap(([field, value]) => (value === undefined ? [] : [field as IssueField]));
  if (named.every((field) => mayChangeField(concerns, field))) return;
  throw notAllowed(
    'Only whoever raised this issue, or has the right “change” for issues, may do this; whoever is responsible answers it or passes it on. Nothing was changed.',
  );
}

/** The status that a step leads to, if the rules of its type let the actor take it now. */
async function stepTo(
  db: Db,
  settings: IssueSettings,
  row: IssueRow,
  concerns: ReadonlySet<IssueConcern>,
  action: IssueAction,
  reason: string,
): Promise<IssueStatus> {
  const rule = ruleOf(settings, row.type);
  if (!mayTakeStep(rule, concerns, action))
    throw notAllowed(`${whoMayStep(row.type, action, rule.steps[action].by)} Nothing was changed.`);
  const status = next(issueTransitions, row.status, action);
  if (!status)
    throw refused(
      'no-such-step',
      `An issue that is ${row.status} cannot “${action}”. Possible: ${actionsIn(issueTransitions, row.status).join(', ')}.`,
    );
  await requireGrounds(db, row, rule.steps[action], action, reason);
  return status;
}

async function requireGrounds(
  db: Db,
  row: IssueRow,
  { reason, proof }: StepRule,
  action: IssueAction,
  given: string,
): Promise<void> {
  if (reason && !given.trim())
    throw refused('reason-required', `“${action}” takes a reason for issues of this type. Nothing was changed.`);
  if (proof && !(await hasProof(db, row.id)))
    throw refused(
      'proof-required',
      `“${action}” takes a proof for issues of this type: a version that answers it, or a picture or document in a comment. Nothing was changed.`,
    );
}

async function hasProof(db: Db, issueId: string): Promise<boolean> {
  const said = sql`${issueComments.issueId} = ${issueId} and ${issueComments.withdrawnAt} is null`;
  const { rows } = await db.execute(sql`select 1 where
    exists (select 1 from ${issueAnswers} where ${issueAnswers.issueId} = ${issueId})
    or exists (select 1 from ${issueCommentPictures} join ${issueComments} on ${issueComments.id} = ${issueCommentPictures.commentId} where ${said})
    or exists (select 1 from ${issueCommentDocuments} join ${issueComments} on ${issueComments.id} = ${issueCommentDocuments.commentId} where ${said})`);
  return rows.length > 0;
}

/** The first answer counts, however often an issue is opened again. */
function dated({ answeredAt }: IssueRow, status: IssueStatus, actor: Member): Partial<IssueRow> {
  const at = now();
  return {
    ...(status === 'answered' && answeredAt === null && { answeredAt: at, answeredBy: actor.id }),
    closedAt: status === 'closed' ? at : null,
  };
}

/** What changed, as people read it: names in the place of ids. */
async function differences(db: Db, before: IssueRow, after: IssueRow) {
  const persons = await personsById(
    db,
    [before, after].flatMap(({ assigneeId, verifierId }) => [assigneeId, verifierId]),
  );
  const names = await responsibleNames(db, [before, after]);
  const said = (row: IssueRow): Record<string, unknown> => ({
    ...{ status: row.status, title: row.title, description: row.description, type: row.type, priority: row.priority },
    ...{ dueOn: row.dueOn, labels: row.labels },
    responsible: toResponsible(row, persons, names)?.name ?? null,
    verifier: (row.verifierId && persons.get(row.verifierId)?.name) || null,
  });
  const [old, fresh] = [said(before), said(after)];
  const changed = Object.keys(old).filter((key) => JSON.stringify(old[key]) !== JSON.stringify(fresh[key]));
  const pick = (from: Record<string, unknown>) => Object.fromEntries(changed.map((key) => [key, from[key]]));
  return { before: pick(old), after: pick(fresh) };
}

async function tellOfChange(
  unit: Change,
  actor: Member,
  { before, after, reason, action }: { before: IssueRow; after: IssueRow; reason: string; action: boolean },
): Promise<void> {
  const asked =
    JSON.stringify(whomOf(before)) === JSON.stringify(whomOf(after)) ? undefined : await askedOf(unit.db, actor, after);
  if (action)
    return tellOfIssue(unit, actor, after, {
      text: `${actor.name}: issue ${after.number} is ${after.status}`,
      letter: `${after.title}\n\n${reason}`,
      ...(asked && { asked }),
    });
  if (asked)
    await tellOfIssue(unit, actor, after, {
      text: `${actor.name} passed issue ${after.number} on, ${after.title}`,
      letter: after.title,
      asked,
    });
}
const whomOf = ({ assigneeId, assigneeTeamId, assigneeRoleId }: IssueRow) => [
  assigneeId,
  assigneeTeamId,
  assigneeRoleId,
];
