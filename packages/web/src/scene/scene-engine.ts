import type { ViewpointState } from '@kindred/contract/scene/scene';
import type { ScenePackage } from '@kindred/core/scene/package';
import CameraControls from 'camera-controls';
import * as THREE from 'three';
import { ModelMesh } from './model-mesh.ts';

CameraControls.install({ THREE });
THREE.Object3D.DEFAULT_UP.set(0, 0, 1);

export interface ElementRef {
  /** Version id of the model. */
  model: string;
  row: number;
}
export interface Section {
  axis: 'x' | 'y' | 'z';
  /** Metres in model coordinates. */
  at: number;
  /** Cuts away the other side. */
  flipped: boolean;
}
export interface SceneStats {
  calls: number;
  triangles: number;
  elements: number;
}

const SELECTED = new THREE.Color('#e0931a');
const GROUND = '#eeebe2';
const AXES = { x: new THREE.Vector3(1, 0, 0), y: new THREE.Vector3(0, 1, 0), z: new THREE.Vector3(0, 0, 1) };
const FIELD_OF_VIEW = 50;

/**
 * Draws models and moves the camera; knows nothing of Vue. Draws only when something changed.
 * Coordinates of the scene count from the first model's origin, so that floats stay exact wherever a site lies.
 */
export class SceneEngine {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly camera = new THREE.PerspectiveCamera(FIELD_OF_VIEW, 1, 0.1, 4000);
  private readonly controls: CameraControls;
  private readonly clock = new THREE.Timer();
  private readonly models = new Map<string, ModelMesh>();
  private readonly bounds = new THREE.Box3();
  private readonly planes: THREE.Plane[] = [];
  private origin: THREE.Vector3Tuple | null = null;
  private section: Section | null = null;
  private dirty = true;
  private kept: ModelMesh | null = null;
  private frame = 0;
  onMoved: () => void = () => undefined;
  onDrawn: () => void = () => undefined;

  constructor(private readonly canvas: HTMLCanvasElement) {
    this.renderer = new THREE.WebGLRenderer({ canvas, antialias: true, powerPreference: 'high-performance' });
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.localClippingEnabled = true;
    this.scene.background = new THREE.Color(GROUND);
    const sky = new THREE.HemisphereLight('#ffffff', '#b9b2a0', 2.1);
    sky.position.set(0, 0, 1);
    const sun = new THREE.DirectionalLight('#fff4e0', 1.6);
    sun.position.set(-0.5, -0.8, 1);
    this.scene.add(sky, sun);
    this.controls = new CameraControls(this.camera, canvas);
    this.controls.dollyToCursor = true;
    this.controls.smoothTime = matchMedia('(prefers-reduced-motion: reduce)').matches ? 0.001 : 0.12;
    this.controls.draggingSmoothTime = 0.04;
    this.controls.addEventListener('rest', () => this.onMoved());
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
    this.kept = new ModelMesh(triangle, this.planes);
    this.scene.add(this.kept.group);
    this.renderer.render(this.scene, this.camera);
    this.scene.remove(this.kept.group);
  }

  resize(width: number, height: number): void {
    if (!width || !height) return;
    this.renderer.setSize(width, height, false);
    this.camera.aspect = width / height;
    this.camera.updateProjectionMatrix();
    this.touch();
  }

  addModel(version: string, pack: ScenePackage): void {
    this.removeModel(version);
    this.origin ??= pack.origin;
    const model = new ModelMesh(pack, this.planes);
    model.group.position.set(
      pack.origin[0] - this.origin[0],
      pack.origin[1] - this.origin[1],
      pack.origin[2] - this.origin[2],
    );
    model.group.updateMatrixWorld(true);
    for (const mesh of model.group.children) mesh.matrixWorld.copy(model.group.matrixWorld);
    this.models.set(version, model);
    this.scene.add(model.group);
    this.measure(pack, model);
    this.touch();
  }

