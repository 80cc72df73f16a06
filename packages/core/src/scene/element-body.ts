/** The body of an element: all its triangles in metres, and what is measured of them. */
import { BufferAttribute, BufferGeometry, DoubleSide, Line3, Matrix4, Ray, Vector3 } from 'three';
import { MeshBVH } from 'three-mesh-bvh';
import type { Bounds } from './bounds.ts';
import type { ScenePackage } from './package.ts';
import type { Point } from './pick.ts';
import { principalAxes } from './principal-axes.ts';

export interface BodyMeasures {
  /** Cubic metres that it encloses; null where its surface is not closed. */
  volume: number | null;
  /** Square metres of its surface. */
  area: number;
  /** Metres along its longest side, however it lies. */
  length: number;
  /** Of its surface, metres in the coordinates of the model. */
  middle: Point;
  /** Metres in the coordinates of the model. */
  bounds: Bounds;
}

export interface Crossing {
  at: Vector3;
  normals: readonly [Vector3, Vector3];
}

/** So much of a surface may be missing, as part of the whole, and it still counts as closed. */
const GAP = 1e-3;
/** Radians between two faces above which one sees an edge, and below which they lie in one plane. */
const [SMOOTH, FLAT] = [(40 * Math.PI) / 180, (1.5 * Math.PI) / 180];

export class Body {
  readonly measures: BodyMeasures;
  /** Of its surface: along the first it reaches farthest. */
  readonly axes: readonly [Point, Point, Point];
  private made: MeshBVH | undefined;
  private behind: Float64Array | undefined;

  /** `corners`: x, y, z in the coordinates of the model, doubles; `indices`: triangles. O(triangles). */
  constructor(
    readonly corners: Float64Array,
    readonly indices: Uint32Array,
  ) {
    const { axes, ...measures } = measure(corners, indices);
    this.axes = axes;
    this.measures = measures;
  }

  get triangles(): number {
    return this.indices.length / 3;
  }

  /** Around its own middle, so that floats keep what is small. */
  private tree(): MeshBVH {
    if (!this.made) {
      const { middle } = this.measures;
      const positions = Float32Array.from(this.corners, (value, i) => value - middle[i % 3]!);
      const geometry = new BufferGeometry()
        .setAttribute('position', new BufferAttribute(positions, 3))
        .setIndex(new BufferAttribute(this.indices.slice(), 1));
      this.made = new MeshBVH(geometry);
    }
    return this.made;
  }

  /** How far a place lies from the surface, metres; the place counts from the middle of the body. */
  distanceTo(place: Vector3, atMost: number): number {
    return (
      this.tree().closestPointToPoint(place, { point: new Vector3(), distance: 0, faceIndex: 0 }, 0, atMost)
        ?.distance ?? Infinity
    );
  }

  /**
   * The planes that a convex body lies behind, four numbers each: normal of length one, outwards, and its distance from the middle, metres.
   * Null where it is not convex, not closed, or has too many faces for this to be worth while. O(triangles × vertices).
   */
  planes(): Float64Array | null {
    return (this.behind ??= this.measures.volume === null ? NOT_CONVEX : planesOf(this)).length ? this.behind : null;
  }

  /** Whether a place lies within it, whichever way its surfaces are written; the place counts from the middle of the body. Never in an open one. */
  holds(place: Vector3): boolean {
    if (this.measures.volume === null) return false;
    // A ray that goes through an edge may count it twice: a second one has to agree.
    return OUTWARDS.every((way) => this.shellsAround(place, way) !== 0);
  }

  /** Each surface that a ray leaves by counts against one that it enters by: of shells that lie in each other too. */
  private shellsAround(place: Vector3, way: Vector3): number {
    let sum = 0;
    for (const { face } of this.tree().raycast(new Ray(place, way), DoubleSide))
      sum += face!.normal.dot(way) > 0 ? 1 : -1;
    return sum;
  }

  /** From the middle of this one to that of another, metres. */
  offsetTo(other: Body): Vector3 {
    const [a, b] = [this.measures.middle, other.measures.middle];
    return new Vector3(b[0] - a[0], b[1] - a[1], b[2] - a[2]);
  }

  /** Whether the surfaces of two bodies meet. */
  meets(other: Body): boolean {
    return this.tree().intersectsGeometry(other.tree().geometry, placeOf(this.offsetTo(other)));
  }

