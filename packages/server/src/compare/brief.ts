/** The change brief of a version: what was asked of it, and what people say of the changes that followed. */
import type {
  addRequests as addOperation,
  Brief,
  changeRequest as changeOperation,
  ChangeRequest,
  judgeChange as judgeOperation,
} from '@kindred/contract/compare/compare';
import type { Body } from '@kindred/contract/platform/operation';
import { briefOf, countsOf, type Brief as HeldBrief, type BriefCounts } from '@kindred/core/compare/brief';
import { Similarity } from '@kindred/core/compare/similarity';
import { OPEN_MARKUP_STATUSES, shapeBounds } from '@kindred/core/markup/shapes';
import { PENDING_ISSUE_STATUSES } from '@kindred/core/issues/states';
import { allows } from '@kindred/core/people/rights';
import { and, asc, eq, inArray, or, sql, type SQL } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import { issues } from '../issues/schema.ts';
import { issueVisibleTo } from '../issues/visibility.ts';
import { markups } from '../markup/schema.ts';
import { audienceOf } from '../markup/visibility.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { conflict, notAllowed, notFound, refused, requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { pagesFor } from '../register/shared-sheets.ts';
import { visibleVersion, type VisibleVersion } from '../register/versions.ts';
import { audience } from '../register/visibility.ts';
import { viewpoints } from '../scene/schema.ts';
import { isCompared } from './pairs.ts';
import { changeJudgements, changeRequests, comparedSheets } from './schema.ts';
import { sheetsFor, visibleComparison, type SheetRow, type VisibleComparison } from './visibility.ts';

type RequestRow = typeof changeRequests.$inferSelect;
type JudgementRow = typeof changeJudgements.$inferSelect;

/** What was asked of a comparison's first version, ready to be held against its sheets. */
export interface OpenBrief {
  requests: RequestRow[];
  judgements: JudgementRow[];
  hold(sheets: readonly SheetRow[]): HeldBrief;
}

/** By comparison; none where nothing was asked. */
export async function briefsOf(
  db: Db,
  actor: Member,
  all: readonly VisibleComparison[],
): Promise<Map<string, OpenBrief>> {
  const rows = await db
    .select()
    .from(changeRequests)
    .where(
      inArray(
        changeRequests.versionId,
        all.map(({ before }) => before.id),
      ),
    )
    .orderBy(asc(changeRequests.at), asc(changeRequests.id));
  const gets = await pagesFor(
    db,
    actor,
    all.map(({ before }) => before),
  );
  const visible = rows.filter(({ versionId, page }) => page === null || gets(versionId, page));
  const pointed = await elementsPointedAt(db, visible);
  const judged = await db
    .select()
    .from(changeJudgements)
    .where(
      inArray(
        changeJudgements.comparisonId,
        all.map(({ row }) => row.id),
      ),
    );
  return new Map(
    all.flatMap(({ row, before }) => {
      const requests = visible.filter(({ versionId }) => versionId === before.id);
      const judgements = judged.filter(({ comparisonId }) => comparisonId === row.id);
      const said = judgements.flatMap(({ asked, ...one }) => (asked === null ? [] : [{ ...one, asked }]));
      if (!requests.length && !said.length) return [];
      const hold = (sheets: readonly SheetRow[]): HeldBrief =>
        briefOf(
          requests.map((request) => ({ ...request, text: `${request.text} ${pointed.get(request.id) ?? ''}` })),
          sheets.map((sheet) => ({ ...sheet, similarity: new Similarity(...sheet.similarity) })),
          said,
        );
      return [[row.id, { requests, judgements, hold }]];
    }),
  );
}

/** A model has no pages: every request is about all of it. */
const isAbout = (page: number | null, { beforePage, afterPage }: SheetRow): boolean =>
  page === beforePage && (page !== null || afterPage === null);

/** By request the GlobalIds that were selected where its issue was raised. */
async function elementsPointedAt(db: Db, requests: readonly RequestRow[]): Promise<Map<string, string>> {
  const issueIds = requests.flatMap(({ issueId }) => issueId ?? []);
  if (!issueIds.length) return new Map();
  const rows = await db
    .select({ issueId: issues.id, selection: sql<string[]>`${viewpoints.state} -> 'selection'` })
    .from(issues)
    .innerJoin(viewpoints, eq(viewpoints.id, issues.viewpointId))
    .where(inArray(issues.id, issueIds));
  const byIssue = new Map(rows.map(({ issueId, selection }) => [issueId, selection.join(' ')]));
  return new Map(requests.flatMap(({ id, issueId }) => [[id, (issueId && byIssue.get(issueId)) || '']]));
}