  private measure({ bounds }: ScenePackage, { group }: ModelMesh): void {
    const box = new THREE.Box3(
      new THREE.Vector3(bounds[0], bounds[1], bounds[2]),
      new THREE.Vector3(bounds[3], bounds[4], bounds[5]),
    ).translate(group.position);
    this.bounds.union(box);
    const reach = this.bounds.getSize(new THREE.Vector3()).length();
    this.camera.far = Math.max(500, reach * 8);
    this.camera.near = Math.max(0.05, reach / 4000);
    this.camera.updateProjectionMatrix();
    this.controls.maxDistance = Math.max(200, reach * 4);
  }

  removeModel(version: string): void {
    const model = this.models.get(version);
    if (!model) return;
    this.scene.remove(model.group);
    model.dispose();
    this.models.delete(version);
    this.touch();
  }

  setVisible({ model, row }: ElementRef, visible: boolean): void {
    this.models.get(model)?.setVisible(row, visible);
    this.touch();
  }

  setSelected({ model, row }: ElementRef, selected: boolean): void {
    this.models.get(model)?.paint(row, selected ? SELECTED : null);
    this.touch();
  }

  /** The nearest visible element under a point of the canvas (CSS pixels), not behind a section. */
  pick(x: number, y: number): ElementRef | null {
    const { clientWidth, clientHeight } = this.canvas;
    const ray = new THREE.Raycaster();
    ray.setFromCamera(new THREE.Vector2((x / clientWidth) * 2 - 1, 1 - (y / clientHeight) * 2), this.camera);
    let best: { distance: number; ref: ElementRef } | null = null;
    for (const [model, mesh] of this.models) {
      const hit = mesh.pick(ray.ray, this.planes);
      if (hit && hit.distance < (best?.distance ?? Infinity))
        best = { distance: hit.distance, ref: { model, row: hit.row } };
    }
    return best?.ref ?? null;
  }

  /** Pixels of the canvas at which a place of the models (metres) is seen; undefined behind the camera. */
  toScreen(at: THREE.Vector3Tuple): [number, number] | undefined {
    const seen = new THREE.Vector3(...at).sub(new THREE.Vector3(...(this.origin ?? [0, 0, 0]))).project(this.camera);
    if (seen.z > 1) return undefined;
    const { clientWidth, clientHeight } = this.canvas;
    return [((seen.x + 1) / 2) * clientWidth, ((1 - seen.y) / 2) * clientHeight];
  }

  home(moving = true): void {
    if (this.bounds.isEmpty()) return;
    const sphere = this.bounds.getBoundingSphere(new THREE.Sphere());
    const upright = (FIELD_OF_VIEW / 2) * THREE.MathUtils.DEG2RAD;
    const narrowest = Math.min(upright, Math.atan(Math.tan(upright) * this.camera.aspect));
    const distance = (sphere.radius * 0.9) / Math.sin(narrowest);
    const from = new THREE.Vector3(-0.55, -0.85, 0.55).normalize().multiplyScalar(distance).add(sphere.center);
    void this.controls.setLookAt(...from.toArray(), ...sphere.center.toArray(), moving);
    if (!moving) this.controls.update(0);
    this.touch();
  }

  /** Looks along an axis: from above, south, east, north or west. */
  lookFrom(direction: 'top' | 'south' | 'east' | 'north' | 'west'): void {
    if (this.bounds.isEmpty()) return;
    const [azimuth, polar] = {
      top: [0, 0],
      south: [0, Math.PI / 2],
      east: [Math.PI / 2, Math.PI / 2],
      north: [Math.PI, Math.PI / 2],
      west: [-Math.PI / 2, Math.PI / 2],
    }[direction] as [number, number];
    void this.controls.rotateTo(azimuth, polar, true);
    void this.controls.fitToSphere(this.bounds.getBoundingSphere(new THREE.Sphere()), true);
  }

  showElement(refs: ElementRef[]): void {
    const box = new THREE.Box3();
    for (const { model, row } of refs) this.models.get(model)?.boxOf(row, box);
    if (box.isEmpty()) return;
    const sphere = box.getBoundingSphere(new THREE.Sphere());
    sphere.radius = Math.max(1.2, sphere.radius * 1.3);
    // Seen from where one stands: only nearer.
    void this.controls.fitToSphere(sphere, true);
  }

