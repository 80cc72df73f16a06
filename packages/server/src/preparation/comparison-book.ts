/** A comparison as a workbook: every change with pictures of before and after, then the brief and the sheets. */
import ExcelJS from '@protobi/exceljs';
import { openChangePictures, PICTURE } from './change-pictures.ts';
import type { ComparisonReport } from './messages.ts';

const [WIDTH, HEIGHT] = PICTURE;

export async function comparisonBook(
  before: Uint8Array,
  after: Uint8Array,
  { verdict, title, tables, columns, sheets }: ComparisonReport,
): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  book.title = `${title}: ${verdict}`;
  const list = book.addWorksheet('Changes', { views: [{ state: 'frozen', ySplit: 1 }] });
  list.columns = [
    { header: 'Sheet', width: 24 },
    ...columns.map(({ head, width }) => ({ header: head, width })),
    { header: 'Before', width: 46 },
    { header: 'After', width: 46 },
  ];
  list.getRow(1).font = { bold: true };
  const picturesOf = await openChangePictures(before, after);
  for (const sheet of sheets) {
    const pictures = await picturesOf(sheet);
    for (const [i, { cells }] of sheet.changes.entries()) {
      const row = list.addRow([sheet.title, ...cells]);
      row.alignment = { vertical: 'top', wrapText: true };
      const picture = pictures[i];
      if (!picture) continue;
      row.height = HEIGHT * 0.76;
      for (const [k, buffer] of [picture.before, picture.after].entries()) {
        // The library's own kind of buffer is what Node had before.
        const imageId = book.addImage({ buffer: buffer as never, extension: 'png' });
        const at = { col: columns.length + 1 + k, row: row.number - 1 };
        list.addImage(imageId, { tl: at, ext: { width: WIDTH, height: HEIGHT } });
      }
    }
  }
  for (const table of tables) {
    const page = book.addWorksheet(table.title);
    page.columns = table.columns.map(({ head, width }) => ({ header: head, width }));
    page.getRow(1).font = { bold: true };
    page.addRows(table.rows);
  }
  return new Uint8Array(await book.xlsx.writeBuffer());
}
