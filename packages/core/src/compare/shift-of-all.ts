/** A model that was exported from another place: what moved is the model, not each of its elements. */
import type { Point } from '../scene/pick.ts';
import { NEAR } from '../scene/same-body.ts';
import type { ElementChange, ModelComparison } from './compare-models.ts';

/** So large a part of the elements that moves alike is the model; of fewer elements nothing is concluded. */
const [MOST, FEWEST] = [0.7, 5];

/** Metres; null where the elements did not move together. O(n). */
export function shiftOfAll(shapes: readonly { moved: Point | null }[]): Point | null {
  const alike = new Map<string, { moved: Point; count: number }>();
  for (const { moved } of shapes) {
    if (!moved) continue;
    const key = moved.map((value) => Math.round(value / (2 * NEAR))).join();
    const known = alike.get(key);
    if (known) known.count++;
    else alike.set(key, { moved, count: 1 });
  }
  const most = [...alike.values()].reduce<{ moved: Point; count: number } | null>(
    (best, one) => (best && best.count >= one.count ? best : one),
    null,
  );
  return most && most.count >= FEWEST && most.count >= MOST * shapes.length ? most.moved : null;
}

/** The changes of elements against their model, where that moved as a whole. O(n). */
export function changesBesidesShift({ shift, changed, unchanged }: ModelComparison): ElementChange[] {
  if (!shift) return changed;
  const besides = (change: ElementChange): ElementChange[] => {
    const moved = shift.map((value, axis) => (change.moved?.[axis] ?? 0) - value) as unknown as Point;
    const rest = { ...change, moved: Math.hypot(...moved) > NEAR ? moved : null };
    return rest.moved || rest.turned || rest.geometry || rest.properties.length ? [rest] : [];
  };
  const stayed = { moved: null, turned: null, geometry: null, properties: [] };
  return [...changed, ...unchanged.map((pair) => ({ ...pair, ...stayed }))]
    .flatMap(besides)
    .sort((a, b) => a.after - b.after);
}
