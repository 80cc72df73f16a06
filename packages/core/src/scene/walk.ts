/** Somebody who walks: feet on the floor, up stairs, not through walls. */
import { Box3, Line3, Vector3 } from 'three';
import { ExtendedTriangle } from 'three-mesh-bvh';
import type { Point } from './pick.ts';

/** What one walks in. Metres. */
export interface Surroundings {
  /** How far below `from` the next floor lies, not farther than `reach`. */
  floorBelow(from: Point, reach: number): number | undefined;
  /** The same upwards. */
  ceilingAbove(from: Point, reach: number): number | undefined;
  /** Triangles that may meet the box. */
  near(box: Box3, visit: (a: Vector3, b: Vector3, c: Vector3) => void): void;
  /** Nothing falls lower. */
  ground: number;
}

export const EYE = 1.65;
const [HEIGHT, RADIUS] = [1.8, 0.22];
/** What is lower is stepped on. */
const STEP = 0.38;
const GRAVITY = 9.81;
const FALL_AT_MOST = 30;
/** No part of a step is longer, or one would stand behind a wall before it is noticed. */
const STRIDE = RADIUS / 2;
const PUSHES = 4;

export class Walker {
  private falling = 0;
  private readonly before = new Vector3();
  private readonly body = new Line3();
  private readonly box = new Box3();
  private readonly triangle = new ExtendedTriangle();
  private readonly onWall = new Vector3();
  private readonly onBody = new Vector3();

  constructor(
    private readonly surroundings: Surroundings,
    readonly feet: Vector3,
  ) {}

  /** Walks for `seconds` with a speed on the plan, metres a second. */
  walk(seconds: number, [x, y]: readonly [number, number]): void {
    const parts = Math.max(1, Math.ceil((Math.hypot(x, y) * seconds) / STRIDE));
    for (let i = 0; i < parts; i++) {
      this.before.copy(this.feet);
      this.feet.x += (x * seconds) / parts;
      this.feet.y += (y * seconds) / parts;
      this.keepOut();
      this.stand(seconds / parts);
      // Where one cannot stand upright one does not go.
      if (this.feet.z > this.before.z && this.isTooLow()) this.feet.copy(this.before);
    }
  }

  private isTooLow(): boolean {
    const { x, y, z } = this.feet;
    return this.surroundings.ceilingAbove([x, y, z + STEP], HEIGHT - STEP) !== undefined;
  }

  /** The floor carries, stairs lift, and without either one falls. */
  private stand(seconds: number): void {
    const { feet, surroundings } = this;
    const down = surroundings.floorBelow([feet.x, feet.y, feet.z + STEP], STEP * 2);
    const floor = Math.max(surroundings.ground, down === undefined ? -Infinity : feet.z + STEP - down);
    if (feet.z - floor <= STEP && this.falling === 0) {
      feet.z = floor;
      return;
    }
    this.falling = Math.min(FALL_AT_MOST, this.falling + GRAVITY * seconds);
    const fall = this.falling * seconds;
    const next = surroundings.floorBelow([feet.x, feet.y, feet.z + STEP], STEP + fall);
    const landing = Math.max(surroundings.ground, next === undefined ? -Infinity : feet.z + STEP - next);
    if (feet.z - fall > landing) feet.z -= fall;
    else {
      feet.z = landing;
      this.falling = 0;
    }
  }

  /** Moves aside, level, until no wall stands within the body. */
  private keepOut(): void {
    const { feet, body, box } = this;
    for (let push = 0; push < PUSHES; push++) {
      let moved = false;
      body.start.set(feet.x, feet.y, feet.z + STEP + RADIUS);
      body.end.set(feet.x, feet.y, feet.z + HEIGHT - RADIUS);
      box.setFromPoints([body.start, body.end]).expandByScalar(RADIUS);
      this.surroundings.near(box, (a, b, c) => {
        const { triangle, onWall, onBody } = this;
        triangle.a.copy(a);
        triangle.b.copy(b);
        triangle.c.copy(c);
        triangle.needsUpdate = true;
        const distance = triangle.closestPointToSegment(body, onWall, onBody);
        if (distance >= RADIUS) return;
        const aside = onBody.sub(onWall).setZ(0);
        const level = aside.length();
        if (level < 1e-6) return;
        aside.multiplyScalar((RADIUS - distance) / level);
        feet.add(aside);
        body.start.add(aside);
        body.end.add(aside);
        moved = true;
      });
      if (!moved) return;
    }
  }
}
