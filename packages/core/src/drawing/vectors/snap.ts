/** Where a point on a drawing is caught: by the ends, middles and crossings of what is drawn, and by what stands on it. */
import Flatbush from 'flatbush';
import type { SheetVectors } from './sheet-vectors.ts';

export type SnapKind = 'end' | 'crossing' | 'centre' | 'middle' | 'perpendicular' | 'parallel' | 'on line';

export interface Snap {
  kind: SnapKind;
  x: number;
  y: number;
  /** Points on the paper between the pointer and the place. */
  distance: number;
}

/** The exact places come before those that are everywhere along a line. */
const RANK: Record<SnapKind, number> = {
  end: 0,
  crossing: 0,
  centre: 1,
  middle: 1,
  perpendicular: 2,
  parallel: 3,
  'on line': 4,
};
/** Of very many lines around one point no more are looked at: enough to find what is near, never slow. */
const MOST_NEAR = 64;

type Segment = readonly [x0: number, y0: number, x1: number, y1: number];

/** What a snapper looks things up in, to be made in a worker and handed over: all of it is buffers. */
export interface SnapParts {
  /** x0, y0, x1, y1 by segment. */
  segments: Float32Array;
  /** x, y, radius, chain by circle. */
  circles: Float32Array;
  lines: ArrayBuffer | undefined;
  round: ArrayBuffer | undefined;
}

/** O(n log n) of segments. */
export function snapParts(vectors: Pick<SheetVectors, 'starts' | 'points' | 'circles'>): SnapParts {
  const segments = segmentsOf(vectors);
  const { circles } = vectors;
  const lines = indexOf(segments.length / 4, (add) => {
    for (let i = 0; i < segments.length; i += 4) {
      const [x0, y0, x1, y1] = [segments[i]!, segments[i + 1]!, segments[i + 2]!, segments[i + 3]!];
      add(Math.min(x0, x1), Math.min(y0, y1), Math.max(x0, x1), Math.max(y0, y1));
    }
  });
  const round = indexOf(circles.length / 4, (add) => {
    for (let i = 0; i < circles.length; i += 4) add(circles[i]!, circles[i + 1]!, circles[i]!, circles[i + 1]!);
  });
  return { segments, circles, lines, round };
}

type AddBox = (left: number, top: number, right: number, bottom: number) => void;
function indexOf(count: number, fill: (add: AddBox) => void): ArrayBuffer | undefined {
  if (!count) return undefined;
  const index = new Flatbush(count, 16, Float32Array);
  fill((...box) => index.add(...box));
  index.finish();
  return index.data as ArrayBuffer;
}

export class Snapper {
  private readonly lines: Flatbush | undefined;
  private readonly round: Flatbush | undefined;

  /** x0, y0, x1, y1 of all that is drawn. */
  get segments(): Float32Array {
    return this.parts.segments;
  }

  constructor(private readonly parts: SnapParts) {
    this.lines = parts.lines && Flatbush.from(parts.lines);
    this.round = parts.round && Flatbush.from(parts.round);
  }

  /**
   * The best place within `reach` points of (x, y). `from`: where the line that is being drawn begins, for what stands at right angles
   * to a line of the drawing or runs along it.
   */
  find(x: number, y: number, reach: number, from?: readonly [number, number]): Snap | undefined {
    const near = this.near(x, y, reach);
    let best: Snap | undefined;
    const offer = (kind: SnapKind, px: number, py: number): void => {
      const distance = Math.hypot(px - x, py - y);
      if (distance > reach) return;
      if (!best || RANK[kind] < RANK[best.kind] || (RANK[kind] === RANK[best.kind] && distance < best.distance))
        best = { kind, x: px, y: py, distance };
    };
    for (const [i, one] of near.entries()) {
      const [x0, y0, x1, y1] = one;
      offer('end', x0, y0);
      offer('end', x1, y1);
      offer('middle', (x0 + x1) / 2, (y0 + y1) / 2);
      for (let k = i + 1; k < near.length; k++) {
        const at = crossing(one, near[k]!);
        if (at) offer('crossing', ...at);
      }
      const foot = nearestOn(one, x, y);
      offer('on line', ...foot);
      if (!from) continue;
      const square = nearestOn(one, from[0], from[1], true);
      if (onSegment(one, square)) offer('perpendicular', ...square);
      const beside = alongside(one, from, x, y);
      if (beside) offer('parallel', ...beside);
    }
    for (const i of this.round?.search(x - reach, y - reach, x + reach, y + reach) ?? [])
      offer('centre', this.parts.circles[4 * i]!, this.parts.circles[4 * i + 1]!);
    return best;
  }

