/** Compares two sheets beside the page, from what each draws. */
import { compareSheets, type SheetChange } from '@kindred/core/compare/compare-sheets';
import { decodePage } from '@kindred/core/drawing/vectors/vectors-file';
import { expose } from 'comlink';

/** As it is handed over: a similarity by its four numbers. */
export interface ComparedSheets {
  similarity: readonly [a: number, b: number, e: number, f: number];
  unlike: boolean;
  pictures: boolean;
  changes: SheetChange[];
}
const comparing = {
  async compare(before: Uint8Array, after: Uint8Array): Promise<ComparedSheets> {
    const { similarity, ...rest } = compareSheets(await decodePage(before), await decodePage(after));
    const { a, b, e, f } = similarity;
    return { similarity: [a, b, e, f], ...rest };
  },
};
export type CompareWorker = typeof comparing;
expose(comparing);
