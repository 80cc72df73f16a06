/** The shapes of a model in their places, before they become a scene package. */
import { grown } from '../platform/grown.ts';
import { addUnitCube, emptyBounds, isEmpty, type Bounds } from './bounds.ts';
import { placeUnitCube } from './matrix.ts';
import type { MeshCollector, ShapePlacement } from './mesh-collector.ts';
import type { Instances, ScenePackage } from './package.ts';

/** Shapes in their places, in growing columns: a model has many of them. */
export class PlacedShapes {
  length = 0;
  shape = new Uint32Array(1024);
  element = new Uint32Array(1024);
  /** Column-major 4 × 4, in doubles: places far from the origin keep their millimetres. */
  matrix = new Float64Array(16 * 1024);
  colour = new Uint8Array(4 * 1024);

  /** Leaves out what has no finite place. */
  add(place: ShapePlacement, element: number, yUp: ArrayLike<number>, colour: Colour): void {
    if (this.length === this.shape.length) this.grow();
    const i = this.length;
    placeUnitCube(this.matrix, i * 16, yUp, place.min, place.size);
    for (let k = 0; k < 16; k++) if (!Number.isFinite(this.matrix[i * 16 + k])) return;
    this.shape[i] = place.shape;
    this.element[i] = element;
    const { x, y, z, w } = colour;
    this.colour.set([byte(x), byte(y), byte(z), byte(w)], i * 4);
    this.length++;
  }

  private grow(): void {
    this.shape = grown(this.shape);
    this.element = grown(this.element);
    this.matrix = grown(this.matrix);
    this.colour = grown(this.colour);
  }
}

export type Colour = Record<'x' | 'y' | 'z' | 'w', number>;
const byte = (part: number): number => Math.round(Math.min(1, Math.max(0, part)) * 255);

/** Moves everything to an origin near the middle while still in doubles, then narrows to floats. */
export function assembleScene(placed: PlacedShapes, collector: MeshCollector): ScenePackage {
  const { length, matrix } = placed;
  const absolute = emptyBounds();
  for (let i = 0; i < length; i++) addUnitCube(absolute, matrix, i * 16);
  const origin: [number, number, number] = isEmpty(absolute)
    ? [0, 0, 0]
    : [
        Math.round((absolute[0] + absolute[3]) / 2),
        Math.round((absolute[1] + absolute[4]) / 2),
        Math.round((absolute[2] + absolute[5]) / 2),
      ];
  const bounds = isEmpty(absolute) ? ([0, 0, 0, 0, 0, 0] satisfies Bounds) : absolute;
  const instances: Instances = {
    shape: placed.shape.slice(0, length),
    element: placed.element.slice(0, length),
    matrix: new Float32Array(length * 12),
    colour: placed.colour.slice(0, length * 4),
  };
  for (let i = 0; i < length; i++)
    for (let column = 0; column < 4; column++)
      for (let row = 0; row < 3; row++)
        instances.matrix[i * 12 + column * 3 + row] =
          matrix[i * 16 + column * 4 + row]! - (column === 3 ? origin[row]! : 0);
  return {
    origin,
    bounds: bounds.map((value, i) => value - origin[i % 3]!) as Bounds,
    shapes: collector.finish(),
    instances,
  };
}
