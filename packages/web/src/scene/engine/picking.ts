/** What lies under a point of the picture: the element, the place on it, and where somebody means who points there. */
import { snap, type Snap } from '@kindred/core/scene/snap';
import type { Face, Solid } from '@kindred/core/scene/solid';
import type { Point } from '@kindred/core/scene/pick';
import { Ray, Raycaster, Vector2, Vector3, type Camera } from 'three';
import { elementNumber } from './element-numbers.ts';
import type { Hit } from './model-mesh.ts';
import type { SceneModels } from './scene-models.ts';
import type { Sections } from './sections.ts';

export interface Picked {
  element: number;
  /** In the coordinates of the models. */
  at: Point;
  distance: number;
  slot: number;
  hit: Hit;
}
/** A place on a model that was pointed at; the coordinates are those of the models. */
export interface Aim extends Snap {
  element: number;
  face: Face;
}

/** Pixels within which a corner or an edge draws. */
const REACH = 11;
/** Solids that are remembered: one moves over the same few. */
const REMEMBERED = 12;

export class Picking {
  private readonly solids = new Map<string, Solid>();
  private readonly caster = new Raycaster();

  constructor(
    private readonly models: SceneModels,
    private readonly sections: Sections,
    private readonly isSolid: (slot: number, row: number) => boolean,
  ) {}

  /** `x`, `y`: −1 to 1 from the middle of the picture, up. */
  pick([x, y]: readonly [number, number], camera: Camera): Picked | null {
    this.caster.setFromCamera(new Vector2(x, y), camera as never);
    return this.nearest(this.caster.ray);
  }
  /** The next element from a place of the models in a direction of length one. */
  along(from: Point, direction: Point): Picked | null {
    return this.nearest(new Ray(this.models.toScene(from), new Vector3(...direction)));
  }
  private nearest(ray: Ray): Picked | null {
    let best: Picked | null = null;
    for (const [slot, mesh] of this.models.all()) {
      const hit = mesh.pick(ray, this.sections.planes, (row) => this.isSolid(slot, row));
      if (!hit || hit.distance >= (best?.distance ?? Infinity)) continue;
      const at = this.models.toModels(ray.at(hit.distance, new Vector3()));
      best = { element: elementNumber(slot, hit.row), at, distance: hit.distance, slot, hit };
    }
    return best;
  }

  /** `metresAPixel`: at the distance of one metre, or everywhere where nothing grows smaller. */
  aim(picked: Picked, metresAPixel: (distance: number) => number): Aim {
    const { slot, hit, element } = picked;
    const away = this.models.toModels(this.models.get(slot)!.group.position);
    const solid = this.solidOf(slot, hit);
    const out = (point: Point): Point => point.map((value, i) => value + away[i]!) as unknown as Point;
    const inside = picked.at.map((value, i) => value - away[i]!) as unknown as Point;
    const { kind, at, edge } = snap(solid.edges(), inside, REACH * metresAPixel(picked.distance));
    const face = solid.faceOf(hit.triangle);
    return {
      ...{ kind, at: out(at), element, face: { ...face, at: out(face.at) } },
      ...(edge && { edge: [out(edge[0]), out(edge[1])] as const }),
    };
  }

  /** Cubic metres of an element; undefined where a part of it is not closed or not here. */
  volumeOf(slot: number, row: number): number | undefined {
    const volumes = this.models
      .get(slot)!
      .solidsOf(row)
      .map((solid) => solid.volume());
    if (!volumes.length || volumes.includes(undefined)) return undefined;
    return volumes.reduce<number>((sum, volume) => sum + volume!, 0);
  }

  /** Shapes stand elsewhere now. */
  forget(): void {
    this.solids.clear();
  }

  private solidOf(slot: number, hit: Hit): Solid {
    const key = `${slot} ${hit.part} ${hit.instance}`;
    let solid = this.solids.get(key);
    if (!solid) {
      solid = this.models.get(slot)!.solidOf(hit);
      if (this.solids.size >= REMEMBERED) this.solids.delete(this.solids.keys().next().value!);
      this.solids.set(key, solid);
    }
    return solid;
  }
}
