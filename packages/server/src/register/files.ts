/** Files that leave the register: one version, several as a zip, the list itself. */
import type { Container, RegisterQuery } from '@kindred/contract/register/register';
import { csvLine } from '@kindred/core/platform/csv';
import type { Response } from 'express';
import { once } from 'node:events';
import { pipeline } from 'node:stream/promises';
import type { Member } from '../platform/actor.ts';
import { change } from '../platform/change.ts';
import { ProblemError, refused } from '../platform/errors.ts';
import type { Platform } from '../platform/services.ts';
import { zipFiles, type ZippedFile } from '../platform/zip.ts';
import { everyContainer } from './entries.ts';
import { noteUse } from './exchange.ts';
import { allVisible, productOf, visibleVersion, type VisibleVersion } from './lineage.ts';
import { isOwnTeam } from './visibility.ts';

/** Streams a blob; content never changes under its hash, so browsers may keep it. */
export async function sendBlob(
  platform: Platform,
  response: Response,
  sha256: string,
  mediaType: string,
): Promise<void> {
  response.setHeader('Content-Type', mediaType);
  response.setHeader('ETag', `"${sha256}"`);
  response.setHeader('Cache-Control', 'private, max-age=31536000, immutable');
  if (response.req.headers['if-none-match'] === `"${sha256}"`) {
    response.status(304).end();
    return;
  }
  await pipeline(platform.store.read(sha256), response);
}

/** Whether the actor gets only what a share set chose of this version. */
export const isNarrowed = (actor: Member, version: VisibleVersion): boolean =>
  version.shareSetId !== null && version.kind === 'drawing' && !isOwnTeam(actor, version.container.teamId);

/** The content that the actor gets: the file, or the copy in which only the shared sheets are drawn. */
async function contentFor(platform: Platform, actor: Member, version: VisibleVersion): Promise<string> {
  if (!isNarrowed(actor, version)) return version.sha256;
  return productOf(platform.db, version.id, 'shared').catch(() => {
    throw new ProblemError(
      409,
      'share-copy-pending',
      'Not ready yet',
      `The sheets of “${version.container.code}” that are shared are being taken out. Try again in a moment.`,
    );
  });
}

export async function downloadVersion(
  platform: Platform,
  actor: Member,
  versionId: string,
  response: Response,
): Promise<void> {
  const version = await visibleVersion(platform.db, actor, versionId);
  const sha256 = await contentFor(platform, actor, version);
  await noteUse(platform.db, actor, version, 'downloaded');
  response.attachment(version.fileName);
  if (sha256 === version.sha256) response.setHeader('Content-Length', version.size);
  await sendBlob(platform, response, sha256, version.mediaType);
}

const PRODUCT_TYPES = {
  thumbnail: 'image/png',
  scene: 'application/octet-stream',
  elements: 'application/json',
} as const;

export async function downloadProduct(
  platform: Platform,
  actor: Member,
  versionId: string,
  product: keyof typeof PRODUCT_TYPES,
  response: Response,
): Promise<void> {
  const version = await visibleVersion(platform.db, actor, versionId);
  const name = product === 'thumbnail' && isNarrowed(actor, version) ? 'shared-thumbnail' : product;
  if (product === 'scene') await noteUse(platform.db, actor, version, 'opened');
  await sendBlob(platform, response, await productOf(platform.db, version.id, name), PRODUCT_TYPES[product]);
}

/** Several versions as one zip, in the order of their codes. */
export async function downloadVersions(
  platform: Platform,
  actor: Member,
  versionIds: string[],
  response: Response,
): Promise<void> {
  const versions = await allVisible(platform.db, actor, versionIds);
  if (new Set(versionIds).size !== versionIds.length)
    throw refused('version-twice', 'A version is chosen twice. Choose each once.');
  const files: ZippedFile[] = [];
  for (const version of versions.sort((a, b) => (a.container.code < b.container.code ? -1 : 1))) {
    await noteUse(platform.db, actor, version, 'downloaded');
    const { title, revision, status, number, fileName, size, container } = version;
    const sha256 = await contentFor(platform, actor, version);
    files.push({ code: container.code, title, revision, status, versionNumber: number, fileName, size, sha256 });
  }
  await change(platform, actor.id, ({ record }) =>
    record({
      projectId: actor.projectId,
      verb: `${files.length} files downloaded`,
      subjectType: 'project',
      subjectId: actor.projectId,
      after: { codes: files.map(({ code }) => code) },
      personIds: [actor.id],
    }),
  );
  response.attachment(`Files ${new Date().toISOString().slice(0, 10)}.zip`);
  const heading = [`${files.length} files`, `for ${actor.name}`, new Date().toISOString()];
  await pipeline(
    zipFiles(platform.store, files, heading, (error) => response.destroy(error)),
    response,
  );
}

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

/** What a filter finds, row by row while it is read: the memory that it takes does not grow with the register. */
export async function exportContainers(
  platform: Platform,
  actor: Member,
  { as, ...query }: RegisterQuery & { as: 'xlsx' | 'csv' },
  response: Response,
): Promise<void> {
  response.attachment(`Register ${new Date().toISOString().slice(0, 10)}.${as}`);
  const rows = everyContainer(platform, actor, query);
  if (as === 'xlsx') return writeWorkbook(rows, response);
  response.write(`\ufeff${csvLine(COLUMNS.map(([head]) => head))}`);
  for await (const container of rows) {
    const cells = COLUMNS.map(([, , value]) => value(container));
    const line = csvLine(cells.map((cell) => (cell instanceof Date ? cell.toISOString() : String(cell))));
    if (!response.write(line)) await once(response, 'drain');
  }
  response.end();
}

/** Text stays text: a cell that begins like a formula is written as a string, which no spreadsheet computes. */
async function writeWorkbook(rows: AsyncIterable<Container>, response: Response): Promise<void> {
  // Loaded when somebody wants a workbook: it would make every start slower.
  const { default: ExcelJS } = await import('exceljs');
  const workbook = new ExcelJS.stream.xlsx.WorkbookWriter({ stream: response, useStyles: true });
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
