/** Issues as a report: cover, table, and each on a page of its own, with its picture and what happened to it. */
import { PDFDocument } from '@cantoo/pdf-lib';
import { openZip } from '@kindred/archive/read-zip';
import { CodedError } from '@kindred/core/platform/coded-error';
import { decodeText } from '@kindred/core/platform/decode-text';
import type { ReportTable } from './messages.ts';
import { ReportPages } from './report-pages.ts';

export interface ReportedIssue {
  heading: string;
  /** What it says of itself, a line each. */
  facts: string[];
  text: string;
  /** Entry of its picture in the archive. */
  picture: string | null;
  tables: ReportTable[];
}
/** `report.json` in the archive that it is made of; pictures lie beside it. */
export interface IssueReport {
  title: string;
  sentences: string[];
  table: ReportTable;
  issues: ReportedIssue[];
}

/** Pixels; points on the page. */
const PICTURE_PIXELS = 1000;
const [MOST_WIDTH, MOST_HEIGHT] = [420, 250];

export async function issueReportPdf(file: string): Promise<Uint8Array> {
  const zip = await openZip(file);
  try {
    const report = JSON.parse(decodeText(await zip.read('report.json')).text) as IssueReport;
    const pdf = await PDFDocument.create();
    pdf.setTitle(report.title);
    const pages = await ReportPages.open(pdf);
    pages.heading(report.title, 22);
    for (const sentence of report.sentences) pages.sentence(sentence);
    await drawTable(pages, report.table);
    for (const issue of report.issues) {
      pages.breakPage();
      pages.heading(issue.heading, 16);
      for (const fact of issue.facts) pages.sentence(fact);
      if (issue.picture) await drawPicture(pages, await zip.read(issue.picture));
      if (issue.text) pages.sentence(issue.text);
      for (const table of issue.tables) {
        if (table.title) pages.heading(table.title, 12);
        await drawTable(pages, table);
      }
    }
    return await pdf.save();
  } finally {
    zip.close();
  }
}

const drawTable = (pages: ReportPages, { columns, rows }: ReportTable): Promise<void> =>
  pages.table(
    columns,
    rows.map((cells) => ({ cells })),
  );

/** What cannot be drawn leaves its place empty: the report is more than its pictures. */
async function drawPicture(pages: ReportPages, bytes: Uint8Array): Promise<void> {
  const { default: sharp } = await import('sharp');
  const drawn = await sharp(bytes, { limitInputPixels: 40_000_000 })
    .resize(PICTURE_PIXELS, PICTURE_PIXELS, { fit: 'inside', withoutEnlargement: true })
    .flatten({ background: '#ffffff' })
    .jpeg({ quality: 82 })
    .toBuffer({ resolveWithObject: true })
    .catch(() => {
      throw new CodedError('no-picture');
    });
  const scale = Math.min(MOST_WIDTH / drawn.info.width, MOST_HEIGHT / drawn.info.height);
  await pages.picture(drawn.data, drawn.info.width * scale, drawn.info.height * scale);
}
