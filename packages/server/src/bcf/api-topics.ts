/** Topics, comments and viewpoints for other programs: the same issues, by the same rules. */
import type { CommentBody, TopicBody, ViewpointBody } from '@kindred/contract/bcf/bcf-api';
import type { BcfComment, BcfTopic, BcfViewpoint } from '@kindred/core/bcf/bcf-file';
import { compareTopic, fieldsOf, type BcfField } from '@kindred/core/bcf/compare-topic';
import { statusFrom } from '@kindred/core/bcf/status-words';
import { CodedError } from '@kindred/core/platform/coded-error';
import { cleanPng } from '@kindred/core/platform/png';
import { usualPriority } from '@kindred/core/issues/settings';
import { allows } from '@kindred/core/people/rights';
import type { Static } from '@sinclair/typebox';
import { and, asc, desc, eq, inArray, sql } from 'drizzle-orm';
import type { Response } from 'express';
import { users } from '../identity/schema.ts';
import { changeIssueComment, commentWithin, withdrawIssueComment } from '../issues/comments.ts';
import { addPictures, raiseWithin } from '../issues/raising.ts';
import { toIssue, toIssues, type IssueRow } from '../issues/rows.ts';
import { issueComments, issues } from '../issues/schema.ts';
import { settingsOf } from '../issues/settings.ts';
import { issueVisibleTo } from '../issues/visibility.ts';
import { listPeople } from '../people/service.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notFound, ProblemError, refused } from '../platform/errors.ts';
import { blobs, events } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';
import { sendPicture } from '../preparation/pictures.ts';
import { filterOf, orderOf } from './topic-filter.ts';
import { hashIn, type KeptTopic } from './kept.ts';
import { issuesOf } from './reading.ts';
import { bcfComments } from './schema.ts';
import { changeFields, dayOf, filesOf, ownViewpoint, stepsTo, surroundings, wordOf } from './taking.ts';
import { knownTopics, mineOf, NOTHING_KEPT, remember, topicsOf } from './topics.ts';
import { viewpointFrom } from './api-words.ts';

export interface Asked {
  $filter?: string;
  $orderby?: string;
  $top?: number;
  $skip?: number;
}
const USUAL_TOP = 100;

export async function listTopics(platform: Platform, actor: Member, asked: Asked): Promise<BcfTopic[]> {
  const { db } = platform;
  const rows = await db
    .select()
    .from(issues)
    .where(and(eq(issues.projectId, actor.projectId), issueVisibleTo(actor), filterOf(asked.$filter)))
    .orderBy(...orderOf(asked.$orderby))
    .limit(asked.$top ?? USUAL_TOP)
    .offset(asked.$skip ?? 0);
  return topicsOf(platform, actor.projectId, await toIssues(db, rows));
}

async function rowOf(db: Db, actor: Member, topicId: string): Promise<IssueRow> {
  const [row] = (await issuesOf(db, actor, [topicId])).rows.values();
  if (!row) throw notFound('topic');
  return row;
}
const topicOf = async (platform: Platform, actor: Member, row: IssueRow): Promise<BcfTopic> =>
  (await topicsOf(platform, actor.projectId, [await toIssue(platform.db, row)]))[0]!;

export const showTopic = async (platform: Platform, actor: Member, topicId: string): Promise<BcfTopic> =>
  topicOf(platform, actor, await rowOf(platform.db, actor, topicId));

type SentTopic = Static<typeof TopicBody>;
/** As a topic of a file says it. */
const asTopic = (sent: SentTopic): Pick<BcfTopic, BcfField | 'modifiedAuthor'> => ({
  ...{ title: sent.title, description: sent.description ?? null, type: sent.topic_type ?? null },
  ...{ status: sent.topic_status ?? null, priority: sent.priority ?? null, assignedTo: sent.assigned_to ?? null },
  ...{ due: sent.due_date ?? null, labels: sent.labels ?? [], modifiedAuthor: null },
});

