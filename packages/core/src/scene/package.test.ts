import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { addUnitCube, emptyBounds } from './bounds.ts';
import { MeshCollector } from './mesh-collector.ts';
import { placeUnitCube } from './matrix.ts';
import { decodeScene, encodeScene, type ScenePackage } from './package.ts';
import { encodeProperties, readElementProperties } from './property-file.ts';

const IDENTITY = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** The eight corners of a box and its twelve triangles, six floats a vertex. */
function box([x, y, z]: number[], [dx, dy, dz]: number[]): [Float32Array, Uint32Array] {
  const corners = Array.from({ length: 8 }, (_, i) => [
    x! + (i & 1 ? dx! : 0),
    y! + (i & 2 ? dy! : 0),
    z! + (i & 4 ? dz! : 0),
    0,
    0,
    1,
  ]);
  const faces = [
    0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5,
  ];
  return [Float32Array.from(corners.flat()), Uint32Array.from(faces)];
}

describe('shapes', () => {
  it('of equal form are stored once, whatever their size and place', () => {
    const collector = new MeshCollector();
    const small = collector.add(...withStride(box([0, 0, 0], [1, 1, 1])))!;
    const large = collector.add(...withStride(box([5, -3, 2], [10, 0.2, 4])))!;
    expect(large.shape).toBe(small.shape);
    expect(large.min).toEqual([5, -3, 2].map(Math.fround));
    expect(collector.finish().vertexStarts).toEqual(Uint32Array.of(0, 8));
  });

  it('lose nothing beyond a 65,535th of their size', () => {
    const coordinate = fc.float({ min: -1000, max: 1000, noNaN: true });
    fc.assert(
      fc.property(fc.array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 3, maxLength: 3 }), (points) => {
        const collector = new MeshCollector();
        const placement = collector.add(Float32Array.from(points.flat()), 3, Uint32Array.of(0, 1, 2));
        if (!placement) return;
        const { positions, indices } = collector.finish();
        indices.forEach((vertex, corner) => {
          for (let axis = 0; axis < 3; axis++) {
            const back = placement.min[axis]! + (positions[vertex * 3 + axis]! / 65535) * placement.size[axis]!;
            expect(Math.abs(back - points[corner]![axis]!)).toBeLessThanOrEqual(placement.size[axis]! / 65535 + 1e-3);
          }
        });
      }),
    );
  });

  it('that collapse to nothing are left out', () => {
    expect(
      new MeshCollector().add(Float32Array.of(1, 1, 1, 1, 1, 1, 1, 1, 1), 3, Uint32Array.of(0, 1, 2)),
    ).toBeUndefined();
  });
});
const withStride = ([vertices, indices]: [Float32Array, Uint32Array]): [Float32Array, number, Uint32Array] => [
  vertices,
  6,
  indices,
];

describe('placing the unit cube', () => {
  const placed = (yUp: number[], min: [number, number, number], size: [number, number, number]): Float64Array => {
    const out = new Float64Array(20);
    placeUnitCube(out, 4, yUp, min, size);
    return out.subarray(4);
  };

  it('turns the Y-up of the geometry kernel into Z-up', () => {
    const m = placed([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 10, 20, 30, 1], [0, 0, 0], [1, 1, 1]);
    expect([...m.slice(12, 15)]).toEqual([10, -30, 20]);
  });

  it('brings every point of the cube to where its box is placed', () => {
    const number = fc.integer({ min: -1000, max: 1000 });
    const three = fc.tuple(number, number, number);
    fc.assert(
      fc.property(
        fc.array(number, { minLength: 12, maxLength: 12 }),
        three,
        fc.tuple(fc.nat(99), fc.nat(99), fc.nat(99)),
        three,
        (r, min, size, [u, v, w]) => {
          const yUp = [
            r[0]!,
            r[1]!,
            r[2]!,
            0,
            r[3]!,
            r[4]!,
            r[5]!,
            0,
            r[6]!,
            r[7]!,
            r[8]!,
            0,
            r[9]!,
            r[10]!,
            r[11]!,
            1,
          ];
          const apply = (m: ArrayLike<number>, [x, y, z]: number[]): number[] =>
            [0, 1, 2].map((row) => m[row]! * x! + m[4 + row]! * y! + m[8 + row]! * z! + m[12 + row]!);
          const [x, y, z] = apply(yUp, [min[0] + size[0] * u, min[1] + size[1] * v, min[2] + size[2] * w]);
          expect(apply(placed(yUp, min, size), [u, v, w]).map((value) => value + 0)).toEqual([x! + 0, 0 - z!, y! + 0]);
        },
      ),
    );
  });

  it('widens bounds by the whole of it', () => {
    const bounds = emptyBounds();
    // A box from (1, 2, 3), 4 × 5 × 6, whose depth points to −y when Z is up.
    addUnitCube(bounds, placed(IDENTITY, [1, 2, 3], [4, 5, 6]));
    expect(bounds).toEqual([1, -9, 2, 5, -3, 7]);
  });
});

const sample: ScenePackage = {
  origin: [452_000, 5_912_400, 4],
  bounds: [-1, -2, -3, 1, 2, 3],
  shapes: {
    vertexStarts: Uint32Array.of(0, 3),
    indexStarts: Uint32Array.of(0, 3),
    positions: Uint16Array.of(0, 0, 0, 65535, 0, 0, 0, 65535, 7),
    indices: Uint32Array.of(0, 1, 2),
  },
  instances: {
    shape: Uint32Array.of(0, 0),
    element: Uint32Array.of(0, 1),
    matrix: Float32Array.from({ length: 24 }, (_, i) => i / 2),
    colour: Uint8Array.of(1, 2, 3, 255, 4, 5, 6, 128),
  },
};

describe('scene package', () => {
  it('comes back as it was written', () => {
    expect(decodeScene(encodeScene(sample).buffer)).toEqual(sample);
  });

  it('of anything else is refused', () => {
    expect(() => decodeScene(new ArrayBuffer(64))).toThrow(RangeError);
  });
});

describe('property file', () => {
  const set = (name: string) => ({
    name,
    kind: 'properties' as const,
    from: 'element' as const,
    properties: [{ name: 'Größe', value: 3, unit: 'm' }],
  });
  const encode = (name: string) => JSON.stringify(set(name));

  it('gives each element its own sets, shared ones stored once', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.array(fc.nat(5), { maxLength: 4 }), { minLength: 1, maxLength: 20 }),
        async (setsOf) => {
          const names = ['a', 'b', 'c', 'd', 'e', 'f'];
          const starts = setsOf.reduce<number[]>((sums, { length }) => [...sums, sums.at(-1)! + length], [0]);
          const file = encodeProperties({ sets: names.map(encode), numbers: setsOf.flat(), starts });
          const read = async (offset: number, length: number) => file.subarray(offset, offset + length);
          for (const [row, numbers] of setsOf.entries())
            expect(await readElementProperties(read, row)).toEqual(numbers.map((n) => set(names[n]!)));
          await expect(readElementProperties(read, setsOf.length)).rejects.toThrow(RangeError);
        },
      ),
      { numRuns: 40 },
    );
  });
});
