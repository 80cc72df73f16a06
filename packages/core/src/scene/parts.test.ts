import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addInstance, emptyBounds, type Bounds } from './bounds.ts';
import { boxes } from './boxes.fixture.ts';
import { decodeScene, encodeScene, type ScenePackage } from './package.ts';
import { joinScenes, splitScene } from './parts.ts';

/** A town of `count` boxes, a few of them large, each with a shape of its own that weighs something. */
function town(count: number, seed: number, heavy: number): ScenePackage {
  let state = seed + 1;
  const random = (): number => (state = (state * 16807) % 2147483647) / 2147483647;
  const pack = boxes(
    Array.from({ length: count }, (_, i) => {
      const size = i % 50 ? 0.2 + random() : 20 + random() * 30;
      return { min: [random() * 300, random() * 90, random() * 30], size: [size, size, size] };
    }),
  );
  const [one, { length }] = [pack.shapes.positions, pack.shapes.indices];
  const shapes = Math.min(count, heavy);
  pack.shapes = {
    vertexStarts: Uint32Array.from({ length: shapes + 1 }, (_, i) => i * 8),
    indexStarts: Uint32Array.from({ length: shapes + 1 }, (_, i) => i * length),
    positions: Uint16Array.from(
      { length: shapes * 24 },
      (_, i) => one[i % 24]! - (one[i % 24]! && Math.floor(i / 24) % 9),
    ),
    indices: Uint32Array.from({ length: shapes * length }, (_, i) => pack.shapes.indices[i % length]!),
  };
  pack.instances.shape = Uint32Array.from({ length: count }, (_, i) => i % shapes);
  // Some elements have two instances.
  pack.instances.element = Uint32Array.from({ length: count }, (_, i) => Math.floor((i * 2) / 3));
  return pack;
}

/** What is drawn: of each instance its element, place, colour and triangles. */
function drawn({ shapes, instances: { shape, element, matrix, colour } }: ScenePackage): string[] {
  return Array.from(shape, (number, i) => {
    const corners = shapes.positions.subarray(shapes.vertexStarts[number]! * 3, shapes.vertexStarts[number + 1]! * 3);
    const triangles = shapes.indices.subarray(shapes.indexStarts[number], shapes.indexStarts[number + 1]);
    return [
      element[i],
      matrix.subarray(i * 12, i * 12 + 12),
      colour.subarray(i * 4, i * 4 + 4),
      corners,
      triangles,
    ].join('|');
  }).sort();
}

/** Around the middles of all elements of a part. */
function middles({ instances: { element, matrix } }: ScenePackage): Bounds {
  const all = emptyBounds();
  for (let i = 0; i < element.length;) {
    const box = emptyBounds();
    for (const row = element[i]; element[i] === row; i++) {
      addInstance(box, matrix, i);
    }
    for (let axis = 0; axis < 3; axis++) {
      const middle = Math.fround(box[axis]!) + Math.fround(box[axis + 3]!);
      all[axis] = Math.min(all[axis]!, middle);
      all[axis + 3] = Math.max(all[axis + 3]!, middle);
    }
  }
  return all;
}

const towns = fc.record({
  count: fc.integer({ min: 1, max: 2500 }),
  seed: fc.nat(1e6),
  heavy: fc.integer({ min: 1, max: 2500 }),
});

describe('a package in parts', () => {
  it('is all there, nothing twice, when the parts are put together again', () => {
    fc.assert(
      fc.property(towns, ({ count, seed, heavy }) => {
        const scene = town(count * 6, seed, heavy * 3);
        const parts = splitScene(scene).map((part) => decodeScene(encodeScene(part).buffer));
        const joined = joinScenes(parts);
        expect(drawn(joined)).toEqual(drawn(scene));
        expect(joined.bounds).toEqual(scene.bounds);
      }),
      { numRuns: 8 },
    );
  });

  const scene = town(20_000, 7, 10_000);
  const parts = splitScene(scene);
  const [first, ...others] = parts as [ScenePackage, ...ScenePackage[]];
  const size = (part: ScenePackage): number => encodeScene({ ...part, parts: undefined }).length;

  it('begins with about a tenth of it: what is largest', () => {
    expect(others.length).toBeGreaterThan(1);
    const share = size(first) / (size(first) + others.reduce((sum, part) => sum + size(part), 0));
    expect(share).toBeGreaterThan(0.05);
    expect(share).toBeLessThan(0.2);
    const widths = ({ instances: { matrix } }: ScenePackage) => matrix.filter((_, i) => i % 12 === 0);
    const largestLeft = Math.max(...first.parts!.places.map(({ largest }) => largest));
    const wide = widths(scene).filter((width) => width * Math.sqrt(3) > largestLeft * 1.001).length;
    expect(widths(first).filter((width) => width * Math.sqrt(3) > largestLeft * 1.001)).toHaveLength(wide);
  });

  it('says of every further part where it is, how much it is, and which elements it has', () => {
    others.forEach(({ instances, bounds }, i) => {
      const place = first.parts!.places[i]!;
      expect(place.bounds).toEqual(bounds);
      const rows = new Set(instances.element);
      expect(place.elements).toBe(rows.size);
      expect([...rows].every((row) => first.parts!.of[row] === i + 1)).toBe(true);
      expect(Math.abs(place.bytes / size(others[i]!) - 1)).toBeLessThan(0.1);
      // An element's instances lie beside each other.
      expect(instances.element.filter((row, at) => row !== instances.element[at - 1])).toHaveLength(rows.size);
    });
    expect([...new Set(first.instances.element)].every((row) => first.parts!.of[row] === 0)).toBe(true);
  });

  it('has parts of like weight, each in its own place', () => {
    const weights = others.map(size);
    expect(Math.max(...weights) / Math.min(...weights)).toBeLessThan(2.5);
    const spans = others.map(middles);
    const apart = (a: Bounds, b: Bounds): boolean =>
      [0, 1, 2].some((axis) => a[axis + 3]! <= b[axis]! || b[axis + 3]! <= a[axis]!);
    spans.forEach((one, i) => spans.slice(i + 1).forEach((other) => expect(apart(one, other)).toBe(true)));
  });

  it('stays whole where it is small', () => {
    const small = town(100, 1, 5);
    expect(splitScene(small)).toEqual([small]);
    expect(splitScene(boxes([]))).toHaveLength(1);
  });
});