/** The project says which words there are: others are told so, as the standard wants it. */
async function requireWords(db: Db, projectId: string, topic: Pick<BcfTopic, BcfField>, own?: IssueRow): Promise<void> {
  const settings = await settingsOf(db, projectId);
  const unknown = (what: string, word: string) =>
    new ProblemError(
      422,
      'unknown-word',
      'Not a word of this project',
      `The project has no ${what} “${word}”; see its extensions. Nothing was changed.`,
    );
  const types = [...settings.types.map(({ name }) => name), own?.type];
  const priorities = [...settings.priorities.map(({ name }) => name), own?.priority];
  if (topic.type && !types.includes(topic.type)) throw unknown('type', topic.type);
  if (topic.priority && !priorities.includes(topic.priority)) throw unknown('priority', topic.priority);
  if (topic.status && !statusFrom(topic.status)) throw unknown('status', topic.status);
  const label = topic.labels.find((one) => !settings.labels.includes(one) && !own?.labels.includes(one));
  if (label) throw unknown('label', label);
}

export async function addTopic(platform: Platform, actor: Member, sent: SentTopic): Promise<BcfTopic> {
  const around = await surroundings(platform, actor);
  const topic = asTopic(sent);
  const row = await change(platform, actor, async (unit) => {
    const { db } = unit;
    await requireWords(db, actor.projectId, topic);
    const guid = sent.guid ?? crypto.randomUUID();
    const taken = await issuesOf(db, actor, [guid]);
    if (taken.rows.size || taken.hidden.size)
      throw new ProblemError(
        409,
        'guid-taken',
        'This GUID is taken',
        'A topic has this GUID already. Nothing was saved.',
      );
    const settings = await settingsOf(db, actor.projectId);
    const assigned = around.people.get((topic.assignedTo ?? '').toLowerCase());
    if (topic.assignedTo && !assigned?.present)
      throw new ProblemError(
        422,
        'unknown-user',
        'Not somebody of this project',
        `“${topic.assignedTo}” is not in the project. Nothing was saved.`,
      );
    const raised = await raiseWithin(platform, unit, actor, {
      title: sent.title.trim().slice(0, 200),
      description: topic.description ?? '',
      type: topic.type ?? settings.types[0]!.name,
      priority: topic.priority ?? usualPriority(settings),
      ...(assigned && { responsible: { kind: 'person', id: assigned.id } }),
      ...(topic.due && { dueOn: dayOf(topic.due) }),
      labels: topic.labels.map(wordOf).filter(Boolean),
    });
    const kept = {
      ...NOTHING_KEPT,
      stage: sent.stage ?? null,
      index: sent.index ?? null,
      referenceLinks: sent.reference_links ?? [],
    };
    const issue = await toIssue(db, raised);
    const said = mineOf(issue, { kept });
    await remember(db, actor.projectId, [{ issueId: raised.id, said: [said], guid, kept }]);
    return stepsTo(unit, actor, raised, topic.status);
  });
  return topicOf(platform, actor, row);
}

