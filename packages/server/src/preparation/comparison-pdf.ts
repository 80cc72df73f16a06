/** A comparison as a report: verdict and brief, then each sheet with its changes drawn in, framed and numbered, and its table. */
import {
  beginText,
  concatTransformationMatrix,
  endText,
  lineTo,
  moveTo,
  PDFDocument,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  setDashPattern,
  setFillingRgbColor,
  setFontAndSize,
  setLineWidth,
  setStrokingRgbColor,
  setTextMatrix,
  showText,
  stroke,
  type PDFPage,
} from '@cantoo/pdf-lib';
import { CHANGE_MARKS } from '@kindred/core/compare/change-marks';
import { endsOf } from '@kindred/core/compare/ends';
import { Similarity } from '@kindred/core/compare/similarity';
import { placesOf, toPageSpace, type PagePlace } from '@kindred/core/markup/annotations/page-space';
import { openPdf } from '@kindred/core/markup/annotations/read-pdf';
import { openChangePictures, PICTURE } from './change-pictures.ts';
import type { ComparisonReport, ReportedSheet } from './messages.ts';
import { ReportPages, type ReportRow } from './report-pages.ts';

/** More pieces of line than this on one sheet are framed only. */
const MOST_PIECES = 200_000;
const [WIDTH, HEIGHT] = [PICTURE[0] / 2, PICTURE[1] / 2];

export async function comparisonPdf(
  before: Uint8Array,
  after: Uint8Array,
  { title, verdict, tables, columns, sheets }: ComparisonReport,
): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(title);
  const pages = await ReportPages.open(pdf);
  pages.heading(title, 18);
  pages.sentence(verdict);
  for (const table of tables) {
    pages.heading(table.title);
    await pages.table(
      table.columns,
      table.rows.map((cells) => ({ cells })),
    );
  }
  const source = await openPdf(after);
  const places = placesOf(source);
  const picturesOf = await openChangePictures(before, after);
  for (const sheet of sheets) {
    const [page] = await pdf.copyPages(source, [sheet.afterPage - 1]);
    drawChanges(pdf.addPage(page!), places[sheet.afterPage - 1]!, sheet, pages);
    const pictures = await picturesOf(sheet);
    pages.breakPage();
    pages.heading(sheet.title);
    await pages.table(
      columns,
      sheet.changes.map(({ cells }, i): ReportRow => ({
        cells,
        pictures: [pictures[i]?.before, pictures[i]?.after].flatMap((png) =>
          png ? [{ png, width: WIDTH, height: HEIGHT }] : [],
        ),
      })),
    );
  }
  return pdf.save();
}

/** Over what the page draws, in points as it is displayed. */
function drawChanges(page: PDFPage, place: PagePlace, { changes }: ReportedSheet, { bold }: ReportPages): void {
  const [, , width, height] = place.box;
  const letters = Math.max(11, (Math.max(width, height) * place.unit) / 130);
  const lines = (ends: readonly number[]): void => {
    for (let i = 0; i < ends.length; i += 4)
      page.pushOperators(moveTo(ends[i]!, ends[i + 1]!), lineTo(ends[i + 2]!, ends[i + 3]!));
    if (ends.length) page.pushOperators(stroke());
  };
  const [ox, oy] = toPageSpace(place, [0, 0]);
  const [[ax, ay], [bx, by]] = [toPageSpace(place, [1, 0]), toPageSpace(place, [0, 1])];
  page.pushOperators(
    pushGraphicsState(),
    concatTransformationMatrix(ax - ox, ay - oy, bx - ox, by - oy, ox, oy),
    setLineWidth(1.2),
  );
  let left = MOST_PIECES;
  const font = page.node.newFontDictionary('Changes', bold.ref);
  for (const { ends = [], ...change } of changes) {
    const { colour, dash, sign } = CHANGE_MARKS[change.kind];
    const [r, g, b] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255) as [number, number, number];
    page.pushOperators(setStrokingRgbColor(r, g, b), setFillingRgbColor(r, g, b));
    if (ends.length / 4 <= left) {
      left -= ends.length / 4;
      const { was, after } = endsOf({ ...change, ends }, Similarity.none);
      page.pushOperators(setDashPattern(change.kind === 'moved' ? [2, 2] : [...dash], 0));
      lines(was);
      page.pushOperators(setDashPattern([], 0));
      lines(after);
    }
    const [x, y, w, h] = change.place;
    page.pushOperators(
      setDashPattern([], 0),
      rectangle(x - 4, y - 4, w + 8, h + 8),
      stroke(),
      beginText(),
      setFontAndSize(font, letters),
      setTextMatrix(1, 0, 0, -1, x - 4, y - 7),
      showText(bold.encodeText(`${sign} ${change.number}`)),
      endText(),
    );
  }
  page.pushOperators(popGraphicsState());
}
