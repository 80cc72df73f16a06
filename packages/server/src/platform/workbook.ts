/** Workbooks that are written row by row. */
import type ExcelJS from '@protobi/exceljs';

/** The part of the library that writes so. Loaded apart from the start, which it would make slower; see `warmWorkbooks`. */
export async function workbookWriter(): Promise<typeof ExcelJS.stream.xlsx.WorkbookWriter> {
  const path = '@protobi/exceljs/lib/stream/xlsx/workbook-writer.js';
  const { default: writer } = (await import(path)) as { default: typeof ExcelJS.stream.xlsx.WorkbookWriter };
  return writer;
}

/** Loads it while nobody waits for it: the first export would hold up everybody's requests meanwhile. */
export const warmWorkbooks = async (): Promise<void> => void (await workbookWriter());