export async function changeTopic(
  platform: Platform,
  actor: Member,
  topicId: string,
  sent: SentTopic,
): Promise<BcfTopic> {
  const around = await surroundings(platform, actor);
  const topic = asTopic(sent);
  const row = await change(platform, actor, async (unit) => {
    const { db } = unit;
    const before = await rowOf(db, actor, topicId);
    await requireWords(db, actor.projectId, topic, before);
    const known = (await knownTopics(db, [before.id])).get(before.id);
    const issue = await toIssue(db, before);
    const mine = mineOf(issue, known);
    // What a program does not name it does not know of.
    const named: Record<BcfField, unknown> = {
      ...{ title: sent.title, description: sent.description, type: sent.topic_type, status: sent.topic_status },
      ...{ priority: sent.priority, assignedTo: sent.assigned_to, due: sent.due_date, labels: sent.labels },
    };
    const wanted = new Set(
      compareTopic([], mine, fieldsOf(topic)).flatMap(({ field }) => (named[field] === undefined ? [] : [field])),
    );
    const assigned = around.people.get((topic.assignedTo ?? '').toLowerCase());
    if (wanted.has('assignedTo') && topic.assignedTo && !assigned?.present)
      throw new ProblemError(
        422,
        'unknown-user',
        'Not somebody of this project',
        `“${topic.assignedTo}” is not in the project. Nothing was changed.`,
      );
    wanted.delete('status');
    await changeFields(unit, actor, before, topic as BcfTopic, wanted, around);
    const [changed] = await db.select().from(issues).where(eq(issues.id, before.id));
    const after = await stepsTo(unit, actor, changed!, topic.status);
    const kept: KeptTopic = {
      ...(known?.kept ?? NOTHING_KEPT),
      ...(sent.stage !== undefined && { stage: sent.stage }),
      ...(sent.index !== undefined && { index: sent.index }),
      ...(sent.reference_links && { referenceLinks: sent.reference_links }),
      modifiedAuthor: actor.email,
      words: { ...(known?.kept ?? NOTHING_KEPT).words, ...(topic.status && { status: topic.status }) },
    };
    const guid = known?.guid ?? before.id;
    const said = mineOf(await toIssue(db, after), { kept });
    await remember(db, actor.projectId, [{ issueId: before.id, said: [said], guid, kept }]);
    return after;
  });
  return topicOf(platform, actor, row);
}

export async function listComments(
  platform: Platform,
  actor: Member,
  topicId: string,
  { $top, $skip = 0 }: Asked,
): Promise<BcfComment[]> {
  const { comments } = await showTopic(platform, actor, topicId);
  return comments.slice($skip, $top === undefined ? undefined : $skip + $top);
}
export async function showComment(
  platform: Platform,
  actor: Member,
  topicId: string,
  commentId: string,
): Promise<BcfComment> {
  const { comments } = await showTopic(platform, actor, topicId);
  const found = comments.find(({ guid }) => guid === commentId);
  if (!found) throw notFound('comment');
  return found;
}

type SentComment = Static<typeof CommentBody>;
export async function addComment(
  platform: Platform,
  actor: Member,
  topicId: string,
  sent: SentComment,
): Promise<BcfComment> {
  const guid = await change(platform, actor, async (unit) => {
    const { db } = unit;
    const row = await rowOf(db, actor, topicId);
    const { id } = await commentWithin(unit, actor, row.id, { text: sent.comment });
    if (sent.guid) {
      const added = await db
        .insert(bcfComments)
        .values({ commentId: id, issueId: row.id, guid: sent.guid })
        .onConflictDoNothing()
        .returning();
      if (!added.length)
        throw new ProblemError(
          409,
          'guid-taken',
          'This GUID is taken',
          'A comment has this GUID already. Nothing was saved.',
        );
    }
    const known = (await knownTopics(db, [row.id])).get(row.id);
    const kept = known?.kept ?? NOTHING_KEPT;
    if (sent.viewpoint_guid) {
      const commentViewpoints = { ...kept.commentViewpoints, [sent.guid ?? id]: sent.viewpoint_guid };
      await remember(db, actor.projectId, [
        { issueId: row.id, said: [], guid: known?.guid ?? row.id, kept: { ...kept, commentViewpoints } },
      ]);
    }
    return sent.guid ?? id;
  });
  return showComment(platform, actor, topicId, guid);
}

/** The id that we know a comment by. */
async function commentIdOf(db: Db, issueId: string, guid: string): Promise<string> {
  const [row] = await db
    .select({ id: issueComments.id })
    .from(issueComments)
    .leftJoin(bcfComments, eq(bcfComments.commentId, issueComments.id))
    .where(
      and(eq(issueComments.issueId, issueId), sql`coalesce(${bcfComments.guid}, ${issueComments.id}::text) = ${guid}`),
    );
  if (!row) throw notFound('comment');
  return row.id;
}
export async function changeComment(
  platform: Platform,
  actor: Member,
  topicId: string,
  commentId: string,
  text: string,
): Promise<BcfComment> {
  const { id } = await rowOf(platform.db, actor, topicId);
  await changeIssueComment(platform, actor, id, await commentIdOf(platform.db, id, commentId), text);
  return showComment(platform, actor, topicId, commentId);
}
export async function removeComment(
  platform: Platform,
  actor: Member,
  topicId: string,
  commentId: string,
): Promise<void> {
  const { id } = await rowOf(platform.db, actor, topicId);
  await withdrawIssueComment(platform, actor, id, await commentIdOf(platform.db, id, commentId));
}

