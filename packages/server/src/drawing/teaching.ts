/** Whoever corrects a title block teaches it: sheets with the same block are read so from then on. */
import type { TaughtTitleBlock } from '@kindred/contract/drawing/drawing';
import { learnLayout, type TaughtLayout } from '@kindred/core/drawing/taught-layout';
import { TITLE_BLOCK_FIELDS, type TitleBlock } from '@kindred/core/drawing/title-block';
import { decodePage } from '@kindred/core/drawing/vectors/vectors-file';
import { and, desc, eq } from 'drizzle-orm';
import { personsById } from '../identity/persons.ts';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { requireRow } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { titleBlockLayouts } from '../register/schema.ts';
import { recognisedWordsOf } from './recognition.ts';
import { vectorsOfPage } from './vectors.ts';

/** Sheets of one drawing have one block: the first few corrected ones teach it. */
const MOST_LESSONS = 3;

export interface Lesson {
  sheet: string;
  layout: TaughtLayout;
}

/** What the corrections of a version teach; nothing where it was prepared before drawings kept what they draw. */
export async function lessonsOf(
  platform: Platform,
  versionId: string,
  before: readonly ({ page: number } & TitleBlock)[],
  wanted: readonly ({ page: number } & TitleBlock)[],
): Promise<Lesson[]> {
  const read = new Map(before.map((sheet) => [sheet.page, sheet]));
  const corrected = wanted.filter((sheet) =>
    TITLE_BLOCK_FIELDS.some((field) => sheet[field] && sheet[field] !== read.get(sheet.page)?.[field]),
  );
  const lessons: Lesson[] = [];
  for (const sheet of corrected.slice(0, MOST_LESSONS)) {
    const packed = await vectorsOfPage(platform, versionId, sheet.page);
    if (!packed) return [];
    const { texts, width, height } = await decodePage(packed);
    const words = texts.length ? texts : await recognisedWordsOf(platform.db, versionId, sheet.page);
    const layout = learnLayout(words, [width, height], sheet);
    if (layout) lessons.push({ layout, sheet: [sheet.number, sheet.title].filter(Boolean).join(' ') });
  }
  return lessons;
}

export async function listTaughtTitleBlocks({ db }: Platform, { projectId }: Member): Promise<TaughtTitleBlock[]> {
  const rows = await db
    .select()
    .from(titleBlockLayouts)
    .where(eq(titleBlockLayouts.projectId, projectId))
    .orderBy(desc(titleBlockLayouts.taughtAt));
  const persons = await personsById(
    db,
    rows.map(({ taughtBy }) => taughtBy),
  );
  return rows.map(({ id, sheet, layout, taughtBy, taughtAt }) => ({
    ...{ id, sheet, fields: Object.keys(layout.fields), words: layout.anchors.slice(0, 8).map(({ text }) => text) },
    ...{ taughtBy: persons.get(taughtBy)!.name, taughtAt: taughtAt.toISOString() },
  }));
}

export const forgetTitleBlock = (platform: Platform, actor: Member, layoutId: string): Promise<void> =>
  change(platform, actor, async ({ db, record }) => {
    const { projectId } = actor;
    const row = requireRow(
      await db
        .delete(titleBlockLayouts)
        .where(and(eq(titleBlockLayouts.projectId, projectId), eq(titleBlockLayouts.id, layoutId)))
        .returning(),
      'title block',
    );
    await record({
      projectId,
      verb: 'title block forgotten',
      subjectType: 'title block',
      subjectId: layoutId,
      before: { sheet: row.sheet },
    });
  });
