/** Finds where a plan lies in a model from the walls that both have: lines of the plan, faces of the walls. */
import type { PlanMap } from './plan-map.ts';
import type { PlacedElement } from './storey-plan.ts';

export interface ProposedPlan {
  map: PlanMap;
  /** How far faces are from their lines: metres, root of the mean square. */
  error: number;
  /** How much of the length of all wall faces lies on lines of the plan: 0 to 1. */
  matched: number;
}

/** A line along an axis: where it stands across, and from where to where it goes along; metres. */
interface AxisLine {
  at: number;
  from: number;
  to: number;
}
type Axes = readonly [upright: AxisLine[], level: AxisLine[]];

/** Metres: what is drawn shorter is a door, a hatch, a tag; places are counted in steps; a face is on a line within reach. */
const [SHORTEST, STEP, REACH] = [0.4, 0.02, 0.06];
const LEAST_MATCHED = 0.55;
const MOST_LINES = 60_000;
const WALL = /^Ifc(Wall|CurtainWall)/;

/**
 * `segments`: x0, y0, x1, y1 each, points of the page. `metresPerPoint`: the scale of the plan. Tried in four quarter turns; undefined where less than about half of the walls is found.
 * Each direction is looked for by itself: counting how often places of faces and of lines are equally far apart. O(lines + places²),
 * where places are those in which something stands, in steps of two centimetres.
 */
export function proposePlan(
  segments: Float32Array,
  elements: readonly PlacedElement[],
  metresPerPoint: number,
): ProposedPlan | undefined {
  const faces = facesOf(elements);
  if (!faces[0].length || !faces[1].length) return undefined;
  const drawn = linesOf(segments, metresPerPoint);
  const tried = [0, 1, 2, 3].flatMap((turn) => {
    const lines = turned(drawn, turn);
    const [dx, dy] = [shiftOf(lines[0], faces[0]), shiftOf(lines[1], faces[1])];
    if (dx === undefined || dy === undefined) return [];
    return [{ turn, ...judged(lines, faces, dx, dy) }];
  });
  const best = tried.sort((one, other) => other.matched - one.matched)[0];
  if (!best || best.matched < LEAST_MATCHED) return undefined;
  const { turn, dx, dy, error, matched } = best;
  const [cos, sin] = [[1, 0, -1, 0][turn]!, [0, 1, 0, -1][turn]!];
  return { map: { a: metresPerPoint * cos, b: metresPerPoint * sin, c: dx, d: dy }, error, matched };
}

function facesOf(elements: readonly PlacedElement[]): Axes {
  const [upright, level]: [AxisLine[], AxisLine[]] = [[], []];
  for (const { class: name, bounds } of elements) {
    if (!WALL.test(name)) continue;
    const [x0, y0, , x1, y1] = bounds;
    if (y1 - y0 > SHORTEST) upright.push({ at: x0, from: y0, to: y1 }, { at: x1, from: y0, to: y1 });
    if (x1 - x0 > SHORTEST) level.push({ at: y0, from: x0, to: x1 }, { at: y1, from: x0, to: x1 });
  }
  return [upright, level];
}

/** Lines of the page along its edges, the longest ones, in metres with y up. */
function linesOf(segments: Float32Array, scale: number): Axes {
  const [upright, level]: [AxisLine[], AxisLine[]] = [[], []];
  for (let i = 0; i < segments.length; i += 4) {
    const [x0, y0] = [segments[i]! * scale, -segments[i + 1]! * scale];
    const [x1, y1] = [segments[i + 2]! * scale, -segments[i + 3]! * scale];
    const [across, along] = [Math.abs(x1 - x0), Math.abs(y1 - y0)];
    if (along > SHORTEST && across < STEP / 2)
      upright.push({ at: (x0 + x1) / 2, from: Math.min(y0, y1), to: Math.max(y0, y1) });
    else if (across > SHORTEST && along < STEP / 2)
      level.push({ at: (y0 + y1) / 2, from: Math.min(x0, x1), to: Math.max(x0, x1) });
  }
  const longest = (lines: AxisLine[]): AxisLine[] =>
    lines.length <= MOST_LINES ? lines : lines.sort((a, b) => b.to - b.from - (a.to - a.from)).slice(0, MOST_LINES);
  return [longest(upright), longest(level)];
}

