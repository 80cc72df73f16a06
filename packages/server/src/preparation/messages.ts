import type { FileKind } from '@kindred/core/register/file-kind';
import type { PreparedSheet } from '../register/sheets.ts';

/** What the preparation process is asked … */
export interface PreparationTask {
  kind: FileKind;
  path: string;
  /** Pages of a drawing that others get to see; when given, the copy for them is made, and nothing else. */
  sharedPages?: number[];
  /** An empty folder for the products. */
  output: string;
}

/** … and what it answers. A sentence is for the person who delivered the file. */
export type PreparationAnswer =
  | { state: 'preparing' }
  | { state: 'ready'; products: string[]; sheets: PreparedSheet[]; note: string }
  | { state: 'failed'; note: string }
  /** Something threw that was not expected: nothing that this process says from now on can be trusted. */
  | { state: 'unsound'; reason: string };

/** What becomes of a file. */
export type Outcome = Exclude<PreparationAnswer, { state: 'preparing' | 'unsound' }>;
