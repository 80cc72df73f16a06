/** The nearest instance that a ray meets. */
import { BufferAttribute, BufferGeometry, DoubleSide, Matrix4, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { ScenePackage } from './package.ts';

export type Point = readonly [number, number, number];

export interface Picked {
  instance: number;
  /** In lengths of `direction` from `origin`. */
  distance: number;
}

const UNIT = 1 / 65535;

export class Picker {
  /** Triangles of a shape in a tree; built when a ray first comes near one. */
  private readonly trees = new Map<number, MeshBVH>();

  constructor(private readonly scene: ScenePackage) {}

  /**
   * `origin`, `direction`: metres from the origin of the package. `accepts` may refuse an instance (hidden) or a hit (cut away).
   * Each ray is carried into the unit cube of a shape, where its box is known. O(instances + hits × log triangles).
   */
  pick(origin: Point, direction: Point, accepts: (instance: number, distance?: number) => boolean): Picked | undefined {
    let best: Picked | undefined;
    const [from, end, at] = [new Vector3(...origin), new Vector3(), new Vector3()];
    const along = new Vector3(...direction);
    const length = along.length();
    const [place, back, ray] = [new Matrix4(), new Matrix4(), new Ray()];
    const { shape, matrix } = this.scene.instances;
    for (let i = 0; i < shape.length; i++) {
      if (!accepts(i)) continue;
      placeOf(matrix, i * 12, place);
      if (!place.determinant()) continue;
      back.copy(place).invert();
      ray.origin.copy(from).applyMatrix4(back);
      ray.direction.copy(end.addVectors(from, along).applyMatrix4(back).sub(ray.origin));
      if (!meetsUnitCube(ray, best?.distance ?? Infinity)) continue;
      ray.direction.normalize();
      for (const { point } of this.treeOf(shape[i]!).raycast(ray, DoubleSide)) {
        const distance = at.copy(point).applyMatrix4(place).distanceTo(from) / length;
        if (distance > 0 && distance < (best?.distance ?? Infinity) && accepts(i, distance))
          best = { instance: i, distance };
      }
    }
    return best;
  }

  private treeOf(shape: number): MeshBVH {
    const known = this.trees.get(shape);
    if (known) return known;
    const { vertexStarts, indexStarts, positions, indices } = this.scene.shapes;
    const own = positions.subarray(vertexStarts[shape]! * 3, vertexStarts[shape + 1]! * 3);
    const geometry = new BufferGeometry()
      .setAttribute(
        'position',
        new BufferAttribute(
          Float32Array.from(own, (value) => value * UNIT),
          3,
        ),
      )
      .setIndex(new BufferAttribute(indices.slice(indexStarts[shape]!, indexStarts[shape + 1]!), 1));
    const tree = new MeshBVH(geometry);
    this.trees.set(shape, tree);
    return tree;
  }
}

/** Columns of a 3 × 4 matrix, as they lie in the package. */
function placeOf(m: Float32Array, at: number, into: Matrix4): void {
  const e = (k: number): number => m[at + k]!;
  into.set(e(0), e(3), e(6), e(9), e(1), e(4), e(7), e(10), e(2), e(5), e(8), e(11), 0, 0, 0, 1);
}

/** `ray` in the unit cube, its direction not normalised: lengths along it are the same there as outside. */
function meetsUnitCube({ origin, direction }: Ray, nearest: number): boolean {
  let [enter, leave] = [0, nearest];
  for (const axis of ['x', 'y', 'z'] as const) {
    const [position, speed] = [origin[axis], direction[axis]];
    if (!speed) {
      if (position < 0 || position > 1) return false;
      continue;
    }
    const [one, other] = [-position / speed, (1 - position) / speed];
    enter = Math.max(enter, Math.min(one, other));
    leave = Math.min(leave, Math.max(one, other));
  }
  return enter <= leave;
}