/** Quarter turns against the clock. */
function turned([upright, level]: Axes, turn: number): Axes {
  if (turn === 0) return [upright, level];
  // (x, y) becomes (−y, x): level lines stand upright then.
  const stand = level.map(({ at, from, to }): AxisLine => ({ at: -at, from, to }));
  const lie = upright.map(({ at, from, to }): AxisLine => ({ at, from: -to, to: -from }));
  return turned([stand, lie], turn - 1);
}

/** How far the lines have to go across so that as much as possible of the faces lies on them. */
function shiftOf(lines: readonly AxisLine[], faces: readonly AxisLine[]): number | undefined {
  const weigh = (list: readonly AxisLine[]): Map<number, number> => {
    const at = new Map<number, number>();
    for (const line of list) {
      const place = Math.round(line.at / STEP);
      at.set(place, (at.get(place) ?? 0) + line.to - line.from);
    }
    return at;
  };
  const [drawn, walls] = [weigh(lines), weigh(faces)];
  const votes = new Map<number, number>();
  for (const [place, length] of drawn)
    for (const [wall, height] of walls)
      votes.set(wall - place, (votes.get(wall - place) ?? 0) + Math.min(length, height));
  let [best, most] = [undefined as number | undefined, 0];
  for (const [shift, vote] of votes) {
    // A face may fall into the step beside its line.
    const together = vote + (votes.get(shift - 1) ?? 0) + (votes.get(shift + 1) ?? 0);
    if (together > most) [best, most] = [shift, together];
  }
  return best === undefined ? undefined : best * STEP;
}

/** What of the faces lies on lines once these are shifted, and the shift made as exact as the lines are. */
function judged(
  [upright, level]: Axes,
  [x, y]: Axes,
  dx: number,
  dy: number,
): Pick<ProposedPlan, 'error' | 'matched'> & { dx: number; dy: number } {
  const finer = (lines: AxisLine[], faces: readonly AxisLine[], across: number, along: number): number =>
    across + median(onLines(lines, faces, across, along).map(({ off }) => off));
  const [fx, fy] = [finer(upright, x, dx, dy), finer(level, y, dy, dx)];
  const on = [...onLines(upright, x, fx, fy), ...onLines(level, y, fy, fx)];
  const length = (list: readonly AxisLine[]): number => list.reduce((sum, { from, to }) => sum + to - from, 0);
  const squares = on.reduce((sum, { off }) => sum + off * off, 0);
  return {
    dx: fx,
    dy: fy,
    matched: length(on.map(({ face }) => face)) / (length(x) + length(y)),
    error: on.length ? Math.sqrt(squares / on.length) : Infinity,
  };
}

/** Faces of which the middle lies on a line, and how far off it is: what the line lacks. */
function onLines(
  lines: AxisLine[],
  faces: readonly AxisLine[],
  across: number,
  along: number,
): { face: AxisLine; off: number }[] {
  lines.sort((a, b) => a.at - b.at);
  return faces.flatMap((face) => {
    const middle = (face.from + face.to) / 2 - along;
    let nearest: number | undefined;
    for (let i = firstAt(lines, face.at - across - REACH); i < lines.length; i++) {
      const off = face.at - (lines[i]!.at + across);
      if (off < -REACH) break;
      if (
        lines[i]!.from <= middle + REACH &&
        lines[i]!.to >= middle - REACH &&
        Math.abs(off) < Math.abs(nearest ?? REACH)
      )
        nearest = off;
    }
    return nearest === undefined ? [] : [{ face, off: nearest }];
  });
}

/** The first of the sorted lines that stands at `at` or beyond. */
function firstAt(lines: readonly AxisLine[], at: number): number {
  let [low, high] = [0, lines.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (lines[middle]!.at < at) low = middle + 1;
    else high = middle;
  }
  return low;
}

function median(values: readonly number[]): number {
  return [...values].sort((a, b) => a - b)[values.length >> 1] ?? 0;
}
