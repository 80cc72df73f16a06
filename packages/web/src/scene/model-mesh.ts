import type { ScenePackage } from '@kindred/core/scene/package';
import {
  BatchedMesh,
  BufferAttribute,
  BufferGeometry,
  Group,
  Matrix4,
  MeshLambertMaterial,
  type Color,
  type Plane,
  Vector4,
  DoubleSide,
  Box3,
  Vector3,
} from 'three';

/** Below this opacity (of 255) an instance is drawn after the opaque ones. */
const OPAQUE = 250;

interface Slot {
  mesh: BatchedMesh;
  id: number;
}

/**
 * One model as at most two batches, an opaque and a translucent one: two draw calls however many elements.
 * Shapes stay quantised; each instance's matrix brings them to size.
 */
export class ModelMesh {
  readonly group = new Group();
  readonly triangles: number;
  /** Instance → batch and place in it. */
  private readonly slots: Slot[] = [];
  /** Instances of each element row, as starts into `members`. */
  private readonly starts: Uint32Array;
  private readonly members: Uint32Array;
  private readonly elementOf = new Map<BatchedMesh, Uint32Array>();
  private readonly colour = new Vector4();

  constructor(
    private readonly scene: ScenePackage,
    readonly elements: number,
    clippingPlanes: Plane[],
  ) {
    const { shape, element, colour } = scene.instances;
    const opaque: number[] = [];
    const translucent: number[] = [];
    for (let i = 0; i < shape.length; i++) (colour[i * 4 + 3]! >= OPAQUE ? opaque : translucent).push(i);
    let triangles = 0;
    for (const [list, isOpaque] of [
      [opaque, true],
      [translucent, false],
    ] as const)
      if (list.length) {
        triangles += this.addBatch(list, isOpaque, clippingPlanes);
      }
    this.triangles = triangles;
    this.starts = new Uint32Array(elements + 1);
    for (const row of element) this.starts[row + 1]!++;
    for (let i = 0; i < elements; i++) this.starts[i + 1]! += this.starts[i]!;
    const next = this.starts.slice();
    this.members = new Uint32Array(element.length);
    element.forEach((row, instance) => (this.members[next[row]!++] = instance));
  }

  private addBatch(list: number[], isOpaque: boolean, clippingPlanes: Plane[]): number {
    const { shapes, instances } = this.scene;
    const used = [...new Set(list.map((i) => instances.shape[i]!))];
    const count = (starts: Uint32Array, shape: number): number => starts[shape + 1]! - starts[shape]!;
    const vertices = used.reduce((sum, shape) => sum + count(shapes.vertexStarts, shape), 0);
    const indices = used.reduce((sum, shape) => sum + count(shapes.indexStarts, shape), 0);
    const material = new MeshLambertMaterial({
      flatShading: true,
      side: DoubleSide,
      clippingPlanes,
      transparent: !isOpaque,
      depthWrite: isOpaque,
    });
    const mesh = new BatchedMesh(list.length, vertices, indices, material);
    mesh.sortObjects = false;
    mesh.frustumCulled = false;
    mesh.matrixAutoUpdate = false;
    const geometryIds = new Map(used.map((shape) => [shape, mesh.addGeometry(geometryOf(this.scene, shape))]));
    const elements = new Uint32Array(list.length);
    const matrix = new Matrix4();
    let triangles = 0;
    for (const instance of list) {
      const shape = instances.shape[instance]!;
      const id = mesh.addInstance(geometryIds.get(shape)!);
      const m = instances.matrix;
      const at = instance * 12;
      matrix.set(
        m[at]!,
        m[at + 3]!,
        m[at + 6]!,
        m[at + 9]!,
        m[at + 1]!,
        m[at + 4]!,
        m[at + 7]!,
        m[at + 10]!,
        m[at + 2]!,
        m[at + 5]!,
        m[at + 8]!,
        m[at + 11]!,
        0,
        0,
        0,
        1,
      );
      mesh.setMatrixAt(id, matrix);
      mesh.setColorAt(id, this.ownColour(instance) as unknown as Color);
      this.slots[instance] = { mesh, id };
      elements[id] = instances.element[instance]!;
      triangles += count(shapes.indexStarts, shape) / 3;
    }
    this.elementOf.set(mesh, elements);
    this.group.add(mesh);
    return triangles;
  }

  private ownColour(instance: number): Vector4 {
    const c = this.scene.instances.colour;
    const at = instance * 4;
    // The colours of a file are what eyes shall see; lights work in linear space.
    const linear = (value: number): number => (value / 255) ** 2.2;
    return this.colour.set(linear(c[at]!), linear(c[at + 1]!), linear(c[at + 2]!), c[at + 3]! / 255);
  }

  private each(row: number, run: (slot: Slot, instance: number) => void): void {
    for (let i = this.starts[row]!; i < this.starts[row + 1]!; i++)
      run(this.slots[this.members[i]!]!, this.members[i]!);
  }

  setVisible(row: number, visible: boolean): void {
    this.each(row, ({ mesh, id }) => mesh.setVisibleAt(id, visible));
  }

  /** Paints an element; null gives it its own colour back. */
  paint(row: number, colour: Color | null): void {
    this.each(row, ({ mesh, id }, instance) => {
      const own = this.ownColour(instance);
      mesh.setColorAt(id, (colour ? own.set(colour.r, colour.g, colour.b, 1) : own) as unknown as Color);
    });
  }

  /** The box of an element in the coordinates of the scene. */
  boxOf(row: number, box: Box3): Box3 {
    const corner = new Vector3();
    const m = this.scene.instances.matrix;
    this.each(row, (_slot, instance) => {
      const at = instance * 12;
      for (let k = 0; k < 8; k++) {
        const [x, y, z] = [k & 1, (k >> 1) & 1, (k >> 2) & 1];
        corner.set(
          m[at]! * x + m[at + 3]! * y + m[at + 6]! * z + m[at + 9]!,
          m[at + 1]! * x + m[at + 4]! * y + m[at + 7]! * z + m[at + 10]!,
          m[at + 2]! * x + m[at + 5]! * y + m[at + 8]! * z + m[at + 11]!,
        );
        box.expandByPoint(corner.add(this.group.position));
      }
    });
    return box;
  }

  /** The element row that an instance of one of our batches belongs to. */
  rowOf(mesh: BatchedMesh, id: number): number | undefined {
    return this.elementOf.get(mesh)?.[id];
  }

  dispose(): void {
    for (const mesh of this.elementOf.keys()) {
      (mesh.material as MeshLambertMaterial).dispose();
      mesh.dispose();
    }
  }
}

function geometryOf({ shapes }: ScenePackage, shape: number): BufferGeometry {
  const geometry = new BufferGeometry();
  const positions = shapes.positions.subarray(shapes.vertexStarts[shape]! * 3, shapes.vertexStarts[shape + 1]! * 3);
  geometry.setAttribute('position', new BufferAttribute(positions, 3, true));
  geometry.setIndex(
    new BufferAttribute(shapes.indices.subarray(shapes.indexStarts[shape], shapes.indexStarts[shape + 1]), 1),
  );
  return geometry;
}
