/** The changes of a sheet as people speak of them: numbered, each with where it is on the sheet after. */
import { boxOnAfter, type SheetChange, type SheetComparison } from './compare-sheets.ts';
import { gridReference } from './sheet-grid.ts';
import type { Similarity } from './similarity.ts';

/** Left, top, width, height in points. */
export type Place = [x: number, y: number, width: number, height: number];

export interface NumberedChange extends SheetChange {
  /** From 1, as lists and sheets call it. */
  number: number;
  /** On the sheet after, also of what is not there any more. */
  place: Place;
  /** By the grid that the sheet has of its own; else none. */
  grid?: string;
}
export interface NumberedComparison {
  similarity: Similarity;
  unlike: boolean;
  /** There are pictures, which are not compared. */
  pictures: boolean;
  /** Words that could not be compared: outlines. */
  unread: boolean;
  changes: NumberedChange[];
  /** Fields that say something new with every issue. */
  routine: SheetChange[];
}

/** `split`: what is not on the sheet after is on others that came from the one before. */
export function numbered(
  { similarity, unlike, pictures, unread, grid, changes }: SheetComparison,
  split = false,
): NumberedComparison {
  return {
    similarity,
    unlike,
    pictures,
    unread,
    changes: changes
      .filter(({ kind, routine }) => !routine && !(split && kind === 'removed'))
      .map((change, i) => {
        const [x0, y0, x1, y1] = boxOnAfter(change, similarity);
        const place: Place = [x0, y0, x1 - x0, y1 - y0];
        const reference = grid && gridReference(place, grid);
        return { ...change, number: i + 1, place, ...(reference && { grid: reference }) };
      }),
    routine: changes.filter(({ routine }) => routine),
  };
}
