/** The triangles of one instance in metres: its edges, faces and what it encloses. */
import { Matrix4, Vector3 } from 'three';
import type { Instances } from './package.ts';
import { placeOf, type Point } from './pick.ts';
import type { ShapeTrees } from './shape-trees.ts';

export interface Face {
  /** A point of it. */
  at: Point;
  /** Of length one, outwards where the shape is written so. */
  normal: Point;
  /** Square metres. */
  area: number;
}
export type Edge = readonly [Point, Point];

/** Triangles whose normals differ less lie in one plane: cosine of half a degree. */
const FLAT = Math.cos(Math.PI / 360);
/** An edge between faces that turn less is part of something round: cosine of twelve degrees. */
const SMOOTH = Math.cos((12 * Math.PI) / 180);

export class Solid {
  private readonly corners: Float64Array;
  private readonly index: ArrayLike<number>;
  private readonly normals: Float64Array;
  /** For each side of each triangle the triangle beyond it: −1 where there is none, −2 where there are several. */
  private readonly beyond: Int32Array;
  private sharp: Edge[] | undefined;

  /** Coordinates count from the origin of the package. O(triangles of the shape). */
  constructor(shapes: ShapeTrees, { shape, matrix }: Instances, instance: number) {
    const { geometry } = shapes.treeOf(shape[instance]!);
    this.index = geometry.index!.array;
    this.corners = placed(geometry.getAttribute('position').array, placeOf(matrix, instance, new Matrix4()));
    this.normals = normalsOf(this.corners, this.index);
    this.beyond = neighbours(this.index);
  }

  /** Edges that one sees: where faces meet at an angle, and where there is no face beyond. */
  edges(): readonly Edge[] {
    this.sharp ??= [...this.sides((t, other) => other < 0 || (t < other && this.cosine(t, other) < SMOOTH))];
    return this.sharp;
  }

  /** The flat face that a triangle is part of. O(triangles). */
  faceOf(triangle: number): Face {
    const part = new Set([triangle]);
    for (const t of part)
      for (let side = 0; side < 3; side++) {
        const other = this.beyond[t * 3 + side]!;
        if (other >= 0 && this.cosine(triangle, other) > FLAT) part.add(other);
      }
    let area = 0;
    for (const t of part) area += this.areaOf(t);
    const [x, y, z] = this.normals.subarray(triangle * 3);
    return { at: this.corner(this.index[triangle * 3]!), normal: [x!, y!, z!], area };
  }

  /** Cubic metres; undefined where the surface is not closed. */
  volume(): number | undefined {
    if (this.beyond.some((other) => other < 0)) return undefined;
    const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
    const middle = new Vector3(...this.corner(this.index[0]!));
    let six = 0;
    for (let t = 0; t < this.index.length; t += 3) {
      [a, b, c].forEach((v, k) => v.set(...this.corner(this.index[t + k]!)).sub(middle));
      six += a.dot(b.cross(c));
    }
    return Math.abs(six) / 6;
  }

  private *sides(wanted: (triangle: number, beyond: number) => boolean): Generator<Edge> {
    for (let t = 0; t * 3 < this.index.length; t++)
      for (let side = 0; side < 3; side++)
        if (wanted(t, this.beyond[t * 3 + side]!))
          yield [this.corner(this.index[t * 3 + side]!), this.corner(this.index[t * 3 + ((side + 1) % 3)]!)];
  }

  private corner(vertex: number): [number, number, number] {
    const at = vertex * 3;
    return [this.corners[at]!, this.corners[at + 1]!, this.corners[at + 2]!];
  }

  private cosine(a: number, b: number): number {
    const n = this.normals;
    return n[a * 3]! * n[b * 3]! + n[a * 3 + 1]! * n[b * 3 + 1]! + n[a * 3 + 2]! * n[b * 3 + 2]!;
  }

  private areaOf(t: number): number {
    const [a, b, c] = [0, 1, 2].map((k) => new Vector3(...this.corner(this.index[t * 3 + k]!))) as [
      Vector3,
      Vector3,
      Vector3,
    ];
    return b.sub(a).cross(c.sub(a)).length() / 2;
  }
}

function placed(unit: ArrayLike<number>, place: Matrix4): Float64Array {
  const corners = new Float64Array(unit.length);
  const at = new Vector3();
  for (let i = 0; i < unit.length; i += 3)
    at.set(unit[i]!, unit[i + 1]!, unit[i + 2]!)
      .applyMatrix4(place)
      .toArray(corners, i);
  return corners;
}

function normalsOf(corners: Float64Array, index: ArrayLike<number>): Float64Array {
  const normals = new Float64Array(index.length);
  const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
  for (let t = 0; t < index.length; t += 3) {
    [a, b, c].forEach((v, k) => v.fromArray(corners, index[t + k]! * 3));
    b.sub(a).cross(c.sub(a)).normalize().toArray(normals, t);
  }
  return normals;
}

/** Sides meet where they run between the same two vertices in opposite directions. O(triangles). */
function neighbours(index: ArrayLike<number>): Int32Array {
  const beyond = new Int32Array(index.length).fill(-1);
  const sideOf = new Map<number, number>();
  const far = 2 ** 26;
  for (let side = 0; side < index.length; side++) {
    const next = side % 3 === 2 ? side - 2 : side + 1;
    const [a, b] = [index[side]!, index[next]!];
    const other = sideOf.get(b * far + a);
    if (other === undefined || beyond[other]! >= 0) {
      // A second surface along the same side: which of them goes on is not known.
      if (sideOf.has(a * far + b) || other !== undefined) beyond[side] = -2;
      sideOf.set(a * far + b, side);
    } else {
      beyond[side] = Math.floor(other / 3);
      beyond[other] = Math.floor(side / 3);
    }
  }
  return beyond;
}
