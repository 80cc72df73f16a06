/**
 * Collects meshes as shapes in the unit cube, sixteen bits a coordinate. Size and place live in each instance's matrix,
 * so that equal shapes are stored once whatever their size: all boxes of a building are one shape.
 */
const STEPS = 65535;
/** Flat meshes still need a thickness, or their matrix could not be inverted for picking. Metres. */
const LEAST_SIZE = 1e-4;

export interface ShapePlacement {
  shape: number;
  min: [number, number, number];
  size: [number, number, number];
}

export interface Shapes {
  /** Vertex number at which each shape begins, and the total at the end: count + 1 entries. */
  vertexStarts: Uint32Array;
  indexStarts: Uint32Array;
  /** x, y, z in 0 … 65535. */
  positions: Uint16Array;
  /** Triangles, numbered from the shape's first vertex. */
  indices: Uint32Array;
}

export class MeshCollector {
  private readonly byHash = new Map<number, number[]>();
  private readonly vertexStarts = [0];
  private readonly indexStarts = [0];
  private positions = new Uint16Array(3 * 4096);
  private indices = new Uint32Array(3 * 4096);
  private readonly welder = new Welder();

  /**
   * Adds a mesh unless an equal one is there already.
   * `vertices`: `stride` floats each, the first three are x, y, z. Returns undefined when no triangle is left.
   */
  add(vertices: Float32Array, stride: number, indices: Uint32Array): ShapePlacement | undefined {
    const [min, size] = extent(vertices, stride);
    const welded = this.welder.weld(vertices, stride, indices, min, size);
    if (!welded.indexCount) return undefined;
    const shape = this.find(welded) ?? this.append(welded);
    return { shape, min, size };
  }

  finish(): Shapes {
    return {
      vertexStarts: Uint32Array.from(this.vertexStarts),
      indexStarts: Uint32Array.from(this.indexStarts),
      positions: this.positions.slice(0, this.vertexStarts.at(-1)! * 3),
      indices: this.indices.slice(0, this.indexStarts.at(-1)!),
    };
  }

  private find({ hash, positions, vertexCount, indices, indexCount }: Welded): number | undefined {
    return this.byHash.get(hash)?.find((shape) => {
      const v = this.vertexStarts[shape]!;
      const t = this.indexStarts[shape]!;
      if (this.vertexStarts[shape + 1]! - v !== vertexCount || this.indexStarts[shape + 1]! - t !== indexCount)
        return false;
      for (let i = 0; i < vertexCount * 3; i++) if (this.positions[v * 3 + i] !== positions[i]) return false;
      for (let i = 0; i < indexCount; i++) if (this.indices[t + i] !== indices[i]) return false;
      return true;
    });
  }

  private append({ hash, positions, vertexCount, indices, indexCount }: Welded): number {
    const shape = this.vertexStarts.length - 1;
    const v = this.vertexStarts[shape]! * 3;
    const t = this.indexStarts[shape]!;
    this.positions = withRoom(this.positions, v + vertexCount * 3);
    this.indices = withRoom(this.indices, t + indexCount);
    this.positions.set(positions.subarray(0, vertexCount * 3), v);
    this.indices.set(indices.subarray(0, indexCount), t);
    this.vertexStarts.push(v / 3 + vertexCount);
    this.indexStarts.push(t + indexCount);
    const equals = this.byHash.get(hash);
    if (equals) equals.push(shape);
    else this.byHash.set(hash, [shape]);
    return shape;
  }
}

function extent(vertices: Float32Array, stride: number): [[number, number, number], [number, number, number]] {
  const min: [number, number, number] = [Infinity, Infinity, Infinity];
  const max = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < vertices.length; i += stride)
    for (let axis = 0; axis < 3; axis++) {
      const value = vertices[i + axis]!;
      if (value < min[axis]!) min[axis] = value;
      if (value > max[axis]!) max[axis] = value;
    }
  const size = min.map((low, axis) => Math.max(LEAST_SIZE, max[axis]! - low)) as [number, number, number];
  return [min, size];
}

interface Welded {
  positions: Uint16Array;
  vertexCount: number;
  indices: Uint32Array;
  indexCount: number;
  hash: number;
}

/** Quantises, joins vertices that fell together, drops triangles that collapsed. Buffers are reused between meshes. */
class Welder {
  private positions = new Uint16Array(0);
  private remap = new Uint32Array(0);
  private indices = new Uint32Array(0);
  private table = new Int32Array(0);

  weld(
    vertices: Float32Array,
    stride: number,
    triangles: Uint32Array,
    min: readonly number[],
    size: readonly number[],
  ): Welded {
    const count = Math.floor(vertices.length / stride);
    this.positions = withRoom(this.positions, count * 3, false);
    this.remap = withRoom(this.remap, count, false);
    this.indices = withRoom(this.indices, triangles.length, false);
    const slots = 2 ** Math.ceil(Math.log2(count * 2 + 1));
    if (this.table.length < slots) this.table = new Int32Array(slots);
    const { positions, remap, indices, table } = this;
    table.fill(-1, 0, slots);

    let vertexCount = 0;
    let hash = 0;
    for (let i = 0; i < count; i++) {
      const at = i * stride;
      const x = Math.round(((vertices[at]! - min[0]!) / size[0]!) * STEPS);
      const y = Math.round(((vertices[at + 1]! - min[1]!) / size[1]!) * STEPS);
      const z = Math.round(((vertices[at + 2]! - min[2]!) / size[2]!) * STEPS);
      const key = Math.imul(x, 73856093) ^ Math.imul(y, 19349663) ^ Math.imul(z, 83492791);
      let slot = (key ^ (key >>> 15)) & (slots - 1);
      for (;;) {
        const found = table[slot]!;
        if (found < 0) {
          table[slot] = vertexCount;
          positions[vertexCount * 3] = x;
          positions[vertexCount * 3 + 1] = y;
          positions[vertexCount * 3 + 2] = z;
          hash = (Math.imul(hash, 31) + key) | 0;
          remap[i] = vertexCount++;
          break;
        }
        if (positions[found * 3] === x && positions[found * 3 + 1] === y && positions[found * 3 + 2] === z) {
          remap[i] = found;
          break;
        }
        slot = (slot + 1) & (slots - 1);
      }
    }
    let indexCount = 0;
    for (let i = 0; i + 2 < triangles.length; i += 3) {
      const a = remap[triangles[i]!]!;
      const b = remap[triangles[i + 1]!]!;
      const c = remap[triangles[i + 2]!]!;
      if (a === b || b === c || c === a) continue;
      indices[indexCount++] = a;
      indices[indexCount++] = b;
      indices[indexCount++] = c;
      hash = (Math.imul(hash, 31) + Math.imul(a, 7) + Math.imul(b, 5) + c) | 0;
    }
    return { positions, vertexCount, indices, indexCount, hash };
  }
}

/** `array` itself, or a larger one (by half at least) with the same content where `keep` is set. */
function withRoom<T extends Uint16Array | Uint32Array>(array: T, length: number, keep = true): T {
  if (array.length >= length) return array;
  const larger = new (array.constructor as new (n: number) => T)(Math.max(length, Math.ceil(array.length * 1.5)));
  if (keep) larger.set(array);
  return larger;
}
