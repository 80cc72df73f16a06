import { counted } from '@kindred/words/sentence';
import { addWorkingDays, currentStep, finishingProblem } from '@kindred/core/review/rules';
import { finishingProblem as sayProblem } from '@kindred/words/register';
import type { Review, ReviewComment, ReviewView } from '@kindred/contract/review/review';
import { and, eq, inArray, sql } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import { contacts, roleNames } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { requireRow, notAllowed, notFound, refused } from '../platform/errors.ts';
import { nextNumber } from '../platform/numbering.ts';
import { page, pageOf, type PageAsked } from '../platform/keyset.ts';
import type { Platform } from '../platform/services.ts';
import { noteSent } from '../register/exchange.ts';
import { allVisible, visibleVersions, type VisibleVersion } from '../register/versions.ts';
import { returnCodes, reviewComments, reviewDocuments, reviewers, reviewRoutes, reviews } from './schema.ts';
import { reviewVisibleTo } from './visibility.ts';

type Row = typeof reviews.$inferSelect;
type ReviewerRow = typeof reviewers.$inferSelect;

export async function listReviewRoutes({ db }: Platform, projectId: string) {
  const names = await roleNames(db, projectId);
  const routes = await db
    .select()
    .from(reviewRoutes)
    .where(eq(reviewRoutes.projectId, projectId))
    .orderBy(reviewRoutes.name);
  const codes = await db
    .select()
    .from(returnCodes)
    .where(eq(returnCodes.projectId, projectId))
    .orderBy(returnCodes.code);
  return {
    routes: routes.map(({ id, name, steps }) => ({
      id,
      name,
      steps: steps.map((step) => ({ ...step, roleName: (step.roleId && names.get(step.roleId)) || '' })),
    })),
    codes,
  };
}

/** Everything that belongs to these reviews, in a handful of queries however many there are. */
async function toReviews(db: Db, actor: Member, rows: Row[]): Promise<Review[]> {
  if (!rows.length) return [];
  const ids = rows.map(({ id }) => id);
  const documents = await db.select().from(reviewDocuments).where(inArray(reviewDocuments.reviewId, ids));
  const people = await db.select().from(reviewers).where(inArray(reviewers.reviewId, ids)).orderBy(reviewers.step);
  const counts = await db
    .select({ reviewId: reviewComments.reviewId, n: sql<number>`count(*)::int` })
    .from(reviewComments)
    .where(inArray(reviewComments.reviewId, ids))
    .groupBy(reviewComments.reviewId);
  const codes = await db.select().from(returnCodes).where(eq(returnCodes.projectId, actor.projectId));
  const persons = await personsById(db, [
    ...rows.map(({ originatorId }) => originatorId),
    ...people.map(({ userId }) => userId),
  ]);
  const versions = new Map(
    (
      await visibleVersions(
        db,
        actor,
        documents.map(({ versionId }) => versionId),
      )
    ).map((version) => [version.id, version]),
  );
  return rows.map((row): Review => {
    const mine = people.filter(({ reviewId }) => reviewId === row.id);
    const step =
      row.status === 'under review'
        ? currentStep(mine.map(({ step, finishedAt }) => ({ step, finished: finishedAt !== null })))
        : undefined;
    return {
      id: row.id,
      number: row.number,
      title: row.title,
      status: row.status,
      routeName: row.routeName,
      originator: persons.get(row.originatorId)!,
      startedAt: row.startedAt.toISOString(),
      finishedAt: row.finishedAt?.toISOString() ?? null,
      code: row.code,
      codeMeaning: codes.find(({ code }) => code === row.code)?.meaning ?? null,
      currentStep: step ?? null,
      dueOn: mine.find((reviewer) => reviewer.step === step && !reviewer.finishedAt)?.dueOn ?? null,
      documents: documents
        .filter(({ reviewId }) => reviewId === row.id)
        .flatMap(({ versionId }) => toDocument(versions.get(versionId))),
      reviewers: mine.map((reviewer) => ({
        id: reviewer.id,
        step: reviewer.step,
        stepName: row.steps[reviewer.step]?.name ?? '',
        person: persons.get(reviewer.userId)!,
        dueOn: reviewer.dueOn,
        code: reviewer.code,
        finishedAt: reviewer.finishedAt?.toISOString() ?? null,
      })),
      comments: counts.find(({ reviewId }) => reviewId === row.id)?.n ?? 0,
    };
  });
}

function toDocument(version: VisibleVersion | undefined): Review['documents'] {
  if (!version) return [];
  const { id, containerId, number, title, revision, kind, container } = version;
  return [{ containerId, versionId: id, versionNumber: number, code: container.code, title, revision, kind }];
}

