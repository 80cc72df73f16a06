/** The boxes of all instances in a tree: what a ray or a box meets is found without looking at each of them. */
import { Box3, BufferAttribute, BufferGeometry, Vector3, type Ray } from 'three';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';
import { addInstance, emptyBounds } from './bounds.ts';
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
    this.tree = MeshBVH.deserialize(made, new BufferGeometry(), { setIndex: false });
  }

  private ready(): { tree: MeshBVH } {
    if (!this.tree) {
      const made = new MeshBVH(boxesOf(this.instances), { indirect: true });
      // The boxes are in the tree now: what it was made from is let go.
      this.take(MeshBVH.serialize(made, { cloneBuffers: false }));
    }
    return { tree: this.tree! };
  }
}

/** One flat triangle for each instance, from corner to corner of its box: its box is that of the instance. */
function boxesOf({ matrix: m }: Pick<Instances, 'matrix'>): BufferGeometry {
  const count = m.length / 12;
  const corners = new Float32Array(count * 9);
  const box = emptyBounds();
  for (let i = 0; i < count; i++) {
    box.fill(Infinity, 0, 3).fill(-Infinity, 3);
    addInstance(box, m, i);
    for (let axis = 0; axis < 3; axis++) {
      corners[i * 9 + axis] = corners[i * 9 + 6 + axis] = box[axis]!;
      corners[i * 9 + 3 + axis] = box[axis + 3]!;
    }
  }
  return new BufferGeometry().setAttribute('position', new BufferAttribute(corners, 3));
}

const reached = new Vector3();
/** How far along the ray it enters the box; 0 inside, Infinity where it does not. */
function entry(ray: Ray, box: Box3): number {
  if (box.containsPoint(ray.origin)) return 0;
  return ray.intersectBox(box, reached) ? reached.distanceTo(ray.origin) : Infinity;
}
