import type { FileKind } from '@kindred/core/register/file-kind';
import type { FoundSheet } from '../drawing/service.ts';

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
  | { state: 'ready'; products: string[]; sheets: FoundSheet[]; note: string }
  | { state: 'failed'; note: string };
