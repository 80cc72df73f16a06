/** What one sees of a scene, as BCF says it. */
import type { Point } from '../scene/pick.ts';
import type { BcfCamera, BcfComponent, BcfPoint, BcfViewpoint } from './bcf-file.ts';

type Line = readonly Point[];
/** A viewpoint's state, as far as BCF has words for it. GlobalIds; metres, Z up. */
export interface SeenState {
  camera: {
    position: Point;
    target: Point;
    /** Upright, degrees. */
    fieldOfView: number;
    /** Set where nothing grows smaller with its distance: metres from the lower to the upper edge. */
    height?: number;
  };
  sections: readonly { location: Point; direction: Point }[];
  /** What lies outside is cut away. */
  box?: readonly [low: Point, high: Point] | null;
  hidden: readonly string[];
  isolated: readonly string[] | null;
  selection: readonly string[];
  measures?: readonly { points: Line }[];
  marks?: readonly { points: Line }[];
}

/** `snapshot`: the entry of its picture. What is a ghost is there; colours by values have no words in BCF. */
export function viewpointOf(guid: string, state: SeenState, snapshot: string | null): BcfViewpoint {
  const { sections, box, hidden, isolated, selection, measures = [], marks = [] } = state;
  const away = new Set(hidden);
  const shown = isolated?.filter((id) => !away.has(id));
  return {
    ...{ guid, index: null, camera: cameraOf(state.camera), bitmaps: [], colours: [], snapshot },
    selection: selection.map(component),
    visibility: { default: !shown, exceptions: (shown ?? hidden).map(component), hints: null },
    sections: [
      ...sections.map(({ location, direction }) => ({ location: triple(location), direction: triple(direction) })),
      ...(box ? sidesOf(box) : []),
    ],
    lines: [...measures, ...marks].flatMap(({ points }) =>
      points.slice(1).map((to, i): [BcfPoint, BcfPoint] => [triple(points[i]!), triple(to)]),
    ),
  };
}

function cameraOf({ position, target, fieldOfView, height }: SeenState['camera']): BcfCamera {
  const away = [0, 1, 2].map((axis) => target[axis]! - position[axis]!);
  const length = Math.hypot(...away) || 1;
  const direction = away.map((value) => value / length) as BcfPoint;
  const place = { position: triple(position), direction, up: upOf(direction) };
  return height === undefined
    ? { kind: 'perspective', ...place, fieldOfView }
    : { kind: 'orthogonal', ...place, scale: height };
}

/** As upright as can be; who looks straight up or down has north above. */
function upOf([x, y, z]: BcfPoint): BcfPoint {
  const flat = Math.hypot(x, y);
  return flat < 1e-6 ? [0, 1, 0] : [(-x * z) / flat + 0, (-y * z) / flat + 0, flat];
}

/** Each side with the direction of what it cuts away. */
function sidesOf([low, high]: readonly [Point, Point]): { location: BcfPoint; direction: BcfPoint }[] {
  return [0, 1, 2].flatMap((axis) =>
    [low, high].map((corner, i) => {
      const direction: BcfPoint = [0, 0, 0];
      direction[axis] = i ? 1 : -1;
      return { location: triple(corner), direction };
    }),
  );
}

const component = (id: string): BcfComponent => ({ ifcGuid: id, originatingSystem: null, authoringToolId: null });
const triple = ([x, y, z]: Point): BcfPoint => [x, y, z];