export async function showViewpoint(
  platform: Platform,
  actor: Member,
  topicId: string,
  viewpointId: string,
): Promise<BcfViewpoint> {
  const { viewpoints } = await showTopic(platform, actor, topicId);
  const found = viewpoints.find(({ guid }) => guid.toLowerCase() === viewpointId.toLowerCase());
  if (!found) throw notFound('viewpoint');
  return found;
}
export async function sendSnapshot(
  platform: Platform,
  actor: Member,
  topicId: string,
  viewpointId: string,
  response: Response,
): Promise<void> {
  const { snapshot } = await showViewpoint(platform, actor, topicId, viewpointId);
  await sendPicture(platform, response, snapshot && hashIn(snapshot));
}

const MOST_PIXELS = 4096 * 4096;
async function keepSnapshot(platform: Platform, { snapshot }: Static<typeof ViewpointBody>): Promise<string | null> {
  if (!snapshot?.snapshot_data.trim()) return null;
  if (snapshot.snapshot_type !== 'png') throw refused('no-png', 'Send the snapshot as PNG. Nothing was saved.');
  try {
    const { sha256, size } = await platform.store.putBytes(
      cleanPng(Buffer.from(snapshot.snapshot_data, 'base64'), MOST_PIXELS),
    );
    await platform.db.insert(blobs).values({ sha256, size, createdAt: now() }).onConflictDoNothing();
    return sha256;
  } catch (error) {
    if (!(error instanceof CodedError)) throw error;
    throw refused(error.code, 'The snapshot is no whole PNG, or too large. Nothing was saved.');
  }
}

export async function addViewpoint(
  platform: Platform,
  actor: Member,
  topicId: string,
  sent: Static<typeof ViewpointBody>,
): Promise<BcfViewpoint> {
  const sha256 = await keepSnapshot(platform, sent);
  const around = await surroundings(platform, actor);
  const guid = sent.guid ?? crypto.randomUUID();
  await change(platform, actor, async (unit) => {
    const { db, record } = unit;
    const row = await rowOf(db, actor, topicId);
    const known = (await knownTopics(db, [row.id])).get(row.id);
    const kept = structuredClone(known?.kept ?? NOTHING_KEPT);
    if (kept.viewpoints.some((one) => one.guid === guid))
      throw new ProblemError(
        409,
        'guid-taken',
        'This GUID is taken',
        'A viewpoint has this GUID already. Nothing was saved.',
      );
    kept.viewpoints.push(viewpointFrom(sent, guid, sha256 && `${sha256}.png`));
    // The first that can be looked through becomes the issue's own, for whoever may keep viewpoints.
    const own =
      row.viewpointId === null && allows(actor.standing, { kind: 'scene', action: 'add' })
        ? await ownViewpoint(unit, actor, { title: row.title, header: kept.header }, kept, around)
        : null;
    if (own) await db.update(issues).set({ viewpointId: own }).where(eq(issues.id, row.id));
    else if (sha256) await addPictures(db, row, [{ sha256, caption: '' }]);
    await db.update(issues).set({ updatedAt: now() }).where(eq(issues.id, row.id));
    await remember(db, actor.projectId, [
      { issueId: row.id, said: [], guid: known?.guid ?? row.id, kept, files: filesOf(kept) },
    ]);
    await record({ projectId: actor.projectId, verb: 'viewpoint added', subjectType: 'issue', subjectId: row.id });
  });
  return showViewpoint(platform, actor, topicId, guid);
}

