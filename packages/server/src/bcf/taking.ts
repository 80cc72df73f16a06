/** What a BCF file says is taken, topic by topic, each in a transaction of its own: whatever stops it, nothing is taken twice. */
import type { takeBcfImport as operation, BcfCounts } from '@kindred/contract/bcf/bcf';
import type { Body } from '@kindred/contract/platform/operation';
import type { BcfTopic } from '@kindred/core/bcf/bcf-file';
import { compareTopic, fieldsOf, type BcfField } from '@kindred/core/bcf/compare-topic';
import { statusFrom } from '@kindred/core/bcf/status-words';
import { stateFrom } from '@kindred/core/bcf/to-viewpoint';
import { usualPriority } from '@kindred/core/issues/settings';
import { ISSUE_STATUSES, issueTransitions, type IssueAction, type IssueStatus } from '@kindred/core/issues/states';
import { actionsIn } from '@kindred/core/platform/machine';
import { and, eq, sql } from 'drizzle-orm';
import { users } from '../identity/schema.ts';
import { changeWithin } from '../issues/changing.ts';
import { addIssue, addPictures } from '../issues/raising.ts';
import { toIssue, type IssueRow } from '../issues/rows.ts';
import { issueComments, issues } from '../issues/schema.ts';
import { settingsOf } from '../issues/settings.ts';
import { members } from '../people/schema.ts';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { ProblemError } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import type { Platform } from '../platform/services.ts';
import { entries, products } from '../register/schema.ts';
import { visibleTo } from '../register/visibility.ts';
import { addViewpointWith } from '../scene/service.ts';
import { hashIn, keptOf, type KeptTopic } from './kept.ts';
import { guidOfTopic, issuesOf, knownComments, newViewpoints, readingOf, type ReadBcf } from './reading.ts';
import { bcfComments, bcfTransfers } from './schema.ts';
import { knownTopics, mineOf, remember } from './topics.ts';

type Choices = Body<typeof operation>;

/** Topics of one transaction: fewer waits for the disk, and others who raise issues meanwhile wait shortly. */
const AT_ONCE = 25;

export const takeBcfImport = async (platform: Platform, actor: Member, jobId: string, choices: Choices) => {
  const { fileName } = await readingOf(platform, actor, jobId);
  return change(platform, actor, (unit) =>
    startLongJob(unit, actor, { kind: 'bcf import', name: fileName, path: 'issues', data: { jobId, choices } }),
  );
};

export const bcfImport: LongJobKind<{ jobId: string; choices: Choices }> = {
  kind: 'bcf import',
  async run(platform, { data: { jobId, choices }, owner, progress }) {
    const { db } = platform;
    const { topics, files, fileName, version, notes } = await readingOf(platform, owner, jobId);
    const left = new Set(choices.leave);
    const { hidden } = await issuesOf(db, owner, topics.map(guidOfTopic));
    const wanted = topics.filter((topic) => !left.has(guidOfTopic(topic)) && !hidden.has(guidOfTopic(topic)));
    const around = await surroundings(platform, owner);
    const counts: Required<BcfCounts> = { topics: wanted.length, added: 0, changed: 0, comments: 0, refused: 0 };
    for (let i = 0; i < wanted.length; i += AT_ONCE) {
      await progress(i / wanted.length);
      await change(platform, owner, async (unit) => {
        for (const topic of wanted.slice(i, i + AT_ONCE))
          await take(unit, owner, topic, { files, choices, around, counts });
      });
    }
    await change(platform, owner, async ({ db: unit, record }) => {
      await unit.insert(bcfTransfers).values({
        ...{ projectId: owner.projectId, way: 'in', byId: owner.id, at: now(), fileName, version, filter: {} },
        ...{ counts, notes },
      });
      await record({
        ...{ projectId: owner.projectId, verb: 'issues imported', subjectType: 'project', subjectId: owner.projectId },
        after: { file: fileName, ...counts },
      });
    });
  },
};

/** What topics are put into: people by their addresses, and models that can be looked at. */
export interface Surroundings {
  people: Map<string, { id: string; present: boolean }>;
  models: { versionId: string; names: Set<string>; thumbnail: string | null }[];
}
const MOST_MODELS = 50;

