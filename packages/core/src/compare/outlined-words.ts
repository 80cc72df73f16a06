/** Words that are drawn as the outlines of their letters: nobody can read them, but they are told apart by their shapes. */
import Flatbush from 'flatbush';
import type { SheetVectors } from '../drawing/vectors/sheet-vectors.ts';
import { around, boundsOf, type Box } from './bounds.ts';
import { Groups } from './groups.ts';
import type { TextLine } from './text-lines.ts';

/** Letters are this high or wide, points. */
const [LEAST, MOST] = [0.4, 40];
/** One letter by itself is no larger than this, points. */
const LONE = 20;
/** Letters of a line are this near to each other, in the height of the larger one. */
const GAP = 0.55;
/** A shape with fewer corners is an arrow, a dot, a bar: words have others too. */
const CORNERS = 6;

/** Areas of a sheet that are letters, by line: numbers of chains. O(n log n) of its areas. */
export function outlinedLinesOf({ starts, styleOf, points, styles }: SheetVectors): number[][] {
  const boxAt = (chain: number): Box => boundsOf(points.subarray(2 * starts[chain]!, 2 * starts[chain + 1]!));
  const isArea = (chain: number): boolean => styles[styleOf[chain]!]!.kind === 'area';
  const sizeOf = ([x0, y0, x1, y1]: Box): number => Math.max(x1 - x0, y1 - y0);
  const small: { chain: number; box: Box }[] = [];
  // What has a line around it is a thing that is drawn, not a letter.
  const outlines = new Set<string>();
  for (let chain = 0; chain < styleOf.length; chain++) {
    const box = boxAt(chain);
    const size = sizeOf(box);
    if (size < LEAST || size > MOST) continue;
    if (isArea(chain)) small.push({ chain, box });
    else outlines.add(nameOf(box));
  }
  const letters = small.filter(({ box }) => !outlines.has(nameOf(box)));
  const boxes = letters.map(({ box }) => box);
  const across = joined(boxes, 0);
  const lone = across.flatMap((group) => (group.length === 1 ? group : []));
  const upright = joined(
    lone.map((i) => boxes[i]!),
    1,
  ).map((group) => group.map((k) => lone[k]!));
  const hasCorners = (i: number): boolean => {
    const { chain } = letters[i]!;
    return starts[chain + 1]! - starts[chain]! >= CORNERS;
  };
  const isLine = (group: readonly number[]): boolean =>
    group.some(hasCorners) && (group.length > 1 || sizeOf(boxes[group[0]!]!) <= LONE);
  return [...across.filter((group) => group.length > 1), ...upright]
    .filter(isLine)
    .map((group) => group.map((i) => letters[i]!.chain));
}
const nameOf = (box: Box): string => box.map((value) => Math.round(4 * value)).join();

/** Shapes that stand beside each other along an axis (0: x, 1: y). */
function joined(boxes: readonly Box[], axis: 0 | 1): number[][] {
  if (boxes.length < 2) return boxes.map((_, i) => [i]);
  const index = new Flatbush(boxes.length);
  for (const box of boxes) index.add(...box);
  index.finish();
  const groups = new Groups(boxes.length);
  const [from, low] = axis ? ([1, 0] as const) : ([0, 1] as const);
  const tall = (box: Box): number => box[low + 2]! - box[low]!;
  for (const [i, box] of boxes.entries()) {
    const reach = GAP * tall(box);
    const near = index.search(box[0] - reach, box[1] - reach, box[2] + reach, box[3] + reach);
    for (const k of near) {
      const other = boxes[k]!;
      if (k === i || tall(other) > tall(box) || groups.root(k) === groups.root(i)) continue;
      const beside = overlap(box, other, low) >= 0.5 * tall(other) && -overlap(box, other, from) <= reach;
      if (beside || isAccent(other, box, from)) groups.join(i, k);
    }
  }
  return groups.list();
}

/** How far two boxes lie over each other along an axis; what is less than nothing is the gap between them. */
const overlap = (a: Box, b: Box, axis: 0 | 1): number =>
  Math.min(a[axis + 2]!, b[axis + 2]!) - Math.max(a[axis]!, b[axis]!);

/** A dot or an accent over a letter, or below it. */
function isAccent(small: Box, letter: Box, along: 0 | 1): boolean {
  const across = along ? 0 : 1;
  const [height, of] = [small[across + 2]! - small[across]!, letter[across + 2]! - letter[across]!];
  const over = overlap(small, letter, along) >= 0.5 * (small[along + 2]! - small[along]!);
  return over && height < 0.4 * of && -overlap(small, letter, across) <= 0.3 * of;
}

type PointMap = (x: number, y: number) => readonly [number, number];

/** Height of a large letter in the size of its font. */
const CAPITAL = 0.8;
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!;

