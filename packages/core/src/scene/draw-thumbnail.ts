/** A small picture of a scene package, drawn in software: parallel projection from the south-west, nearest surface wins. */
import type { Bounds } from './bounds.ts';
import type { Shapes } from './mesh-collector.ts';
import type { ScenePackage } from './package.ts';
import type { Point } from './pick.ts';

export interface Picture {
  width: number;
  height: number;
  /** Red, green, blue, opacity. */
  pixels: Uint8Array;
}

const [AZIMUTH, HEIGHT] = [(-125 * Math.PI) / 180, (30 * Math.PI) / 180];
/** View axes of the picture: towards the viewer, across to the right, and up. */
const TOWARDS = [Math.cos(HEIGHT) * Math.cos(AZIMUTH), Math.cos(HEIGHT) * Math.sin(AZIMUTH), Math.sin(HEIGHT)];
const ACROSS = [-Math.sin(AZIMUTH), Math.cos(AZIMUTH), 0];
const UP = [-Math.sin(HEIGHT) * Math.cos(AZIMUTH), -Math.sin(HEIGHT) * Math.sin(AZIMUTH), Math.cos(HEIGHT)];
/** Where light comes from, in model axes. */
const LIGHT = [-0.35, -0.6, 0.72];
const FEWEST_OPAQUE = 0.5;

export function drawThumbnail(scene: ScenePackage, width?: number, height?: number): Picture {
  const drawing = new ThumbnailDrawing(scene.bounds, scene.origin, width, height);
  drawing.add(scene);
  return drawing.picture;
}

/** One picture of several packages, which are given one after the other. `bounds`: around all of them, counted from `origin`. */
export class ThumbnailDrawing {
  readonly picture: Picture;
  private readonly depth: Float32Array;
  private readonly scale: number;
  private readonly middle: readonly [number, number];
  /** Of the shape that is being drawn: on the picture with its nearness, and in the world. */
  private points = new Float64Array(3 * 1024);
  private world = new Float64Array(3 * 1024);

  constructor(
    bounds: Bounds,
    private readonly origin: Point,
    width = 480,
    height = 320,
  ) {
    this.picture = { width, height, pixels: new Uint8Array(width * height * 4) };
    this.depth = new Float32Array(width * height).fill(-Infinity);
    const { minX, maxX, minY, maxY } = project(bounds);
    this.scale = Math.min((width * 0.92) / Math.max(1e-6, maxX - minX), (height * 0.92) / Math.max(1e-6, maxY - minY));
    this.middle = [(minX + maxX) / 2, (minY + maxY) / 2];
  }

  /** O(triangles + pixels that they cover). */
  add({ shapes, instances, origin }: ScenePackage): void {
    const offset = origin.map((value, axis) => value - this.origin[axis]!);
    for (let i = 0; i < instances.shape.length; i++) {
      if (instances.colour[i * 4 + 3]! < 255 * FEWEST_OPAQUE) continue;
      const shape = instances.shape[i]!;
      this.place(shapes, shape, instances.matrix.subarray(i * 12, i * 12 + 12), offset);
      const colour = instances.colour.subarray(i * 4, i * 4 + 3);
      const { indices } = shapes;
      for (let t = shapes.indexStarts[shape]!; t < shapes.indexStarts[shape + 1]!; t += 3)
        this.fill(indices[t]! * 3, indices[t + 1]! * 3, indices[t + 2]! * 3, colour);
    }
  }

