/** One stands in the model and looks around: turning on the spot, flying, or walking with feet on the floor. */
import { EYE, Walker, type Surroundings } from '@kindred/core/scene/walk';
import { MathUtils, Vector3 } from 'three';

export type StandingMode = 'turn' | 'fly' | 'walk';

/** Radians a pixel, and radians a second by key. */
const [LOOK, KEY_LOOK] = [0.0045, 1.6];
const STEEPEST = Math.PI / 2 - 0.02;
/** Metres a second. */
const [WALK, FLY] = [1.6, 4];
const FASTER = 3;
const [SLOWEST, FASTEST] = [0.1, 40];
/** A frame that took longer moves no farther. */
const LONGEST_FRAME = 0.1;

const MOVES: Record<string, [forwards: number, right: number, up: number]> = {
  w: [1, 0, 0],
  ArrowUp: [1, 0, 0],
  s: [-1, 0, 0],
  ArrowDown: [-1, 0, 0],
  a: [0, -1, 0],
  d: [0, 1, 0],
  q: [0, 0, -1],
  e: [0, 0, 1],
};
const TURNS: Record<string, number> = { ArrowLeft: 1, ArrowRight: -1 };

export class Standing {
  private mode: StandingMode | null = null;
  private readonly eye = new Vector3();
  /** Anticlockwise from the x axis, and up, radians. */
  private heading = 0;
  private tilt = 0;
  private readonly keys = new Set<string>();
  private readonly fingers = new Map<number, [number, number]>();
  private walker: Walker | null = null;
  private moved = false;
  private fast = false;
  private ends: AbortController | null = null;
  /** Of the camera from what it turned about before. */
  distance = 10;
  /** Factor on the speed, by wheel. */
  pace = 1;
  surroundings: (() => Surroundings) | null = null;

  constructor(
    private readonly canvas: HTMLElement,
    private readonly look: (eye: Vector3, target: Vector3) => void,
  ) {}

  begin(mode: StandingMode, eye: Vector3, target: Vector3): void {
    const gaze = target.clone().sub(eye).normalize();
    this.heading = Math.atan2(gaze.y, gaze.x);
    this.tilt = Math.asin(MathUtils.clamp(gaze.z, -1, 1));
    this.eye.copy(eye);
    this.mode = mode;
    this.walker = null;
    if (mode === 'walk') this.standAt(eye.clone().setZ(eye.z - EYE));
    this.listen();
    this.moved = true;
  }

  /** Puts the feet on a place. */
  standAt(feet: Vector3): void {
    this.eye.copy(feet).setZ(feet.z + EYE);
    if (this.mode === 'walk' && this.surroundings) {
      this.walker = new Walker(this.surroundings(), feet.clone());
      // One looks ahead to walk.
      this.tilt = MathUtils.clamp(this.tilt, -0.5, 0.5);
    }
    this.moved = true;
  }

  end(): void {
    this.ends?.abort();
    this.ends = null;
    this.mode = null;
    this.keys.clear();
    this.fingers.clear();
  }

  private listen(): void {
    if (this.ends) return;
    this.ends = new AbortController();
    const { signal } = this.ends;
    const { canvas, fingers } = this;
    canvas.addEventListener(
      'pointerdown',
      (event) => {
        fingers.set(event.pointerId, [event.clientX, event.clientY]);
        canvas.setPointerCapture(event.pointerId);
      },
      { signal },
    );
    canvas.addEventListener(
      'pointermove',
      (event) => {
        const before = fingers.get(event.pointerId);
        if (!before) return;
        const at: [number, number] = [event.clientX, event.clientY];
        fingers.set(event.pointerId, at);
        this.heading += (at[0] - before[0]) * LOOK;
        this.tilt = MathUtils.clamp(this.tilt + (at[1] - before[1]) * LOOK, -STEEPEST, STEEPEST);
        this.moved = true;
      },
      { signal },
    );
    for (const end of ['pointerup', 'pointercancel'] as const)
      canvas.addEventListener(end, (event) => void fingers.delete(event.pointerId), { signal });
    canvas.addEventListener(
      'wheel',
      (event) => {
        event.preventDefault();
        this.pace = MathUtils.clamp(this.pace * (event.deltaY < 0 ? 1.15 : 1 / 1.15), SLOWEST, FASTEST);
      },
      { signal, passive: false },
    );
    window.addEventListener('blur', () => this.keys.clear(), { signal });
  }

  /** True where the key moves somebody who stands. */
  key(key: string, down: boolean, shift: boolean): boolean {
    if (!this.mode) return false;
    this.fast = shift;
    const name = key.length === 1 ? key.toLowerCase() : key;
    if (!(name in MOVES) && !(name in TURNS)) return false;
    if (this.mode === 'turn' && !(name in TURNS) && !name.startsWith('Arrow')) return false;
    if (down) this.keys.add(name);
    else this.keys.delete(name);
    return true;
  }

  /** True while one moves. */
  update(seconds: number): boolean {
    if (!this.mode) return false;
    const time = Math.min(seconds, LONGEST_FRAME);
    const [forwards, right, up] = this.wish();
    let active = this.moved;
    this.moved = false;
    for (const key of this.keys)
      if (key in TURNS) {
        this.heading += TURNS[key]! * KEY_LOOK * time;
        active = true;
      }
    const pace = this.pace * (this.fast ? FASTER : 1);
    if (this.mode === 'turn') {
      this.tilt = MathUtils.clamp(this.tilt + forwards * KEY_LOOK * time, -STEEPEST, STEEPEST);
      active ||= forwards !== 0;
    } else if (this.mode === 'fly' && (forwards || right || up)) {
      const gaze = this.gaze();
      const aside = new Vector3(Math.sin(this.heading), -Math.cos(this.heading), 0);
      const way = gaze
        .multiplyScalar(forwards)
        .addScaledVector(aside, right)
        .add(new Vector3(0, 0, up));
      this.eye.addScaledVector(way.normalize(), FLY * pace * time);
      active = true;
    } else if (this.mode === 'walk') active = this.walk(time, forwards, right, WALK * pace) || active;
    if (active) this.look(this.eye, this.eye.clone().add(this.gaze()));
    return active;
  }

  private walk(seconds: number, forwards: number, right: number, speed: number): boolean {
    if (!this.walker) return false;
    const [cos, sin] = [Math.cos(this.heading), Math.sin(this.heading)];
    const way = new Vector3(cos * forwards + sin * right, sin * forwards - cos * right, 0);
    if (way.lengthSq()) way.normalize().multiplyScalar(speed);
    const before = this.walker.feet.clone();
    this.walker.walk(seconds, [way.x, way.y]);
    const { feet } = this.walker;
    this.eye.copy(feet).setZ(feet.z + EYE);
    return feet.distanceToSquared(before) > 1e-10;
  }

  private wish(): [number, number, number] {
    const wish: [number, number, number] = [this.fingers.size > 1 ? 1 : 0, 0, 0];
    for (const key of this.keys) MOVES[key]?.forEach((part, axis) => (wish[axis]! += part));
    return wish;
  }

  private gaze(): Vector3 {
    const level = Math.cos(this.tilt);
    return new Vector3(Math.cos(this.heading) * level, Math.sin(this.heading) * level, Math.sin(this.tilt));
  }
}
