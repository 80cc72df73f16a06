/**
 * The core of the scene: it owns the models, the cameras and the frames, and knows nothing of Vue. What is painted, cut, picked and
 * finished is done by parts with one duty each. It draws only when something changed; at rest the picture is finished.
 */
import type { ScenePackage } from '@kindred/core/scene/package';
import type { PlannedPart } from '@kindred/core/scene/part-plan';
import type { PickerTrees, Point } from '@kindred/core/scene/pick';
import { surroundingsOf, type StandingModel } from '@kindred/core/scene/surroundings';
import * as THREE from 'three';
import { Cameras, type CameraMode, type CameraView, type Direction, type Projection } from './cameras.ts';
import { drawsOf, type Draw } from './draws.ts';
import { rowOf, slotOf } from './element-numbers.ts';
import { Finish, type Finishing } from './finish.ts';
import { Ground } from './ground.ts';
import type { SharedUniforms } from './instance-table.ts';
import { ModelMesh, type PartState } from './model-mesh.ts';
import { PaintLayers } from './paint-layers.ts';
import { Picking, type Aim, type Picked } from './picking.ts';
import { Quality } from './quality.ts';
import { SceneModels } from './scene-models.ts';
import { Sections, UNCUT, type Cuts } from './sections.ts';
import { Sunlight } from './sunlight.ts';

export interface SceneStats {
  calls: number;
  triangles: number;
  elements: number;
  /** Of them, in parts that are not here. */
  missing: number;
  /** Of the models, here and with the graphics card. */
  megabytes: number;
  /** From picture to picture, when it last moved. */
  milliseconds: number;
}
export interface FurtherPart extends Omit<PartState, 'box'>, PlannedPart {
  version: string;
}
export interface Appearance extends Finishing {
  ground: boolean;
  capWithColour: boolean;
  /** Further parts of large models stay away: they open faster. */
  onlyLargest?: boolean;
}
/** A camera in the coordinates of the models. */
export interface ModelView extends Omit<CameraView, 'position' | 'target'> {
  position: Point;
  target: Point;
}

const BACKGROUND = '#eeebe2';
/** Where one looks from at first: the south-west, from above. */
const FIRST_LOOK = new THREE.Vector3(0.55, 0.85, -0.55).normalize();
/** After so long without a movement the picture is finished. Milliseconds. */
const REST = 160;
const CLOSE = 1.3;
/** Metres above a floor: nobody stands there. */
const HANGING = 5;

export class SceneEngine {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly clock = new THREE.Timer();
  private readonly ground = new Ground(new THREE.Color(BACKGROUND));
  private readonly sections = new Sections();
  private readonly picking: Picking;
  private readonly finish: Finish;
  private readonly light: Sunlight;
  private readonly quality = new Quality();
  private readonly shared: SharedUniforms = { grain: { value: 0 }, capWithColour: { value: 0 } };
  private appearance: Appearance = { edges: true, shading: true, ground: true, capWithColour: false };
  private groundLevel = 0;
  private towardsSun: Point | null = null;
  private dirty = true;
  private changedAt = 0;
  private drewAt = 0;
  private pace = 0;
  private moving = false;
  private calls = 0;
  private frame = 0;
  private pixels = 1;
  private detail = true;
  private size: [number, number] = [1, 1];
  private kept: ModelMesh | null = null;
  /** Elements that one does not run into. */
  passable: (slot: number, row: number) => boolean = () => false;
  readonly cameras: Cameras;
  readonly models: SceneModels;
  readonly paint = new PaintLayers();
  onDrawn: () => void = () => undefined;
  /** The picture is finished. */
  onFinished: () => void = () => undefined;