/** Of one sheet: requests that name its page, or are answered on it. */
export function countsOn({ requests, changes }: HeldBrief, asked: readonly RequestRow[], sheet: SheetRow): BriefCounts {
  const pageOf = new Map(asked.map(({ id, page }) => [id, page]));
  return countsOf(
    requests.filter(
      ({ id, changes: answers }) =>
        isAbout(pageOf.get(id)!, sheet) || answers.some(({ position }) => position === sheet.position),
    ),
    changes.filter(({ position }) => position === sheet.position),
  );
}

export async function showBrief({ db }: Platform, actor: Member, comparisonId: string): Promise<Brief> {
  return briefFor(db, actor, await visibleComparison(db, actor, comparisonId));
}

export async function briefFor(db: Db, actor: Member, comparison: VisibleComparison): Promise<Brief> {
  const rows = await db
    .select()
    .from(comparedSheets)
    .where(eq(comparedSheets.comparisonId, comparison.row.id))
    .orderBy(asc(comparedSheets.position));
  const shown = (await sheetsFor(db, actor, [comparison]))(comparison, rows);
  const open = (await briefsOf(db, actor, [comparison])).get(comparison.row.id);
  const held = open?.hold(shown) ?? {
    requests: [],
    changes: [],
    counts: { found: 0, missing: 0, notAsked: 0, toTick: 0 },
  };
  const persons = await personsById(db, [
    ...(open?.requests ?? []).map(({ byId }) => byId),
    ...(open?.judgements ?? []).map(({ byId }) => byId),
  ]);
  const said = new Map((open?.judgements ?? []).map((one) => [`${one.position} ${one.number}`, one]));
  const answers = new Map(held.requests.map((request) => [request.id, request]));
  const shownRequests = await toRequests(db, open?.requests ?? []);
  const collectable = await toCollect(db, actor, comparison.before);
  return {
    requests: shownRequests.map((request) => {
      const { changes, ticked } = answers.get(request.id)!;
      return { ...request, changes, ticked };
    }),
    changes: held.changes.map(({ position, number, asked, requestIds, ticked }) => {
      const one = said.get(`${position} ${number}`);
      return {
        ...{ position, number, asked, ticked },
        requestIds: [...requestIds],
        by: (ticked && one && persons.get(one.byId)) || null,
      };
    }),
    raised: await raisedFrom(db, actor, comparison.row.id, shown),
    counts: held.counts,
    toCollect: { markups: collectable.markups.length, issues: collectable.issues.length },
  };
}

/** Issues that were raised from changes on these sheets. */
async function raisedFrom(
  db: Db,
  actor: Member,
  comparisonId: string,
  sheets: readonly SheetRow[],
): Promise<Brief['raised']> {
  if (!allows(actor.standing, { kind: 'issues', action: 'see' })) return [];
  const rows = await db
    .select({ position: changeJudgements.position, number: changeJudgements.number, issueId: issues.id })
    .from(changeJudgements)
    .innerJoin(issues, eq(issues.id, changeJudgements.issueId))
    .where(and(eq(changeJudgements.comparisonId, comparisonId), issueVisibleTo(actor)));
  return rows.filter(({ position, number }) =>
    sheets.some((sheet) => sheet.position === position && sheet.changes.some((one) => one.number === number)),
  );
}

async function toRequests(db: Db, rows: readonly RequestRow[]): Promise<ChangeRequest[]> {
  const persons = await personsById(
    db,
    rows.map(({ byId }) => byId),
  );
  return rows.map(({ projectId, byId, at, ...row }) => ({
    ...(void projectId, row),
    by: persons.get(byId)!,
    at: at.toISOString(),
  }));
}

/** A version of which changes may be asked: the next one is compared with it. */
async function comparedVersion(db: Db, actor: Member, versionId: string): Promise<VisibleVersion> {
  const version = await visibleVersion(db, actor, versionId);
  if (!isCompared(version.kind))
    throw refused('not-comparable', 'Changes are asked of drawings and models. Nothing was added.');
  return version;
}

