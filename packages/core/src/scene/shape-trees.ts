/** The triangles of each shape in a tree, in the unit cube of the shape. */
import { BufferAttribute, BufferGeometry } from 'three';
import { MeshBVH, type SerializedBVH } from 'three-mesh-bvh';
import type { Shapes } from './mesh-collector.ts';

const UNIT = 1 / 65535;
/** A tree over fewer triangles is made faster than it is handed over. */
const WORTH_A_TREE = 200;

export class ShapeTrees {
  private readonly trees = new Map<number, MeshBVH>();

  constructor(private readonly shapes: Shapes) {}

  /** Made when a ray first comes near the shape, unless it was given. */
  treeOf(shape: number): MeshBVH {
    let tree = this.trees.get(shape);
    if (!tree) this.trees.set(shape, (tree = new MeshBVH(geometryOf(this.shapes, shape))));
    return tree;
  }

  /** Trees of the large shapes, to be handed to whoever draws. */
  serialise(): Map<number, SerializedBVH> {
    const { indexStarts } = this.shapes;
    const made = new Map<number, SerializedBVH>();
    for (let shape = 0; shape + 1 < indexStarts.length; shape++)
      if (indexStarts[shape + 1]! - indexStarts[shape]! >= WORTH_A_TREE * 3)
        made.set(shape, MeshBVH.serialize(new MeshBVH(geometryOf(this.shapes, shape)), { cloneBuffers: false }));
    return made;
  }

  take(made: ReadonlyMap<number, SerializedBVH>): void {
    for (const [shape, tree] of made)
      this.trees.set(shape, MeshBVH.deserialize(tree, geometryOf(this.shapes, shape), { setIndex: true }));
  }
}

function geometryOf({ vertexStarts, indexStarts, positions, indices }: Shapes, shape: number): BufferGeometry {
  const own = positions.subarray(vertexStarts[shape]! * 3, vertexStarts[shape + 1]! * 3);
  return new BufferGeometry()
    .setAttribute(
      'position',
      new BufferAttribute(
        Float32Array.from(own, (value) => value * UNIT),
        3,
      ),
    )
    .setIndex(new BufferAttribute(indices.slice(indexStarts[shape]!, indexStarts[shape + 1]!), 1));
}
