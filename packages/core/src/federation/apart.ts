import type { Bounds } from '../scene/bounds.ts';

/** As many times the size of the larger model: farther apart two models of one project do not stand. */
const FAR = 5;

/** Metres between two models that lie so far apart that they count from different origins; null where they may belong together. */
export function farApart(a: Bounds, b: Bounds): number | null {
  const size = Math.max(diagonal(a), diagonal(b));
  const gap = Math.hypot(...[0, 1, 2].map((axis) => Math.max(a[axis]! - b[axis + 3]!, b[axis]! - a[axis + 3]!, 0)));
  return size > 0 && gap > FAR * size ? gap : null;
}

const diagonal = ([x0, y0, z0, x1, y1, z1]: Bounds): number => Math.hypot(x1 - x0, y1 - y0, z1 - z0);