/** `page`: that it is about; those who do not get it do not hear of it. */
const tell = async (
  { db, record }: Change,
  version: VisibleVersion,
  page: number | null,
  verb: string,
  after: object,
): Promise<void> =>
  record({
    projectId: version.projectId,
    verb,
    subjectType: 'version',
    subjectId: version.id,
    after: { version: version.number, ...after },
    teamId: page === null ? audience(version, version.container.teamId) : await audienceOf(db, version, page),
  });

export const addRequests = (
  platform: Platform,
  actor: Member,
  versionId: string,
  { requests }: Body<typeof addOperation>,
): Promise<ChangeRequest[]> =>
  change(platform, actor, async (unit) => {
    const version = await comparedVersion(unit.db, actor, versionId);
    const gets = await pagesFor(unit.db, actor, [version]);
    for (const { page } of requests) if (page && !gets(versionId, page)) throw notFound('sheet');
    return insertRequests(unit, actor, version, requests);
  });

type NewRequest = Pick<typeof changeRequests.$inferInsert, 'text' | 'page' | 'place' | 'markupId' | 'issueId'>;

async function insertRequests(
  unit: Change,
  actor: Member,
  version: VisibleVersion,
  requests: readonly NewRequest[],
): Promise<ChangeRequest[]> {
  if (!requests.length) return [];
  const { id: versionId, projectId } = version;
  const rows = await unit.db
    .insert(changeRequests)
    .values(
      // They stay in the order in which they were asked.
      requests.map((request, i) => ({
        ...request,
        versionId,
        projectId,
        byId: actor.id,
        at: new Date(now().getTime() + i),
      })),
    )
    .onConflictDoNothing()
    .returning();
  await tell(unit, version, null, 'changes requested', { requests: rows.length });
  return toRequests(unit.db, rows);
}

/** Issues whose viewpoint shows a version of a model. */
const seenOn = (versionId: string): SQL =>
  sql`exists (select 1 from ${viewpoints} where ${viewpoints.id} = ${issues.viewpointId} and ${versionId}::uuid = any(${viewpoints.versionIds}))`;

/** Open markups and issues on a version that the actor sees and that are no requests yet. */
async function toCollect(db: Db, actor: Member, version: VisibleVersion) {
  const known = await db.select().from(changeRequests).where(eq(changeRequests.versionId, version.id));
  const gets = await pagesFor(db, actor, [version]);
  const has = (key: 'markupId' | 'issueId', id: string): boolean => known.some((request) => request[key] === id);
  const open = allows(actor.standing, { kind: 'markup', action: 'see' })
    ? await db
        .select()
        .from(markups)
        .where(
          and(
            eq(markups.versionId, version.id),
            eq(markups.draft, false),
            inArray(markups.status, [...OPEN_MARKUP_STATUSES]),
          ),
        )
        .orderBy(markups.number)
    : [];
  const pending = allows(actor.standing, { kind: 'issues', action: 'see' })
    ? await db
        .select()
        .from(issues)
        .where(
          and(
            or(eq(issues.placeVersionId, version.id), seenOn(version.id)),
            inArray(issues.status, [...PENDING_ISSUE_STATUSES]),
            issueVisibleTo(actor),
          ),
        )
        .orderBy(issues.number)
    : [];
  // An issue that was raised from a markup asks for the same thing.
  const raised = new Set(pending.map(({ markupId }) => markupId));
  return {
    markups: open.filter(({ id, page }) => gets(version.id, page) && !has('markupId', id) && !raised.has(id)),
    issues: pending.filter(({ id }) => !has('issueId', id)),
  };
}

export const collectRequests = (platform: Platform, actor: Member, versionId: string): Promise<ChangeRequest[]> =>
  change(platform, actor, async (unit) => {
    const version = await comparedVersion(unit.db, actor, versionId);
    const found = await toCollect(unit.db, actor, version);
    const requests = [
      ...found.markups.map(({ id, number, page, text, shape }): NewRequest => {
        return { text: text || `Markup ${number}`, page, place: shapeBounds(shape), markupId: id };
      }),
      ...found.issues.map(({ id, title, placePage: page, placeX, placeY }): NewRequest => {
        return { text: title, page, place: page === null ? null : [placeX ?? 0, placeY ?? 0, 0, 0], issueId: id };
      }),
    ];
    if (!requests.length)
      throw refused('nothing-open', 'No open markups or issues on that version are missing from the brief.');
    return insertRequests(unit, actor, version, requests);
  });

