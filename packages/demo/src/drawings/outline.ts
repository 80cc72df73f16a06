/** Outlines of parts as a drawing shows them: from above, or from the south. */
import type { Part } from '../building/parts.ts';

export interface Outline {
  part: Part;
  ring: [number, number][];
  /** Cut by the plane of the drawing, and so drawn heavier and filled. */
  cut: boolean;
  /** Nearer to the viewer is drawn later. */
  near: number;
}

type Corner = [number, number, number];

/** The corners of a part's extruded profile in model coordinates: bottom ring, then top ring. */
function corners({ at, size: [dx, dy, dz], profile, turn = 0, tilt = 0 }: Part): [Corner[], Corner[]] {
  const ring = profile ?? [
    [0, 0],
    [dx, 0],
    [dx, dy],
    [0, dy],
  ];
  const [t, u] = [(turn * Math.PI) / 180, (tilt * Math.PI) / 180];
  const place = (x: number, y: number, z: number): Corner => {
    const [rx, rz] = [x * Math.cos(u) + z * Math.sin(u), -x * Math.sin(u) + z * Math.cos(u)];
    return [at[0] + rx * Math.cos(t) - y * Math.sin(t), at[1] + rx * Math.sin(t) + y * Math.cos(t), at[2] + rz];
  };
  return [ring.map(([x, y]) => place(x!, y!, 0)), ring.map(([x, y]) => place(x!, y!, dz))];
}

/** What a horizontal cut at `height` shows: the cut, and what lies below it down to `depth`. */
export function planOutlines(parts: readonly Part[], height: number, depth: number): Outline[] {
  return parts.flatMap((part) => {
    const [bottom, top] = corners(part);
    const all = [...bottom, ...top];
    const low = Math.min(...all.map(([, , z]) => z));
    const high = Math.max(...all.map(([, , z]) => z));
    if (low > height || high < depth) return [];
    return [{ part, ring: hull(all.map(([x, y]) => [x, y])), cut: high > height, near: high }];
  });
}

/** What someone sees who looks north from `y`; what the plane goes through is cut. */
export function sectionOutlines(parts: readonly Part[], y: number): Outline[] {
  return parts.flatMap((part) => {
    const all = corners(part).flat();
    const south = Math.min(...all.map(([, cy]) => cy));
    const north = Math.max(...all.map(([, cy]) => cy));
    if (north < y) return [];
    return [{ part, ring: hull(all.map(([x, , z]) => [x, z])), cut: south < y, near: -south }];
  });
}

/** Convex hull, counter-clockwise (Andrew's monotone chain). */
function hull(points: [number, number][]): [number, number][] {
  const sorted = [...points].sort((a, b) => a[0] - b[0] || a[1] - b[1]);
  const half = (list: [number, number][]): [number, number][] => {
    const chain: [number, number][] = [];
    for (const p of list) {
      while (chain.length > 1 && cross(chain.at(-2)!, chain.at(-1)!, p) <= 1e-9) chain.pop();
      chain.push(p);
    }
    chain.pop();
    return chain;
  };
  return [...half(sorted), ...half(sorted.reverse())];
}

const cross = (o: [number, number], a: [number, number], b: [number, number]): number =>
  (a[0] - o[0]) * (b[1] - o[1]) - (a[1] - o[1]) * (b[0] - o[0]);