export async function surroundings({ db }: Platform, actor: Member): Promise<Surroundings> {
  const people = await db
    .select({ id: users.id, email: sql<string>`lower(${users.email})`, leftAt: members.leftAt })
    .from(members)
    .innerJoin(users, eq(users.id, members.userId))
    .where(eq(members.projectId, actor.projectId));
  const models = await db
    .select({
      versionId: entries.versionId,
      code: entries.code,
      fileName: entries.fileName,
      thumbnail: products.sha256,
    })
    .from(entries)
    .leftJoin(products, and(eq(products.versionId, entries.versionId), eq(products.product, 'thumbnail')))
    .where(and(visibleTo(actor), eq(entries.kind, 'model'), eq(entries.preparation, 'ready')))
    .limit(1000);
  return {
    people: new Map(people.map(({ id, email, leftAt }) => [email, { id, present: leftAt === null }])),
    models: models.map(({ versionId, code, fileName, thumbnail }) => ({
      ...{ versionId, thumbnail },
      names: new Set([code, fileName].map((name) => name.toLowerCase().replace(/\.\w+$/, ''))),
    })),
  };
}

/** Those that the file names; all of them where it names none that is here. */
function modelsFor({ header }: Pick<BcfTopic, 'header'>, { models }: Surroundings): Surroundings['models'] {
  const named = header.flatMap(({ fileName }) => fileName?.toLowerCase().replace(/\.\w+$/, '') ?? []);
  const meant = models.filter(({ names }) => named.some((name) => names.has(name)));
  return (meant.length ? meant : models).slice(0, MOST_MODELS);
}

interface Taking {
  files: ReadBcf['files'];
  choices: Choices;
  around: Surroundings;
  counts: Required<BcfCounts>;
}

async function take(unit: Change, actor: Member, topic: BcfTopic, taking: Taking): Promise<void> {
  const { rows } = await issuesOf(unit.db, actor, [guidOfTopic(topic)]);
  const [row] = rows.values();
  if (row) await renew(unit, actor, topic, row, taking);
  else await begin(unit, actor, topic, taking);
}

const cut = (text: string, length: number): string =>
  text
    .replace(/\p{Cc}+/gu, ' ')
    .trim()
    .slice(0, length);
export const wordOf = (text: string | null): string => cut((text ?? '').replaceAll(',', ' '), 60);
const labelsOf = ({ labels }: BcfTopic): string[] => [...new Set(labels.map(wordOf).filter(Boolean))].slice(0, 20);
/** A clock that goes ahead is set right; null where nothing can be read. */
function momentOf(said: string | null): Date | null {
  const at = said ? new Date(said) : new Date(NaN);
  if (Number.isNaN(at.getTime()) || at.getTime() < 0) return null;
  return at > now() ? now() : at;
}
export const dayOf = (said: string | null): string | null => {
  const day = (said ?? '').slice(0, 10);
  return /^\d{4}-\d\d-\d\d$/.test(day) && !Number.isNaN(Date.parse(day)) ? day : null;
};

/** Who wrote it: somebody of the project, or whoever brings it in, in the name of the other. */
function authorOf(
  said: string | null,
  actor: Member,
  { people }: Surroundings,
): { authorId: string; writtenBy: string | null } {
  const known = people.get((said ?? '').trim().toLowerCase());
  return known
    ? { authorId: known.id, writtenBy: null }
    : { authorId: actor.id, writtenBy: cut(said ?? '', 200) || null };
}

async function begin(unit: Change, actor: Member, topic: BcfTopic, { files, around, counts }: Taking): Promise<void> {
  const { db } = unit;
  const { projectId } = actor;
  const settings = await settingsOf(db, projectId);
  const kept = keptOf(topic, files);
  const seen = await ownViewpoint(unit, actor, topic, kept, around);
  const assigned = around.people.get((topic.assignedTo ?? '').trim().toLowerCase());
  const row = await addIssue(unit, actor, {
    title: cut(topic.title, 200) || 'Without a title',
    description: (topic.description ?? '').replaceAll('\r\n', '\n'),
    type: wordOf(topic.type) || settings.types[0]!.name,
    priority: wordOf(topic.priority) || usualPriority(settings),
    ...(assigned?.present && { responsible: { kind: 'person', id: assigned.id } }),
    dueOn: dayOf(topic.due),
    labels: labelsOf(topic),
    viewpointId: seen,
  });
  const status = statusFrom(topic.status) ?? 'open';
  const createdAt = momentOf(topic.created) ?? row.createdAt;
  const modified = momentOf(topic.modified) ?? createdAt;
  await db
    .update(issues)
    .set({
      ...authorOf(topic.author, actor, around),
      ...{ status, createdAt },
      ...((status === 'answered' || status === 'closed') && { answeredAt: modified, answeredBy: actor.id }),
      ...(status === 'closed' && { closedAt: modified }),
    })
    .where(eq(issues.id, row.id));
  await addNewPictures(
    db,
    row,
    topic.viewpoints.filter(({ guid }) => guid !== kept.ownViewpoint),
    kept,
  );
  counts.comments += await addComments(unit, actor, row.id, topic, new Set(), around);
  const [after] = await db.select().from(issues).where(eq(issues.id, row.id));
  const guid = guidOfTopic(topic);
  const issue = await toIssue(db, after!);
  const said = [fieldsOf(topic), mineOf(issue, { kept })];
  await remember(db, projectId, [{ issueId: row.id, said, guid, kept, files: filesOf(kept) }]);
  counts.added++;
}

