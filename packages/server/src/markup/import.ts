/** Markups come back in a file: read, held against what is here, taken as somebody chooses. */
import type { FoundMarkup, takeMarkups as takeOperation } from '@kindred/contract/markup/import';
import type { Body } from '@kindred/contract/platform/operation';
import {
  compareMarks,
  statusOfNew,
  type AnnotatedMark,
  type ComparedMark,
  type KnownMarkup,
  type MarkupPart,
  type PagePlace,
} from '@kindred/core/markup/annotations/compare';
import { markupShapeOf, markupStyleOf } from '@kindred/core/markup/annotations/to-markup';
import { storable } from '@kindred/core/platform/storable';
import { and, eq, inArray, sql } from 'drizzle-orm';
import type { Member } from '../platform/caller.ts';
import { change, type Change } from '../platform/change.ts';
import { now } from '../platform/clock.ts';
import type { Db } from '../platform/database.ts';
import { notFound, refused } from '../platform/errors.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import { nextNumber } from '../platform/numbering.ts';
import { longJobs } from '../platform/schema.ts';
import type { Platform } from '../platform/services.ts';
import type { ReadMarks } from '../preparation/messages.ts';
import { prepareOnce } from '../preparation/once.ts';
import { contentFor } from '../register/files.ts';
import { uploadFor } from '../register/uploads.ts';
import { pagesFor } from '../register/shared-sheets.ts';
import { visibleVersion, type VisibleVersion } from '../register/versions.ts';
import { unitsOf } from './export.ts';
import { calloutTags } from './callouts.ts';
import { withNames } from './found-names.ts';
import { prefixOf, toWrite, withoutPrefix, withPrefix, type Units } from './leaving.ts';
import { wholeBlob } from './pictures.ts';
import { markupComments, markupEditions, markupImports, markups } from './schema.ts';
import { changeRow, mayRedraw, recordPublished } from './service.ts';
import { audienceOf, rowsOn } from './visibility.ts';

type Row = typeof markups.$inferSelect;
/** What one preview can show, and one transaction take. */
const MOST_MARKS = 5000;
/** XFDF is text; larger ones are none that somebody marked by hand. */
const LARGEST_XFDF = 50_000_000;

export const startMarkupImport = (platform: Platform, actor: Member, versionId: string, uploadId: string) =>
  change(platform, actor, async (unit) => {
    const version = await visibleVersion(unit.db, actor, versionId);
    if (version.kind !== 'drawing')
      throw refused('no-drawing', 'Markups come back onto a PDF, and this version is none. Nothing was begun.');
    const { fileName, sha256, size } = await uploadFor(unit.db, actor, 'markup', uploadId);
    const isXfdf = /\.xfdf$/i.test(fileName);
    if (isXfdf && size > LARGEST_XFDF)
      throw refused(
        'xfdf-too-large',
        'This XFDF file is larger than 50 MB. Export fewer markups at a time; nothing was changed.',
      );
    return startLongJob(unit, actor, {
      kind: 'markup import',
      name: fileName,
      path: `sheets/${version.containerId}?version=${version.number}`,
      data: { versionId, sha256, isXfdf },
    });
  });

interface Reading {
  versionId: string;
  sha256: string;
  isXfdf: boolean;
}

export const markupImport: LongJobKind<Reading> = {
  kind: 'markup import',
  async run(platform, { data: { versionId, sha256, isXfdf }, owner, id }) {
    const { db } = platform;
    const version = await visibleVersion(db, owner, versionId);
    const code = 'markups-not-read';
    const bytes = isXfdf
      ? await prepareOnce(
          platform,
          await contentFor(platform, owner, version),
          { kind: 'drawing', readMarks: { xfdf: await wholeBlob(platform, sha256) } },
          code,
        )
      : await prepareOnce(platform, sha256, { kind: 'drawing', readMarks: {} }, code);
    const { marks, places, left } = storable(JSON.parse(bytes.toString('utf8')) as ReadMarks);
    if (marks.length > MOST_MARKS)
      throw refused(
        'too-many-markups',
        `This file holds ${marks.length} markups; up to ${MOST_MARKS} are taken at once. Split it by sheets. Nothing was changed.`,
      );
    await db
      .insert(markupImports)
      .values({ jobId: id, versionId, ownerId: owner.id, marks: withNames(marks), places, left })
      .onConflictDoNothing();
  },
};

interface Held {
  version: VisibleVersion;
  fileName: string;
  places: PagePlace[];
  left: number;
  rows: Row[];
  byThread: Map<string, Row>;
  compared: ComparedMark[];
  units: Units;
}