export async function listReviews(
  { db }: Platform,
  actor: Member,
  { status, ...asked }: PageAsked & { status?: Row['status'] },
) {
  const { where, orderBy, limit } = pageOf(reviews.number, reviews.id, true, asked);
  const rows = await db
    .select()
    .from(reviews)
    .where(
      and(
        eq(reviews.projectId, actor.projectId),
        status ? eq(reviews.status, status) : undefined,
        reviewVisibleTo(actor),
        where,
      ),
    )
    .orderBy(...orderBy)
    .limit(limit + 1);
  const { items, next } = page(rows, limit, (row) => [row.number, row.id]);
  return { items: await toReviews(db, actor, items), next };
}

export async function showReview({ db }: Platform, actor: Member, reviewId: string): Promise<ReviewView> {
  const row = await reviewRow(db, actor, reviewId);
  const [review] = await toReviews(db, actor, [row]);
  const comments = await db
    .select()
    .from(reviewComments)
    .where(eq(reviewComments.reviewId, reviewId))
    .orderBy(reviewComments.at);
  return { review: review!, comments: await toComments(db, comments) };
}

async function reviewRow(db: Db, actor: Member, reviewId: string): Promise<Row> {
  return requireRow(
    await db
      .select()
      .from(reviews)
      .where(and(eq(reviews.projectId, actor.projectId), eq(reviews.id, reviewId), reviewVisibleTo(actor))),
    'review',
  );
}

async function toComments(db: Db, rows: (typeof reviewComments.$inferSelect)[]): Promise<ReviewComment[]> {
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
  );
  return rows.map(({ id, versionId, authorId, text, at }) => ({
    id,
    versionId,
    text,
    author: persons.get(authorId)!,
    at: at.toISOString(),
  }));
}

export async function startReview(
  platform: Platform,
  actor: Member,
  wanted: { title: string; routeId: string; versionIds: string[]; reviewers: string[][] },
): Promise<Review> {
  const { projectId } = actor;
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const route = requireRow(
      await db
        .select()
        .from(reviewRoutes)
        .where(and(eq(reviewRoutes.projectId, projectId), eq(reviewRoutes.id, wanted.routeId))),
      'review route',
    );
    if (wanted.reviewers.length !== route.steps.length)
      throw refused(
        'reviewers-missing',
        `The route “${route.name}” has ${counted(route.steps.length, 'step')}; name at least one person for each.`,
      );
    const people = [...new Set(wanted.reviewers.flat())];
    if ((await contacts(db, projectId, people)).length !== people.length)
      throw refused('not-a-member', 'A reviewer is not in this project. Nothing was started.');
    const versionIds = [...new Set(wanted.versionIds)];
    const documents = await allVisible(db, actor, versionIds);
    const hidden = documents.find(({ state }) => state === 'work in progress');
    if (hidden)
      throw refused(
        'not-shared',
        `“${hidden.container.code}” is work in progress: share it first, or its reviewers could not see it. Nothing was started.`,
      );
    const number = await nextNumber(db, reviews, projectId);
    const [row] = await db
      .insert(reviews)
      .values({
        projectId,
        number,
        title: wanted.title,
        status: 'under review',
        routeName: route.name,
        steps: route.steps,
        originatorId: actor.id,
        startedAt: now(),
      })
      .returning();
    await db.insert(reviewDocuments).values(versionIds.map((versionId) => ({ reviewId: row!.id, versionId })));
    await db
      .insert(reviewers)
      .values(
        wanted.reviewers.flatMap((userIds, step) =>
          [...new Set(userIds)].map((userId) => ({ reviewId: row!.id, userId, step })),
        ),
      );
    await noteSent(db, projectId, people, documents, 'reviewed');
    await record({
      projectId,
      verb: 'started',
      subjectType: 'review',
      subjectId: row!.id,
      after: { number, title: row!.title, route: route.name },
    });
    await openStep(unit, row!, 0);
    return (await toReviews(db, actor, [row!]))[0]!;
  });
}

const linkTo = (row: Row): string => `/projects/${row.projectId}/reviews/${row.id}`;

/** Days count from the moment it is somebody's turn. */
async function openStep({ db, tell }: Change, row: Row, step: number): Promise<void> {
  const { days, name } = row.steps[step]!;
  const dueOn = addWorkingDays(now(), days);
  const people = await db
    .update(reviewers)
    .set({ dueOn })
    .where(and(eq(reviewers.reviewId, row.id), eq(reviewers.step, step)))
    .returning();
  await tell({
    to: await contacts(
      db,
      row.projectId,
      people.map(({ userId }) => userId),
    ),
    projectId: row.projectId,
    kind: 'review',
    text: `For your review: ${row.title}`,
    link: linkTo(row),
    letter: `Review ${row.number}, step “${name}”, is with you until ${dueOn}.`,
  });
}

