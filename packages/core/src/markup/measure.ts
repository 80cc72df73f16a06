/** What a markup measures. */
import { signedArea, type MarkupShape, type Point } from './shapes.ts';

export type Measure =
  /** Metres; on paper, where no scale is known. */
  | { of: 'length'; metres: number }
  /** Square metres less the holes, and metres around. */
  | { of: 'area'; squareMetres: number; around: number }
  | { of: 'angle'; degrees: number }
  | { of: 'count'; count: number };

const between = ([ax, ay]: Point, [bx, by]: Point): number => Math.hypot(bx - ax, by - ay);

/** Length along points, in their own unit. */
export function pathLength(points: readonly Point[], closed = false): number {
  let length = 0;
  for (let i = 1; i < points.length; i++) length += between(points[i - 1]!, points[i]!);
  return closed && points.length > 1 ? length + between(points.at(-1)!, points[0]!) : length;
}

/** Undefined for shapes that measure nothing. `metresPerPoint`: of the thing, not of the paper. */
export function measureOf(shape: MarkupShape, metresPerPoint: number): Measure | undefined {
  switch (shape.kind) {
    case 'dimension':
    case 'polyline':
      return { of: 'length', metres: pathLength(shape.points) * metresPerPoint };
    case 'area': {
      const holes = (shape.holes ?? []).reduce((sum, hole) => sum + Math.abs(signedArea(hole)), 0);
      const inside = Math.max(0, Math.abs(signedArea(shape.points)) - holes);
      return {
        of: 'area',
        squareMetres: inside * metresPerPoint ** 2,
        around: pathLength(shape.points, true) * metresPerPoint,
      };
    }
    case 'angle': {
      const [a, at, b] = shape.points;
      const turn = Math.abs(Math.atan2(a[1] - at[1], a[0] - at[0]) - Math.atan2(b[1] - at[1], b[0] - at[0]));
      return { of: 'angle', degrees: ((turn > Math.PI ? 2 * Math.PI - turn : turn) * 180) / Math.PI };
    }
    case 'count':
      return { of: 'count', count: shape.points.length };
    default:
      return undefined;
  }
}
