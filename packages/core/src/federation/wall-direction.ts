/** The direction that most upright faces of a model run in: who exported it with another north turned it. */
import { addInstance, emptyBounds, type Bounds } from '../scene/bounds.ts';
import type { ScenePackage } from '../scene/package.ts';
import { placeScene } from '../scene/placing.ts';

export interface WallDirection {
  /** From the x axis counter-clockwise, −45 to 45: faces at a right angle to each other run in one direction. */
  degrees: number;
  /** The box of the elements in axes that are turned so; counted from the origin of the model, metres. */
  along: Bounds;
}

/** So many triangles tell it. */
const LOOKED_AT = 50_000;
/** As part of its area: what the upright share of a face's normal may be at most. */
const UPRIGHT = 0.05;
/** Faces are gathered by tenths of a degree; those of so many on both sides run alike. */
const [TENTHS, ALIKE] = [900, 5];
/** As part of all upright faces: as much has to agree. */
const AGREED = 0.3;

/** Null where no direction prevails, as with round or free shapes. O(triangles + instances). */
export function wallDirection(scene: ScenePackage): WallDirection | null {
  const { shapes, instances } = scene;
  const total = instances.shape.reduce((sum, shape) => sum + indexCount(scene, shape) / 3, 0);
  const step = Math.max(1, Math.ceil(total / LOOKED_AT)) * 3;
  const areas = new Float64Array(TENTHS);
  /** Weighed by area, how far they lie beside the middle of their tenth; in tenths. */
  const beside = new Float64Array(TENTHS);
  const normal: [number, number, number] = [0, 0, 0];
  // Each so many: of every shape other faces, or all of them would lie at the bottom.
  let late = 0;
  for (let i = 0; i < instances.shape.length; i++) {
    const shape = instances.shape[i]!;
    const end = shapes.indexStarts[shape + 1]!;
    let t = shapes.indexStarts[shape]! + late;
    for (; t < end; t += step) {
      normalOf(scene, i * 12, t, normal);
      const [x, y, z] = normal;
      const flat = Math.hypot(x, y);
      if (!(flat > 0) || Math.abs(z) > UPRIGHT * flat) continue;
      const tenths = ((Math.atan2(y, x) / Math.PI) * 1800 + 4 * TENTHS) % TENTHS;
      const at = Math.round(tenths);
      areas[at % TENTHS]! += flat;
      beside[at % TENTHS]! += flat * (tenths - at);
    }
    late = t - end;
  }
  const degrees = prevailing(areas, beside);
  return degrees === null ? null : { degrees, along: boundsAlong(scene, degrees) };
}

const indexCount = ({ shapes }: ScenePackage, shape: number): number =>
  shapes.indexStarts[shape + 1]! - shapes.indexStarts[shape]!;

/** The middle of those that most area runs along, weighed by it. */
function prevailing(areas: Float64Array, beside: Float64Array): number | null {
  const around = (middle: number, of: (at: number, by: number) => number): number => {
    let sum = 0;
    for (let by = -ALIKE; by <= ALIKE; by++) sum += of((middle + by + TENTHS) % TENTHS, by);
    return sum;
  };
  let [best, most] = [0, 0];
  for (let at = 0; at < TENTHS; at++) {
    const here = around(at, (k) => areas[k]!) + areas[at]! * 1e-6;
    if (here > most) [best, most] = [at, here];
  }
  if (!(most > AGREED * areas.reduce((sum, area) => sum + area, 0))) return null;
  const degrees = (best + around(best, (k, by) => areas[k]! * by + beside[k]!) / most) / 10;
  return degrees > 45 ? degrees - 90 : degrees;
}

/** Of a face of an instance whose matrix begins at `at`; as long as the face is large. */
function normalOf({ shapes, instances }: ScenePackage, at: number, t: number, into: [number, number, number]): void {
  const { positions, indices } = shapes;
  const [p, q, r] = [indices[t]! * 3, indices[t + 1]! * 3, indices[t + 2]! * 3];
  const m = instances.matrix;
  const edge = (to: number, axis: number): number =>
    (positions[to]! - positions[p]!) * m[at + axis]! +
    (positions[to + 1]! - positions[p + 1]!) * m[at + 3 + axis]! +
    (positions[to + 2]! - positions[p + 2]!) * m[at + 6 + axis]!;
  const [ax, ay, az] = [edge(q, 0), edge(q, 1), edge(q, 2)];
  const [bx, by, bz] = [edge(r, 0), edge(r, 1), edge(r, 2)];
  into[0] = ay * bz - az * by;
  into[1] = az * bx - ax * bz;
  into[2] = ax * by - ay * bx;
}

function boundsAlong(scene: ScenePackage, degrees: number): Bounds {
  const { instances, origin } = placeScene(scene, { turn: -degrees, shift: [0, 0, 0] });
  const bounds = emptyBounds();
  for (let i = 0; i < instances.shape.length; i++) addInstance(bounds, instances.matrix, i);
  return bounds.map((value, i) => value + origin[i % 3]!) as unknown as Bounds;
}
