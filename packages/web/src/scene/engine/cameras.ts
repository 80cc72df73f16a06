/** The two cameras, and who moves them: turning about what one points at, or standing in the building. */
import { fitView, type Opening } from '@kindred/core/scene/fit-view';
import CameraControls from 'camera-controls';
import * as THREE from 'three';
import { Standing, type StandingMode } from './standing.ts';

CameraControls.install({ THREE });
THREE.Object3D.DEFAULT_UP.set(0, 0, 1);

export type CameraMode = 'orbit' | StandingMode;
export type Projection = 'perspective' | 'orthographic';
export type Direction = 'top' | 'south' | 'east' | 'north' | 'west';

export interface CameraView {
  position: THREE.Vector3;
  target: THREE.Vector3;
  projection: Projection;
  /** Degrees, upright. */
  fieldOfView: number;
  /** Metres from the lower to the upper edge of the picture, at the target. */
  height: number;
}

export const FIELD_OF_VIEW = 50;
/** A little room is left around what fits. */
const ROOM = 0.9;
const AZIMUTHS: Record<Exclude<Direction, 'top'>, number> = {
  south: 0,
  east: Math.PI / 2,
  north: Math.PI,
  west: -Math.PI / 2,
};
const [KEY_TURN, KEY_PAN, KEY_DOLLY] = [Math.PI / 24, 0.06, 0.12];

export class Cameras {
  readonly perspective = new THREE.PerspectiveCamera(FIELD_OF_VIEW, 1, 0.1, 4000);
  readonly orthographic = new THREE.OrthographicCamera(-1, 1, 1, -1, 0.1, 4000);
  readonly controls: CameraControls;
  readonly standing: Standing;
  private kind: CameraMode = 'orbit';
  private aspect = 1;

  constructor(canvas: HTMLElement) {
    this.controls = new CameraControls(this.perspective, canvas);
    this.controls.dollyToCursor = true;
    this.controls.smoothTime = matchMedia('(prefers-reduced-motion: reduce)').matches ? 0.001 : 0.12;
    this.controls.draggingSmoothTime = 0.04;
    this.standing = new Standing(canvas, (position, target) => {
      void this.controls.setLookAt(...position.toArray(), ...target.toArray(), false);
    });
  }

  get camera(): THREE.PerspectiveCamera | THREE.OrthographicCamera {
    return this.controls.camera;
  }
  get mode(): CameraMode {
    return this.kind;
  }
  get projection(): Projection {
    return this.camera === this.perspective ? 'perspective' : 'orthographic';
  }

  resize(width: number, height: number): void {
    this.aspect = width / height;
    this.perspective.aspect = this.aspect;
    this.perspective.updateProjectionMatrix();
    const { top } = this.orthographic;
    this.setHeight(top * 2);
  }

  /** `reach`: of all that is drawn, metres. */
  setReach(reach: number): void {
    for (const camera of [this.perspective, this.orthographic]) {
      camera.far = Math.max(500, reach * 8);
      camera.near = Math.max(0.05, reach / 4000);
      camera.updateProjectionMatrix();
    }
    this.controls.maxDistance = Math.max(200, reach * 4);
  }

  /** Steps on; true while the camera moves. */
  update(seconds: number): boolean {
    const walked = this.kind !== 'orbit' && this.standing.update(seconds);
    return this.controls.update(seconds) || walked;
  }

  /** From then on `mode` moves the camera, from where it is. */
  setMode(mode: CameraMode): void {
    if (mode === this.kind) return;
    const target = this.controls.getTarget(new THREE.Vector3());
    if (mode !== 'orbit') {
      this.setProjection('perspective');
      const { position, distance } = { position: this.position(), distance: this.controls.distance };
      if (this.kind === 'orbit') this.standing.distance = distance;
      this.standing.begin(mode, position, target);
      this.controls.enabled = false;
    } else {
      this.standing.end();
      this.controls.enabled = true;
      const position = this.position();
      const gaze = target.sub(position).normalize();
      const ahead = position.clone().addScaledVector(gaze, Math.max(2, Math.min(this.standing.distance, 30)));
      void this.controls.setLookAt(...position.toArray(), ...ahead.toArray(), false);
    }
    this.kind = mode;
  }

  setProjection(projection: Projection): void {
    if (projection === this.projection) return;
    if (projection === 'orthographic' && this.kind !== 'orbit') this.setMode('orbit');
    const { height } = this.view();
    const [position, target] = [this.position(), this.controls.getTarget(new THREE.Vector3())];
    this.controls.camera = projection === 'perspective' ? this.perspective : this.orthographic;
    if (projection === 'orthographic') this.setHeight(height);
    else {
      const distance = height / 2 / Math.tan((FIELD_OF_VIEW / 2) * THREE.MathUtils.DEG2RAD);
      position.sub(target).setLength(distance).add(target);
    }
    void this.controls.setLookAt(...position.toArray(), ...target.toArray(), false);
    this.controls.update(0);
  }

