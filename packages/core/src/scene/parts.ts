/**
 * A large package in parts, each a package of its own: first what one sees from afar, the rest by place, so that a picture is there
 * before all of it is and far detail can be left out. An element lies in one part.
 */
import { addInstance, emptyBounds } from './bounds.ts';
import type { Instances, PartPlace, ScenePackage } from './package.ts';
import { rowStarts } from './row-starts.ts';

/** Smaller packages stay whole. Bytes. */
const WORTH_PARTS = 1e6;
/** Of all bytes, that come first. */
const FIRST = 0.1;
/** Bytes of a further part, and how many there are at most: each is drawn on its own. */
const [PART_BYTES, MOST_PARTS] = [2e6, 16];
/** Bytes of an instance, a vertex and an index. */
const [INSTANCE, VERTEX, INDEX] = [60, 6, 4];

/** Element rows with what they weigh and where they are. */
interface Weighed {
  /** Rows that have instances. */
  rows: Uint32Array;
  /** By row: first instance in `order`, and the next row's. */
  starts: Uint32Array;
  order: Uint32Array;
  /** By row: six numbers each, metres from the origin. */
  boxes: Float32Array;
  /** By row: diagonal of the box, metres. */
  size: Float32Array;
  /** By row: bytes, each shape with the first row that uses it. */
  bytes: Float64Array;
}

/** The first part names the others; a small package stays as it is. O(n log n), n instances. */
export function splitScene(scene: ScenePackage): ScenePackage[] {
  const weighed = weigh(scene);
  const { rows, bytes, size, boxes } = weighed;
  const total = rows.reduce((sum, row) => sum + bytes[row]!, 0);
  if (total < WORTH_PARTS) return [scene];
  const bySize = rows.slice().sort((a, b) => size[b]! - size[a]! || a - b);
  let [count, taken] = [0, 0];
  while (taken < total * FIRST) taken += bytes[bySize[count++]!]!;
  const rest = bySize.subarray(count);
  if (!rest.length) return [scene];
  const further = Math.min(MOST_PARTS, Math.ceil((total - taken) / PART_BYTES));
  const groups = byPlace(rest, boxes, bytes, further);
  const of = new Uint16Array(weighed.starts.length - 1);
  groups.forEach((group, i) => group.forEach((row) => (of[row] = i + 1)));
  const parts = groups.map((group) => partOf(scene, group, weighed));
  const places = groups.map((rows, i): PartPlace => ({
    bounds: parts[i]!.bounds,
    largest: rows.reduce((most, row) => Math.max(most, size[row]!), 0),
    bytes: encodedBytes(parts[i]!),
    elements: rows.length,
  }));
  const first = partOf(scene, bySize.subarray(0, count), weighed);
  // What is drawn first already stands for all of it.
  return [{ ...first, bounds: scene.bounds, parts: { of, places } }, ...parts];
}

/** One package of all parts, its instances in the order of rows again. O(size). */
export function joinScenes(all: readonly ScenePackage[]): ScenePackage {
  const [first] = all as [ScenePackage, ...ScenePackage[]];
  if (all.length === 1) return first;
  const shapeStarts = sums(all.map(({ shapes }) => shapes.indexStarts.length - 1));
  const vertices = sums(all.map(({ shapes }) => shapes.vertexStarts.at(-1)!));
  const indices = sums(all.map(({ shapes }) => shapes.indexStarts.at(-1)!));
  const moved = (column: (part: ScenePackage) => Uint32Array, by: Uint32Array): Uint32Array =>
    joined(all.map((part, i) => column(part).map((value) => value + by[i]!)));
  const starts = (column: (part: ScenePackage) => Uint32Array, by: Uint32Array): Uint32Array =>
    joined([
      ...all.map((part, i) =>
        column(part)
          .slice(0, -1)
          .map((value) => value + by[i]!),
      ),
      Uint32Array.of(by.at(-1)!),
    ]);
  return {
    origin: first.origin,
    bounds: first.bounds,
    shapes: {
      vertexStarts: starts(({ shapes }) => shapes.vertexStarts, vertices),
      indexStarts: starts(({ shapes }) => shapes.indexStarts, indices),
      positions: joined(all.map(({ shapes }) => shapes.positions)),
      indices: joined(all.map(({ shapes }) => shapes.indices)),
    },
    instances: inRowOrder({
      shape: moved(({ instances }) => instances.shape, shapeStarts),
      element: joined(all.map(({ instances }) => instances.element)),
      matrix: joined(all.map(({ instances }) => instances.matrix)),
      colour: joined(all.map(({ instances }) => instances.colour)),
    }),
  };
}

function inRowOrder({ shape, element, matrix, colour }: Instances): Instances {
  const rows = element.reduce((most, row) => Math.max(most, row + 1), 0);
  const next = rowStarts(element, rows);
  const ordered: Instances = {
    shape: new Uint32Array(shape.length),
    element: new Uint32Array(element.length),
    matrix: new Float32Array(matrix.length),
    colour: new Uint8Array(colour.length),
  };
  element.forEach((row, from) => {
    const to = next[row]!++;
    ordered.shape[to] = shape[from]!;
    ordered.element[to] = row;
    for (let k = 0; k < 12; k++) ordered.matrix[to * 12 + k] = matrix[from * 12 + k]!;
    for (let k = 0; k < 4; k++) ordered.colour[to * 4 + k] = colour[from * 4 + k]!;
  });
  return ordered;
}

/** 0, the first, the first and the second … up to the sum of all. */
function sums(counts: readonly number[]): Uint32Array {
  const all = new Uint32Array(counts.length + 1);
  counts.forEach((count, i) => (all[i + 1] = all[i]! + count));
  return all;
}

