/** Planes and a box that cut the models. Places are in the coordinates of the models, metres. */
import type { Bounds } from '@kindred/core/scene/bounds';
import type { Point } from '@kindred/core/scene/pick';
import { Plane, Vector3 } from 'three';

export interface Section {
  /** A point of the plane. */
  at: Point;
  /** Of length one, towards what is cut away. */
  direction: Point;
}
export interface Cuts {
  sections: readonly Section[];
  /** What lies outside is cut away. */
  box: Bounds | null;
}
export const UNCUT: Cuts = { sections: [], box: null };

/** As many as shaders bear everywhere, with a box beside them. */
export const MOST_SECTIONS = 6;

export class Sections {
  /** In the coordinates of the scene; the same array always, its materials hold it. */
  readonly planes: Plane[] = [];
  private cuts: Cuts = UNCUT;

  /** `origin`: of the scene. */
  set(cuts: Cuts, origin: Point): void {
    this.cuts = cuts;
    this.planes.length = 0;
    const sides = cuts.box ? sidesOf(cuts.box) : [];
    for (const { at, direction } of [...cuts.sections.slice(0, MOST_SECTIONS), ...sides]) {
      const place = new Vector3(...at).sub(new Vector3(...origin));
      // What lies on the side that the normal of a plane points to stays.
      this.planes.push(new Plane().setFromNormalAndCoplanarPoint(new Vector3(...direction).negate(), place));
    }
  }

  get(): Cuts {
    return this.cuts;
  }

  /** Whether a place of the scene is cut away. */
  cutsAway = (place: Vector3): boolean => this.planes.some((plane) => plane.distanceToPoint(place) < 0);
}

function sidesOf(box: Bounds): Section[] {
  return [0, 1, 2].flatMap((axis) => {
    const direction = (sign: number): Point => [0, 1, 2].map((k) => (k === axis ? sign : 0)) as unknown as Point;
    return [
      { at: [box[0], box[1], box[2]], direction: direction(-1) },
      { at: [box[3], box[4], box[5]], direction: direction(1) },
    ] as const;
  });
}

/** Pushed along its direction by so many metres. */
export const pushed = ({ at, direction }: Section, by: number): Section => ({
  at: at.map((value, i) => value + direction[i]! * by) as unknown as Point,
  direction,
});
export const flipped = ({ at, direction }: Section): Section => ({
  at,
  direction: direction.map((value) => -value || 0) as unknown as Point,
});
