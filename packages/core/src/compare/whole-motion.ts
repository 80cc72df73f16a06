/** A model that was exported from another place, or turned: what moved is the model, not each of its elements. */
import type { Point } from '../scene/pick.ts';
import { turned, type Placing } from '../scene/placing.ts';
import { NEAR, type Motion } from '../scene/same-body.ts';

/** An element that is the same solid, however it was moved: its middle, before and after. */
export interface MovedElement {
  before: Point;
  after: Point;
  turned: Motion['turned'];
}

/** So large a part of the elements that moves alike is the model; of fewer elements nothing is concluded. */
const [MOST, FEWEST] = [0.7, 5];
/** Degrees: turns that differ by less are one, before it is fitted. */
const ONE_TURN = 0.02;
/** Of the turns that most elements have, so many are tried. */
const TRIED = 3;
/** As part of one: an axis that is upright. */
const UPRIGHT = 1e-6;

/**
 * The placing that brings the earlier model onto the later one; null where the elements did not move together, or stayed.
 * `elements`: those that moved; `of`: how many were compared. O(n log n).
 */
export function wholeMotion(elements: readonly MovedElement[], of: number): Placing | null {
  const enough = Math.max(FEWEST, MOST * of);
  if (elements.length < enough) return null;
  // Turns count from the middle of all: far from the origin the smallest error would shift them by metres.
  const pivot = middleOf(elements.map(({ before }) => before));
  for (const turn of turnsOf(elements)) {
    const together = movedTogether(elements, turn, pivot);
    if (together.length < enough) continue;
    const fitted = turn === 0 ? 0 : fittedTurn(together);
    const [x, y, z] = middleOf(together.map((one) => shiftOf(one, fitted, pivot)));
    const [e, n] = turned([pivot[0], pivot[1]], fitted);
    return { turn: fitted, shift: [x + pivot[0] - e, y + pivot[1] - n, z] };
  }
  return null;
}

/** What most elements turned by about the vertical, the commonest first. Something that looks the same from two sides says nothing. */
function turnsOf(elements: readonly MovedElement[]): number[] {
  const counts = new Map<number, number>();
  for (const { turned: how } of elements) {
    if (how && Math.abs(how.axis[2]) < 1 - UPRIGHT) continue;
    const degrees = how ? how.degrees * Math.sign(how.axis[2]) : 0;
    const key = Math.round(degrees / ONE_TURN);
    counts.set(key, (counts.get(key) ?? 0) + 1);
  }
  return [...counts]
    .sort(([, p], [, q]) => q - p)
    .slice(0, TRIED)
    .map(([key]) => key * ONE_TURN);
}

const shiftOf = ({ before, after }: MovedElement, turn: number, pivot: Point): Point => {
  const [x, y] = turned([before[0] - pivot[0], before[1] - pivot[1]], turn);
  return [after[0] - pivot[0] - x, after[1] - pivot[1] - y, after[2] - before[2]];
};

/** Those that the turn and one shift bring to where they are. */
function movedTogether(elements: readonly MovedElement[], turn: number, pivot: Point): MovedElement[] {
  const shifts = elements.map((one) => shiftOf(one, turn, pivot));
  const common = [0, 1, 2].map((axis) => median(shifts.map((shift) => shift[axis]!)));
  // Before it is fitted the turn may be off by half a step.
  const reach = turn === 0 ? 0 : elements.reduce((most, { before }) => Math.max(most, distance(before, pivot)), 0);
  const near = 2 * NEAR + (reach * ONE_TURN * Math.PI) / 360;
  return elements.filter((_, i) => distance(shifts[i]!, common as unknown as Point) <= near);
}

/** Degrees that bring the middles before onto those after best (least squares). */
function fittedTurn(elements: readonly MovedElement[]): number {
  const [m, n] = [middleOf(elements.map(({ before }) => before)), middleOf(elements.map(({ after }) => after))];
  let [along, across] = [0, 0];
  for (const { before, after } of elements) {
    const [x, y, u, v] = [before[0] - m[0], before[1] - m[1], after[0] - n[0], after[1] - n[1]];
    along += x * u + y * v;
    across += x * v - y * u;
  }
  return (Math.atan2(across, along) * 180) / Math.PI;
}

const middleOf = (points: readonly Point[]): Point =>
  [0, 1, 2].map((axis) => points.reduce((sum, point) => sum + point[axis]!, 0) / points.length) as unknown as Point;
const distance = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
const median = (values: readonly number[]): number => values.toSorted((a, b) => a - b)[values.length >> 1]!;
