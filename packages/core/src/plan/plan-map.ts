/** Where a plan lies in a model: from points of a page (y down) to metres of the model (y up), in scale, turned and shifted. */
import { CodedError } from '../platform/coded-error.ts';
import { pointAt, turned, type Placing } from '../scene/placing.ts';

export type PlanPoint = readonly [x: number, y: number];

/** X = a·x + b·y + c, Y = b·x − a·y + d. */
export interface PlanMap {
  a: number;
  b: number;
  c: number;
  d: number;
}
export interface PlanPair {
  /** Points (1/72 inch) of the page. */
  plan: [x: number, y: number];
  /** Metres. */
  model: [x: number, y: number];
}

export const toModel = ({ a, b, c, d }: PlanMap, [x, y]: PlanPoint): [number, number] => [
  a * x + b * y + c,
  b * x - a * y + d,
];
export function toPlan({ a, b, c, d }: PlanMap, [X, Y]: PlanPoint): [number, number] {
  const size = a * a + b * b;
  const [u, v] = [X - c, Y - d];
  return [(a * u + b * v) / size, (b * u - a * v) / size];
}
/** The map onto the model once that is placed. */
export function placeMap({ a, b, c, d }: PlanMap, placing: Placing): PlanMap {
  const [along, across] = turned([a, b], placing.turn);
  const [e, f] = pointAt([c, d, 0], placing);
  return { a: along, b: across, c: e, d: f };
}
/** Metres of the model for a point of the page. */
export const metresPerPointOf = ({ a, b }: PlanMap): number => Math.hypot(a, b);

/** Closer than that, points of the page say nothing of how it is turned. */
const LEAST_APART = 1;

/**
 * The map that fits the pairs best (least squares), with what is left of them: metres, root of the mean square.
 * Throws `points-too-close` for fewer than two pairs, or where all are at one place.
 */
type Pair = Readonly<Record<keyof PlanPair, PlanPoint>>;
export function mapOfPairs(pairs: readonly Pair[]): { map: PlanMap; error: number } {
  const mean = (of: (pair: Pair) => PlanPoint): PlanPoint => {
    const [x, y] = pairs.reduce(([sx, sy], pair) => [sx + of(pair)[0], sy + of(pair)[1]], [0, 0]);
    return [x / pairs.length, y / pairs.length];
  };
  const [px, py] = mean(({ plan }) => plan);
  const [mx, my] = mean(({ model }) => model);
  let [spread, along, across] = [0, 0, 0];
  for (const { plan, model } of pairs) {
    // The page with its y turned up.
    const [x, y] = [plan[0] - px, py - plan[1]];
    const [X, Y] = [model[0] - mx, model[1] - my];
    spread += x * x + y * y;
    along += x * X + y * Y;
    across += x * Y - y * X;
  }
  if (pairs.length < 2 || Math.sqrt(spread) < LEAST_APART || !(along * along + across * across > 0))
    throw new CodedError('points-too-close');
  const [a, b] = [along / spread, across / spread];
  const map = { a, b, c: mx - a * px - b * py, d: my - b * px + a * py };
  const squares = pairs.map(({ plan, model }) => {
    const [X, Y] = toModel(map, plan);
    return (X - model[0]) ** 2 + (Y - model[1]) ** 2;
  });
  return { map, error: Math.sqrt(squares.reduce((sum, square) => sum + square, 0) / pairs.length) };
}