export const filesOf = ({ viewpoints, documents, snippet }: KeptTopic): string[] => [
  ...new Set(
    [
      ...viewpoints.flatMap(({ snapshot, bitmaps }) => [snapshot, ...bitmaps.map(({ entry }) => entry)]),
      ...documents.map(({ entry }) => entry),
      snippet?.entry ?? null,
    ].flatMap((entry) => (entry ? [hashIn(entry)] : [])),
  ),
];

/** The first viewpoint that can be looked through becomes the issue's, if there are models to look at; answers its id. */
export async function ownViewpoint(
  unit: Change,
  actor: Member,
  topic: Pick<BcfTopic, 'title' | 'header'>,
  kept: KeptTopic,
  around: Surroundings,
): Promise<string | null> {
  const models = modelsFor(topic, around);
  const first = kept.viewpoints.find((one) => stateFrom(one) !== null);
  if (!first || !models.length) return null;
  const picture = first.snapshot ? hashIn(first.snapshot) : models.find(({ thumbnail }) => thumbnail)?.thumbnail;
  if (!picture) return null;
  const { id } = await addViewpointWith(
    unit,
    actor,
    {
      name: cut(topic.title, 120) || 'From BCF',
      state: stateFrom(first) as never,
      versionIds: models.map(({ versionId }) => versionId),
    },
    picture,
  );
  kept.ownViewpoint = first.guid;
  return id;
}

async function addNewPictures(
  db: Db,
  row: IssueRow,
  viewpoints: BcfTopic['viewpoints'],
  kept: KeptTopic,
): Promise<void> {
  const guids = new Set(viewpoints.map(({ guid }) => guid));
  const pictures = kept.viewpoints.flatMap(({ guid, snapshot }) =>
    guids.has(guid) && snapshot ? [{ sha256: hashIn(snapshot), caption: '' }] : [],
  );
  if (pictures.length) await addPictures(db, row, pictures);
}

async function addComments(
  { db }: Change,
  actor: Member,
  issueId: string,
  { comments }: BcfTopic,
  known: ReadonlySet<string>,
  around: Surroundings,
): Promise<number> {
  const taken = new Set(known);
  const fresh = comments.filter(({ guid, text }) => {
    const isNew = !taken.has(guid.toLowerCase()) && text.trim() !== '';
    taken.add(guid.toLowerCase());
    return isNew;
  });
  for (const { guid, author, date, text } of fresh) {
    const [row] = await db
      .insert(issueComments)
      .values({ issueId, text, at: momentOf(date) ?? now(), ...authorOf(author, actor, around) })
      .returning();
    await db.insert(bcfComments).values({ commentId: row!.id, issueId, guid: guid.toLowerCase() });
  }
  if (fresh.length)
    await db
      .update(issues)
      .set({ comments: sql`${issues.comments} + ${fresh.length}`, updatedAt: now() })
      .where(eq(issues.id, issueId));
  return fresh.length;
}

