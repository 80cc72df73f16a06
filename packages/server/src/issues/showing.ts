/** An issue with everything that belongs to it, of which whoever asks gets what they may see. */
import type { IssueView } from '@kindred/contract/issues/issues';
import { ruleOf } from '@kindred/core/issues/settings';
import { ISSUE_ACTIONS } from '@kindred/core/issues/states';
import { allows } from '@kindred/core/people/rights';
import { and, eq } from 'drizzle-orm';
import type { Response } from 'express';
import { visibleMarkup } from '../markup/visibility.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import { unlessMissing } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { sendPicture } from '../preparation/pictures.ts';
import { listCurrentVersions, visibleVersions } from '../register/versions.ts';
import { viewpointIfVisible } from '../scene/service.ts';
import { allowed } from './changing.ts';
import { listIssueComments } from './comments.ts';
import { concernsOf } from './responsible.ts';
import { issueRow, toIssue } from './rows.ts';
import { issueElements, issuePictures } from './schema.ts';
import { settingsOf } from './settings.ts';
import { answersOf, relationsOf, thingsOf } from './ties.ts';
import { watchersOf } from './watching.ts';

const SHOWN_COMMENTS = 50;

export async function showIssue(platform: Platform, actor: Member, issueId: string): Promise<IssueView> {
  const { db } = platform;
  const row = await issueRow(db, actor, issueId);
  const settings = await settingsOf(db, actor.projectId);
  const rule = ruleOf(settings, row.type);
  const { items, next } = await listIssueComments(platform, actor, issueId, { limit: SHOWN_COMMENTS });
  const viewpoint = await viewpointIfVisible(platform, actor, row.viewpointId);
  const mayAct = allows(actor.standing, { kind: 'issues', action: 'add' });
  return {
    issue: await toIssue(db, row),
    may: mayAct ? allowed(settings, row, await concernsOf(db, actor, row)) : [],
    wants: {
      reason: ISSUE_ACTIONS.filter((action) => rule.steps[action].reason),
      proof: ISSUE_ACTIONS.filter((action) => rule.steps[action].proof),
    },
    watchers: await watchersOf(db, issueId),
    comments: items.reverse(),
    earlier: next,
    viewpoint,
    models: viewpoint ? await modelsOf(db, actor, viewpoint.versionIds) : [],
    sheet: await sheetIfVisible(db, actor, row.placeVersionId),
    markup: await markupIfVisible(db, actor, row.markupId),
    pictures: await db
      .select({ position: issuePictures.position, caption: issuePictures.caption })
      .from(issuePictures)
      .where(eq(issuePictures.issueId, issueId))
      .orderBy(issuePictures.position),
    relations: await relationsOf(db, actor, issueId),
    elements: await elementsOf(db, actor, issueId),
    things: await thingsOf(platform, actor, issueId),
    answers: await answersOf(db, actor, issueId),
  };
}

async function modelsOf(db: Db, actor: Member, versionIds: string[]): Promise<IssueView['models']> {
  const used = await visibleVersions(db, actor, versionIds);
  const current = new Map((await listCurrentVersions(db, actor, versionIds)).map((one) => [one.versionId, one]));
  return used.map(({ id, containerId, number }) => {
    const known = current.get(id);
    return {
      ...{ containerId, versionId: id, number },
      title: known?.title ?? '',
      current: known?.current ?? { versionId: id, number },
    };
  });
}

async function sheetIfVisible(db: Db, actor: Member, versionId: string | null): Promise<IssueView['sheet']> {
  const [version] = versionId ? await visibleVersions(db, actor, [versionId]) : [];
  if (!version) return null;
  const [newest] = await listCurrentVersions(db, actor, [version.id]);
  const { containerId, container, number } = version;
  return {
    ...{ containerId, code: container.code, versionNumber: number },
    current: newest?.current ?? { versionId: version.id, number },
  };
}

async function markupIfVisible(db: Db, actor: Member, markupId: string | null): Promise<IssueView['markup']> {
  if (!markupId || !allows(actor.standing, { kind: 'markup', action: 'see' })) return null;
  const found = await unlessMissing(visibleMarkup(db, actor, markupId), () => null);
  return found && { id: markupId, number: found.row.number, text: found.row.text };
}

async function elementsOf(db: Db, actor: Member, issueId: string): Promise<IssueView['elements']> {
  const rows = await db
    .select({ versionId: issueElements.versionId, globalId: issueElements.globalId, name: issueElements.name })
    .from(issueElements)
    .where(eq(issueElements.issueId, issueId));
  const seen = new Set(
    (
      await visibleVersions(
        db,
        actor,
        rows.map(({ versionId }) => versionId),
      )
    ).map(({ id }) => id),
  );
  return rows.filter(({ versionId }) => seen.has(versionId));
}

export async function sendIssuePicture(
  platform: Platform,
  actor: Member,
  issueId: string,
  position: number,
  response: Response,
): Promise<void> {
  await issueRow(platform.db, actor, issueId);
  const [picture] = await platform.db
    .select({ sha256: issuePictures.sha256 })
    .from(issuePictures)
    .where(and(eq(issuePictures.issueId, issueId), eq(issuePictures.position, position)));
  await sendPicture(platform, response, picture?.sha256 ?? null);
}
