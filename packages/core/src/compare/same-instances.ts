/** Whether two elements are drawn just alike: most are from version to version, and need no closer look. */
import type { Shapes } from '../scene/mesh-collector.ts';
import type { ScenePackage } from '../scene/package.ts';

type Range = readonly [from: number, to: number];

/** Metres: what rounding moves. */
const ROUNDING = 2e-4;

export class SameInstances {
  /** Of each shape of both packages: equal shapes have equal numbers. */
  private readonly before: Uint32Array;
  private readonly after: Uint32Array;

  constructor(
    private readonly a: ScenePackage,
    private readonly b: ScenePackage,
  ) {
    const numbers = new ShapeNumbers();
    this.before = numbers.of(a.shapes);
    this.after = numbers.of(b.shapes);
  }

  areSame([from, to]: Range, [start, end]: Range): boolean {
    if (to - from !== end - start) return false;
    const [p, q] = [this.a.instances, this.b.instances];
    for (let i = from, j = start; i < to; i++, j++) {
      if (this.before[p.shape[i]!] !== this.after[q.shape[j]!]) return false;
      for (let k = 0; k < 12; k++) {
        const apart = k < 9 ? 0 : this.a.origin[k - 9]! - this.b.origin[k - 9]!;
        if (Math.abs(p.matrix[i * 12 + k]! - q.matrix[j * 12 + k]! + apart) > ROUNDING) return false;
      }
    }
    return true;
  }
}

class ShapeNumbers {
  private readonly byHash = new Map<number, { shapes: Shapes; shape: number; number: number }[]>();
  private count = 0;

  of(shapes: Shapes): Uint32Array {
    return Uint32Array.from({ length: shapes.indexStarts.length - 1 }, (_, shape) => {
      const hash = hashOf(shapes, shape);
      const alike = this.byHash.get(hash) ?? this.byHash.set(hash, []).get(hash)!;
      const known = alike.find((other) => areEqual(shapes, shape, other.shapes, other.shape));
      if (known) return known.number;
      const number = this.count++;
      alike.push({ shapes, shape, number });
      return number;
    });
  }
}

const cornersOf = ({ vertexStarts, positions }: Shapes, shape: number): Uint16Array =>
  positions.subarray(vertexStarts[shape]! * 3, vertexStarts[shape + 1]! * 3);
const trianglesOf = ({ indexStarts, indices }: Shapes, shape: number): Uint32Array =>
  indices.subarray(indexStarts[shape], indexStarts[shape + 1]);

function hashOf(shapes: Shapes, shape: number): number {
  let hash = 0;
  for (const value of cornersOf(shapes, shape)) hash = (Math.imul(hash, 31) + value) | 0;
  for (const value of trianglesOf(shapes, shape)) hash = (Math.imul(hash, 31) + value) | 0;
  return hash;
}

function areEqual(a: Shapes, shape: number, b: Shapes, other: number): boolean {
  const equal = (p: ArrayLike<number>, q: ArrayLike<number>): boolean => {
    if (p.length !== q.length) return false;
    for (let i = 0; i < p.length; i++) if (p[i] !== q[i]) return false;
    return true;
  };
  return equal(cornersOf(a, shape), cornersOf(b, other)) && equal(trianglesOf(a, shape), trianglesOf(b, other));
}