  constructor(private readonly canvas: HTMLCanvasElement) {
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: true, powerPreference: 'high-performance' });
    this.renderer.localClippingEnabled = true;
    this.finish = new Finish(this.renderer);
    this.scene.background = new THREE.Color(BACKGROUND);
    this.light = new Sunlight(this.renderer);
    this.light.addTo(this.scene);
    this.ground.addTo(this.scene);
    this.models = new SceneModels(this.scene);
    this.picking = new Picking(this.models, this.sections, this.paint.isSolid);
    this.cameras = new Cameras(canvas);
    this.cameras.standing.surroundings = () => this.surroundings();
    this.paint.onChanged = () => this.touch();
    this.warmUp();
    this.loop();
  }

  /** Compiles the shaders while the person still chooses what to open; kept, or they would be thrown away again. */
  private warmUp(): void {
    const triangle: ScenePackage = {
      origin: [0, 0, 0],
      bounds: [0, 0, 0, 1, 1, 1],
      shapes: {
        vertexStarts: Uint32Array.of(0, 3),
        indexStarts: Uint32Array.of(0, 3),
        positions: new Uint16Array(9),
        indices: Uint32Array.of(0, 1, 2),
      },
      instances: {
        shape: Uint32Array.of(0, 0),
        element: Uint32Array.of(0, 0),
        matrix: new Float32Array(24),
        colour: Uint8Array.of(0, 0, 0, 255, 0, 0, 0, 128),
      },
    };
    this.kept = this.meshOf(triangle, drawsOf(triangle));
    this.scene.add(this.kept.group);
    this.renderer.render(this.scene, this.cameras.camera);
    this.finishOne();
    this.scene.remove(this.kept.group);
  }

  private meshOf(pack: ScenePackage, draws: readonly Draw[]): ModelMesh {
    return new ModelMesh(pack, draws, this.sections.planes, this.shared);
  }

  resize(width: number, height: number): void {
    if (!width || !height) return;
    this.size = [width, height];
    this.cameras.resize(width, height);
    this.setFineness(true);
    this.touch();
  }
  /** As many pixels as the screen has and all that is here at rest, less where movement asks for it. */
  private setFineness(resting: boolean): void {
    this.detail = resting || this.quality.detail;
    for (const [, model] of this.models.all()) model.showDetail(this.detail);
    const pixels = Math.min(2, window.devicePixelRatio) * (resting ? 1 : this.quality.share);
    const [width, height] = this.size;
    this.pixels = pixels;
    this.renderer.setPixelRatio(pixels);
    this.renderer.setSize(width, height, false);
  }

  addModel(version: string, pack: ScenePackage, draws: readonly Draw[] = drawsOf(pack)): void {
    this.removeModel(version);
    const slot = this.models.add(version, pack, this.meshOf(pack, draws));
    this.paint.addModel(slot, this.models.get(slot)!);
    this.measure();
  }
  /** A further part of a model that is drawn already. */
  addPart(version: string, part: number, pack: ScenePackage, draws: readonly Draw[]): void {
    const slot = this.models.slotOf(version);
    const model = this.models.get(slot);
    if (!model) return;
    this.paint.addRows(slot, model.addPart(part, pack, draws));
    model.showDetail(this.detail);
  }
  removePart(version: string, part: number): void {
    this.models.get(this.models.slotOf(version))?.removePart(part);
    this.picking.forget();
    this.touch();
  }
  /** Parts beyond the first of all models, in the coordinates of the scene, and where one looks from. */
  furtherParts(): { parts: FurtherPart[]; eye: Point } {
    const parts = [...this.models.all()].flatMap(([slot, mesh]) =>
      mesh.furtherParts().map(({ box: { min, max }, ...part }): FurtherPart => ({
        ...part,
        version: this.models.versionOf(slot),
        bounds: [min.x, min.y, min.z, max.x, max.y, max.z],
      })),
    );
    return { parts, eye: this.cameras.camera.position.toArray() };
  }
  /** Bytes that all models take. */
  get bytes(): number {
    return [...this.models.all()].reduce((sum, [, { bytes }]) => sum + bytes, 0);
  }
  /** What was made beside the page for a part that is drawn already. */
  takeTrees(version: string, part: number, trees: PickerTrees): void {
    this.models.get(this.models.slotOf(version))?.take(part, trees);
  }
  removeModel(version: string): void {
    const slot = this.models.slotOf(version);
    if (!this.models.get(slot)) return;
    this.models.remove(slot);
    this.paint.removeModel(slot);
    this.picking.forget();
    this.measure();
  }
  private measure(): void {
    // The first of other models may count from another origin.
    this.sections.set(this.sections.get(), this.models.origin);
    const bounds = this.models.bounds();
    this.ground.visible = this.appearance.ground && !bounds.isEmpty();
    if (!bounds.isEmpty()) {
      this.cameras.setReach(bounds.getSize(new THREE.Vector3()).length());
      this.groundLevel = this.ground.lieUnder(bounds);
    }
    this.shine(this.towardsSun);
  }

  /** `towards`: from the models to the sun; null for even light. */
  shine(towards: Point | null): void {
    const toggled = (towards === null) !== (this.towardsSun === null);
    this.towardsSun = towards;
    this.light.shine(towards, this.models.bounds());
    // Shadows are part of the shaders.
    if (toggled) for (const [, mesh] of this.models.all()) mesh.renewMaterials();
    this.touch();
  }

  setAppearance(appearance: Appearance): void {
    this.appearance = appearance;
    this.shared.capWithColour.value = appearance.capWithColour ? 1 : 0;
    this.measure();
  }

  /** CSS pixels of the canvas → −1 to 1 from its middle, up. */
  private onPicture(x: number, y: number): [number, number] {
    const { clientWidth, clientHeight } = this.canvas;
    return [(x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2];
  }
  /** The nearest solid element under a point of the canvas (CSS pixels), not behind a section. */
  pick(x: number, y: number): Picked | null {
    return this.picking.pick(this.onPicture(x, y), this.cameras.camera);
  }
  /** The place that somebody means who points there. */
  aim(x: number, y: number): Aim | null {
    const picked = this.pick(x, y);
    return picked && this.picking.aim(picked, (distance) => this.metresAPixel(distance));
  }
  /** The next element from a place in a direction of length one. */
  along(from: Point, direction: Point): Picked | null {
    return this.picking.along(from, direction);
  }
  volumeOf(element: number): number | undefined {
    return this.picking.volumeOf(slotOf(element), rowOf(element));
  }
  /** Solid elements that lie wholly within a frame (CSS pixels from corner to corner) and are not wholly cut away. */
  within(a: { x: number; y: number }, b: { x: number; y: number }): number[] {
    const [x0, y0] = this.onPicture(Math.min(a.x, b.x), Math.max(a.y, b.y));
    const [x1, y1] = this.onPicture(Math.max(a.x, b.x), Math.min(a.y, b.y));
    const [box, corner] = [new THREE.Box3(), new THREE.Vector3()];
    const { camera } = this.cameras;
    return this.paint.solids().filter((element) => {
      this.models.get(slotOf(element))!.boxOf(rowOf(element), box.makeEmpty());
      if (box.isEmpty() || this.sections.cutsAway(box.getCenter(corner))) return false;
      for (let k = 0; k < 8; k++) {
        const { min, max } = box;
        corner.set(k & 1 ? max.x : min.x, k & 2 ? max.y : min.y, k & 4 ? max.z : min.z).project(camera);
        if (corner.x < x0 || corner.x > x1 || corner.y < y0 || corner.y > y1 || corner.z > 1) return false;
      }
      return true;
    });
  }
  metresAPixel(distance: number): number {
    const { camera, perspective } = this.cameras;
    const height =
      camera === perspective
        ? distance * 2 * Math.tan((perspective.fov / 2) * THREE.MathUtils.DEG2RAD)
        : this.cameras.view().height;
    return height / this.canvas.clientHeight;
  }

  /** Pixels of the canvas at which a place of the models (metres) is seen; undefined behind the camera. */
  toScreen(at: Point): [number, number] | undefined {
    const seen = this.models.toScene(at).project(this.cameras.camera);
    if (seen.z > 1) return undefined;
    const { clientWidth, clientHeight } = this.canvas;
    return [((seen.x + 1) / 2) * clientWidth, ((1 - seen.y) / 2) * clientHeight];
  }

  home(moving = true): void {
    if (this.models.isEmpty) return;
    this.cameras.fit(this.models.outline(), FIRST_LOOK, moving);
    this.touch();
  }
  /** Looks along an axis: from above, south, east, north or west. */
  lookFrom(direction: Direction): void {
    if (!this.models.isEmpty) this.cameras.lookFrom(this.models.outline(), direction, true);
    this.touch();
  }
  /** Nearer, from where one looks now. */
  showElements(elements: Iterable<number>): void {
    const box = this.boundsOf(elements);
    if (box) this.showBox(box);
  }
  /** In model coordinates. */
  showBox([x0, y0, z0, x1, y1, z1]: readonly [number, number, number, number, number, number]): void {
    const box = new THREE.Box3(this.models.toScene([x0, y0, z0]), this.models.toScene([x1, y1, z1]));
    const sphere = box.getBoundingSphere(new THREE.Sphere());
    sphere.radius = Math.max(1.2, sphere.radius * CLOSE);
    this.cameras.setMode('orbit');
    void this.cameras.controls.fitToSphere(sphere, true);
  }
  setMode(mode: CameraMode): void {
    const seen = mode === 'walk' && this.cameras.mode === 'orbit' ? this.startOfWalk() : null;
    this.cameras.setMode(mode);
    if (seen) this.cameras.standing.standAt(seen);
    this.touch();
  }
  /** Who hangs high above everything walks where they look to; null for who is near a floor. */
  private startOfWalk(): THREE.Vector3 | null {
    const { position, target } = this.cameras.view();
    const below = this.surroundings().floorBelow([position.x, position.y, position.z], HANGING);
    if (below !== undefined || position.z - this.groundLevel < HANGING) return null;
    const picked = this.picking.pick([0, 0], this.cameras.camera);
    return picked ? this.models.toScene(picked.at) : target.setZ(this.groundLevel);
  }
  /** Stands at a place, or comes up to it. */
  jumpTo(picked: Pick<Picked, 'at' | 'distance'>): void {
    const place = this.models.toScene(picked.at);
    if (this.cameras.mode === 'orbit') this.cameras.approach(place, Math.min(4, picked.distance / 2));
    else this.cameras.standing.standAt(place);
    this.touch();
  }
  /** From now on one turns about this place, which comes to the middle. */
  centreOn(picked: Picked): void {
    this.cameras.setMode('orbit');
    this.cameras.approach(this.models.toScene(picked.at), picked.distance);
  }
  setProjection(projection: Projection): void {
    this.cameras.setProjection(projection);
    this.touch();
  }
  turnAbout(picked: Picked): void {
    this.cameras.turnAbout(this.models.toScene(picked.at));
  }
  /** A storey from above, cut at `height`: north is up and nothing grows smaller. */
  showPlan(height: number): void {
    if (this.models.isEmpty) return;
    this.cameras.setProjection('orthographic');
    this.setCuts({ sections: [{ at: [0, 0, height], direction: [0, 0, 1] }], box: null });
    this.cameras.lookFrom(this.models.outline(), 'top', false);
    this.touch();
  }

  private surroundings() {
    const standing = (): Iterable<StandingModel> =>
      [...this.models.all()].flatMap(([slot, { here, group }]) =>
        [...here].map(({ scene, picker }) => ({
          ...{ scene, picker, offset: group.position.toArray() },
          stands: (instance: number) => {
            const row = scene.instances.element[instance]!;
            return this.paint.isSolid(slot, row) && !this.passable(slot, row);
          },
        })),
      );
    return surroundingsOf(standing, this.groundLevel, this.sections.cutsAway);
  }

  /** Range of an axis in model coordinates. */
  rangeOf(axis: 'x' | 'y' | 'z'): [number, number] {
    const bounds = this.models.bounds();
    const offset = this.models.origin['xyz'.indexOf(axis)]!;
    return bounds.isEmpty() ? [0, 1] : [bounds.min[axis] + offset, bounds.max[axis] + offset];
  }
  /** Around some elements, or all, in model coordinates. */
  boundsOf(elements?: Iterable<number>): [number, number, number, number, number, number] | null {
    const box = elements ? this.models.boxOf(elements) : this.models.bounds();
    return box.isEmpty() ? null : [...this.models.toModels(box.min), ...this.models.toModels(box.max)];
  }

  get cuts(): Cuts {
    return this.sections.get();
  }
  setCuts(cuts: Cuts = UNCUT): void {
    this.sections.set(cuts, this.models.origin);
    this.touch();
  }

  /** Lifts elements of a model off their places, metres by row. */
  lift(lifts: ReadonlyMap<number, Float32Array> | null): void {
    for (const [slot, mesh] of this.models.all()) mesh.lift(lifts?.get(slot) ?? null);
    this.picking.forget();
    this.touch();
  }

  view(): ModelView {
    const { position, target, ...rest } = this.cameras.view();
    const rounded = (place: THREE.Vector3): Point =>
      this.models.toModels(place).map((value) => Math.round(value * 1e4) / 1e4) as unknown as Point;
    return { ...rest, position: rounded(position), target: rounded(target) };
  }
  setView({ position, target, ...rest }: ModelView, moving = true): void {
    this.cameras.setView(
      { ...rest, position: this.models.toScene(position), target: this.models.toScene(target) },
      moving,
    );
    this.touch();
  }

  /** PNG of what is seen, finished, `width` pixels wide. */
  picture(width = 640): string {
    this.setFineness(true);
    this.finish.begin();
    while (!this.finish.isDone) this.finishOne();
    const { width: w, height: h } = this.canvas;
    const small = document.createElement('canvas');
    small.width = width;
    small.height = Math.round((width * h) / w);
    small.getContext('2d')!.drawImage(this.canvas, 0, 0, small.width, small.height);
    return small.toDataURL('image/png');
  }

  stats(): SceneStats {
    let [triangles, elements, missing] = [0, 0, 0];
    for (const [, model] of this.models.all()) {
      triangles += model.triangles;
      elements += model.elements;
      missing += model.missing;
    }
    return { calls: this.calls, triangles, elements, missing, megabytes: this.bytes / 1e6, milliseconds: this.pace };
  }

  touch(): void {
    this.light.changed();
    this.dirty = true;
  }

  private loop = (): void => {
    this.frame = requestAnimationFrame(this.loop);
    this.clock.update();
    const moved = this.cameras.update(this.clock.getDelta());
    const now = performance.now();
    if (moved || this.dirty) {
      if (moved && this.moving) this.pace = now - this.drewAt;
      if (moved && this.moving && this.quality.drew(this.pace)) this.setFineness(false);
      else if (moved && !this.moving && this.quality.share < 1) this.setFineness(false);
      this.moving = moved;
      this.drewAt = now;
      this.draw();
    } else if (!this.models.isEmpty && !this.finish.isDone && now - this.changedAt > REST) {
      this.rest();
      this.finishOne();
      this.onDrawn();
      if (this.finish.isDone) this.onFinished();
    }
  };
  private rest(): void {
    this.moving = false;
    this.quality.rest();
    if (this.pixels < Math.min(2, window.devicePixelRatio) || !this.detail) this.setFineness(true);
  }

  /** Draws at once, without waiting for the next frame. */
  draw(): void {
    this.dirty = false;
    this.changedAt = performance.now();
    this.finish.begin();
    this.shared.grain.value = 0;
    this.renderer.render(this.scene, this.cameras.camera);
    this.calls = this.renderer.info.render.calls;
    this.onDrawn();
  }
  private finishOne(): void {
    this.shared.grain.value = (this.shared.grain.value + 0.6180339) % 1;
    this.finish.step(this.scene, this.cameras.camera, this.cameras.view().height, this.appearance);
    this.calls = this.finish.calls;
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    this.cameras.dispose();
    for (const [slot] of [...this.models.all()]) this.models.remove(slot);
    this.kept?.dispose();
    this.ground.dispose();
    this.light.dispose();
    this.finish.dispose();
    this.renderer.dispose();
  }
}