/** The file against what is there now. */
async function holdAgainst(db: Db, actor: Member, jobId: string): Promise<Held> {
  const [read] = await db
    .select({ read: markupImports, name: longJobs.name })
    .from(markupImports)
    .innerJoin(longJobs, eq(longJobs.id, markupImports.jobId))
    .where(
      and(eq(markupImports.jobId, jobId), eq(markupImports.ownerId, actor.id), eq(longJobs.projectId, actor.projectId)),
    );
  if (!read) throw notFound('import');
  const { versionId, marks, places, left } = read.read;
  const version = await visibleVersion(db, actor, versionId);
  const gets = await pagesFor(db, actor, [version]);
  const onSheets = new Set(
    marks.map(({ page }) => page).filter((page) => page <= Math.max(1, version.sheets) && gets(versionId, page)),
  );
  const rows = (await rowsOn(db, actor, version)).filter(({ draft }) => !draft);
  const units = await unitsOf(db, actor.projectId);
  const { known, ids } = await knownOf(db, actor, rows, units);
  const shown = marks.filter(({ page }) => onSheets.has(page));
  return {
    ...{ version, fileName: read.name, places, rows, units },
    left: left + marks.length - shown.length,
    byThread: new Map(rows.map((row) => [row.threadId, row])),
    compared: compareMarks(shown, known, ids, places),
  };
}

async function knownOf(db: Db, actor: Member, rows: Row[], units: Units) {
  const nows = await toWrite(db, actor, rows, units);
  const editions = new Map<string, (typeof markupEditions.$inferSelect)[]>();
  const ids = rows.map(({ id }) => id);
  if (ids.length)
    for (const one of await db
      .select()
      .from(markupEditions)
      .where(inArray(markupEditions.markupId, ids))
      .orderBy(markupEditions.edition))
      editions.set(one.markupId, [...(editions.get(one.markupId) ?? []), one]);
  const known = new Map<string, KnownMarkup>();
  const names = new Map<string, string>();
  for (const row of rows) {
    const now = nows.get(row.id)!;
    const said = (shape: Row['shape'], text: string): string => withPrefix(prefixOf({ ...row, shape }, units), text);
    const earlier = (editions.get(row.id) ?? [])
      .filter(({ edition }) => edition < row.edition && edition >= (row.leftAt ?? 1))
      .map(({ shape, style, text, status }) => ({ ...now, shape, style, text: said(shape, text), status }));
    known.set(row.threadId, { now, earlier, answers: new Set(now.answers.map(({ id }) => id)) });
    names.set(row.threadId, row.threadId);
    if (row.externalId) names.set(row.externalId, row.threadId);
  }
  return { known, ids: names };
}

/** Parts that somebody may change of a markup. */
const allowed = (actor: Member, row: Row, parts: readonly MarkupPart[]): MarkupPart[] =>
  mayRedraw(actor, row) ? [...parts] : parts.filter((part) => part === 'status');

export async function showMarkupImport({ db }: Platform, actor: Member, jobId: string) {
  const { version, fileName, places, left, rows, byThread, compared, units } = await holdAgainst(db, actor, jobId);
  const inFile = new Set(compared.map(({ known }) => known));
  return {
    versionId: version.id,
    fileName,
    found: compared.map((one): FoundMarkup => {
      const { mark, known, found, conflicts, answers } = one;
      const row = known === undefined ? undefined : byThread.get(known)!;
      const parts = row ? allowed(actor, row, one.parts) : [];
      const open = conflicts.filter((part) => parts.includes(part));
      return {
        ...{ key: mark.id, page: mark.page, author: mark.author, parts, conflicts: open },
        found: found === 'new' || parts.length === one.parts.length ? found : stateOf(parts, open, answers.length),
        theirs: theirs(mark, row, places, units),
        ours: row ? { id: row.id, number: row.number, text: row.text, status: row.status, shape: row.shape } : null,
        answers: answers.map(({ author, contents, modified }) => ({ author, text: contents, at: momentOf(modified) })),
      };
    }),
    left,
    missing: rows.filter(({ threadId }) => !inFile.has(threadId)).length,
  };
}

function stateOf(
  parts: readonly MarkupPart[],
  conflicts: readonly MarkupPart[],
  answers: number,
): FoundMarkup['found'] {
  if (conflicts.length) return 'conflict';
  return parts.length || answers ? 'answered' : 'same';
}

const MOST_WORDS = 2000;
/** More than anybody writes is cut. */
const wordsOf = (text: string): string => storable(text.slice(0, MOST_WORDS));

function theirs(mark: AnnotatedMark, row: Row | undefined, places: readonly PagePlace[], units: Units) {
  const said = row ? prefixOf(row, units) : '';
  return {
    text: wordsOf(withoutPrefix(said, mark.contents)),
    status: mark.status ?? row?.status ?? statusOfNew(mark),
    shape: markupShapeOf(mark, places[mark.page - 1]!, row?.shape),
  };
}

