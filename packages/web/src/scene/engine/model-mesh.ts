import type { ScenePackage } from '@kindred/core/scene/package';
import { Picker, type PickerTrees } from '@kindred/core/scene/pick';
import { Solid } from '@kindred/core/scene/solid';
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
  type MeshLambertMaterial,
  type Plane,
  type Ray,
} from 'three';
import type { Draw } from './draws.ts';
import { InstanceTable, type SharedUniforms } from './instance-table.ts';
import type { Look, PaintedModel } from './paint-layers.ts';

/** Where a ray meets an element. */
export interface Hit {
  row: number;
  instance: number;
  triangle: number;
  distance: number;
}

/** One model in the scene: its draws, its paint, and where its elements are. */
export class ModelMesh implements PaintedModel {
  readonly group = new Group();
  readonly triangles: number;
  readonly elements: number;
  /** That the graphics card holds. */
  readonly bytes: number;
  readonly picker: Picker;
  private readonly table: InstanceTable;
  /** Instances of each element row, as starts into `members`. */
  private readonly starts: Uint32Array;
  private readonly members: Uint32Array;
  private readonly corner = new Vector3();
  /** Of each instance, where it stands when nothing is lifted. */
  private heights: Float32Array | undefined;

  constructor(
    readonly scene: ScenePackage,
    draws: readonly Draw[],
    clippingPlanes: Plane[],
    shared: SharedUniforms,
  ) {
    const { shape, element } = scene.instances;
    const { indexStarts } = scene.shapes;
    this.picker = new Picker(scene);
    this.table = new InstanceTable(scene.instances);
    this.triangles = shape.reduce((sum, number) => sum + (indexStarts[number + 1]! - indexStarts[number]!) / 3, 0);
    const materials = [true, false].map((opaque) => this.table.material(opaque, clippingPlanes, shared));
    const depth = this.table.depthMaterial();
    for (const draw of draws) {
      const mesh = new Mesh(geometryOf(draw), materials[draw.opaque ? 0 : 1]);
      mesh.frustumCulled = false;
      mesh.castShadow = mesh.receiveShadow = true;
      mesh.customDepthMaterial = depth;
      mesh.matrixAutoUpdate = false;
      this.group.add(mesh);
    }
    this.bytes = draws.reduce(
      (sum, { positions, indices, instances }) =>
        sum + positions.byteLength + indices.byteLength + instances.byteLength,
      this.table.bytes,
    );
    this.elements = element.reduce((most, row) => Math.max(most, row + 1), 0);
    this.starts = new Uint32Array(this.elements + 1);
    for (const row of element) this.starts[row + 1]!++;
    for (let i = 0; i < this.elements; i++) this.starts[i + 1]! += this.starts[i]!;
    const next = this.starts.slice();
    this.members = new Uint32Array(element.length);
    element.forEach((row, instance) => (this.members[next[row]!++] = instance));
  }

  /** Trees that were made beside the page. */
  take(trees: PickerTrees): void {
    this.picker.take(trees);
  }

  instancesOf(row: number): Uint32Array {
    return this.members.subarray(this.starts[row], this.starts[row + 1]);
  }
  rowOf(instance: number): number {
    return this.scene.instances.element[instance]!;
  }

  paint(row: number, look: Look): void {
    const { starts, members, table } = this;
    for (let i = starts[row]!; i < starts[row + 1]!; i++) table.setLook(members[i]!, look);
  }

  /** The nearest element on a ray that is accepted, not behind a section. */
  pick(ray: Ray, planes: readonly Plane[], accepts: (row: number) => boolean): Hit | undefined {
    const origin = ray.origin.clone().sub(this.group.position);
    const point = new Vector3();
    const picked = this.picker.pick(origin.toArray(), ray.direction.toArray(), (instance, distance) =>
      distance === undefined
        ? accepts(this.rowOf(instance))
        : planes.every((plane) => plane.distanceToPoint(ray.at(distance, point)) >= 0),
    );
    return picked && { row: this.rowOf(picked.instance), ...picked };
  }

  /** An instance as edges and faces; its coordinates count from the origin of the model. */
  solidOf(instance: number): Solid {
    return new Solid(this.picker.shapes, this.scene.instances, instance);
  }

  /** Widens `box` by an element, in the coordinates of the scene. */
  boxOf(row: number, box: Box3): Box3 {
    const corners = new Float32Array(24);
    for (const instance of this.instancesOf(row)) {
      this.cornersOf(instance, corners, 0);
      for (let at = 0; at < 24; at += 3) box.expandByPoint(this.corner.fromArray(corners, at));
    }
    return box;
  }
  /** Writes the corners of all instances from `at` on, in the coordinates of the scene; returns where they end. */
  corners(into: Float32Array, at: number): number {
    const count = this.scene.instances.shape.length;
    for (let i = 0; i < count; i++) this.cornersOf(i, into, at + i * 24);
    return at + count * 24;
  }
  private cornersOf(instance: number, into: Float32Array, at: number): void {
    const m = this.scene.instances.matrix;
    const from = instance * 12;
    const { x: dx, y: dy, z: dz } = this.group.position;
    for (let k = 0; k < 8; k++) {
      const [x, y, z] = [k & 1, (k >> 1) & 1, (k >> 2) & 1];
      into[at + k * 3] = m[from]! * x + m[from + 3]! * y + m[from + 6]! * z + m[from + 9]! + dx;
      into[at + k * 3 + 1] = m[from + 1]! * x + m[from + 4]! * y + m[from + 7]! * z + m[from + 10]! + dy;
      into[at + k * 3 + 2] = m[from + 2]! * x + m[from + 5]! * y + m[from + 8]! * z + m[from + 11]! + dz;
    }
  }

  /** Lifts elements off their places by so many metres each; null puts them back. O(instances). */
  lift(lifts: Float32Array | null): void {
    const { matrix, element } = this.scene.instances;
    this.heights ??= Float32Array.from(element, (_, i) => matrix[i * 12 + 11]!);
    for (let i = 0; i < element.length; i++) matrix[i * 12 + 11] = this.heights[i]! + (lifts?.[element[i]!] ?? 0);
    this.table.placeAll();
    this.picker.instances.moved();
  }

  /** What holds for all of the scene changed. */
  renewMaterials(): void {
    for (const mesh of this.group.children as Mesh<BufferGeometry, MeshLambertMaterial>[])
      mesh.material.needsUpdate = true;
  }

  dispose(): void {
    for (const mesh of this.group.children as Mesh<BufferGeometry, MeshLambertMaterial>[]) {
      mesh.geometry.dispose();
      mesh.material.dispose();
      mesh.customDepthMaterial?.dispose();
    }
    this.table.dispose();
  }
}

function geometryOf({ positions, indices, instances, instanced }: Draw): BufferGeometry {
  const geometry = instanced ? new InstancedBufferGeometry() : new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3, true));
  geometry.setIndex(new BufferAttribute(indices, 1));
  const numbers = instanced ? new InstancedBufferAttribute(instances, 1) : new BufferAttribute(instances, 1);
  numbers.gpuType = IntType;
  geometry.setAttribute('instance', numbers);
  if (geometry instanceof InstancedBufferGeometry) geometry.instanceCount = instances.length;
  return geometry;
}