async function renew(
  unit: Change,
  actor: Member,
  topic: BcfTopic,
  row: IssueRow,
  { files, choices, around, counts }: Taking,
): Promise<void> {
  const { db } = unit;
  const guid = guidOfTopic(topic);
  const known = (await knownTopics(db, [row.id])).get(row.id);
  const issue = await toIssue(db, row);
  const found = compareTopic(known?.said ?? [], mineOf(issue, known), fieldsOf(topic));
  const wanted = new Set<BcfField>(
    found
      .filter((one) =>
        one.found === 'both' ? choices.theirs?.[guid]?.includes(one.field) : !choices.mine?.[guid]?.includes(one.field),
      )
      .map(({ field }) => field),
  );
  const refusals = await changeFields(unit, actor, row, topic, wanted, around);
  const came = newViewpoints(topic, issue, known);
  const kept = { ...keptOf(topic, files), ownViewpoint: known?.kept.ownViewpoint ?? null };
  // What the other program has let go of is not lost here.
  kept.viewpoints = [
    ...(known?.kept.viewpoints ?? []),
    ...kept.viewpoints.filter(({ guid: one }) => came.some((fresh) => fresh.guid === one)),
  ];
  await addNewPictures(db, row, came, kept);
  const said = (await knownComments(db, [row.id])).get(row.id) ?? new Set<string>();
  const added = await addComments(unit, actor, row.id, topic, said, around);
  if (added)
    await unit.record({ projectId: actor.projectId, verb: 'commented', subjectType: 'issue', subjectId: row.id });
  const [after] = await db.select().from(issues).where(eq(issues.id, row.id));
  const mine = mineOf(await toIssue(db, after!), { kept });
  await remember(db, actor.projectId, [
    { issueId: row.id, said: [fieldsOf(topic), mine], guid, kept, files: filesOf(kept) },
  ]);
  counts.comments += added;
  counts.refused += refusals;
  if (wanted.size > refusals || added || came.length) counts.changed++;
}

/** As whoever brings it in, by the rules of the project; answers how many fields were refused. */
export async function changeFields(
  unit: Change,
  actor: Member,
  row: IssueRow,
  topic: BcfTopic,
  wanted: ReadonlySet<BcfField>,
  around: Surroundings,
): Promise<number> {
  const { db } = unit;
  const assigned = around.people.get((topic.assignedTo ?? '').trim().toLowerCase());
  // Words that the project does not have are the other program's own: they are kept as they are.
  const words: Partial<IssueRow> = {
    ...(wanted.has('type') && topic.type && { type: wordOf(topic.type) }),
    ...(wanted.has('priority') && topic.priority && { priority: wordOf(topic.priority) }),
    ...(wanted.has('labels') && { labels: labelsOf(topic) }),
  };
  if (Object.keys(words).length) await db.update(issues).set(words).where(eq(issues.id, row.id));
  const fields = {
    ...(wanted.has('title') && topic.title.trim() && { title: cut(topic.title, 200) }),
    ...(wanted.has('description') && { description: (topic.description ?? '').replaceAll('\r\n', '\n') }),
    ...(wanted.has('due') && { dueOn: dayOf(topic.due) }),
    ...(wanted.has('assignedTo') &&
      (assigned?.present
        ? { responsible: { kind: 'person' as const, id: assigned.id } }
        : !topic.assignedTo && { responsible: null })),
  };
  if (Object.keys(fields).length || Object.keys(words).length)
    await changeWithin(unit, actor, row.id, { edition: row.edition, ...fields });
  if (!wanted.has('status')) return 0;
  try {
    const [changed] = await db.select().from(issues).where(eq(issues.id, row.id));
    await stepsTo(unit, actor, changed!, topic.status, `From ${topic.modifiedAuthor ?? 'another program'}.`);
  } catch (error) {
    // A rule of the project that the other program does not know: the rest of the topic is taken all the same.
    if (error instanceof ProblemError && error.status < 500) return 1;
    throw error;
  }
  return statusFrom(topic.status) ? 0 : 1;
}

/** Takes the steps that lead to a status, by the rules of the project; answers the issue as it is then. */
export async function stepsTo(
  unit: Change,
  actor: Member,
  row: IssueRow,
  word: string | null,
  reason = '',
): Promise<IssueRow> {
  const status = statusFrom(word);
  let now = row;
  for (const action of status ? stepsBetween(row.status, status) : [])
    now = await changeWithin(unit, actor, row.id, { edition: now.edition, action, reason });
  return now;
}

/** The shortest way from one status to another. */
export function stepsBetween(from: IssueStatus, to: IssueStatus): IssueAction[] {
  const ways = new Map<IssueStatus, IssueAction[]>([[from, []]]);
  for (const status of ways.keys()) {
    for (const action of actionsIn(issueTransitions, status)) {
      const next = issueTransitions[status][action]!;
      if (!ways.has(next)) ways.set(next, [...ways.get(status)!, action]);
    }
    if (ways.size === ISSUE_STATUSES.length) break;
  }
  return ways.get(to) ?? [];
}
