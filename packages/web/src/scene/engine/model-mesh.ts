/** One model in the scene, in one part or several: of a large one those come later, and far detail may be left out. */
import type { PartPlace, ScenePackage } from '@kindred/core/scene/package';
import type { PickerTrees } from '@kindred/core/scene/pick';
import type { Solid } from '@kindred/core/scene/solid';
import { Box3, Group, Vector3, type Plane, type Ray } from 'three';
import type { Draw } from './draws.ts';
import type { SharedUniforms } from './instance-table.ts';
import type { Look, PaintedModel } from './paint-layers.ts';
import { PartMesh, type PartHit } from './part-mesh.ts';

/** Where a ray meets an element. */
export interface Hit extends PartHit {
  row: number;
  part: number;
}

/** A further part, and whether it is there. */
export interface PartState {
  part: number;
  box: Box3;
  largest: number;
  bytes: number;
  elements: number;
  isHere: boolean;
}

/** What a part takes that was never here, for each byte of its package. */
const TAKES = 2;

export class ModelMesh implements PaintedModel {
  readonly group = new Group();
  readonly elements: number;
  private readonly parts = new Map<number, PartMesh>();
  private readonly places: readonly PartPlace[];
  private readonly partOf: Uint16Array | undefined;
  /** By part, of all that have been here. */
  private readonly weights = new Map<number, number>();
  private lifts: Float32Array | null = null;

  constructor(
    pack: ScenePackage,
    draws: readonly Draw[],
    private readonly clippingPlanes: Plane[],
    private readonly shared: SharedUniforms,
  ) {
    this.places = pack.parts?.places ?? [];
    this.partOf = pack.parts?.of;
    this.elements = this.partOf?.length ?? pack.instances.element.reduce((most, row) => Math.max(most, row + 1), 0);
    this.addPart(0, pack, draws);
  }

  /** Returns the rows of its elements. */
  addPart(part: number, pack: ScenePackage, draws: readonly Draw[]): Iterable<number> {
    const mesh = new PartMesh(pack, draws, this.clippingPlanes, this.shared);
    this.parts.set(part, mesh);
    this.weights.set(part, mesh.bytes);
    if (this.lifts) mesh.lift(this.lifts);
    for (const drawn of mesh.draws) drawn.matrixWorld.copy(this.group.matrixWorld);
    this.group.add(...mesh.draws);
    return mesh.rows;
  }
  removePart(part: number): void {
    const mesh = this.parts.get(part);
    if (!mesh) return;
    this.group.remove(...mesh.draws);
    mesh.dispose();
    this.parts.delete(part);
  }
  /** Beyond the first, which is always here. */
  furtherParts(): PartState[] {
    return this.places.map(({ largest, bytes, elements }, i) => ({
      part: i + 1,
      box: this.boxOfPart(i + 1),
      ...{ largest, elements },
      bytes: this.weights.get(i + 1) ?? bytes * TAKES,
      isHere: this.parts.has(i + 1),
    }));
  }
  /** Trees that were made beside the page. */
  take(part: number, trees: PickerTrees): void {
    this.parts.get(part)?.picker.take(trees);
  }

  get here(): Iterable<PartMesh> {
    return this.parts.values();
  }
  /** Elements in parts that are not here. */
  get missing(): number {
    return this.places.reduce((sum, { elements }, i) => sum + (this.parts.has(i + 1) ? 0 : elements), 0);
  }
  get triangles(): number {
    return this.sum(({ triangles }) => triangles);
  }
  /** That the page and the graphics card hold. */
  get bytes(): number {
    return this.sum(({ bytes }) => bytes);
  }
  private sum(of: (part: PartMesh) => number): number {
    return [...this.parts.values()].reduce((sum, part) => sum + of(part), 0);
  }

  private partWith(row: number): PartMesh | undefined {
    return this.parts.get(this.partOf?.[row] ?? 0);
  }

  paint(row: number, look: Look): void {
    this.partWith(row)?.paint(row, look);
  }

  /** The nearest element on a ray that is accepted, not behind a section. */
  pick(ray: Ray, planes: readonly Plane[], accepts: (row: number) => boolean): Hit | undefined {
    const origin = ray.origin.clone().sub(this.group.position);
    const point = new Vector3();
    let best: Hit | undefined;
    for (const [part, mesh] of this.parts) {
      const hit = mesh.picker.pick(origin.toArray(), ray.direction.toArray(), (instance, distance) =>
        distance === undefined
          ? accepts(mesh.rowOf(instance))
          : planes.every((plane) => plane.distanceToPoint(ray.at(distance, point)) >= 0),
      );
      if (hit && hit.distance < (best?.distance ?? Infinity)) best = { part, row: mesh.rowOf(hit.instance), ...hit };
    }
    return best;
  }

  /** An instance as edges and faces; its coordinates count from the origin of the model. */
  solidOf({ part, instance }: Pick<Hit, 'part' | 'instance'>): Solid {
    return this.parts.get(part)!.solidOf(instance);
  }
  /** All solids of an element; none where its part is not here. */
  solidsOf(row: number): Solid[] {
    const part = this.partWith(row);
    return part ? [...part.instancesOf(row)].map((instance) => part.solidOf(instance)) : [];
  }

  /** Widens `box` by an element, or by the part that it lies in where that is not here, in the coordinates of the scene. */
  boxOf(row: number, box: Box3): Box3 {
    const part = this.partWith(row);
    if (!part) return box.union(this.boxOfPart(this.partOf![row]!));
    const corners = new Float32Array(24);
    const corner = new Vector3();
    for (const instance of part.instancesOf(row)) {
      part.cornersOf(instance, corners, 0, this.group.position);
      for (let at = 0; at < 24; at += 3) box.expandByPoint(corner.fromArray(corners, at));
    }
    return box;
  }
  private boxOfPart(part: number): Box3 {
    const [x0, y0, z0, x1, y1, z1] = this.places[part - 1]!.bounds;
    return new Box3(new Vector3(x0, y0, z0), new Vector3(x1, y1, z1)).translate(this.group.position);
  }
  /** Corners of all that is here, and of the boxes of all that is not: x, y, z one after the other, in the coordinates of the scene. */
  corners(): Float32Array {
    const away = this.furtherParts().filter(({ isHere }) => !isHere);
    const points = new Float32Array(this.sum(({ count }) => count) * 24 + away.length * 24);
    let at = 0;
    for (const part of this.parts.values())
      for (let i = 0; i < part.count; i++, at += 24) part.cornersOf(i, points, at, this.group.position);
    for (const {
      box: { min, max },
    } of away)
      for (let k = 0; k < 8; k++, at += 3)
        points.set([k & 1 ? max.x : min.x, k & 2 ? max.y : min.y, k & 4 ? max.z : min.z], at);
    return points;
  }

  /** Lifts elements off their places by so many metres each; null puts them back. O(instances). */
  lift(lifts: Float32Array | null): void {
    if (lifts === this.lifts) return;
    this.lifts = lifts;
    for (const part of this.parts.values()) part.lift(lifts);
  }

  /** Whether further parts are drawn. */
  showDetail(shown: boolean): void {
    for (const [number, part] of this.parts) if (number) for (const draw of part.draws) draw.visible = shown;
  }

  /** What holds for all of the scene changed. */
  renewMaterials(): void {
    for (const part of this.parts.values()) part.renewMaterials();
  }

  dispose(): void {
    for (const part of this.parts.values()) part.dispose();
  }
}
