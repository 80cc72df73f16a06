/** Issues are raised: at a place, with what it looked like there. */
import type { raiseIssue as operation, Issue } from '@kindred/contract/issues/issues';
import type { Body } from '@kindred/contract/platform/operation';
import { missingFields, ruleOf, type IssueSettings } from '@kindred/core/issues/settings';
import { addWorkingDays } from '@kindred/core/platform/working-days';
import { missingIssueFields } from '@kindred/words/issues';
import { eq } from 'drizzle-orm';
import { visibleMarkup } from '../markup/visibility.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import { nextNumber } from '../platform/numbering.ts';
import type { Platform } from '../platform/services.ts';
import { projectNamed } from '../portfolio/service.ts';
import { keepPictures } from '../preparation/pictures.ts';
import { visibleVersion } from '../register/versions.ts';
import { addViewpointWith, keepViewpointPicture, showViewpoint } from '../scene/service.ts';
import { bellsOf, ring } from './bells.ts';
import { today } from './filter.ts';
import { requireElements, requireKnown, requireMembers, requireSeen, requireThings } from './requirements.ts';
import { assignedTo, contactsBehind, requireResponsible, responsibleOf } from './responsible.ts';
import { toIssue, type IssueRow } from './rows.ts';
import { issueElements, issuePictures, issues, issueThings, issueWatchers } from './schema.ts';
import { settingsOf } from './settings.ts';
import { tellOfIssue } from './telling.ts';

type Wanted = Body<typeof operation>;

export async function raiseIssue(platform: Platform, actor: Member, wanted: Wanted): Promise<Issue> {
  // Asked before the change: it takes a connection of its own.
  await requireThings(platform, actor, wanted.things ?? []);
  const { pictures = [], viewpoint } = wanted;
  const kept = await keepPictures(
    platform,
    actor,
    'issue',
    pictures.map(({ uploadId }) => uploadId),
  );
  const pictureSha256 = viewpoint && (await keepViewpointPicture(platform, viewpoint.picture));
  return change(platform, actor, async (unit) =>
    toIssue(unit.db, await raiseWithin(platform, unit, actor, wanted, kept, pictureSha256)),
  );
}

/** Within a change; pictures are kept already. */
export async function raiseWithin(
  platform: Platform,
  unit: Change,
  actor: Member,
  wanted: Wanted,
  kept: readonly string[] = [],
  pictureSha256?: string,
): Promise<IssueRow> {
  const { db } = unit;
  const { viewpoint } = wanted;
  const settings = await settingsOf(db, actor.projectId);
  requireKnown(settings, wanted);
  const dueOn =
    wanted.dueOn === undefined ? await usualDueDay(db, actor.projectId, settings, wanted.type) : wanted.dueOn;
  requireFilled(settings, { ...wanted, dueOn });
  await requireReachable(unit, platform, actor, wanted);
  const viewpointId = viewpoint
    ? (await addViewpointWith(unit, actor, viewpoint, pictureSha256!)).id
    : (wanted.viewpointId ?? null);
  const row = await addIssue(unit, actor, { ...wanted, dueOn, viewpointId });
  await addParts(unit, row, wanted, kept);
  await requireSeen(db, row, wanted);
  await tellOfNew(unit, actor, row);
  return row;
}

async function usualDueDay(db: Db, projectId: string, settings: IssueSettings, type: string): Promise<string | null> {
  const { answerDays } = ruleOf(settings, type);
  if (answerDays === null) return null;
  const { holidays } = await projectNamed(db, projectId);
  return addWorkingDays(today(), answerDays, new Set(holidays));
}

function requireFilled(settings: IssueSettings, wanted: Wanted): void {
  const missing = missingFields(ruleOf(settings, wanted.type), {
    description: Boolean(wanted.description?.trim()),
    responsible: Boolean(wanted.responsible),
    dueOn: Boolean(wanted.dueOn),
    place: Boolean(wanted.place ?? wanted.viewpointId ?? wanted.viewpoint),
    labels: Boolean(wanted.labels?.length),
  });
  if (missing.length)
    throw refused('fields-required', `${missingIssueFields(wanted.type, missing)} Nothing was saved.`);
}

