/** Markups as they leave in files: with what they measure and what was said of them. */
import type { AnswerToWrite, MarkupToWrite } from '@kindred/core/markup/annotations/of-markup';
import { METRES_PER_POINT } from '@kindred/core/drawing/scale';
import { measureOf } from '@kindred/core/markup/measure';
import type { MarkupShape } from '@kindred/core/markup/shapes';
import type { LengthUnits } from '@kindred/core/platform/length';
import { sayMeasure } from '@kindred/words/measures';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import type { Db } from '../platform/database.ts';
import type { markups } from './schema.ts';
import { commentsOf } from './threads.ts';

type Row = typeof markups.$inferSelect;
export interface Units {
  units: LengthUnits;
  inchFraction: number;
}

/** What a shape measures, in words; empty where it measures nothing. */
export function measureWords(shape: MarkupShape, metresPerPoint: number | null, units: Units): string {
  const measure = measureOf(shape, metresPerPoint ?? METRES_PER_POINT);
  const onPaper = metresPerPoint === null && (measure?.of === 'length' || measure?.of === 'area');
  return measure ? `${sayMeasure(measure, units)}${onPaper ? ' on paper' : ''}` : '';
}
/** What stands before the words of a markup where it leaves: the number on its tag, or what it measures. */
export const prefixOf = (row: Pick<Row, 'shape' | 'metresPerPoint' | 'tag'>, units: Units): string =>
  row.tag === null ? measureWords(row.shape, row.metresPerPoint, units) : String(row.tag);
export const withPrefix = (said: string, text: string): string => [said, text].filter(Boolean).join(' · ');
/** The words of a markup without that. */
export const withoutPrefix = (said: string, text: string): string =>
  said && (text === said || text.startsWith(`${said} · `)) ? text.slice(said.length + 3) : text;

/** They leave under the id of their thread: what is answered finds them on whichever version they are then. */
export async function toWrite(
  db: Db,
  actor: Member,
  rows: readonly Row[],
  units: Units,
): Promise<Map<string, MarkupToWrite>> {
  const persons = await personsById(
    db,
    rows.map(({ authorId }) => authorId),
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
  const answersOf = (threadId: string): AnswerToWrite[] =>
    (said.get(threadId) ?? []).map(({ id, externalId, text, at, authorId, writtenBy }) => ({
      ...{ id: externalId ?? id, author: writtenBy ?? speakers.get(authorId)!.name, text, at: at.toISOString() },
    }));
  return new Map(
    rows.map((row) => {
      const { id, threadId, page, shape, style, text, status, createdAt } = row;
      const author = row.writtenBy ?? persons.get(row.authorId)!.name;
      const markup: MarkupToWrite = {
        ...{ id: threadId, page, shape, style, text: withPrefix(prefixOf(row, units), text), status, author },
        ...{ createdAt: createdAt.toISOString(), answers: answersOf(threadId) },
      };
      return [id, markup];
    }),
  );
}