  /**
   * Places where the surfaces of two bodies cross, counted from the middle of this one, with normals of both (of length one, of either side
   * where surfaces are written inside out): the first `most` that are found.
   */
  crossings(other: Body, most: number): Crossing[] {
    const found: Crossing[] = [];
    const line = new Line3();
    this.tree().bvhcast(other.tree(), placeOf(this.offsetTo(other)), {
      intersectsTriangles(one, another) {
        const normals = [one.getNormal(new Vector3()), another.getNormal(new Vector3())] as const;
        // Those that lie in one plane cross nowhere.
        if (Math.abs(normals[0].dot(normals[1])) > ONE_PLANE) return false;
        if (!one.intersectsTriangle(another, line) || line.distanceSq() === 0) return false;
        found.push({ at: line.at(0.5, new Vector3()), normals });
        return found.length >= most;
      },
    });
    return found;
  }

  /** Metres between two surfaces that do not meet, and the place between them in the coordinates of the model; null beyond `atMost`. */
  gapTo(other: Body, atMost: number): { gap: number; at: Point } | null {
    const geometry = other.tree().geometry as BufferGeometry & { boundsTree?: MeshBVH };
    geometry.boundsTree = other.tree();
    const found = { point: new Vector3(), distance: 0, faceIndex: 0 };
    const there = { point: new Vector3(), distance: 0, faceIndex: 0 };
    const offset = this.offsetTo(other);
    if (!this.tree().closestPointToGeometry(geometry, placeOf(offset), found, there, 0, atMost)) return null;
    const [x, y, z] = this.measures.middle;
    const between = found.point.add(there.point.add(offset)).multiplyScalar(0.5);
    return { gap: found.distance, at: [between.x + x, between.y + y, between.z + z] };
  }

  /** From where to where it reaches along a direction of length one, metres. O(vertices). */
  reachAlong(direction: Point): [low: number, high: number] {
    return reachAlong(this.corners, direction);
  }

  /** How far it reaches from its first axis, metres. O(vertices). */
  girth(): number {
    const [[x, y, z]] = this.axes;
    const { middle } = this.measures;
    let most = 0;
    for (let i = 0; i < this.corners.length; i += 3) {
      const [px, py, pz] = [0, 1, 2].map((k) => this.corners[i + k]! - middle[k]!) as [number, number, number];
      const along = px * x + py * y + pz * z;
      most = Math.max(most, px * px + py * py + pz * pz - along * along);
    }
    return Math.sqrt(most);
  }

  /** How far its facets may lie from the round surface that they stand for, metres; 0 where it has none. O(triangles). */
  roundness(): number {
    const { corners, indices } = this;
    const normals = faceNormals(corners, indices);
    const sides = new Map<string, number>();
    const key = (vertex: number): string => [0, 1, 2].map((k) => Math.round(corners[vertex * 3 + k]! * 1e4)).join();
    let most = 0;
    for (let t = 0; t < indices.length; t += 3)
      for (let side = 0; side < 3; side++) {
        const [a, b] = [indices[t + side]!, indices[t + ((side + 1) % 3)]!];
        const [from, to] = [key(a), key(b)];
        const other = sides.get(`${to}|${from}`);
        sides.set(`${from}|${to}`, t);
        if (other === undefined) continue;
        const turn = Math.acos(Math.min(1, Math.max(-1, dot(normals, t, other))));
        if (turn < FLAT || turn > SMOOTH) continue;
        // A chord of this width that turns so much is a part of a circle; its middle lies so far within.
        const width = Math.max(this.heightOver(t, side), this.heightOver(other, sideOf(indices, other, key, to, from)));
        most = Math.max(most, (width / 2) * Math.tan(turn / 4));
      }
    return most;
  }

  /** Of a triangle over one of its sides, metres. */
  private heightOver(t: number, side: number): number {
    const at = (k: number): Vector3 => new Vector3().fromArray(this.corners, this.indices[t + ((side + k) % 3)]! * 3);
    const [a, b, c] = [at(0), at(1), at(2)];
    const along = b.sub(a);
    const length = along.length();
    return length ? along.cross(c.sub(a)).length() / length : 0;
  }
}

/** Cosine of a turn that is none. */
const ONE_PLANE = 1 - 1e-10;
const NOT_CONVEX = new Float64Array(0);
const MOST_FACES = 120;
/** As part of the size of a body: nearer to a plane is on it. */
const ON_PLANE = 1e-5;