/** The reviewer row of the actor in the step whose turn it is. */
async function openPartOf(db: Db, actor: Member, row: Row): Promise<{ mine: ReviewerRow; all: ReviewerRow[] }> {
  if (row.status !== 'under review')
    throw refused('finished', 'This review is finished. Its comments and answer stay as they are.');
  const all = await db.select().from(reviewers).where(eq(reviewers.reviewId, row.id)).for('update');
  const step = currentStep(all.map(({ step, finishedAt }) => ({ step, finished: finishedAt !== null })));
  const mine = all.find((reviewer) => reviewer.userId === actor.id && reviewer.step === step && !reviewer.finishedAt);
  if (!mine)
    throw notAllowed('It is not your turn in this review: only its reviewers of the current step comment and finish.');
  return { mine, all };
}

export async function commentReview(
  platform: Platform,
  actor: Member,
  reviewId: string,
  versionId: string,
  text: string,
): Promise<ReviewComment> {
  const { projectId } = actor;
  return change(platform, actor, async ({ db, record }) => {
    const row = await reviewRow(db, actor, reviewId);
    await openPartOf(db, actor, row);
    const documents = await db
      .select()
      .from(reviewDocuments)
      .where(and(eq(reviewDocuments.reviewId, reviewId), eq(reviewDocuments.versionId, versionId)));
    if (!documents.length) throw notFound('document in this review');
    const [comment] = await db
      .insert(reviewComments)
      .values({ reviewId, versionId, authorId: actor.id, text, at: now() })
      .returning();
    await record({ projectId, verb: 'commented', subjectType: 'review', subjectId: reviewId, after: { text } });
    return (await toComments(db, [comment!]))[0]!;
  });
}

export async function finishReview(
  platform: Platform,
  actor: Member,
  reviewId: string,
  code: string,
  remark = '',
): Promise<Review> {
  const { projectId } = actor;
  return change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const row = await reviewRow(db, actor, reviewId);
    const { mine, all } = await openPartOf(db, actor, row);
    const [chosen] = await db
      .select()
      .from(returnCodes)
      .where(and(eq(returnCodes.projectId, projectId), eq(returnCodes.code, code)));
    if (!chosen) throw refused('unknown-code', `This project has no return code “${code}”.`);
    if (remark.trim()) {
      const documents = await db.select().from(reviewDocuments).where(eq(reviewDocuments.reviewId, reviewId));
      await db
        .insert(reviewComments)
        .values({ reviewId, versionId: documents[0]!.versionId, authorId: actor.id, text: remark, at: now() });
    }
    const own = await db
      .select({ id: reviewComments.id })
      .from(reviewComments)
      .where(and(eq(reviewComments.reviewId, reviewId), eq(reviewComments.authorId, actor.id)));
    const problem = finishingProblem(code, chosen.rules, own.length);
    if (problem) throw refused('return-code-rule', sayProblem(problem));
    await db.update(reviewers).set({ code, finishedAt: now() }).where(eq(reviewers.id, mine.id));
    await record({
      projectId,
      verb: 'part finished',
      subjectType: 'review',
      subjectId: reviewId,
      after: { code, step: row.steps[mine.step]!.name },
    });
    const after = all.map((reviewer) =>
      reviewer.id === mine.id ? { ...reviewer, code, finishedAt: now() } : reviewer,
    );
    const step = currentStep(after.map(({ step, finishedAt }) => ({ step, finished: finishedAt !== null })));
    const ended = step === undefined || (chosen.rules.needsAnotherReview && step > mine.step);
    if (ended) await answer(unit, row, await decidingCode(db, projectId, after, code));
    else if (step > mine.step) await openStep(unit, row, step);
    return (await toReviews(db, actor, [await reviewRow(db, actor, reviewId)]))[0]!;
  });
}

/** The strictest code of the last step decides: one that asks for another review before any other. */
async function decidingCode(db: Db, projectId: string, all: ReviewerRow[], last: string): Promise<string> {
  const codes = await db.select().from(returnCodes).where(eq(returnCodes.projectId, projectId));
  const given = all.map(({ code }) => codes.find((known) => known.code === code)).filter((code) => code !== undefined);
  return given.find(({ rules }) => rules.needsAnotherReview)?.code ?? last;
}

async function answer({ db, record, tell }: Change, row: Row, code: string): Promise<void> {
  await db.update(reviews).set({ status: 'finished', finishedAt: now(), code }).where(eq(reviews.id, row.id));
  const comments = await db
    .select()
    .from(reviewComments)
    .where(eq(reviewComments.reviewId, row.id))
    .orderBy(reviewComments.at);
  await record({
    projectId: row.projectId,
    verb: 'finished',
    subjectType: 'review',
    subjectId: row.id,
    after: { code, comments: comments.length },
  });
  await tell({
    to: await contacts(db, row.projectId, [row.originatorId]),
    projectId: row.projectId,
    kind: 'review',
    text: `Answer ${code} to review ${row.number}, ${row.title}`,
    link: linkTo(row),
    letter: comments.length ? comments.map(({ text }, i) => `${i + 1}. ${text}`).join('\n') : 'No comments.',
  });
}
