/** The boxes of all instances in a tree: what a ray or a box meets is found without looking at each of them. */
import { Box3, BufferAttribute, BufferGeometry, Vector3, type Ray } from 'three';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';
import type { Instances } from './package.ts';

export class InstanceTree {
  /** Made when it is first asked for. */
  private tree: MeshBVH | undefined;

  constructor(private readonly instances: Pick<Instances, 'matrix'>) {}

  /**
   * Instances whose boxes a ray (direction of length one) meets, roughly the nearer ones first. `visit` says how far along the ray it
   * is worth looking on, metres.
   */
  along(ray: Ray, visit: (instance: number) => number): void {
    let limit = Infinity;
    const enters = (box: Box3): number => entry(ray, box);
    const { tree } = this.ready();
    tree.shapecast({
      boundsTraverseOrder: enters,
      intersectsBounds: (_box, _leaf, score) => score! < limit,
      intersectsRange: (first, count) => {
        for (let i = first; i < first + count; i++) limit = visit(tree.resolveTriangleIndex(i));
        return false;
      },
    });
  }

  /** Instances whose boxes meet `box`, metres from the origin of the package. */
  within(box: Box3, visit: (instance: number) => void): void {
    const { tree } = this.ready();
    tree.shapecast({
      intersectsBounds: (other) => other.intersectsBox(box),
      intersectsRange: (first, count) => {
        for (let i = first; i < first + count; i++) visit(tree.resolveTriangleIndex(i));
        return false;
      },
    });
  }

  /** The matrices changed: the tree is made anew when it is next asked for. */
  moved(): void {
    this.tree = undefined;
  }

  serialise(): SerializedBVH {
    return MeshBVH.serialize(this.ready().tree, { cloneBuffers: false });
  }

  take(made: SerializedBVH): void {
    this.tree = MeshBVH.deserialize(made, boxesOf(this.instances), { setIndex: false });
  }

  private ready(): { tree: MeshBVH } {
    this.tree ??= new MeshBVH(boxesOf(this.instances), { indirect: true });
    return { tree: this.tree };
  }
}

/** One flat triangle for each instance, from corner to corner of its box: its box is that of the instance. */
function boxesOf({ matrix: m }: Pick<Instances, 'matrix'>): BufferGeometry {
  const corners = new Float32Array((m.length / 12) * 9);
  for (let at = 0, to = 0; at < m.length; at += 12, to += 9)
    for (let axis = 0; axis < 3; axis++) {
      let [low, high] = [m[at + 9 + axis]!, m[at + 9 + axis]!];
      for (let column = 0; column < 9; column += 3) {
        const edge = m[at + column + axis]!;
        if (edge < 0) low += edge;
        else high += edge;
      }
      corners[to + axis] = corners[to + 6 + axis] = low;
      corners[to + 3 + axis] = high;
    }
  return new BufferGeometry().setAttribute('position', new BufferAttribute(corners, 3));
}

const reached = new Vector3();
/** How far along the ray it enters the box; 0 inside, Infinity where it does not. */
function entry(ray: Ray, box: Box3): number {
  if (box.containsPoint(ray.origin)) return 0;
  return ray.intersectBox(box, reached) ? reached.distanceTo(ray.origin) : Infinity;
}