export async function extensionsOf({ db }: Platform, actor: Member, version: string) {
  const { types, priorities, labels } = await settingsOf(db, actor.projectId);
  const { members } = await listPeople({ db } as Platform, actor.projectId);
  const emails = members.filter(({ leftAt }) => !leftAt).map(({ person }) => person.email);
  const mayAdd = allows(actor.standing, { kind: 'issues', action: 'add' });
  return {
    topic_type: types.map(({ name }) => name),
    topic_status: ['open', 'in hand', 'answered', 'closed', 'void'],
    topic_label: labels,
    snippet_type: [],
    priority: priorities.map(({ name }) => name),
    ...(version === '2.1' ? { user_id_type: emails, stage: [] } : { users: emails, stages: [] }),
    project_actions: mayAdd ? ['createTopic'] : [],
    topic_actions: mayAdd ? ['update', 'createComment', 'createViewpoint'] : [],
    comment_actions: mayAdd ? ['update'] : [],
  };
}

/** What an event says in the words of the standard. */
const ACTIONS: Record<string, string> = {
  status: 'status_updated',
  title: 'title_updated',
  description: 'description_updated',
  type: 'type_updated',
  priority: 'priority_updated',
  responsible: 'assigned_to_updated',
  dueOn: 'due_date_updated',
  labels: 'labels_updated',
};
const COMMENT_ACTIONS: Record<string, string> = {
  commented: 'comment_created',
  'comment changed': 'comment_text_updated',
  'comment withdrawn': 'comment_deleted',
};

/** The newest first; `comments`: those of comments, else those of the topics themselves. */
export async function listTopicEvents(
  platform: Platform,
  actor: Member,
  asked: Asked,
  of: { topicId?: string; comments?: boolean } = {},
) {
  const { db } = platform;
  const row = of.topicId ? await rowOf(db, actor, of.topicId) : undefined;
  const since = /date\s+(?:gt|ge)\s+'?([^'\s]+)'?/.exec(asked.$filter ?? '')?.[1];
  const from = since ? new Date(since) : undefined;
  if (from && Number.isNaN(from.getTime())) throw refused('odata', `“${since}” is no moment.`);
  const rows = await db
    .select({ event: events, email: users.email, issueId: issues.id })
    .from(events)
    .innerJoin(issues, sql`${issues.id}::text = ${events.subjectId}`)
    .leftJoin(users, eq(users.id, events.actorId))
    .where(
      and(
        eq(events.projectId, actor.projectId),
        eq(events.subjectType, 'issue'),
        row ? eq(events.subjectId, row.id) : undefined,
        from ? sql`${events.at} > ${from.toISOString()}::timestamptz` : undefined,
        of.comments
          ? inArray(events.verb, Object.keys(COMMENT_ACTIONS))
          : sql`${events.verb} <> all(${sql.param(Object.keys(COMMENT_ACTIONS))}::text[])`,
        issueVisibleTo(actor),
      ),
    )
    .orderBy(/desc/i.test(asked.$orderby ?? '') || !asked.$orderby ? desc(events.id) : asc(events.id))
    .limit(asked.$top ?? USUAL_TOP)
    .offset(asked.$skip ?? 0);
  const known = await knownTopics(
    db,
    rows.map(({ issueId }) => issueId),
  );
  return rows.map(({ event, email, issueId }) => ({
    topic_guid: known.get(issueId)?.guid ?? issueId,
    date: event.at.toISOString(),
    author: email ?? '',
    actions: of.comments ? [{ type: COMMENT_ACTIONS[event.verb] }] : actionsOf(event),
  }));
}
function actionsOf({ verb, after }: typeof events.$inferSelect): { type: string; value?: string }[] {
  if (verb === 'raised') return [{ type: 'topic_created' }];
  const changes = Object.entries((after ?? {}) as Record<string, unknown>).flatMap(([field, value]) => {
    const type = ACTIONS[field];
    return type
      ? [{ type, ...(value !== null && { value: Array.isArray(value) ? value.join(', ') : String(value) }) }]
      : [];
  });
  return changes.length ? changes : [{ type: 'topic_updated' }];
}
