import { Picker } from '@kindred/core/scene/pick';
import type { ScenePackage } from '@kindred/core/scene/package';
import {
  Box3,
  BufferAttribute,
  BufferGeometry,
  Group,
  InstancedBufferAttribute,
  InstancedBufferGeometry,
  IntType,
  Mesh,
  Vector3,
  type Color,
  type MeshLambertMaterial,
  type Plane,
  type Ray,
} from 'three';
import { InstanceTable } from './instance-table.ts';

/** Below this opacity (of 255) an instance is drawn after the opaque ones. */
const OPAQUE = 250;
/** A shape gets a draw of its own when that spares so many vertices; the rest lies together in one. */
const WORTH_A_DRAW = 2000;
const MOST_DRAWS = 24;

/**
 * One model in a few draws however many elements: shapes that repeat much are instanced, all others are merged.
 * Vertices stay quantised in the unit cube; the instance table brings them to place.
 */
export class ModelMesh {
  readonly group = new Group();
  readonly triangles: number;
  readonly elements: number;
  private readonly table: InstanceTable;
  private readonly picker: Picker;
  private readonly hidden: Uint8Array;
  private readonly painted = new Map<number, number>();
  /** Instances of each element row, as starts into `members`. */
  private readonly starts: Uint32Array;
  private readonly members: Uint32Array;

  constructor(
    private readonly scene: ScenePackage,
    clippingPlanes: Plane[],
  ) {
    const { shape, element, colour } = scene.instances;
    this.picker = new Picker(scene);
    this.table = new InstanceTable(scene.instances);
    this.hidden = new Uint8Array(shape.length);
    let triangles = 0;
    for (const number of shape) triangles += count(scene.shapes.indexStarts, number) / 3;
    this.triangles = triangles;
    for (const opaque of [true, false]) {
      const list: number[] = [];
      for (let i = 0; i < shape.length; i++) if (colour[i * 4 + 3]! >= OPAQUE === opaque) list.push(i);
      if (!list.length) continue;
      const material = this.table.material(opaque, clippingPlanes);
      for (const geometry of geometriesOf(scene, list)) this.add(geometry, material);
    }
    const elements = element.reduce((most, row) => Math.max(most, row + 1), 0);
    this.elements = elements;
    this.starts = new Uint32Array(elements + 1);
    for (const row of element) this.starts[row + 1]!++;
    for (let i = 0; i < elements; i++) this.starts[i + 1]! += this.starts[i]!;
    const next = this.starts.slice();
    this.members = new Uint32Array(element.length);
    element.forEach((row, instance) => (this.members[next[row]!++] = instance));
  }

  private add(geometry: BufferGeometry, material: MeshLambertMaterial): void {
    const mesh = new Mesh(geometry, material);
    mesh.frustumCulled = false;
    mesh.matrixAutoUpdate = false;
    this.group.add(mesh);
  }

  private each(row: number, run: (instance: number) => void): void {
    for (let i = this.starts[row]!; i < this.starts[row + 1]!; i++) run(this.members[i]!);
  }

  setVisible(row: number, visible: boolean): void {
    this.each(row, (instance) => {
      this.hidden[instance] = visible ? 0 : 1;
      this.refresh(instance);
    });
  }

  /** Paints an element; null gives it its own colour back. */
  paint(row: number, colour: Color | null): void {
    this.each(row, (instance) => {
      if (colour) this.painted.set(instance, colour.getHex());
      else this.painted.delete(instance);
      this.refresh(instance);
    });
  }

  private refresh(instance: number): void {
    const hex = this.painted.get(instance);
    if (this.hidden[instance]) this.table.hide(instance);
    else if (hex === undefined) this.table.setOwn(instance);
    else this.table.set(instance, hex >> 16, (hex >> 8) & 255, hex & 255, 255);
  }

