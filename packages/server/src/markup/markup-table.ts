/** Markups as a list that a spreadsheet opens, with what they measure together. */
import { totalsOf } from '@kindred/core/markup/totals';
import { KIND_WORDS } from '@kindred/words/markups';
import { eq } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import type { MarkupTable } from '../preparation/messages.ts';
import { sheets } from '../register/schema.ts';
import type { VisibleVersion } from '../register/versions.ts';
import { measureWords, type Units } from './leaving.ts';
import type { markups } from './schema.ts';
import { commentsOf } from './threads.ts';

type Row = typeof markups.$inferSelect;

export async function markupTable(
  db: Db,
  actor: Member,
  rows: readonly Row[],
  version: VisibleVersion,
  units: Units,
): Promise<MarkupTable> {
  const labels = new Map(
    (
      await db.select({ page: sheets.page, label: sheets.label }).from(sheets).where(eq(sheets.versionId, version.id))
    ).map(({ page, label }) => [page, label]),
  );
  const said = await commentsOf(
    db,
    actor,
    rows.map(({ threadId }) => threadId),
  );
  const speakers = await personsById(
    db,
    [...said.values()].flat().map(({ authorId }) => authorId),
  );
  const persons = await personsById(
    db,
    rows.flatMap(({ authorId, assigneeId }) => [authorId, assigneeId]),
  );
  return {
    columns: [
      { head: 'Number', width: 9 },
      { head: 'Sheet', width: 30 },
      { head: 'Kind', width: 16 },
      { head: 'Status', width: 11 },
      { head: 'Words', width: 50 },
      { head: 'Measures', width: 22 },
      { head: 'Author', width: 24 },
      { head: 'Made', width: 12 },
      { head: 'Responsible', width: 24 },
      { head: 'Due', width: 12 },
      { head: 'Comments', width: 60 },
    ],
    rows: rows.map((row) => [
      ...[row.number, labels.get(row.page) ?? `Sheet ${row.page}`, KIND_WORDS[row.shape.kind], row.status, row.text],
      measureWords(row.shape, row.metresPerPoint, units),
      row.writtenBy ?? persons.get(row.authorId)!.name,
      row.createdAt.toISOString().slice(0, 10),
      (row.assigneeId && persons.get(row.assigneeId)?.name) || '',
      row.dueOn ?? '',
      (said.get(row.threadId) ?? [])
        .map(({ text, authorId, writtenBy }) => `${writtenBy ?? speakers.get(authorId)!.name}: ${text}`)
        .join('\n'),
    ]),
    totals: {
      columns: [
        { head: 'Kind', width: 16 },
        { head: 'Words', width: 40 },
        { head: 'Markups', width: 10 },
        { head: 'Together', width: 14 },
        { head: 'Unit', width: 10 },
      ],
      rows: totalsOf(rows).map(({ kind, label, markups: n, sum, unit }) => [
        ...[KIND_WORDS[kind], label, n, Math.round(sum * 1000) / 1000, UNITS[unit]],
      ]),
    },
  };
}
const UNITS = { length: 'm', area: 'm²', count: '' };