  /** Range of an axis in model coordinates. */
  rangeOf(axis: Section['axis']): [number, number] {
    const offset = this.origin?.['xyz'.indexOf(axis)] ?? 0;
    return this.bounds.isEmpty() ? [0, 1] : [this.bounds.min[axis] + offset, this.bounds.max[axis] + offset];
  }

  setSection(section: Section | null): void {
    this.section = section;
    this.planes.length = 0;
    if (section) {
      const { axis, at, flipped } = section;
      const local = at - (this.origin?.['xyz'.indexOf(axis)] ?? 0);
      // What lies on the side that the normal points to stays.
      const normal = AXES[axis].clone().multiplyScalar(flipped ? 1 : -1);
      this.planes.push(new THREE.Plane(normal, flipped ? -local : local));
    }
    for (const { group } of this.models.values())
      for (const mesh of group.children) ((mesh as THREE.Mesh).material as THREE.Material).needsUpdate = true;
    this.touch();
  }

  /** Camera and section in model coordinates. */
  view(): Pick<ViewpointState, 'camera' | 'sections'> {
    const origin = new THREE.Vector3(...(this.origin ?? [0, 0, 0]));
    const triple = (v: THREE.Vector3): [number, number, number] =>
      v.toArray().map((value) => Math.round(value * 1e4) / 1e4) as [number, number, number];
    const position = this.controls.getPosition(new THREE.Vector3()).add(origin);
    const target = this.controls.getTarget(new THREE.Vector3()).add(origin);
    const sections: ViewpointState['sections'] = [];
    if (this.section) {
      const { axis, at, flipped } = this.section;
      sections.push({
        location: triple(AXES[axis].clone().multiplyScalar(at)),
        direction: triple(AXES[axis].clone().multiplyScalar(flipped ? -1 : 1)),
      });
    }
    return { camera: { position: triple(position), target: triple(target), fieldOfView: FIELD_OF_VIEW }, sections };
  }

  setView({ camera, sections }: Pick<ViewpointState, 'camera' | 'sections'>, moving = true): Section | null {
    const origin = this.origin ?? [0, 0, 0];
    const [px, py, pz] = camera.position.map((value, i) => value - origin[i]!) as [number, number, number];
    const [tx, ty, tz] = camera.target.map((value, i) => value - origin[i]!) as [number, number, number];
    void this.controls.setLookAt(px, py, pz, tx, ty, tz, moving);
    const first = sections[0];
    const axis = first && (['x', 'y', 'z'] as const).find((_, i) => Math.abs(first.direction[i]!) > 0.99);
    const i = axis ? 'xyz'.indexOf(axis) : 0;
    const section = first && axis ? { axis, at: first.location[i]!, flipped: first.direction[i]! < 0 } : null;
    this.setSection(section);
    return section;
  }

  /** PNG of what is seen, `width` pixels wide. */
  picture(width = 640): string {
    this.renderer.render(this.scene, this.camera);
    const { width: w, height: h } = this.canvas;
    const small = document.createElement('canvas');
    small.width = width;
    small.height = Math.round((width * h) / w);
    small.getContext('2d')!.drawImage(this.canvas, 0, 0, small.width, small.height);
    return small.toDataURL('image/png');
  }

  stats(): SceneStats {
    const models = [...this.models.values()];
    return {
      calls: this.renderer.info.render.calls,
      triangles: models.reduce((sum, { triangles }) => sum + triangles, 0),
      elements: models.reduce((sum, { elements }) => sum + elements, 0),
    };
  }

  touch(): void {
    this.dirty = true;
  }

  private loop = (): void => {
    this.frame = requestAnimationFrame(this.loop);
    this.clock.update();
    const moved = this.controls.update(this.clock.getDelta());
    if (moved || this.dirty) this.draw();
  };

  /** Draws at once, without waiting for the next frame. */
  draw(): void {
    this.dirty = false;
    this.renderer.render(this.scene, this.camera);
    this.onDrawn();
  }

  dispose(): void {
    cancelAnimationFrame(this.frame);
    this.controls.dispose();
    for (const model of this.models.values()) model.dispose();
    this.kept?.dispose();
    this.renderer.dispose();
  }
}
