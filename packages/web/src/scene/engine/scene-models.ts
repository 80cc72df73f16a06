/** The models of a scene, each under its slot; they count from the origin of the first, so that floats stay exact wherever a site lies. */
import type { ScenePackage } from '@kindred/core/scene/package';
import { Box3, Vector3, type Scene } from 'three';
import { rowOf, slotOf } from './element-numbers.ts';
import type { ModelMesh } from './model-mesh.ts';

export class SceneModels {
  private readonly slots = new Map<string, number>();
  private readonly meshes = new Map<number, ModelMesh>();
  private readonly boxes = new Map<number, Box3>();
  /** Of the scene, in the coordinates of the models. */
  origin: [number, number, number] = [0, 0, 0];

  constructor(private readonly scene: Scene) {}

  /** Stays the same for a version as long as the scene lives. */
  slotOf(versionId: string): number {
    let slot = this.slots.get(versionId);
    if (slot === undefined) this.slots.set(versionId, (slot = this.slots.size));
    return slot;
  }
  versionOf(slot: number): string {
    return [...this.slots].find(([, number]) => number === slot)![0];
  }

  add(versionId: string, pack: ScenePackage, model: ModelMesh): number {
    const slot = this.slotOf(versionId);
    if (!this.meshes.size) this.origin = pack.origin;
    const { group } = model;
    group.position.set(...(pack.origin.map((value, i) => value - this.origin[i]!) as [number, number, number]));
    group.updateMatrixWorld(true);
    for (const mesh of group.children) mesh.matrixWorld.copy(group.matrixWorld);
    const [x0, y0, z0, x1, y1, z1] = pack.bounds;
    this.boxes.set(slot, new Box3(new Vector3(x0, y0, z0), new Vector3(x1, y1, z1)).translate(group.position));
    this.meshes.set(slot, model);
    this.scene.add(group);
    return slot;
  }

  remove(slot: number): void {
    const model = this.meshes.get(slot);
    if (!model) return;
    this.scene.remove(model.group);
    model.dispose();
    this.meshes.delete(slot);
    this.boxes.delete(slot);
  }

  get(slot: number): ModelMesh | undefined {
    return this.meshes.get(slot);
  }
  all(): IterableIterator<[number, ModelMesh]> {
    return this.meshes.entries();
  }
  get isEmpty(): boolean {
    return this.meshes.size === 0;
  }

  /** Around all models; empty without one. */
  bounds(): Box3 {
    const all = new Box3();
    for (const box of this.boxes.values()) all.union(box);
    return all;
  }
  /** Corners of the boxes of all instances: x, y, z one after the other. */
  outline(): Float32Array {
    const all = [...this.meshes.values()].map((mesh) => mesh.corners());
    const points = new Float32Array(all.reduce((sum, { length }) => sum + length, 0));
    let at = 0;
    for (const corners of all) {
      points.set(corners, at);
      at += corners.length;
    }
    return points;
  }
  /** Around some elements. */
  boxOf(elements: Iterable<number>): Box3 {
    const box = new Box3();
    for (const element of elements) this.meshes.get(slotOf(element))?.boxOf(rowOf(element), box);
    return box;
  }

  toScene([x, y, z]: readonly [number, number, number]): Vector3 {
    return new Vector3(x - this.origin[0], y - this.origin[1], z - this.origin[2]);
  }
  toModels({ x, y, z }: Vector3): [number, number, number] {
    return [x + this.origin[0], y + this.origin[1], z + this.origin[2]];
  }
}
