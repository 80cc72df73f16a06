import { readTitleBlock } from '@kindred/core/drawing/title-block';
import { TITLE_BLOCK_FIELDS } from '@kindred/core/drawing/title-block';
import { openPdf, readSheetTexts } from './pdf-sheets.ts';

type SheetFields = { page: number } & Record<(typeof TITLE_BLOCK_FIELDS)[number], string | null>;

/** What the title block of each page says; null where nothing was found. */
export async function titleBlocks(file: string): Promise<SheetFields[]> {
  const pages: SheetFields[] = [];
  for await (const { page, text } of readSheetTexts(await openPdf(file))) {
    const block = readTitleBlock(text);
    const fields = Object.fromEntries(TITLE_BLOCK_FIELDS.map((field) => [field, block[field] || null]));
    pages.push({ page, ...fields } as SheetFields);
  }
  return pages;
}