/** Whoever asked, or whoever may change what others marked, changes a request. */
async function ownRequest(db: Db, actor: Member, requestId: string) {
  const row = requireRow(
    await db
      .select()
      .from(changeRequests)
      .where(and(eq(changeRequests.projectId, actor.projectId), eq(changeRequests.id, requestId))),
    'request',
  );
  const version = await visibleVersion(db, actor, row.versionId);
  const gets = await pagesFor(db, actor, [version]);
  if (row.page !== null && !gets(version.id, row.page)) throw notFound('request');
  if (row.byId !== actor.id && !allows(actor.standing, { kind: 'markup', action: 'change' }))
    throw notAllowed(
      'Only whoever asked for this, or has the right “change” for markup, may do this. Nothing was changed.',
    );
  return { row, version, gets };
}

export const changeRequest = (
  platform: Platform,
  actor: Member,
  requestId: string,
  { edition, ...fields }: Body<typeof changeOperation>,
): Promise<ChangeRequest> =>
  change(platform, actor, async (unit) => {
    const { version, gets } = await ownRequest(unit.db, actor, requestId);
    if (fields.page && !gets(version.id, fields.page)) throw notFound('sheet');
    const [row] = await unit.db
      .update(changeRequests)
      .set({ ...fields, edition: edition + 1 })
      .where(and(eq(changeRequests.id, requestId), eq(changeRequests.edition, edition)))
      .returning();
    if (!row) throw conflict('Someone else changed this request meanwhile. Nothing was saved; look at theirs first.');
    await tell(unit, version, row.page, 'request changed', { text: row.text });
    return (await toRequests(unit.db, [row]))[0]!;
  });

export const removeRequest = (platform: Platform, actor: Member, requestId: string): Promise<void> =>
  change(platform, actor, async (unit) => {
    const { row, version } = await ownRequest(unit.db, actor, requestId);
    await unit.db.delete(changeRequests).where(eq(changeRequests.id, requestId));
    await tell(unit, version, row.page, 'request taken back', { text: row.text });
  });

export const judgeChange = (
  platform: Platform,
  actor: Member,
  comparisonId: string,
  { position, number, asked, requestIds = [], issueId }: Body<typeof judgeOperation>,
): Promise<Brief> =>
  change(platform, actor, async (unit) => {
    const { db } = unit;
    const comparison = await visibleComparison(db, actor, comparisonId);
    const rows = await db
      .select()
      .from(comparedSheets)
      .where(and(eq(comparedSheets.comparisonId, comparisonId), eq(comparedSheets.position, position)));
    const [sheet] = (await sheetsFor(db, actor, [comparison]))(comparison, rows);
    if (!sheet?.changes.some((one) => one.number === number)) throw notFound('change');
    await requireOwnRequests(db, comparison.before.id, requestIds);
    if (issueId)
      requireRow(
        await db
          .select()
          .from(issues)
          .where(and(eq(issues.id, issueId), issueVisibleTo(actor))),
        'issue',
      );
    const values = {
      ...{ comparisonId, position, number, asked, requestIds, byId: actor.id, at: now() },
      ...(issueId !== undefined && { issueId }),
    };
    await db
      .insert(changeJudgements)
      .values(values)
      .onConflictDoUpdate({
        target: [changeJudgements.comparisonId, changeJudgements.position, changeJudgements.number],
        set: values,
      });
    await tell(
      unit,
      comparison.after,
      sheet.afterPage,
      asked === false ? 'change not asked for' : asked ? 'change asked for' : 'change left open',
      {
        change: number,
      },
    );
    return briefFor(db, actor, comparison);
  });

async function requireOwnRequests(db: Db, versionId: string, requestIds: readonly string[]): Promise<void> {
  if (!requestIds.length) return;
  const rows = await db
    .select({ id: changeRequests.id })
    .from(changeRequests)
    .where(and(eq(changeRequests.versionId, versionId), inArray(changeRequests.id, [...requestIds])));
  if (rows.length !== new Set(requestIds).size) throw notFound('request');
}
