/** The nearest instance that a ray meets. */
import { DoubleSide, Matrix4, Ray, Vector3 } from 'three';
import type { SerializedBVH } from 'three-mesh-bvh';
import { InstanceTree } from './instance-tree.ts';
import type { ScenePackage } from './package.ts';
import { ShapeTrees } from './shape-trees.ts';

export type Point = readonly [number, number, number];

export interface Picked {
  instance: number;
  /** In lengths of `direction` from `origin`. */
  distance: number;
  /** Triangle of the shape, in the order of its tree. */
  triangle: number;
}
/** Trees that were made elsewhere, as they are handed over. */
export interface PickerTrees {
  shapes: Map<number, SerializedBVH>;
  instances: SerializedBVH;
}

export class Picker {
  readonly shapes: ShapeTrees;
  readonly instances: InstanceTree;

  constructor(private readonly scene: Pick<ScenePackage, 'shapes' | 'instances'>) {
    this.shapes = new ShapeTrees(scene.shapes);
    this.instances = new InstanceTree(scene.instances);
  }

  take({ shapes, instances }: PickerTrees): void {
    this.shapes.take(shapes);
    this.instances.take(instances);
  }

  /**
   * `origin`, `direction`: metres from the origin of the package. `accepts` may refuse an instance (hidden) or a hit (cut away).
   * Each ray is carried into the unit cube of a shape. O(log instances + hits × log triangles).
   */
  pick(origin: Point, direction: Point, accepts: (instance: number, distance?: number) => boolean): Picked | undefined {
    let best: Picked | undefined;
    const [from, end, at] = [new Vector3(...origin), new Vector3(), new Vector3()];
    const along = new Vector3(...direction);
    const length = along.length();
    const [place, back, ray] = [new Matrix4(), new Matrix4(), new Ray()];
    const { shape, matrix } = this.scene.instances;
    const farthest = (): number => (best ? best.distance * length : Infinity);
    this.instances.along(new Ray(from, along.clone().normalize()), (i) => {
      if (!accepts(i)) return farthest();
      placeOf(matrix, i, place);
      if (!place.determinant()) return farthest();
      back.copy(place).invert();
      ray.origin.copy(from).applyMatrix4(back);
      ray.direction.copy(end.addVectors(from, along).applyMatrix4(back).sub(ray.origin)).normalize();
      for (const { point, faceIndex } of this.shapes.treeOf(shape[i]!).raycast(ray, DoubleSide)) {
        const distance = at.copy(point).applyMatrix4(place).distanceTo(from) / length;
        if (distance > 0 && distance < (best?.distance ?? Infinity) && accepts(i, distance))
          best = { instance: i, distance, triangle: faceIndex! };
      }
      return farthest();
    });
    return best;
  }
}

/** What brings the unit cube of a shape to the place of an instance, metres from the origin of the package. */
export function placeOf(m: Float32Array, instance: number, into: Matrix4): Matrix4 {
  const e = (k: number): number => m[instance * 12 + k]!;
  return into.set(e(0), e(3), e(6), e(9), e(1), e(4), e(7), e(10), e(2), e(5), e(8), e(11), 0, 0, 0, 1);
}