  private segment(i: number): Segment {
    const { segments } = this.parts;
    return [segments[4 * i]!, segments[4 * i + 1]!, segments[4 * i + 2]!, segments[4 * i + 3]!];
  }

  private near(x: number, y: number, reach: number): Segment[] {
    // The box of a slanting line holds much that is far from it.
    const isNear = (i: number): boolean => {
      const [px, py] = nearestOn(this.segment(i), x, y);
      return Math.hypot(px - x, py - y) <= reach;
    };
    return (this.lines?.neighbors(x, y, MOST_NEAR, reach, isNear) ?? []).map((i) => this.segment(i));
  }
}

function segmentsOf({ starts, points }: Pick<SheetVectors, 'starts' | 'points'>): Float32Array {
  const chains = starts.length - 1;
  const segments = new Float32Array(4 * Math.max(0, points.length / 2 - chains));
  let at = 0;
  for (let chain = 0; chain < chains; chain++)
    for (let i = starts[chain]!; i + 1 < starts[chain + 1]!; i++, at += 4)
      segments.set(points.subarray(2 * i, 2 * i + 4), at);
  return segments;
}

/** The nearest point on a segment, or on the whole line that it lies on. */
function nearestOn([x0, y0, x1, y1]: Segment, x: number, y: number, whole = false): [number, number] {
  const [dx, dy] = [x1 - x0, y1 - y0];
  const length = dx * dx + dy * dy;
  if (!length) return [x0, y0];
  const t = ((x - x0) * dx + (y - y0) * dy) / length;
  const within = whole ? t : Math.max(0, Math.min(1, t));
  return [x0 + within * dx, y0 + within * dy];
}

const onSegment = ([x0, y0, x1, y1]: Segment, [x, y]: readonly [number, number]): boolean =>
  Math.hypot(x - x0, y - y0) + Math.hypot(x - x1, y - y1) <= Math.hypot(x1 - x0, y1 - y0) * 1.000001 + 1e-6;

function crossing([ax, ay, bx, by]: Segment, [cx, cy, dx, dy]: Segment): [number, number] | undefined {
  const [ux, uy, vx, vy] = [bx - ax, by - ay, dx - cx, dy - cy];
  const area = ux * vy - uy * vx;
  if (Math.abs(area) < 1e-9) return undefined;
  const t = ((cx - ax) * vy - (cy - ay) * vx) / area;
  const s = ((cx - ax) * uy - (cy - ay) * ux) / area;
  const edge = 1e-6;
  if (t < -edge || t > 1 + edge || s < -edge || s > 1 + edge) return undefined;
  return [ax + t * ux, ay + t * uy];
}

/** The point from `from` in the direction of a segment that is nearest to (x, y), where the pointer goes that way already. */
function alongside(
  [x0, y0, x1, y1]: Segment,
  from: readonly [number, number],
  x: number,
  y: number,
): [number, number] | undefined {
  const length = Math.hypot(x1 - x0, y1 - y0);
  if (!length) return undefined;
  const [ux, uy] = [(x1 - x0) / length, (y1 - y0) / length];
  const t = (x - from[0]) * ux + (y - from[1]) * uy;
  return Math.abs(t) > 1e-6 ? [from[0] + t * ux, from[1] + t * uy] : undefined;
}
