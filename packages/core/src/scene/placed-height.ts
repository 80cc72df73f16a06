/** The height at which something is placed, through all that it is placed in. */
import type { IfcAPI } from 'web-ifc';

type Vector = readonly [number, number, number];
interface Frame {
  origin: Vector;
  x: Vector;
  z: Vector;
}
interface Handle {
  value: number;
}
/** As web-ifc gives the lines of a file: numbers are wrapped. */
interface Line {
  ObjectPlacement?: Handle | null;
  PlacementRelTo?: Handle | null;
  RelativePlacement?: Handle | null;
  Location?: Handle | null;
  Axis?: Handle | null;
  RefDirection?: Handle | null;
  Coordinates?: Handle[];
  DirectionRatios?: Handle[];
}

const WORLD: Frame = { origin: [0, 0, 0], x: [1, 0, 0], z: [0, 0, 1] };
/** Placements in each other; deeper than this they go in a circle. */
const DEEPEST = 64;

/** In the length unit of the file; null where it is not placed. */
export function placedHeight(api: Pick<IfcAPI, 'GetLine'>, model: number, id: number): number | null {
  const line = (handle: Handle | null | undefined): Line | undefined =>
    handle ? (api.GetLine(model, handle.value) as Line) : undefined;
  const vector = (handle: Handle | null | undefined, otherwise: Vector): Vector => {
    const found = line(handle);
    const [x, y, z] = (found?.Coordinates ?? found?.DirectionRatios ?? []).map(({ value }) => Number(value));
    return found ? [x ?? 0, y ?? 0, z ?? 0] : otherwise;
  };
  const frameOf = (placement: Line | undefined, depth = 0): Frame => {
    if (!placement || depth > DEEPEST) return WORLD;
    const outer = frameOf(line(placement.PlacementRelTo), depth + 1);
    const own = line(placement.RelativePlacement);
    const place = (along: Vector): Vector => turned(outer, along);
    const at = place(vector(own?.Location, [0, 0, 0]));
    return {
      origin: [outer.origin[0] + at[0], outer.origin[1] + at[1], outer.origin[2] + at[2]],
      x: place(vector(own?.RefDirection, WORLD.x)),
      z: place(vector(own?.Axis, WORLD.z)),
    };
  };
  const { ObjectPlacement } = api.GetLine(model, id) as Line;
  const height = ObjectPlacement ? frameOf(line(ObjectPlacement)).origin[2] : null;
  return height !== null && Number.isFinite(height) ? height : null;
}

function turned({ x, z }: Frame, [a, b, c]: Vector): Vector {
  const up = unit(z);
  // The x axis is given roughly: it is made to stand upright on the other one.
  const along = dot(x, up);
  const right = unit([x[0] - along * up[0], x[1] - along * up[1], x[2] - along * up[2]]);
  const ahead = cross(up, right);
  return [0, 1, 2].map((k) => a * right[k]! + b * ahead[k]! + c * up[k]!) as unknown as Vector;
}
const dot = (a: Vector, b: Vector): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
const cross = (a: Vector, b: Vector): Vector => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
function unit(a: Vector): Vector {
  const length = Math.hypot(...a) || 1;
  return [a[0] / length, a[1] / length, a[2] / length];
}
