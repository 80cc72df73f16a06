/** What stands around somebody who walks through models. */
import { Box3, Matrix4, Vector3 } from 'three';
import type { ScenePackage } from './package.ts';
import { placeOf, type Picker, type Point } from './pick.ts';
import type { Surroundings } from './walk.ts';

export interface StandingModel {
  scene: Pick<ScenePackage, 'shapes' | 'instances'>;
  picker: Picker;
  /** Where the origin of the package lies. */
  offset: Point;
  /** Whether one meets an instance: not what is hidden, not doors. */
  stands: (instance: number) => boolean;
}

/** `isCutAway`: nothing stands at such a place. */
export function surroundingsOf(
  models: () => Iterable<StandingModel>,
  ground: number,
  isCutAway: (place: Vector3) => boolean = () => false,
): Surroundings {
  const inPackage = new Box3();
  const inShape = new Box3();
  const [offset, met] = [new Vector3(), new Vector3()];
  const [place, back] = [new Matrix4(), new Matrix4()];
  const corners: [Vector3, Vector3, Vector3] = [new Vector3(), new Vector3(), new Vector3()];
  const nearest = ([x, y, z]: Point, way: 1 | -1, reach: number): number | undefined => {
    let best: number | undefined;
    for (const { picker, offset: away, stands } of models()) {
      const from: Point = [x - away[0], y - away[1], z - away[2]];
      const hit = picker.pick(
        from,
        [0, 0, way],
        (i, distance) =>
          stands(i) && (distance === undefined || (distance <= reach && !isCutAway(met.set(x, y, z + way * distance)))),
      );
      if (hit && hit.distance < (best ?? Infinity)) best = hit.distance;
    }
    return best;
  };
  return {
    ground,
    floorBelow: (from, reach) => nearest(from, -1, reach),
    ceilingAbove: (from, reach) => nearest(from, 1, reach),
    near(box, visit) {
      if (isCutAway(box.getCenter(met))) return;
      for (const { scene, picker, offset: away, stands } of models()) {
        offset.set(...away);
        inPackage.copy(box).translate(offset.clone().negate());
        picker.instances.within(inPackage, (instance) => {
          if (!stands(instance)) return;
          placeOf(scene.instances.matrix, instance, place);
          if (!place.determinant()) return;
          inShape.copy(inPackage).applyMatrix4(back.copy(place).invert());
          picker.shapes.treeOf(scene.instances.shape[instance]!).shapecast({
            intersectsBounds: (other) => other.intersectsBox(inShape),
            intersectsTriangle: ({ a, b, c }) => {
              [a, b, c].forEach((corner, k) => corners[k]!.copy(corner).applyMatrix4(place).add(offset));
              if (!corners.every(isCutAway)) visit(...corners);
            },
          });
        });
      }
    },
  };
}
