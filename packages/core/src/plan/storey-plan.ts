/** A storey of a model seen from above: the boxes of its elements, and which of them stands at a place. */
import { addInstance, emptyBounds, isEmpty, type Bounds } from '../scene/bounds.ts';
import type { ScenePackage } from '../scene/package.ts';
import { Picker } from '../scene/pick.ts';
import type { PlanPoint } from './plan-map.ts';
import type { ElementTable } from '../scene/prepare-model.ts';
import { byElevation, storeyOf } from '../scene/storeys.ts';

export interface PlacedElement {
  row: number;
  class: string;
  /** Metres in model coordinates. */
  bounds: Bounds;
}

/** Plans are cut so high above the floor. */
export const CUT_HEIGHT = 1.2;

/** The storeys that have elements, from the lowest up: index of the node, name, elevation in metres. */
export function storeysOf({ nodes, node }: ElementTable): { node: number; name: string; elevation: number }[] {
  return [...new Set(node.map((at) => storeyOf(nodes, at)))]
    .filter((at) => at >= 0 && nodes[at]!.elevation !== null)
    .sort((a, b) => byElevation(nodes[a], nodes[b]))
    .map((at) => ({ node: at, name: nodes[at]!.name, elevation: nodes[at]!.elevation! }));
}

/** Which heights belong to a storey of these (from the lowest up): from its floor to the next, the lowest reaches down. Metres. */
export function heightsOf(
  storeys: readonly { elevation: number }[],
  storey: { elevation: number } | undefined,
): (z: number) => boolean {
  const floor = storey === storeys[0] ? -Infinity : (storey?.elevation ?? -Infinity);
  const above = storeys.find(({ elevation }) => elevation > (storey?.elevation ?? -Infinity))?.elevation ?? Infinity;
  return (z) => z >= floor && z < above;
}

/** All elements of a storey that have a shape. O(instances). */
export function elementsOn(scene: ScenePackage, table: ElementTable, storey: number): PlacedElement[] {
  const { element, matrix } = scene.instances;
  const found = new Map<number, Bounds>();
  for (let i = 0; i < element.length; i++) {
    const row = element[i]!;
    if (storeyOf(table.nodes, table.node[row]!) !== storey) continue;
    const bounds = found.get(row) ?? found.set(row, emptyBounds()).get(row)!;
    addInstance(bounds, matrix, i);
  }
  return [...found]
    .filter(([, bounds]) => !isEmpty(bounds))
    .map(([row, bounds]) => ({
      row,
      class: table.classes[table.class[row]!]!,
      bounds: bounds.map((value, i) => value + scene.origin[i % 3]!) as Bounds,
    }));
}

/** Metres. */
const EDGE = 0.002;

/**
 * The row of the element that a plan shows at a place: what it cuts there, the smallest first, else what lies below the cut, the
 * highest first. A box may hold more than its element: each is asked for by a ray from above. Metres: `elevation` of the floor,
 * `near`: within which a place counts as on an element.
 */
export function elementAt(
  scene: ScenePackage,
  elements: readonly PlacedElement[],
  [x, y]: PlanPoint,
  elevation: number,
  near: number,
): number | undefined {
  const cut = elevation + CUT_HEIGHT;
  const here = elements.filter(
    ({ bounds: [x0, y0, , x1, y1] }) => x >= x0 - near && x <= x1 + near && y >= y0 - near && y <= y1 + near,
  );
  const isCut = ({ bounds }: PlacedElement): boolean => bounds[2] <= cut && bounds[5] >= cut;
  const area = ({ bounds: [x0, y0, , x1, y1] }: PlacedElement): number => (x1 - x0) * (y1 - y0);
  const below = here.filter(({ bounds }) => bounds[5] < cut).sort((a, b) => b.bounds[5] - a.bounds[5]);
  const candidates = [...here.filter(isCut).sort((a, b) => area(a) - area(b)), ...below];
  const picker = new Picker(scene);
  const meets = ({ row, bounds }: PlacedElement): boolean => {
    // Not quite on its edge, which a ray may miss.
    const within = (value: number, low: number, high: number): number =>
      Math.min(Math.max(value, low + EDGE), Math.max(low + EDGE, high - EDGE));
    const from = [
      within(x, bounds[0], bounds[3]) - scene.origin[0],
      within(y, bounds[1], bounds[4]) - scene.origin[1],
      bounds[5] + 1 - scene.origin[2],
    ] as const;
    return picker.pick(from, [0, 0, -1], (instance) => scene.instances.element[instance] === row) !== undefined;
  };
  return (candidates.find(meets) ?? candidates[0])?.row;
}
