/** The register as a workbook or as text, row by row while it is read: the memory that it takes does not grow with the register. */
import type { Container, RegisterQuery } from '@kindred/contract/register/register';
import { csvLine } from '@kindred/core/platform/csv';
import type { Response } from 'express';
import { once } from 'node:events';
import { PassThrough, type Writable } from 'node:stream';
import type { Member } from '../platform/caller.ts';
import { change } from '../platform/change.ts';
import { startLongJob, type LongJobKind } from '../platform/long-jobs.ts';
import type { Platform } from '../platform/services.ts';
import { workbookWriter } from '../platform/workbook.ts';
import { countContainers, everyContainer } from './entries.ts';

export type ExportQuery = RegisterQuery & { as: 'xlsx' | 'csv' };
const TYPES = {
  csv: 'text/csv; charset=utf-8',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
};
const fileName = (as: ExportQuery['as']): string => `Register ${new Date().toISOString().slice(0, 10)}.${as}`;

const COLUMNS: [head: string, width: number, value: (container: Container) => string | number | Date][] = [
  ['Code', 30, ({ code }) => code],
  ['Title', 40, ({ title }) => title],
  ['Version', 9, ({ versionNumber }) => versionNumber],
  ['Revision', 10, ({ revision }) => revision],
  ['Status', 9, ({ status }) => status],
  ['State', 16, ({ state }) => state],
  ['Classification', 16, ({ classification }) => classification],
  ['Description', 40, ({ description }) => description],
  ['Kind', 10, ({ kind }) => kind],
  ['File', 34, ({ fileName }) => fileName],
  ['Bytes', 12, ({ size }) => size],
  ['Delivered', 18, ({ deliveredAt }) => new Date(deliveredAt)],
  ['Delivered by', 22, ({ deliveredBy }) => deliveredBy],
  ['Reserved by', 22, ({ reservedBy }) => reservedBy ?? ''],
];

async function writeRegister(rows: AsyncIterable<Container>, as: ExportQuery['as'], out: Writable): Promise<void> {
  if (as === 'xlsx') return writeWorkbook(rows, out);
  out.write(`\ufeff${csvLine(COLUMNS.map(([head]) => head))}`);
  for await (const container of rows) {
    const cells = COLUMNS.map(([, , value]) => value(container));
    const line = csvLine(cells.map((cell) => (cell instanceof Date ? cell.toISOString() : String(cell))));
    if (!out.write(line)) await once(out, 'drain');
  }
  out.end();
}

/** Text stays text: a cell that begins like a formula is written as a string, which no spreadsheet computes. */
async function writeWorkbook(rows: AsyncIterable<Container>, out: Writable): Promise<void> {
  const WorkbookWriter = await workbookWriter();
  const workbook = new WorkbookWriter({ stream: out, useStyles: true });
  const sheet = workbook.addWorksheet('Register', { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.columns = COLUMNS.map(([header, width]) => ({
    header,
    width,
    ...(header === 'Delivered' && { style: { numFmt: 'yyyy-mm-dd hh:mm' } }),
  }));
  sheet.getRow(1).font = { bold: true };
  for await (const container of rows) sheet.addRow(COLUMNS.map(([, , value]) => value(container))).commit();
  sheet.commit();
  await workbook.commit();
}

/** For programs, which take it as it comes. */
export async function exportContainers(
  platform: Platform,
  actor: Member,
  { as, ...query }: ExportQuery,
  response: Response,
): Promise<void> {
  response.attachment(fileName(as));
  await writeRegister(everyContainer(platform, actor, query), as, response);
}

/** For people, who go on working while it is made. */
export const startRegisterExport = (platform: Platform, actor: Member, query: ExportQuery) =>
  change(platform, actor, (unit) =>
    startLongJob(unit, actor, { kind: 'register export', name: fileName(query.as), path: 'register', data: query }),
  );

export const registerExport: LongJobKind<ExportQuery> = {
  kind: 'register export',
  async run(platform, { data: { as, ...query }, owner, progress }) {
    const all = await countContainers(platform, owner, query);
    const content = new PassThrough();
    const told = async function* (): AsyncGenerator<Container> {
      let done = 0;
      for await (const container of everyContainer(platform, owner, query)) {
        yield container;
        if (++done % 500 === 0) await progress(done / Math.max(all, done));
      }
    };
    writeRegister(told(), as, content).catch((error: Error) => content.destroy(error));
    return { name: fileName(as), mediaType: TYPES[as], content };
  },
};