function planesOf(body: Body): Float64Array {
  const { corners, indices, measures } = body;
  if (body.triangles > MOST_FACES) return NOT_CONVEX;
  const [mx, my, mz] = measures.middle;
  const near = ON_PLANE * Math.max(measures.length, 1e-3);
  const planes: number[] = [];
  const normals = faceNormals(corners, indices);
  for (let t = 0; t < indices.length; t += 3) {
    let [x, y, z] = [normals[t]!, normals[t + 1]!, normals[t + 2]!];
    if (!x && !y && !z) continue;
    const at = indices[t]! * 3;
    let distance = (corners[at]! - mx) * x + (corners[at + 1]! - my) * y + (corners[at + 2]! - mz) * z;
    // Some are written inside out.
    if (distance < 0) [x, y, z, distance] = [-x, -y, -z, -distance];
    for (let i = 0; i < corners.length; i += 3)
      if ((corners[i]! - mx) * x + (corners[i + 1]! - my) * y + (corners[i + 2]! - mz) * z > distance + near)
        return NOT_CONVEX;
    let known = false;
    for (let p = 0; p < planes.length && !known; p += 4)
      known =
        planes[p]! * x + planes[p + 1]! * y + planes[p + 2]! * z > 1 - 1e-9 &&
        Math.abs(planes[p + 3]! - distance) <= near;
    if (!known) planes.push(x, y, z, distance);
  }
  return Float64Array.from(planes);
}

const placeOf = ({ x, y, z }: Vector3): Matrix4 => new Matrix4().makeTranslation(x, y, z);
/** Along no axis and no side of a building. */
const OUTWARDS = [new Vector3(0.4723, 0.6151, 0.6313).normalize(), new Vector3(-0.7219, 0.3011, 0.6227).normalize()];

const sideOf = (indices: Uint32Array, t: number, key: (vertex: number) => string, from: string, to: string): number =>
  Math.max(
    0,
    [0, 1, 2].findIndex((side) => key(indices[t + side]!) === from && key(indices[t + ((side + 1) % 3)]!) === to),
  );

const dot = (n: Float64Array, a: number, b: number): number =>
  n[a]! * n[b]! + n[a + 1]! * n[b + 1]! + n[a + 2]! * n[b + 2]!;

/** Of length one, three numbers a triangle, at the position of its first index. */
function faceNormals(corners: Float64Array, indices: Uint32Array): Float64Array {
  const normals = new Float64Array(indices.length);
  const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
  for (let t = 0; t < indices.length; t += 3) {
    a.fromArray(corners, indices[t]! * 3);
    b.fromArray(corners, indices[t + 1]! * 3).sub(a);
    c.fromArray(corners, indices[t + 2]! * 3).sub(a);
    b.cross(c).normalize().toArray(normals, t);
  }
  return normals;
}

/** All instances of an element as one body. `instances`: their numbers. */
export function bodyOf({ origin, shapes, instances }: ScenePackage, from: number, to: number): Body {
  let [vertices, indices] = [0, 0];
  for (let i = from; i < to; i++) {
    const shape = instances.shape[i]!;
    vertices += shapes.vertexStarts[shape + 1]! - shapes.vertexStarts[shape]!;
    indices += shapes.indexStarts[shape + 1]! - shapes.indexStarts[shape]!;
  }
  const corners = new Float64Array(vertices * 3);
  const index = new Uint32Array(indices);
  const m = instances.matrix;
  let [v, t] = [0, 0];
  for (let i = from; i < to; i++) {
    const shape = instances.shape[i]!;
    const first = v;
    for (let at = shapes.vertexStarts[shape]! * 3; at < shapes.vertexStarts[shape + 1]! * 3; at += 3, v++) {
      const [x, y, z] = [
        shapes.positions[at]! / STEPS,
        shapes.positions[at + 1]! / STEPS,
        shapes.positions[at + 2]! / STEPS,
      ];
      for (let axis = 0; axis < 3; axis++) {
        const k = i * 12 + axis;
        corners[v * 3 + axis] = m[k]! * x + m[k + 3]! * y + m[k + 6]! * z + m[k + 9]! + origin[axis]!;
      }
    }
    const mirrored = determinant(m, i * 12) < 0;
    for (let at = shapes.indexStarts[shape]!; at < shapes.indexStarts[shape + 1]!; at += 3, t += 3) {
      index[t] = first + shapes.indices[at]!;
      index[t + 1] = first + shapes.indices[at + (mirrored ? 2 : 1)]!;
      index[t + 2] = first + shapes.indices[at + (mirrored ? 1 : 2)]!;
    }
  }
  return new Body(corners, index);
}
const STEPS = 65535;