/** Lines of letters where another page has them, their keys made of the shapes that `shapes` knows. Their text is empty. */
export function outlinedTexts(
  { starts, points }: SheetVectors,
  lines: readonly (readonly number[])[],
  map: PointMap,
  shapes: LetterShapes,
): TextLine[] {
  return lines.map((chains) => {
    const rings = chains.map((chain) => {
      const ring = points.slice(2 * starts[chain]!, 2 * starts[chain + 1]!);
      for (let i = 0; i < ring.length; i += 2) ring.set(map(ring[i]!, ring[i + 1]!), i);
      return { ring, box: boundsOf(ring) as Box };
    });
    const [x0, y0, x1, y1] = rings.map(({ box }) => box).reduce(around);
    const upright = y1 - y0 > x1 - x0;
    const letters = stacked(rings, upright ? 1 : 0);
    if (upright) letters.reverse();
    const key = letters.map((parts) => shapes.letterOf(parts.map(({ ring }) => ring))).join('');
    const boxes = letters.map((parts) => parts.map(({ box }) => box).reduce(around));
    // Most letters stand on the base line, some go below it.
    const base = median(boxes.map((box) => box[upright ? 2 : 3]));
    const size = Math.max(...boxes.map((box) => (upright ? box[2] - box[0] : box[3] - box[1]))) / CAPITAL;
    return upright
      ? { text: '', key, x: base, y: y1, width: y1 - y0, size, angle: -Math.PI / 2 }
      : { text: '', key, x: x0, y: base, width: x1 - x0, size, angle: 0 };
  });
}

interface Ring {
  ring: Float32Array;
  box: Box;
}
/** Rings by letter, in the order along the axis: dots, accents and counters belong to what they stand over. */
function stacked(rings: readonly Ring[], axis: 0 | 1): Ring[][] {
  const middle = ({ box }: Ring): number => box[axis]! + box[axis + 2]!;
  const sorted = [...rings].sort((a, b) => a.box[axis]! - b.box[axis]! || b.box[axis + 2]! - a.box[axis + 2]!);
  const letters: Ring[][] = [];
  let end = -Infinity;
  for (const one of sorted) {
    if (middle(one) / 2 < end) letters.at(-1)!.push(one);
    else letters.push([one]);
    end = Math.max(end, one.box[axis + 2]!);
  }
  return letters;
}

/** Area, centre and spread of a letter from the corner of its box: they do not depend on where its outline begins. */
interface Measures {
  letter: string;
  values: readonly number[];
}
/** Two letters are one where their measures differ by less than this, in points and in parts of their size. */
const [SAME, SAME_PART] = [0.12, 0.02];

/** Names shapes of letters: equal ones by the same sign, which says nothing else. */
export class LetterShapes {
  private readonly known = new Map<string, Measures[]>();
  private count = 0;

  letterOf(rings: readonly Float32Array[]): string {
    const values = measuresOf(rings);
    const [width, height] = [Math.round(values[0]!), Math.round(values[1]!)];
    for (const dx of [0, -1, 1])
      for (const dy of [0, -1, 1])
        for (const one of this.known.get(`${width + dx} ${height + dy}`) ?? [])
          if (values.every((value, i) => Math.abs(value - one.values[i]!) <= SAME + SAME_PART * Math.abs(value)))
            return one.letter;
    // Signs that mean nothing by themselves.
    const letter = String.fromCodePoint(0xf0000 + this.count++);
    const key = `${width} ${height}`;
    this.known.set(key, [...(this.known.get(key) ?? []), { letter, values }]);
    return letter;
  }
}

/** All in points: width, height, root of the area, centre, radii of inertia along x and y, and their product. */
function measuresOf(rings: readonly Float32Array[]): number[] {
  const [x0, y0, x1, y1] = rings.map((ring): Box => boundsOf(ring)).reduce(around);
  let [area, mx, my, ixx, iyy, ixy] = [0, 0, 0, 0, 0, 0];
  for (const ring of rings) {
    // Counters turn the other way in most programs, not in all: what lies within is taken off by its own area.
    const own = momentsOf(ring, x0, y0);
    const sign = Math.sign(own[0]!) * (rings.length > 1 && isWithin(ring, rings) ? -1 : 1);
    area += sign * own[0]!;
    mx += sign * own[1]!;
    my += sign * own[2]!;
    ixx += sign * own[3]!;
    iyy += sign * own[4]!;
    ixy += sign * own[5]!;
  }
  const a = Math.abs(area) || 1;
  const [cx, cy] = [mx / a, my / a];
  const root = (value: number): number => Math.sign(value) * Math.sqrt(Math.abs(value));
  return [
    x1 - x0,
    y1 - y0,
    Math.sqrt(Math.abs(area)),
    cx,
    cy,
    root(ixx / a - cx * cx),
    root(iyy / a - cy * cy),
    root(ixy / a - cx * cy) / 2,
  ];
}

/** Area and moments of a ring about a point (Green's theorem). */
function momentsOf(ring: Float32Array, x0: number, y0: number): number[] {
  const sums = [0, 0, 0, 0, 0, 0];
  const count = ring.length / 2;
  for (let i = 0; i < count; i++) {
    const k = (i + 1) % count;
    const [ax, ay] = [ring[2 * i]! - x0, ring[2 * i + 1]! - y0];
    const [bx, by] = [ring[2 * k]! - x0, ring[2 * k + 1]! - y0];
    const cross = ax * by - bx * ay;
    sums[0]! += cross / 2;
    sums[1]! += ((ax + bx) * cross) / 6;
    sums[2]! += ((ay + by) * cross) / 6;
    sums[3]! += ((ax * ax + ax * bx + bx * bx) * cross) / 12;
    sums[4]! += ((ay * ay + ay * by + by * by) * cross) / 12;
    sums[5]! += ((ax * by + 2 * ax * ay + 2 * bx * by + bx * ay) * cross) / 24;
  }
  return sums;
}
function isWithin(ring: Float32Array, rings: readonly Float32Array[]): boolean {
  const [x0, y0, x1, y1] = boundsOf(ring);
  return rings.some((other) => {
    if (other === ring) return false;
    const [u0, v0, u1, v1] = boundsOf(other);
    return u0 < x0 && v0 < y0 && u1 > x1 && v1 > y1;
  });
}