  /** The nearest visible element on a ray, not behind a section. */
  pick(ray: Ray, planes: readonly Plane[]): { row: number; distance: number } | undefined {
    const origin = ray.origin.clone().sub(this.group.position);
    const point = new Vector3();
    const picked = this.picker.pick(origin.toArray(), ray.direction.toArray(), (instance, distance) =>
      distance === undefined
        ? !this.hidden[instance]
        : planes.every((plane) => plane.distanceToPoint(ray.at(distance, point)) >= 0),
    );
    return picked && { row: this.scene.instances.element[picked.instance]!, distance: picked.distance };
  }

  /** The box of an element in the coordinates of the scene. */
  boxOf(row: number, box: Box3): Box3 {
    const corner = new Vector3();
    const m = this.scene.instances.matrix;
    this.each(row, (instance) => {
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

  dispose(): void {
    for (const mesh of this.group.children as Mesh<BufferGeometry, MeshLambertMaterial>[]) {
      mesh.geometry.dispose();
      mesh.material.dispose();
    }
    this.table.dispose();
  }
}

const count = (starts: Uint32Array, shape: number): number => starts[shape + 1]! - starts[shape]!;

function geometriesOf(scene: ScenePackage, list: readonly number[]): BufferGeometry[] {
  const uses = new Map<number, number[]>();
  for (const instance of list) {
    const shape = scene.instances.shape[instance]!;
    const known = uses.get(shape);
    if (known) known.push(instance);
    else uses.set(shape, [instance]);
  }
  const spared = ([shape, users]: [number, number[]]): number =>
    (users.length - 1) * count(scene.shapes.vertexStarts, shape);
  const repeated = [...uses]
    .filter((use) => spared(use) >= WORTH_A_DRAW)
    .sort((a, b) => spared(b) - spared(a))
    .slice(0, MOST_DRAWS);
  for (const [shape] of repeated) uses.delete(shape);
  const geometries = repeated.map(([shape, users]) => instancedGeometry(scene, shape, users));
  return uses.size ? [...geometries, mergedGeometry(scene, [...uses])] : geometries;
}

function instancedGeometry({ shapes }: ScenePackage, shape: number, users: readonly number[]): BufferGeometry {
  const geometry = new InstancedBufferGeometry();
  geometry.instanceCount = users.length;
  const [first, last] = [shapes.vertexStarts[shape]!, shapes.vertexStarts[shape + 1]!];
  geometry.setAttribute('position', new BufferAttribute(shapes.positions.subarray(first * 3, last * 3), 3, true));
  geometry.setIndex(
    new BufferAttribute(shapes.indices.subarray(shapes.indexStarts[shape], shapes.indexStarts[shape + 1]), 1),
  );
  const instance = new InstancedBufferAttribute(Uint32Array.from(users), 1);
  instance.gpuType = IntType;
  geometry.setAttribute('instance', instance);
  return geometry;
}

function mergedGeometry({ shapes }: ScenePackage, uses: readonly [number, number[]][]): BufferGeometry {
  const total = (starts: Uint32Array): number =>
    uses.reduce((sum, [shape, users]) => sum + users.length * count(starts, shape), 0);
  const vertices = total(shapes.vertexStarts);
  const positions = new Uint16Array(vertices * 3);
  const instances = new Uint32Array(vertices);
  const indices = new Uint32Array(total(shapes.indexStarts));
  let [vertex, index] = [0, 0];
  for (const [shape, users] of uses) {
    const corners = shapes.positions.subarray(shapes.vertexStarts[shape]! * 3, shapes.vertexStarts[shape + 1]! * 3);
    for (const user of users) {
      for (let t = shapes.indexStarts[shape]!; t < shapes.indexStarts[shape + 1]!; t++)
        indices[index++] = vertex + shapes.indices[t]!;
      positions.set(corners, vertex * 3);
      instances.fill(user, vertex, (vertex += corners.length / 3));
    }
  }
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3, true));
  const instance = new BufferAttribute(instances, 1);
  instance.gpuType = IntType;
  geometry.setAttribute('instance', instance);
  geometry.setIndex(new BufferAttribute(indices, 1));
  return geometry;
}