function joined<T extends Uint8Array | Uint16Array | Uint32Array | Float32Array>(parts: readonly T[]): T {
  const all = new (parts[0]!.constructor as new (length: number) => T)(
    parts.reduce((sum, { length }) => sum + length, 0),
  );
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

const shapeBytes = ({ vertexStarts, indexStarts }: ScenePackage['shapes'], shape: number): number =>
  (vertexStarts[shape + 1]! - vertexStarts[shape]!) * VERTEX + (indexStarts[shape + 1]! - indexStarts[shape]!) * INDEX;

const encodedBytes = ({ shapes, instances }: ScenePackage): number =>
  instances.shape.length * INSTANCE + shapes.positions.byteLength + shapes.indices.byteLength;

function weigh({ shapes, instances }: ScenePackage): Weighed {
  const { element, shape } = instances;
  const count = element.reduce((most, row) => Math.max(most, row + 1), 0);
  const starts = rowStarts(element, count);
  const next = starts.slice();
  const order = new Uint32Array(element.length);
  element.forEach((row, i) => (order[next[row]!++] = i));
  const boxes = new Float32Array(count * 6);
  const size = new Float32Array(count);
  const bytes = new Float64Array(count);
  const known = new Uint8Array(shapes.indexStarts.length);
  const box = emptyBounds();
  for (let row = 0; row < count; row++) {
    box.fill(Infinity, 0, 3).fill(-Infinity, 3);
    for (let k = starts[row]!; k < starts[row + 1]!; k++) {
      const i = order[k]!;
      addInstance(box, instances.matrix, i);
      bytes[row]! += INSTANCE;
      const used = shape[i]!;
      if (!known[used]) bytes[row]! += shapeBytes(shapes, used);
      known[used] = 1;
    }
    boxes.set(box, row * 6);
    size[row] = Math.hypot(box[3] - box[0], box[4] - box[1], box[5] - box[2]);
  }
  const rows = Uint32Array.from({ length: count }, (_, row) => row).filter((row) => starts[row + 1]! > starts[row]!);
  return { rows, starts, order, boxes, size, bytes };
}

/** Rows in `parts` groups of about as many bytes, each in a box of its own: halved along the longest side again and again. */
function byPlace(rows: Uint32Array, boxes: Float32Array, bytes: Float64Array, parts: number): Uint32Array[] {
  if (parts <= 1 || rows.length <= 1) return [rows];
  const middle = (row: number, axis: number): number => boxes[row * 6 + axis]! + boxes[row * 6 + 3 + axis]!;
  const span = [0, 1, 2].map((axis) => {
    let [low, high] = [Infinity, -Infinity];
    for (const row of rows) {
      const at = middle(row, axis);
      if (at < low) low = at;
      if (at > high) high = at;
    }
    return high - low;
  });
  const axis = span.indexOf(Math.max(...span));
  const along = rows.slice().sort((a, b) => middle(a, axis) - middle(b, axis) || a - b);
  const before = parts >> 1;
  const wanted = (along.reduce((sum, row) => sum + bytes[row]!, 0) * before) / parts;
  let [count, taken] = [0, 0];
  while (count < along.length - 1 && (count === 0 || taken < wanted)) taken += bytes[along[count++]!]!;
  return [
    ...byPlace(along.subarray(0, count), boxes, bytes, before),
    ...byPlace(along.subarray(count), boxes, bytes, parts - before),
  ];
}

function partOf({ origin, shapes, instances }: ScenePackage, rows: Uint32Array, weighed: Weighed): ScenePackage {
  const { starts, order, boxes } = weighed;
  const sorted = rows.slice().sort();
  const taken = new Uint32Array(sorted.reduce((sum, row) => sum + starts[row + 1]! - starts[row]!, 0));
  let count = 0;
  for (const row of sorted) for (let k = starts[row]!; k < starts[row + 1]!; k++) taken[count++] = order[k]!;
  const numbers = new Map<number, number>();
  const shape = taken.map((i) => {
    const old = instances.shape[i]!;
    if (!numbers.has(old)) numbers.set(old, numbers.size);
    return numbers.get(old)!;
  });
  const used = [...numbers.keys()];
  const slices = <T extends Uint16Array | Uint32Array>(all: T, from: Uint32Array, width: number): T =>
    joined(used.map((old) => all.subarray(from[old]! * width, from[old + 1]! * width) as T));
  const counts = (from: Uint32Array): Uint32Array => sums(used.map((old) => from[old + 1]! - from[old]!));
  const matrix = new Float32Array(taken.length * 12);
  const colour = new Uint8Array(taken.length * 4);
  for (let to = 0; to < taken.length; to++) {
    const from = taken[to]!;
    for (let k = 0; k < 12; k++) matrix[to * 12 + k] = instances.matrix[from * 12 + k]!;
    for (let k = 0; k < 4; k++) colour[to * 4 + k] = instances.colour[from * 4 + k]!;
  }
  const bounds = emptyBounds();
  for (const row of sorted)
    for (let axis = 0; axis < 3; axis++) {
      bounds[axis] = Math.min(bounds[axis]!, boxes[row * 6 + axis]!);
      bounds[axis + 3] = Math.max(bounds[axis + 3]!, boxes[row * 6 + 3 + axis]!);
    }
  return {
    origin,
    bounds,
    shapes: {
      vertexStarts: counts(shapes.vertexStarts),
      indexStarts: counts(shapes.indexStarts),
      positions: slices(shapes.positions, shapes.vertexStarts, 3),
      indices: slices(shapes.indices, shapes.indexStarts, 1),
    },
    instances: { shape, element: taken.map((i) => instances.element[i]!), matrix, colour },
  };
}
