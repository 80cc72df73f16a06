/** Markups as a workbook, each with a picture of its place. */
import type { MarkupToWrite } from '@kindred/core/markup/annotations/of-markup';
import { shapeBounds } from '@kindred/core/markup/shapes';
import type { Canvas } from '@napi-rs/canvas';
import ExcelJS from '@protobi/exceljs';
import { cut } from './cut.ts';
import type { MarkupTable } from './messages.ts';
import { openPdf } from './pdf.ts';

/** A picture is so many pixels; a sheet is drawn so large once, and cut. */
const [WIDTH, HEIGHT, SHEET] = [320, 200, 3600];
/** Beyond that a workbook is too large to be opened. */
const MOST_PICTURES = 500;

/** `marked`: the drawing with the markups drawn in; `list` and the rows of the table are in the same order. */
export async function markupBook(
  marked: Uint8Array,
  list: readonly MarkupToWrite[],
  table: MarkupTable,
): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  const sheet = book.addWorksheet('Markups', { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = [
    ...table.columns.map(({ head, width }) => ({ header: head, width })),
    { header: 'Picture', width: 46 },
  ];
  sheet.getRow(1).font = { bold: true };
  const pdf = await openPdf(marked);
  let drawn: { page: number; canvas: Canvas } | undefined;
  // Page by page, so that each is drawn once.
  const order = list.map((_, i) => i).sort((a, b) => list[a]!.page - list[b]!.page || a - b);
  const pictures = new Map<number, Buffer>();
  for (const i of order.slice(0, MOST_PICTURES)) {
    const { page, shape } = list[i]!;
    if (drawn?.page !== page) drawn = { page, canvas: await pdf.draw(page, SHEET) };
    pictures.set(i, await cut(drawn.canvas, shapeBounds(shape), await pdf.sizeOf(page), [WIDTH, HEIGHT]).encode('png'));
  }
  for (const [i, cells] of table.rows.entries()) {
    const row = sheet.addRow(cells);
    row.alignment = { vertical: 'top', wrapText: true };
    const picture = pictures.get(i);
    if (!picture) continue;
    row.height = HEIGHT * 0.76;
    // The library's own kind of buffer is what Node had before.
    const imageId = book.addImage({ buffer: picture as never, extension: 'png' });
    sheet.addImage(imageId, { tl: { col: table.columns.length, row: i + 1 }, ext: { width: WIDTH, height: HEIGHT } });
  }
  const totals = book.addWorksheet('Measures together');
  totals.columns = table.totals.columns.map(({ head, width }) => ({ header: head, width }));
  totals.getRow(1).font = { bold: true };
  totals.addRows(table.totals.rows);
  return new Uint8Array(await book.xlsx.writeBuffer());
}