  private place({ vertexStarts, positions }: Shapes, shape: number, m: Float32Array, offset: readonly number[]): void {
    const first = vertexStarts[shape]!;
    const count = vertexStarts[shape + 1]! - first;
    if (this.points.length < count * 3) {
      this.points = new Float64Array(count * 3);
      this.world = new Float64Array(count * 3);
    }
    const { points, world, scale, middle } = this;
    const { width, height } = this.picture;
    for (let v = 0; v < count; v++) {
      const p = (first + v) * 3;
      const [x, y, z] = [positions[p]! / 65535, positions[p + 1]! / 65535, positions[p + 2]! / 65535];
      for (let axis = 0; axis < 3; axis++)
        world[v * 3 + axis] = m[axis]! * x + m[3 + axis]! * y + m[6 + axis]! * z + m[9 + axis]! + offset[axis]!;
      const w = world.subarray(v * 3, v * 3 + 3);
      points[v * 3] = width / 2 + (dot(w, ACROSS) - middle[0]) * scale;
      points[v * 3 + 1] = height / 2 - (dot(w, UP) - middle[1]) * scale;
      points[v * 3 + 2] = dot(w, TOWARDS);
    }
  }

  private fill(a: number, b: number, c: number, colour: Uint8Array): void {
    const { points, world, depth } = this;
    const { width, height, pixels } = this.picture;
    const [ax, ay, bx, by, cx, cy] = [
      points[a]!,
      points[a + 1]!,
      points[b]!,
      points[b + 1]!,
      points[c]!,
      points[c + 1]!,
    ];
    const area = (bx - ax) * (cy - ay) - (by - ay) * (cx - ax);
    if (Math.abs(area) < 1e-9) return;
    const shade = brightness(world, a, b, c);
    const minX = Math.max(0, Math.floor(Math.min(ax, bx, cx)));
    const maxX = Math.min(width - 1, Math.ceil(Math.max(ax, bx, cx)));
    const minY = Math.max(0, Math.floor(Math.min(ay, by, cy)));
    const maxY = Math.min(height - 1, Math.ceil(Math.max(ay, by, cy)));
    for (let y = minY; y <= maxY; y++)
      for (let x = minX; x <= maxX; x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        const u = ((bx - px) * (cy - py) - (by - py) * (cx - px)) / area;
        const v = ((cx - px) * (ay - py) - (cy - py) * (ax - px)) / area;
        const w = 1 - u - v;
        if (u < 0 || v < 0 || w < 0) continue;
        const near = u * points[a + 2]! + v * points[b + 2]! + w * points[c + 2]!;
        const at = y * width + x;
        if (near <= depth[at]!) continue;
        depth[at] = near;
        for (let k = 0; k < 3; k++) pixels[at * 4 + k] = Math.min(255, colour[k]! * shade);
        pixels[at * 4 + 3] = 255;
      }
  }
}

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0]! * b[0]! + a[1]! * b[1]! + a[2]! * b[2]!;

/** 0.55 in shadow to 1.05 in full light; the normal's sign does not matter, as exports wind triangles either way. */
function brightness(world: Float64Array, a: number, b: number, c: number): number {
  const [ux, uy, uz] = [world[b]! - world[a]!, world[b + 1]! - world[a + 1]!, world[b + 2]! - world[a + 2]!];
  const [vx, vy, vz] = [world[c]! - world[a]!, world[c + 1]! - world[a + 1]!, world[c + 2]! - world[a + 2]!];
  const normal = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
  const length = Math.hypot(...normal) || 1;
  const facing = dot(normal, TOWARDS) < 0 ? -1 : 1;
  return 0.55 + 0.5 * Math.max(0, (dot(normal, LIGHT) * facing) / length);
}

function project(bounds: ScenePackage['bounds']) {
  const found = { minX: Infinity, maxX: -Infinity, minY: Infinity, maxY: -Infinity };
  for (let corner = 0; corner < 8; corner++) {
    const point = [0, 1, 2].map((axis) => bounds[axis + (corner & (1 << axis) ? 3 : 0)]!);
    const [x, y] = [dot(point, ACROSS), dot(point, UP)];
    found.minX = Math.min(found.minX, x);
    found.maxX = Math.max(found.maxX, x);
    found.minY = Math.min(found.minY, y);
    found.maxY = Math.max(found.maxY, y);
  }
  return found;
}
