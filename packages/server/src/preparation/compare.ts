/** What changed between two pages of drawings that were prepared. */
import { compareScans, type ScannedPage } from '@kindred/core/compare/compare-scans';
import { compareSheets, isScan } from '@kindred/core/compare/compare-sheets';
import { numbered } from '@kindred/core/compare/numbered';
import { decodePage } from '@kindred/core/drawing/vectors/vectors-file';
import type { SheetChanges } from '@kindred/contract/compare/compare';
import fs from 'node:fs/promises';
import type { PageToCompare } from './messages.ts';
import { openPdf } from './pdf.ts';

export interface ComparedPages extends SheetChanges {
  unlike: boolean;
}

export async function comparePages(
  before: PageToCompare,
  after: PageToCompare,
  split: boolean,
): Promise<ComparedPages> {
  const [was, is] = [await decodePage(before.vectors), await decodePage(after.vectors)];
  const scans = isScan(was) || isScan(is);
  const found = numbered(
    scans ? await compareScans(await scannedPage(before), await scannedPage(after)) : compareSheets(was, is),
    split,
  );
  const { a, b, e, f } = found.similarity;
  return {
    ...found,
    similarity: [a, b, e, f],
    routine: found.routine.map(({ before = '', after = '' }) => ({ before, after })),
    changes: found.changes.map(({ box, place, ends, ...change }) => ({
      ...change,
      box: rounded(box),
      place: rounded(place),
      ...(ends && { ends: rounded(ends) }),
    })) as SheetChanges['changes'],
  };
}
const rounded = (values: readonly number[]): number[] => values.map((value) => Math.round(value * 1000) / 1000);

async function scannedPage({ path, page }: PageToCompare): Promise<ScannedPage> {
  const pdf = await openPdf(new Uint8Array(await fs.readFile(path)));
  const [width, height] = await pdf.sizeOf(page);
  return {
    ...{ width, height },
    async draw(scale, ...size) {
      const canvas = await pdf.drawAt(page, scale, ...size);
      return canvas.getContext('2d').getImageData(0, 0, ...size).data;
    },
  };
}
