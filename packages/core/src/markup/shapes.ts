/** A point on a page in points (1/72 inch), origin at the upper left of the page as displayed unrotated. */
export type Point = [x: number, y: number];

export type MarkupShape =
  | { kind: 'cloud'; points: Point[] }
  | { kind: 'callout'; target: Point; box: [x: number, y: number, width: number, height: number] }
  | { kind: 'rectangle'; points: [Point, Point] }
  | { kind: 'arrow'; points: [Point, Point] };

export const MARKUP_STATUSES = ['note', 'ask', 'act', 'settled', 'declined'] as const;
export type MarkupStatus = (typeof MARKUP_STATUSES)[number];

const fixed = (value: number): string => String(Math.round(value * 100) / 100);

/**
 * SVG path of a revision cloud along a closed polygon: equal outward arcs of about `bulge` points chord.
 * The polygon may run either way round; arcs always bulge outwards.
 */
export function cloudPath(points: readonly Point[], bulge = 14): string {
  if (points.length < 2) return '';
  const ring = points.length === 2 ? rectangleRing(points[0]!, points[1]!) : points;
  const sweep = signedArea(ring) > 0 ? 1 : 0;
  let path = `M${fixed(ring[0]![0])} ${fixed(ring[0]![1])}`;
  for (let i = 0; i < ring.length; i++) {
    const [ax, ay] = ring[i]!;
    const [bx, by] = ring[(i + 1) % ring.length]!;
    const length = Math.hypot(bx - ax, by - ay);
    const arcs = Math.max(1, Math.round(length / bulge));
    const radius = fixed((length / arcs) * 0.55);
    for (let k = 1; k <= arcs; k++) {
      const x = fixed(ax + ((bx - ax) * k) / arcs);
      const y = fixed(ay + ((by - ay) * k) / arcs);
      path += `A${radius} ${radius} 0 0 ${sweep} ${x} ${y}`;
    }
  }
  return `${path}Z`;
}

/** The four corners of the rectangle between two opposite corners, clockwise on the screen. */
export function rectangleRing(a: Point, b: Point): Point[] {
  const [left, right] = [Math.min(a[0], b[0]), Math.max(a[0], b[0])];
  const [top, bottom] = [Math.min(a[1], b[1]), Math.max(a[1], b[1])];
  return [
    [left, top],
    [right, top],
    [right, bottom],
    [left, bottom],
  ];
}

/** Shoelace area; positive when the ring runs clockwise on the screen (y down). */
export function signedArea(ring: readonly Point[]): number {
  let twice = 0;
  for (let i = 0; i < ring.length; i++) {
    const [ax, ay] = ring[i]!;
    const [bx, by] = ring[(i + 1) % ring.length]!;
    twice += ax * by - bx * ay;
  }
  return twice / 2;
}

/** Where a callout's leader meets its box: the middle of the side nearest to the target. */
export function leaderStart(target: Point, [x, y, width, height]: [number, number, number, number]): Point {
  const [centreX, centreY] = [x + width / 2, y + height / 2];
  const [dx, dy] = [target[0] - centreX, target[1] - centreY];
  if (Math.abs(dx) * height > Math.abs(dy) * width) return [dx > 0 ? x + width : x, centreY];
  return [centreX, dy > 0 ? y + height : y];
}

/** The box that holds a shape, for zooming to it: [x, y, width, height]. */
export function shapeBounds(shape: MarkupShape): [number, number, number, number] {
  const points: Point[] =
    shape.kind === 'callout'
      ? [shape.target, [shape.box[0], shape.box[1]], [shape.box[0] + shape.box[2], shape.box[1] + shape.box[3]]]
      : shape.points;
  const xs = points.map(([x]) => x);
  const ys = points.map(([, y]) => y);
  const [left, top] = [Math.min(...xs), Math.min(...ys)];
  return [left, top, Math.max(...xs) - left, Math.max(...ys) - top];
}