const determinant = (m: Float32Array, k: number): number =>
  m[k]! * (m[k + 4]! * m[k + 8]! - m[k + 5]! * m[k + 7]!) -
  m[k + 3]! * (m[k + 1]! * m[k + 8]! - m[k + 2]! * m[k + 7]!) +
  m[k + 6]! * (m[k + 1]! * m[k + 5]! - m[k + 2]! * m[k + 4]!);

function measure(corners: Float64Array, indices: Uint32Array): BodyMeasures & Pick<Body, 'axes'> {
  const bounds: Bounds = [Infinity, Infinity, Infinity, -Infinity, -Infinity, -Infinity];
  for (let i = 0; i < corners.length; i++) {
    const axis = i % 3;
    if (corners[i]! < bounds[axis]!) bounds[axis] = corners[i]!;
    if (corners[i]! > bounds[axis + 3]!) bounds[axis + 3] = corners[i]!;
  }
  // Around the middle of the box, or sums of large numbers would lose what is small.
  const at = [0, 1, 2].map((axis) => (bounds[axis]! + bounds[axis + 3]!) / 2) as [number, number, number];
  let [area, six, nx, ny, nz, mx, my, mz] = [0, 0, 0, 0, 0, 0, 0, 0];
  // Second moments of the surface: its own axes come from them.
  const moments = [0, 0, 0, 0, 0, 0];
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [indices[t]! * 3, indices[t + 1]! * 3, indices[t + 2]! * 3];
    const [ax, ay, az] = [corners[a]! - at[0], corners[a + 1]! - at[1], corners[a + 2]! - at[2]];
    const [bx, by, bz] = [corners[b]! - at[0], corners[b + 1]! - at[1], corners[b + 2]! - at[2]];
    const [cx, cy, cz] = [corners[c]! - at[0], corners[c + 1]! - at[1], corners[c + 2]! - at[2]];
    const [ux, uy, uz, vx, vy, vz] = [bx - ax, by - ay, bz - az, cx - ax, cy - ay, cz - az];
    const [x, y, z] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
    const twice = Math.hypot(x, y, z);
    nx += x;
    ny += y;
    nz += z;
    area += twice / 2;
    six += ax * x + ay * y + az * z;
    const [sx, sy, sz] = [ax + bx + cx, ay + by + cy, az + bz + cz];
    mx += (sx * twice) / 6;
    my += (sy * twice) / 6;
    mz += (sz * twice) / 6;
    const w = twice / 24;
    moments[0]! += w * (ax * ax + bx * bx + cx * cx + sx * sx);
    moments[1]! += w * (ay * ay + by * by + cy * cy + sy * sy);
    moments[2]! += w * (az * az + bz * bz + cz * cz + sz * sz);
    moments[3]! += w * (ax * ay + bx * by + cx * cy + sx * sy);
    moments[4]! += w * (ax * az + bx * bz + cx * cz + sx * sz);
    moments[5]! += w * (ay * az + by * bz + cy * cz + sy * sz);
  }
  const closed = area > 0 && Math.hypot(nx, ny, nz) <= GAP * area * 2;
  const [ox, oy, oz] = area ? [mx / area, my / area, mz / area] : [0, 0, 0];
  const axes = principalAxes([
    moments[0]! - area * ox * ox,
    moments[1]! - area * oy * oy,
    moments[2]! - area * oz * oz,
    moments[3]! - area * ox * oy,
    moments[4]! - area * ox * oz,
    moments[5]! - area * oy * oz,
  ]);
  return {
    volume: closed ? Math.abs(six) / 6 : null,
    area,
    length: Math.max(...axes.map((axis) => reachAlong(corners, axis)).map(([low, high]) => high - low)),
    middle: [at[0] + ox, at[1] + oy, at[2] + oz],
    bounds,
    axes,
  };
}

/** From where to where corners reach along a direction of length one. */
function reachAlong(corners: Float64Array, [x, y, z]: Point): [low: number, high: number] {
  let [low, high] = [Infinity, -Infinity];
  for (let i = 0; i < corners.length; i += 3) {
    const at = corners[i]! * x + corners[i + 1]! * y + corners[i + 2]! * z;
    if (at < low) low = at;
    if (at > high) high = at;
  }
  return [low, high];
}