/** Everything that it points at is there, and the actor sees it. */
async function requireReachable({ db }: Change, platform: Platform, actor: Member, wanted: Wanted): Promise<void> {
  if (wanted.viewpointId) await showViewpoint({ ...platform, db: db as Platform['db'] }, actor, wanted.viewpointId);
  if (wanted.place) await visibleVersion(db, actor, wanted.place.versionId);
  if (wanted.markupId) await requirePublished(db, actor, wanted.markupId);
  if (wanted.responsible) await requireResponsible(db, actor.projectId, wanted.responsible);
  await requireMembers(db, actor, [...(wanted.watcherIds ?? []), ...(wanted.verifierId ? [wanted.verifierId] : [])]);
  await requireElements(db, actor, wanted.elements ?? []);
}

/** Others see the issue: a draft is nobody's but its author's. */
async function requirePublished(db: Db, actor: Member, markupId: string): Promise<void> {
  const { row } = await visibleMarkup(db, actor, markupId);
  if (row.draft) throw refused('draft', 'This markup is a draft of yours. Publish it first; nothing was saved.');
}

/** Adds the row and its event, and nothing else. */
export async function addIssue(
  { db, record }: Change,
  actor: Member,
  wanted: Omit<Wanted, 'viewpoint' | 'pictures'>,
  id?: string,
): Promise<IssueRow> {
  const { projectId } = actor;
  const {
    title,
    description = '',
    type,
    priority,
    verifierId = null,
    dueOn = null,
    labels = [],
    markupId = null,
  } = wanted;
  const { place, responsible, viewpointId = null } = wanted;
  const number = await nextNumber(db, issues, projectId);
  const [row] = await db
    .insert(issues)
    .values({
      ...(id && { id }),
      ...{ projectId, number, title, description, type, priority, verifierId, dueOn, labels, markupId, viewpointId },
      ...assignedTo(responsible ?? null),
      status: 'open',
      authorId: actor.id,
      placeVersionId: place?.versionId ?? null,
      placePage: place?.page ?? null,
      placeX: place?.x ?? null,
      placeY: place?.y ?? null,
      placeZoom: place?.zoom ?? null,
      createdAt: now(),
      updatedAt: now(),
    })
    .returning();
  await record({
    ...{ projectId, verb: 'raised', subjectType: 'issue', subjectId: row!.id },
    after: { number, title, priority },
  });
  return row!;
}

async function addParts({ db }: Change, row: IssueRow, wanted: Wanted, kept: readonly string[]): Promise<void> {
  const issueId = row.id;
  if (kept.length) {
    await addPictures(
      db,
      row,
      kept.map((sha256, i) => ({ sha256, caption: wanted.pictures![i]!.caption })),
    );
  }
  if (wanted.watcherIds?.length)
    await db.insert(issueWatchers).values(wanted.watcherIds.map((userId) => ({ issueId, userId })));
  if (wanted.elements?.length)
    await db
      .insert(issueElements)
      .values(wanted.elements.map((element) => ({ issueId, ...element })))
      .onConflictDoNothing();
  if (wanted.things?.length)
    await db
      .insert(issueThings)
      .values(wanted.things.map(({ type, id }) => ({ issueId, type, thingId: id })))
      .onConflictDoNothing();
}

export async function addPictures(
  db: Db,
  row: IssueRow,
  pictures: readonly { sha256: string; caption: string }[],
): Promise<void> {
  await db
    .insert(issuePictures)
    .values(pictures.map((picture, i) => ({ issueId: row.id, position: row.pictures + i + 1, ...picture })));
  row.pictures += pictures.length;
  await db.update(issues).set({ pictures: row.pictures }).where(eq(issues.id, row.id));
}

export async function tellOfNew(unit: Change, actor: Member, row: IssueRow): Promise<void> {
  await tellOfIssue(unit, actor, row, {
    asked: await askedOf(unit.db, actor, row),
    text: `${actor.name} raised issue ${row.number}, ${row.title}`,
    letter: letterOf(row),
  });
  const bells = await bellsOf(unit.db, row.projectId);
  await ring(unit, bells, new Set(), row);
}

export const askedOf = async (db: Db, actor: Member, row: IssueRow) => ({
  to: await contactsBehind(db, row.projectId, responsibleOf(row)),
  text: `${actor.name} asks you: issue ${row.number}, ${row.title}`,
  letter: letterOf(row),
});

const letterOf = ({ title, description, priority, dueOn }: IssueRow): string =>
  `${title}\n\n${description}\n\nPriority ${priority}${dueOn ? `, due ${dueOn}` : ''}. The link opens the issue at its place; what you reply to this letter becomes a comment.`;
