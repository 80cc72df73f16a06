/** One model in a few draws however many elements: shapes that repeat much are drawn as instances, all others are merged. */
import type { ScenePackage } from '@kindred/core/scene/package';
import type { Shapes } from '@kindred/core/scene/mesh-collector';

/** Arrays of one draw; the vertices stay in the unit cubes of their shapes. */
export interface Draw {
  opaque: boolean;
  positions: Uint16Array;
  indices: Uint32Array;
  /** Of each vertex where the draw is merged, of each copy where it is instanced: the instance, and `OPEN`. */
  instances: Uint32Array;
  instanced: boolean;
}

/** On the number of an instance whose surface is not closed: nothing is inside of it. */
export const OPEN = 0x8000_0000;
/** Below this opacity (of 255) an instance is drawn after the opaque ones. */
export const OPAQUE = 250;
/** A shape gets a draw of its own when that spares so many vertices; the rest lies together in one. */
const WORTH_A_DRAW = 2000;
/** Of what is opaque, and of what one sees through. */
export const MOST_DRAWS = 24;
/** So much of a surface may be missing, as part of the whole, and it still counts as closed. */
const GAP = 1e-3;

/** O(vertices + triangles). */
export function drawsOf(scene: ScenePackage, mostDraws = MOST_DRAWS): Draw[] {
  const { shape, colour } = scene.instances;
  const shapes = outwards(scene.shapes);
  const draws: Draw[] = [];
  for (const opaque of [true, false]) {
    const uses = new Map<number, number[]>();
    for (let i = 0; i < shape.length; i++) {
      if (colour[i * 4 + 3]! >= OPAQUE !== opaque) continue;
      const known = uses.get(shape[i]!);
      if (known) known.push(i);
      else uses.set(shape[i]!, [i]);
    }
    const spared = ([number, users]: [number, number[]]): number =>
      (users.length - 1) * count(shapes.vertexStarts, number);
    const repeated = [...uses]
      .filter((use) => spared(use) >= WORTH_A_DRAW)
      .sort((a, b) => spared(b) - spared(a))
      .slice(0, mostDraws);
    for (const [number, users] of repeated) {
      uses.delete(number);
      draws.push({ opaque, ...instanced(shapes, number, users) });
    }
    if (uses.size) draws.push({ opaque, ...merged(shapes, [...uses]) });
  }
  return draws;
}

const count = (starts: Uint32Array, shape: number): number => starts[shape + 1]! - starts[shape]!;

interface OutwardShapes extends Shapes {
  open: Uint8Array;
}

/** Shapes whose triangles are written inside out are turned; those that are not closed are marked. */
function outwards(shapes: Shapes): OutwardShapes {
  const { vertexStarts, indexStarts, positions: p } = shapes;
  const indices = shapes.indices.slice();
  const open = new Uint8Array(indexStarts.length - 1);
  for (let shape = 0; shape < open.length; shape++) {
    const first = vertexStarts[shape]!;
    let [x, y, z, area, volume] = [0, 0, 0, 0, 0];
    for (let t = indexStarts[shape]!; t < indexStarts[shape + 1]!; t += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => (first + indices[t + k]!) * 3) as [number, number, number];
      const [ax, ay, az] = [p[a]!, p[a + 1]!, p[a + 2]!];
      const [ux, uy, uz] = [p[b]! - ax, p[b + 1]! - ay, p[b + 2]! - az];
      const [vx, vy, vz] = [p[c]! - ax, p[c + 1]! - ay, p[c + 2]! - az];
      const [nx, ny, nz] = [uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx];
      x += nx;
      y += ny;
      z += nz;
      area += Math.hypot(nx, ny, nz);
      volume += ax * nx + ay * ny + az * nz;
    }
    // The faces of a closed surface look as much to one side as to the other.
    if (Math.hypot(x, y, z) > GAP * area) open[shape] = 1;
    else if (volume < 0)
      for (let t = indexStarts[shape]!; t < indexStarts[shape + 1]!; t += 3)
        [indices[t + 1], indices[t + 2]] = [indices[t + 2]!, indices[t + 1]!];
  }
  return { ...shapes, indices, open };
}

const marked = (instance: number, open: number): number => (open ? instance + OPEN : instance);

function instanced(shapes: OutwardShapes, shape: number, users: readonly number[]): Omit<Draw, 'opaque'> {
  const { vertexStarts, indexStarts, positions, indices, open } = shapes;
  return {
    instanced: true,
    positions: positions.slice(vertexStarts[shape]! * 3, vertexStarts[shape + 1]! * 3),
    indices: indices.slice(indexStarts[shape], indexStarts[shape + 1]),
    instances: Uint32Array.from(users, (user) => marked(user, open[shape]!)),
  };
}

function merged(shapes: OutwardShapes, uses: readonly [number, number[]][]): Omit<Draw, 'opaque'> {
  const total = (starts: Uint32Array): number =>
    uses.reduce((sum, [shape, users]) => sum + users.length * count(starts, shape), 0);
  const vertices = total(shapes.vertexStarts);
  const positions = new Uint16Array(vertices * 3);
  const instances = new Uint32Array(vertices);
  const indices = new Uint32Array(total(shapes.indexStarts));
  let [vertex, index] = [0, 0];
  for (const [shape, users] of uses) {
    const corners = shapes.positions.subarray(shapes.vertexStarts[shape]! * 3, shapes.vertexStarts[shape + 1]! * 3);
    for (const user of users) {
      for (let t = shapes.indexStarts[shape]!; t < shapes.indexStarts[shape + 1]!; t++)
        indices[index++] = vertex + shapes.indices[t]!;
      positions.set(corners, vertex * 3);
      instances.fill(marked(user, shapes.open[shape]!), vertex, (vertex += corners.length / 3));
    }
  }
  return { instanced: false, positions, indices, instances };
}
