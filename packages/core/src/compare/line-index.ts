/** Finds which of many straight pieces lie near another one, and which parts of it they cover. */
import Flatbush from 'flatbush';
import { pieceCount, type Linework } from './linework.ts';

/** Pieces that differ more than this in direction do not cover each other (sine), except where they are very short. */
const ALONG = 0.2;
/** Points. */
const SHORT = 1.5;
/** A long slanting piece is looked up in parts of this length, points. */
const LOOK_UP = 60;

/** Along a piece, from 0 to 1, in pairs, in order and apart. */
export type Parts = number[];

export class LineIndex {
  private readonly index: Flatbush | undefined;

  /** O(n log n). */
  constructor(readonly linework: Linework) {
    const count = pieceCount(linework);
    if (!count) return;
    const { ends } = linework;
    this.index = new Flatbush(count, 16, Float32Array);
    for (let i = 0; i < 4 * count; i += 4) {
      const [x0, y0, x1, y1] = [ends[i]!, ends[i + 1]!, ends[i + 2]!, ends[i + 3]!];
      this.index.add(Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1));
    }
    this.index.finish();
  }

  inBox(x0: number, y0: number, x1: number, y1: number): number[] {
    return this.index?.search(x0, y0, x1, y1) ?? [];
  }

  /** The pieces whose box comes within `reach` of the piece between two points. */
  near(x0: number, y0: number, x1: number, y1: number, reach: number): number[] {
    if (!this.index) return [];
    const length = Math.hypot(x1 - x0, y1 - y0);
    const slants = Math.min(Math.abs(x1 - x0), Math.abs(y1 - y0)) > LOOK_UP;
    if (!slants)
      return this.index.search(
        Math.min(x0, x1) - reach,
        Math.min(y0, y1) - reach,
        Math.max(x0, x1) + reach,
        Math.max(y0, y1) + reach,
      );
    const steps = Math.ceil(length / LOOK_UP);
    const found = new Set<number>();
    for (let k = 0; k < steps; k++) {
      const [s, t] = [k / steps, (k + 1) / steps];
      const [ax, ay] = [x0 + s * (x1 - x0), y0 + s * (y1 - y0)];
      const [bx, by] = [x0 + t * (x1 - x0), y0 + t * (y1 - y0)];
      const hits = this.index.search(
        Math.min(ax, bx) - reach,
        Math.min(ay, by) - reach,
        Math.max(ax, bx) + reach,
        Math.max(ay, by) + reach,
      );
      for (const hit of hits) found.add(hit);
    }
    return [...found];
  }

  /**
   * The parts of the piece between two points that lie within `reach` of pieces here that run along it. `bridge`: gaps up to this length
   * count too, as between the strokes of a dashed line; `only`: which of the pieces here count.
   */
  covered(
    [x0, y0, x1, y1]: readonly number[],
    { reach, bridge = 0, only }: { reach: number; bridge?: number; only?: (i: number) => boolean },
  ): Parts {
    const { ends } = this.linework;
    const length = Math.hypot(x1! - x0!, y1! - y0!);
    const [dx, dy] = [(x1! - x0!) / length, (y1! - y0!) / length];
    const parts: [number, number][] = [];
    for (const i of this.near(x0!, y0!, x1!, y1!, reach)) {
      if (only && !only(i)) continue;
      const [ax, ay, bx, by] = [ends[4 * i]!, ends[4 * i + 1]!, ends[4 * i + 2]!, ends[4 * i + 3]!];
      const own = Math.hypot(bx - ax, by - ay);
      const sine = Math.abs(dx * (by - ay) - dy * (bx - ax)) / own;
      if (sine > ALONG && Math.min(length, own) > SHORT) continue;
      const part = within(ax - x0!, ay - y0!, bx - x0!, by - y0!, dx, dy, reach);
      if (part && part[1] > 0 && part[0] < length) parts.push([Math.max(0, part[0]), Math.min(length, part[1])]);
    }
    return joined(parts, Math.max(bridge, GRAZE)).map((at) => at / length);
  }
}

/** Between two covered parts so little is not seen, points. */
const GRAZE = 0.05;

/** Where the line from the origin along (dx, dy) runs within `reach` of a piece: a piece and its surroundings are convex. */
function within(
  ax: number,
  ay: number,
  bx: number,
  by: number,
  dx: number,
  dy: number,
  reach: number,
): [number, number] | undefined {
  let [from, to] = [Infinity, -Infinity];
  const take = (lo: number, hi: number): void => {
    if (lo > hi) return;
    from = Math.min(from, lo);
    to = Math.max(to, hi);
  };
  for (const [px, py] of [
    [ax, ay],
    [bx, by],
  ] as const) {
    const along = px * dx + py * dy;
    const off = px * dy - py * dx;
    const half = reach * reach - off * off;
    if (half >= 0) take(along - Math.sqrt(half), along + Math.sqrt(half));
  }
  const own = Math.hypot(bx - ax, by - ay);
  const [ux, uy] = [(bx - ax) / own, (by - ay) / own];
  // s (d · u) - a · u within 0 … own, and |s (d × u) - a × u| within reach.
  const along = slab(dx * ux + dy * uy, ax * ux + ay * uy, 0, own);
  const across = slab(dx * uy - dy * ux, ax * uy - ay * ux, -reach, reach);
  take(Math.max(along[0], across[0]), Math.min(along[1], across[1]));
  return from <= to ? [from, to] : undefined;
}
/** For which s: lo <= s speed - offset <= hi. */
function slab(speed: number, offset: number, lo: number, hi: number): [number, number] {
  if (Math.abs(speed) < 1e-12) return -offset >= lo && -offset <= hi ? [-Infinity, Infinity] : [1, -1];
  const [a, b] = [(lo + offset) / speed, (hi + offset) / speed];
  return a < b ? [a, b] : [b, a];
}

function joined(parts: [number, number][], bridge: number): Parts {
  parts.sort((a, b) => a[0] - b[0]);
  const out: Parts = [];
  for (const [from, to] of parts) {
    if (out.length && from <= out[out.length - 1]! + bridge) out[out.length - 1] = Math.max(out[out.length - 1]!, to);
    else out.push(from, to);
  }
  return out;
}

/** What of 0 … 1 is not in the parts. */
export function uncovered(parts: Parts): Parts {
  const out: Parts = [];
  let at = 0;
  for (let i = 0; i < parts.length; i += 2) {
    if (parts[i]! > at) out.push(at, parts[i]!);
    at = Math.max(at, parts[i + 1]!);
  }
  if (at < 1) out.push(at, 1);
  return out;
}
export const total = (parts: Parts): number => parts.reduce((sum, at, i) => sum + (i % 2 ? at : -at), 0);