/** RFC 3339 with an offset; what names none is taken as UTC. Nothing was written in the future. */
function momentOf(moment: string | null): string | null {
  if (!moment) return null;
  const time = Date.parse(/Z$|[+-]\d\d:\d\d$/.test(moment) ? moment : `${moment}Z`);
  return Number.isFinite(time) && time > 0 ? new Date(Math.min(time, now().getTime())).toISOString() : null;
}

export async function takeMarkups(
  platform: Platform,
  actor: Member,
  jobId: string,
  { take }: Body<typeof takeOperation>,
): Promise<{ added: number; changed: number; answers: number }> {
  const sides = new Map(take.map(({ key, side }) => [key, side]));
  return change(platform, actor, async (unit) => {
    // Two who press at once, or twice: the second finds nothing new any more.
    await unit.db.execute(sql`select 1 from markup_imports where job_id = ${jobId} for update`);
    const held = await holdAgainst(unit.db, actor, jobId);
    const chosen = held.compared.filter(({ mark }) => sides.has(mark.id));
    const result = { added: 0, changed: 0, answers: 0 };
    const threads = new Map<string, Row>();
    for (const one of chosen) {
      if (one.known === undefined) continue;
      const row = held.byThread.get(one.known)!;
      threads.set(one.mark.id, row);
      const parts = sides.get(one.mark.id) === 'theirs' ? allowed(actor, row, one.parts) : [];
      if (!parts.length) continue;
      const side = theirs(one.mark, row, held.places, held.units);
      const wanted: Record<string, unknown> = Object.fromEntries(parts.map((part) => [part, side[part]]));
      // A place is on a sheet, which may be another one now.
      if (parts.includes('shape')) wanted.page = one.mark.page;
      await changeRow(
        unit,
        actor,
        { row, version: held.version },
        row.edition,
        wanted,
        parts.includes('status') ? statedBy(one.mark) : null,
      );
      result.changed++;
    }
    const added = await addNew(
      unit,
      actor,
      held,
      chosen.filter(({ known, mark }) => known === undefined && sides.get(mark.id) === 'theirs'),
    );
    for (const row of added) threads.set(row.externalId!, row);
    result.added = added.length;
    result.answers = await addAnswers(unit, actor, held, chosen, threads);
    return result;
  });
}

const AT_ONCE = 1000;

/** Who gave the status in the other program; of other changes a file tells no author. */
const statedBy = ({ replies }: AnnotatedMark): string | null =>
  wordsOf(replies.findLast(({ status }) => status !== null)?.author ?? '') || null;

async function addNew(
  unit: Change,
  actor: Member,
  { version, places, units }: Held,
  found: readonly ComparedMark[],
): Promise<Row[]> {
  const { db } = unit;
  let number = found.length ? await nextNumber(db, markups, actor.projectId) : 0;
  const tagOf = await calloutTags(db, version);
  const values = found.map(({ mark }) => {
    const { text, status, shape } = theirs(mark, undefined, places, units);
    const id = crypto.randomUUID();
    const written = momentOf(mark.created ?? mark.modified);
    return {
      ...{ id, threadId: id, projectId: actor.projectId, versionId: version.id, page: mark.page, number: number++ },
      ...{ shape, style: markupStyleOf(mark, status), text, status, draft: false, authorId: actor.id },
      tag: shape.kind === 'callout' ? tagOf(mark.page) : null,
      ...{ writtenBy: wordsOf(mark.author).slice(0, 200) || null, externalId: mark.id },
      ...{ createdAt: written ? new Date(written) : now(), updatedAt: now() },
    };
  });
  const rows: Row[] = [];
  for (let i = 0; i < values.length; i += AT_ONCE)
    rows.push(
      ...(await db
        .insert(markups)
        .values(values.slice(i, i + AT_ONCE))
        .returning()),
    );
  await recordPublished(unit, actor, version, rows);
  return rows;
}

async function addAnswers(
  { db, record }: Change,
  actor: Member,
  { version }: Held,
  chosen: readonly ComparedMark[],
  threads: ReadonlyMap<string, Row>,
): Promise<number> {
  let count = 0;
  for (const { mark, answers } of chosen) {
    const row = threads.get(mark.id);
    if (!row || !answers.length) continue;
    const values = answers.map(({ id, author, contents, modified }) => {
      const written = momentOf(modified);
      return {
        ...{ markupId: row.id, threadId: row.threadId, authorId: actor.id, externalId: id },
        ...{
          writtenBy: wordsOf(author).slice(0, 200) || null,
          text: wordsOf(contents),
          at: written ? new Date(written) : now(),
        },
      };
    });
    const said = await db.insert(markupComments).values(values).onConflictDoNothing().returning();
    count += said.length;
    if (said.length)
      await record({
        projectId: actor.projectId,
        verb: 'commented',
        subjectType: 'markup',
        subjectId: row.id,
        after: { text: said.at(-1)!.text, writtenBy: said.at(-1)!.writtenBy },
        teamId: await audienceOf(db, version, row.page),
      });
  }
  return count;
}
