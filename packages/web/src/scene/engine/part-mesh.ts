import type { ScenePackage } from '@kindred/core/scene/package';
import { Picker } from '@kindred/core/scene/pick';
import { Solid } from '@kindred/core/scene/solid';
import {
  BufferAttribute,
  BufferGeometry,
  InstancedBufferAttribute,
  InstancedBufferGeometry,
  IntType,
  Mesh,
  type MeshLambertMaterial,
  type Plane,
  type Vector3,
} from 'three';
import type { Draw } from './draws.ts';
import { InstanceTable, type SharedUniforms } from './instance-table.ts';
import type { Look } from './paint-layers.ts';

export interface PartHit {
  instance: number;
  triangle: number;
  distance: number;
}

/** One package in the scene: its draws, its paint, and where its elements are. */
export class PartMesh {
  readonly draws: readonly Mesh<BufferGeometry, MeshLambertMaterial>[];
  readonly triangles: number;
  /** That the page and the graphics card hold. */
  readonly bytes: number;
  readonly picker: Picker;
  private readonly table: InstanceTable;
  /** Of each instance, where it stands when nothing is lifted. */
  private heights: Float32Array | undefined;
  /** Where the row begins that was asked for last. */
  private last = 0;

  constructor(
    readonly scene: ScenePackage,
    draws: readonly Draw[],
    clippingPlanes: Plane[],
    shared: SharedUniforms,
  ) {
    const { shape, element } = scene.instances;
    const { indexStarts, positions, indices } = scene.shapes;
    this.picker = new Picker(scene);
    this.table = new InstanceTable(scene.instances);
    this.triangles = shape.reduce((sum, number) => sum + (indexStarts[number + 1]! - indexStarts[number]!) / 3, 0);
    const materials = [true, false].map((opaque) => this.table.material(opaque, clippingPlanes, shared));
    const depth = this.table.depthMaterial();
    this.draws = draws.map((draw) => {
      const mesh = new Mesh(geometryOf(draw), materials[draw.opaque ? 0 : 1]!);
      mesh.frustumCulled = false;
      mesh.castShadow = mesh.receiveShadow = true;
      mesh.customDepthMaterial = depth;
      mesh.matrixAutoUpdate = false;
      return mesh;
    });
    this.bytes = draws.reduce(
      (sum, draw) => sum + draw.positions.byteLength + draw.indices.byteLength + draw.instances.byteLength,
      this.table.bytes + shape.byteLength + element.byteLength + positions.byteLength + indices.byteLength,
    );
  }

  /** Element rows. */
  get rows(): Iterable<number> {
    return this.scene.instances.element;
  }
  /** Instances. */
  get count(): number {
    return this.scene.instances.shape.length;
  }
  rowOf(instance: number): number {
    return this.scene.instances.element[instance]!;
  }
  instancesOf(row: number): Uint32Array {
    const [from, to] = this.rangeOf(row);
    return Uint32Array.from({ length: to - from }, (_, i) => from + i);
  }
  private rangeOf(row: number): [from: number, to: number] {
    const { element } = this.scene.instances;
    // Rows are mostly asked for one after the other: the next is near the last.
    let from = element[this.last]! <= row ? this.last : 0;
    let step = 1;
    while (from + step < element.length && element[from + step]! < row) {
      from += step;
      step *= 2;
    }
    let end = Math.min(element.length, from + step);
    while (from < end) {
      const middle = (from + end) >> 1;
      if (element[middle]! < row) from = middle + 1;
      else end = middle;
    }
    let to = from;
    while (element[to] === row) to++;
    if (to > from) this.last = from;
    return [from, to];
  }

  paint(row: number, look: Look): void {
    const [from, to] = this.rangeOf(row);
    for (let i = from; i < to; i++) this.table.setLook(i, look);
  }

  /** An instance as edges and faces; its coordinates count from the origin of the model. */
  solidOf(instance: number): Solid {
    return new Solid(this.picker.shapes, this.scene.instances, instance);
  }

  /** Writes the eight corners of an instance from `at` on, moved by `by`. */
  cornersOf(instance: number, into: Float32Array, at: number, by: Vector3): void {
    const m = this.scene.instances.matrix;
    const from = instance * 12;
    for (let axis = 0; axis < 3; axis++) {
      const place = m[from + 9 + axis]! + by.getComponent(axis);
      const [x, y, z] = [m[from + axis]!, m[from + 3 + axis]!, m[from + 6 + axis]!];
      for (let k = 0, to = at + axis; k < 8; k++, to += 3)
        into[to] = place + (k & 1 ? x : 0) + (k & 2 ? y : 0) + (k & 4 ? z : 0);
    }
  }

  /** By element row, metres. O(instances). */
  lift(lifts: Float32Array | null): void {
    const { matrix, element } = this.scene.instances;
    this.heights ??= Float32Array.from(element, (_, i) => matrix[i * 12 + 11]!);
    for (let i = 0; i < element.length; i++) matrix[i * 12 + 11] = this.heights[i]! + (lifts?.[element[i]!] ?? 0);
    this.table.moved();
    this.picker.instances.moved();
  }

  renewMaterials(): void {
    for (const { material } of this.draws) material.needsUpdate = true;
  }

  dispose(): void {
    for (const { geometry, material, customDepthMaterial } of this.draws) {
      geometry.dispose();
      material.dispose();
      customDepthMaterial?.dispose();
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
