/** Issues as a report that people keep: made by a long job, as whoever asked sees them. */
import { zipAsTheyCome } from '@kindred/archive/write-zip';
import { MOST_REPORTED, type startIssueReport as operation } from '@kindred/contract/issues/report';
import type { Issue } from '@kindred/contract/issues/issues';
import type { Body } from '@kindred/contract/platform/operation';
import { changeWords } from '@kindred/words/changes';
import { eventWords } from '@kindred/words/events';
import { counted } from '@kindred/words/sentence';
import { and, asc, eq, inArray } from 'drizzle-orm';
import { PassThrough, Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { users } from '../identity/schema.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import { events } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';
import { workbookWriter } from '../platform/workbook.ts';
import { projectNamed } from '../portfolio/service.ts';
import type { IssueReport, ReportedIssue } from '../preparation/issue-report.ts';
import { prepareOnce } from '../preparation/once.ts';
import { viewpoints } from '../scene/schema.ts';
import { groupIssues, listIssues } from './list.ts';
import { issueComments, issuePictures } from './schema.ts';

type Wanted = Body<typeof operation>;
const PAGE = 200;
const MEDIA = {
  pdf: 'application/pdf',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
} as const;

export const startIssueReport = (platform: Platform, actor: Member, wanted: Wanted) =>
  change(platform, actor, async (unit) => {
    const { as, sort: _sort, descending: _descending, ...filters } = wanted;
    void [_sort, _descending];
    const groups = await groupIssues(unit, actor, { ...filters, by: 'status' });
    const count = groups.reduce((sum, group) => sum + group.count, 0);
    if (!count) throw refused('no-issues', 'No issue that you see fits. Nothing was begun.');
    if (as === 'pdf' && count > MOST_REPORTED)
      throw refused(
        'too-many-issues',
        `${count} issues fit; a PDF has up to ${MOST_REPORTED}, each on a page of its own. Narrow the list, or take XLSX. Nothing was begun.`,
      );
    const job = await startLongJob(unit, actor, {
      ...{ kind: 'issue report', name: `Issues.${as}`, path: 'issues', data: wanted },
    });
    await unit.record({
      ...{ projectId: actor.projectId, verb: 'issues reported', subjectType: 'project', subjectId: actor.projectId },
      after: { ...wanted },
    });
    return job;
  });

export const issueReport: LongJobKind<Wanted> = {
  kind: 'issue report',
  async run(platform, { data: { as, ...asked }, owner, progress }) {
    const project = await projectNamed(platform.db, owner.projectId);
    const at = momentIn(project.timeZone);
    const name = `Issues ${project.number || project.name} ${now().toISOString().slice(0, 10)}.${as}`;
    const pages = pagesOf(platform, owner, asked);
    if (as === 'xlsx') return { name, mediaType: MEDIA.xlsx, content: workbook(platform.db, pages, at, progress) };
    const { sort: _sort, descending: _descending, ...filters } = asked;
    void [_sort, _descending];
    const sentences = [
      `${project.number} ${project.name}`.trim(),
      `As ${owner.name} saw them on ${at(now())}.`,
      `Narrowed to: ${
        Object.entries(filters)
          .map(([field, value]) => `${field} ${String(value)}`)
          .join(', ') || 'nothing, all of them'
      }.`,
    ];
    const pack = await platform.store.putStream(zipAsTheyCome(packed(platform, pages, { sentences, at, progress })));
    const task = { kind: 'document' as const, issueReport: true };
    const content = await prepareOnce(platform, pack.sha256, task, 'not-reported');
    return { name, mediaType: MEDIA.pdf, content: Readable.from([content]) };
  },
};

type Saying = (moment: Date) => string;
function momentIn(timeZone: string): Saying {
  const format = new Intl.DateTimeFormat('sv-SE', { timeZone, dateStyle: 'short', timeStyle: 'short' });
  return (moment) => format.format(moment);
}

async function* pagesOf(platform: Platform, owner: Member, asked: Omit<Wanted, 'as'>): AsyncGenerator<Issue[]> {
  for (let after: string | null | undefined; after !== null;) {
    const { items, next } = await listIssues(platform, owner, { ...asked, limit: PAGE, ...(after && { after }) });
    yield items;
    after = next;
  }
}

const COLUMNS = [
  { head: 'No.', width: 6 },
  { head: 'Issue', width: 40 },
  { head: 'Type', width: 12 },
  { head: 'Priority', width: 10 },
  { head: 'Status', width: 11 },
  { head: 'Answers', width: 18 },
  { head: 'Due', width: 12 },
  { head: 'Raised by', width: 18 },
  { head: 'Raised', width: 16 },
];
const cellsOf = (issue: Issue, at: Saying): string[] => [
  ...[String(issue.number), issue.title, issue.type, issue.priority, issue.status],
  ...[issue.responsible?.name ?? '', issue.dueOn ?? '', issue.writtenBy ?? issue.author.name],
  at(new Date(issue.createdAt)),
];

interface Said {
  comments: Map<string, string[][]>;
  history: Map<string, string[][]>;
}
/** What was said about these issues and what happened to them, as rows. */
async function saidOf(db: Db, issues: readonly Issue[], at: Saying): Promise<Said> {
  const ids = issues.map(({ id }) => id);
  const rows = await db
    .select({ comment: issueComments, name: users.name })
    .from(issueComments)
    .innerJoin(users, eq(users.id, issueComments.authorId))
    .where(inArray(issueComments.issueId, ids))
    .orderBy(asc(issueComments.at), asc(issueComments.id));
  const happened = await db
    .select({ event: events, name: users.name })
    .from(events)
    .leftJoin(users, eq(users.id, events.actorId))
    .where(and(eq(events.subjectType, 'issue'), inArray(events.subjectId, ids)))
    .orderBy(asc(events.id));
  const said: Said = { comments: new Map(), history: new Map() };
  const add = (map: Map<string, string[][]>, id: string, row: string[]): void =>
    void (map.get(id) ?? map.set(id, []).get(id)!).push(row);
  for (const { comment, name } of rows)
    add(said.comments, comment.issueId, [
      at(comment.at),
      comment.writtenBy ?? name,
      comment.withdrawnAt ? '(withdrawn)' : comment.text,
    ]);
  for (const { event, name } of happened)
    add(said.history, event.subjectId, [
      at(event.at),
      name ?? 'The application',
      [eventWords(event), ...changeWords(event.before, event.after)].join(' · '),
    ]);
  return said;
}

async function* packed(
  { db, store }: Platform,
  pages: AsyncIterable<Issue[]>,
  { sentences, at, progress }: { sentences: string[]; at: Saying; progress: (done: number) => Promise<void> },
): AsyncGenerator<{ name: string; content: Uint8Array }> {
  const reported: ReportedIssue[] = [];
  const rows: string[][] = [];
  const sent = new Set<string>();
  for await (const issues of pages) {
    const said = await saidOf(db, issues, at);
    const pictures = await picturesOf(db, issues);
    for (const issue of issues) {
      const picture = pictures.get(issue.id) ?? null;
      if (picture && !sent.has(picture)) yield { name: picture, content: await buffer(await store.read(picture)) };
      if (picture) sent.add(picture);
      rows.push(cellsOf(issue, at));
      reported.push(pageOf(issue, picture, said, at));
    }
    await progress(0.3);
  }
  const report: IssueReport = {
    title: counted(reported.length, 'issue'),
    sentences,
    table: { title: '', columns: COLUMNS, rows },
    issues: reported,
  };
  yield { name: 'report.json', content: new TextEncoder().encode(JSON.stringify(report)) };
  await progress(0.6);
}

const WIDTHS = [
  { head: 'When', width: 12 },
  { head: 'Who', width: 16 },
  { head: 'What', width: 60 },
];
function pageOf(issue: Issue, picture: string | null, { comments, history }: Said, at: Saying): ReportedIssue {
  const [said, happened] = [comments.get(issue.id) ?? [], history.get(issue.id) ?? []];
  return {
    heading: `${issue.number} ${issue.title}`,
    facts: [
      [issue.type, `priority ${issue.priority}`, issue.status, ...issue.labels].join(' · '),
      [
        `raised by ${issue.writtenBy ?? issue.author.name}, ${at(new Date(issue.createdAt))}`,
        issue.responsible ? `answered by ${issue.responsible.name}` : 'nobody answers yet',
        ...(issue.verifier ? [`verified by ${issue.verifier.name}`] : []),
        ...(issue.dueOn ? [`due ${issue.dueOn}`] : []),
      ].join(' · '),
    ],
    text: issue.description,
    picture,
    tables: [
      ...(said.length ? [{ title: 'What was said', columns: WIDTHS, rows: said }] : []),
      { title: 'History', columns: WIDTHS, rows: happened },
    ],
  };
}

/** By issue the hash of its first picture, else of that of its viewpoint. */
async function picturesOf(db: Db, issues: readonly Issue[]): Promise<Map<string, string>> {
  const own = await db
    .select({ issueId: issuePictures.issueId, sha256: issuePictures.sha256 })
    .from(issuePictures)
    .where(
      and(
        eq(issuePictures.position, 1),
        inArray(
          issuePictures.issueId,
          issues.map(({ id }) => id),
        ),
      ),
    );
  const found = new Map(own.map(({ issueId, sha256 }) => [issueId, sha256]));
  const wanted = issues.flatMap(({ id, viewpointId }) => (viewpointId && !found.has(id) ? viewpointId : []));
  const seen = wanted.length
    ? await db
        .select({ id: viewpoints.id, sha256: viewpoints.pictureSha256 })
        .from(viewpoints)
        .where(inArray(viewpoints.id, wanted))
    : [];
  const byViewpoint = new Map(seen.map(({ id, sha256 }) => [id, sha256]));
  for (const { id, viewpointId } of issues) {
    const picture = viewpointId && byViewpoint.get(viewpointId);
    if (picture && !found.has(id)) found.set(id, picture);
  }
  return found;
}

/** Row by row: the list, and beside it what was said and what happened. */
function workbook(
  db: Db,
  pages: AsyncIterable<Issue[]>,
  at: Saying,
  progress: (done: number) => Promise<void>,
): Readable {
  const stream = new PassThrough();
  void (async () => {
    const Writer = await workbookWriter();
    const book = new Writer({ stream, useStyles: true });
    const sheet = (name: string, columns: readonly { head: string; width: number }[]) => {
      const added = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
      added.columns = columns.map(({ head, width }) => ({ header: head, width }));
      added.getRow(1).font = { bold: true };
      return added;
    };
    const list = sheet('Issues', [
      ...COLUMNS,
      ...[
        { head: 'Labels', width: 20 },
        { head: 'Verifies', width: 18 },
        { head: 'First answered', width: 16 },
      ],
      ...[
        { head: 'Closed', width: 16 },
        { head: 'What is asked, or wrong', width: 60 },
      ],
    ]);
    const beside = (name: string) => sheet(name, [{ head: 'No.', width: 6 }, ...WIDTHS]);
    const [talk, history] = [beside('What was said'), beside('What happened')];
    for await (const issues of pages) {
      const said = await saidOf(db, issues, at);
      for (const issue of issues) {
        const moment = (value: string | null): string => (value ? at(new Date(value)) : '');
        const cells = [
          ...cellsOf(issue, at),
          ...[issue.labels.join(', '), issue.verifier?.name ?? '', moment(issue.answeredAt), moment(issue.closedAt)],
          issue.description,
        ];
        list.addRow([issue.number, ...cells.slice(1)]).commit();
        for (const row of said.comments.get(issue.id) ?? []) talk.addRow([issue.number, ...row]).commit();
        for (const row of said.history.get(issue.id) ?? []) history.addRow([issue.number, ...row]).commit();
      }
      await progress(0.5);
    }
    await book.commit();
  })().catch((error: Error) => stream.destroy(error));
  return stream;
}
