/** Measuring in the scene: what was pointed at becomes a measure. */
import type { SceneMeasure } from '@kindred/contract/scene/scene';
import { angleAt, betweenFaces, distanceBetween, footOn, type MeasureKind } from '@kindred/core/scene/measure';
import type { Point } from '@kindred/core/scene/pick';
import type { Aim } from './engine/picking.ts';

/** What a measure asks of the scene. */
export interface Measurable {
  /** The next element from a place in a direction of length one. */
  along(from: Point, direction: Point): { at: Point; distance: number } | null;
  volumeOf(element: number): number | undefined;
}

/** Places that one points at, one after the other, and what is said before each. */
export const STEPS: Record<MeasureKind, readonly string[]> = {
  distance: ['Point at the first end.', 'Point at the other end.'],
  'square to face': ['Point at the face to measure from.', 'Point at the place to measure to.'],
  'between faces': ['Point at the first face.', 'Point at the other face.'],
  height: ['Point at a floor, a ceiling or a wall.'],
  angle: ['Point at the end of the first leg.', 'Point at the corner.', 'Point at the end of the other leg.'],
  area: ['Point at a face.'],
  volume: ['Point at an element.'],
};
/** Measures whose ends can be drawn elsewhere. */
export const MOVABLE: ReadonlySet<MeasureKind> = new Set(['distance', 'angle']);

/** Off the surface, so that it is not met again. Metres. */
const OFF = 0.005;
const ASIDE = 0.05;

type Made = SceneMeasure | 'open' | 'nothing-above' | 'no-angle';

/** The measure of places that were pointed at, as many as it takes; a code where there is none. */
export function measureFrom(kind: MeasureKind, aims: readonly Aim[], scene: Measurable): Made {
  const [first, second, third] = aims as [Aim, Aim, Aim];
  switch (kind) {
    case 'distance':
      return measureOf(kind, [first.at, second.at]);
    case 'square to face': {
      const foot = footOn(first.face, second.at);
      return { kind, points: [foot, second.at].map(plain), value: distanceBetween(foot, second.at).length };
    }
    case 'between faces': {
      const between = betweenFaces(first.face, second.face);
      if ('angle' in between)
        return { kind: 'angle', points: [plain(first.at), plain(second.at)], value: between.angle };
      return { kind, points: [first.at, footOn(second.face, first.at)].map(plain), value: between.apart };
    }
    case 'height':
      return clearHeight(first, scene);
    case 'angle':
      return measureOf(kind, [first.at, second.at, third.at]);
    case 'area':
      return { kind, points: [plain(first.at)], value: first.face.area };
    case 'volume': {
      const volume = scene.volumeOf(first.element);
      return volume === undefined ? 'open' : { kind, points: [plain(first.at)], value: volume };
    }
  }
}

/** A measure that is its points only. */
export function measureOf(kind: 'distance' | 'angle', points: readonly Point[]): SceneMeasure | 'no-angle' {
  if (kind === 'distance')
    return { kind, points: points.map(plain), value: distanceBetween(points[0]!, points[1]!).length };
  const value = angleAt(points[1]!, points[0]!, points[2]!);
  return value === undefined ? 'no-angle' : { kind, points: points.map(plain), value };
}

/** From floor to ceiling, straight up, at the place that was pointed at; before a wall a little away from it. */
function clearHeight({ at, face }: Aim, scene: Measurable): Made {
  const level = Math.abs(face.normal[2]) < 0.7;
  const off = level ? ASIDE : OFF;
  const from = at.map((value, i) => value + face.normal[i]! * off) as unknown as Point;
  const up = level || face.normal[2] > 0 ? scene.along(from, [0, 0, 1])?.at : at;
  const down = level || face.normal[2] < 0 ? scene.along(from, [0, 0, -1])?.at : at;
  if (!up || !down) return 'nothing-above';
  return { kind: 'height', points: [plain(down), [down[0], down[1], up[2]]], value: up[2] - down[2] };
}

const plain = ([x, y, z]: Point): [number, number, number] => [x, y, z];

export const NO_MEASURE: Record<Extract<Made, string>, string> = {
  open: 'The surface of this element is not closed, so it encloses no volume.',
  'nothing-above': 'Nothing lies above or below this place.',
  'no-angle': 'Two of these places are the same: there is no angle.',
};