  private setHeight(height: number): void {
    const camera = this.orthographic;
    camera.top = height / 2;
    camera.bottom = -height / 2;
    camera.right = (height / 2) * this.aspect;
    camera.left = -camera.right;
    camera.updateProjectionMatrix();
    if (this.camera === camera) void this.controls.zoomTo(1, false);
  }

  private position(): THREE.Vector3 {
    return this.controls.getPosition(new THREE.Vector3());
  }

  view(): CameraView {
    const { controls, orthographic } = this;
    const tangent = Math.tan((this.perspective.fov / 2) * THREE.MathUtils.DEG2RAD);
    return {
      position: this.position(),
      target: controls.getTarget(new THREE.Vector3()),
      projection: this.projection,
      fieldOfView: this.perspective.fov,
      height:
        this.projection === 'perspective'
          ? controls.distance * tangent * 2
          : (orthographic.top - orthographic.bottom) / orthographic.zoom,
    };
  }

  setView({ position, target, projection, fieldOfView, height }: CameraView, moving: boolean): void {
    this.setMode('orbit');
    this.setProjection(projection);
    this.perspective.fov = fieldOfView;
    this.perspective.updateProjectionMatrix();
    if (projection === 'orthographic') this.setHeight(height);
    void this.controls.setLookAt(...position.toArray(), ...target.toArray(), moving);
    if (!moving) this.controls.update(0);
  }

  private opening(): Opening {
    const up = Math.tan((this.perspective.fov / 2) * THREE.MathUtils.DEG2RAD) * ROOM;
    return { across: up * this.aspect, up };
  }

  /** Looks at points of the scene (x, y, z one after the other) from where `towards` comes, so that they fill the picture. */
  fit(points: ArrayLike<number>, towards: THREE.Vector3, moving: boolean): void {
    this.setMode('orbit');
    const steep = Math.abs(towards.z) > 0.999;
    const right = steep
      ? new THREE.Vector3(1, 0, 0)
      : towards
          .clone()
          .cross(new THREE.Vector3(0, 0, 1))
          .normalize();
    const roof = right.clone().cross(towards);
    const { position, target } = fitView(points, towards, roof, this.opening());
    if (this.projection === 'orthographic')
      this.setHeight(Math.max(extentOf(points, roof), extentOf(points, right) / this.aspect, 0.1) / ROOM);
    void this.controls.setLookAt(...position, ...target, moving);
    if (!moving) this.controls.update(0);
  }

  lookFrom(points: ArrayLike<number>, direction: Direction, moving: boolean): void {
    // Straight down has no heading of its own: a trace of south keeps north up.
    const towards =
      direction === 'top'
        ? new THREE.Vector3(0, 1e-4, -1)
        : new THREE.Vector3(-Math.sin(AZIMUTHS[direction]), Math.cos(AZIMUTHS[direction]), 0);
    this.fit(points, towards.normalize(), moving);
  }

  /** What is at this place stays there while the camera turns about it. */
  turnAbout({ x, y, z }: THREE.Vector3): void {
    if (this.kind === 'orbit' && !this.controls.active) this.controls.setOrbitPoint(x, y, z);
  }

  /** Goes up to a place, keeping the heading. */
  approach(place: THREE.Vector3, distance: number): void {
    const back = this.position().sub(this.controls.getTarget(new THREE.Vector3())).setLength(distance);
    void this.controls.setLookAt(...place.clone().add(back).toArray(), ...place.toArray(), true);
  }

  /** Arrows turn, with shift they move; plus and minus go nearer and farther. True where the key means something. */
  key(key: string, shift: boolean): boolean {
    if (this.kind !== 'orbit') return false;
    const step = this.view().height * KEY_PAN;
    const arrows: Record<string, [number, number]> = {
      ArrowLeft: [-1, 0],
      ArrowRight: [1, 0],
      ArrowUp: [0, -1],
      ArrowDown: [0, 1],
    };
    const arrow = arrows[key];
    if (arrow && shift) void this.controls.truck(arrow[0] * step, arrow[1] * step, true);
    else if (arrow) void this.controls.rotate(arrow[0] * KEY_TURN, arrow[1] * KEY_TURN, true);
    else if (key === '+' || key === '-') this.nearer(key === '+' ? 1 - KEY_DOLLY : 1 / (1 - KEY_DOLLY));
    else return false;
    return true;
  }
  private nearer(factor: number): void {
    if (this.projection === 'perspective') void this.controls.dollyTo(this.controls.distance * factor, true);
    else void this.controls.zoomTo(this.orthographic.zoom / factor, true);
  }

  /** Clockwise from north, radians: where the camera looks to on the plan. */
  heading(): number {
    return -this.controls.azimuthAngle;
  }

  dispose(): void {
    this.standing.end();
    this.controls.dispose();
  }
}

/** How far points reach along an axis. */
function extentOf(points: ArrayLike<number>, { x, y, z }: THREE.Vector3): number {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < points.length; i += 3) {
    const at = points[i]! * x + points[i + 1]! * y + points[i + 2]! * z;
    low = Math.min(low, at);
    high = Math.max(high, at);
  }
  return high - low;
}
