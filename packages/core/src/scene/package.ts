/**
 * The scene package: what a browser needs to draw one model, ready for typed arrays.
 * Layout: magic, version, header length (three uint32), header as JSON, then the columns at the offsets that it names,
 * each aligned to four bytes, little-endian.
 */
import type { Bounds } from './bounds.ts';
import type { Shapes } from './mesh-collector.ts';

const MAGIC = 0x4e43_534b; // "KSCN"
const VERSION = 1;

/** In the order of their elements. */
export interface Instances {
  /** Shape number of each instance. */
  shape: Uint32Array;
  /** Row of the element table that each instance belongs to. */
  element: Uint32Array;
  /** Three rows of four: x, y and z axis columns, then translation; metres from the origin, Z up: 12 floats each. */
  matrix: Float32Array;
  /** Red, green, blue, opacity in 0 … 255. */
  colour: Uint8Array;
}

/** A further part of a large model, a package of its own. */
export interface PartPlace {
  /** In metres from the origin. */
  bounds: Bounds;
  /** Diagonal of its largest element, metres. */
  largest: number;
  bytes: number;
  elements: number;
}
export interface Parts {
  /** The part of each element row; 0 is the package that says so, the places of the others begin with that of 1. */
  of: Uint16Array;
  places: PartPlace[];
}

export interface ScenePackage {
  /** The point in model coordinates (metres) that the matrices count from. Doubles: it may be hundreds of kilometres. */
  origin: [number, number, number];
  /** In metres from the origin. */
  bounds: Bounds;
  shapes: Shapes;
  instances: Instances;
  /** Where there is more than this package. */
  parts?: Parts;
}

type Column = Uint8Array | Uint16Array | Uint32Array | Float32Array;
const CONSTRUCTORS = { u8: Uint8Array, u16: Uint16Array, u32: Uint32Array, f32: Float32Array } as const;
type ColumnType = keyof typeof CONSTRUCTORS;
interface ColumnPlace {
  type: ColumnType;
  offset: number;
  length: number;
}
interface Header {
  origin: [number, number, number];
  bounds: Bounds;
  columns: Record<string, ColumnPlace>;
  parts?: PartPlace[];
}

const COLUMN_TYPES: Record<string, ColumnType> = {
  vertexStarts: 'u32',
  indexStarts: 'u32',
  positions: 'u16',
  indices: 'u32',
  shape: 'u32',
  element: 'u32',
  matrix: 'f32',
  colour: 'u8',
  partOf: 'u16',
};

const align = (n: number): number => (n + 3) & ~3;

export function encodeScene({ origin, bounds, shapes, instances, parts }: ScenePackage): Uint8Array<ArrayBuffer> {
  const columns = { ...shapes, ...instances, ...(parts && { partOf: parts.of }) } as unknown as Record<string, Column>;
  const places: Record<string, ColumnPlace> = {};
  let offset = 0;
  for (const [name, type] of Object.entries(COLUMN_TYPES)) {
    if (!columns[name]) continue;
    places[name] = { type, offset, length: columns[name].length };
    offset = align(offset + columns[name].byteLength);
  }
  const header = new TextEncoder().encode(
    JSON.stringify({ origin, bounds, columns: places, parts: parts?.places } satisfies Header),
  );
  const start = align(12 + header.length);
  const file = new Uint8Array(start + offset);
  new Uint32Array(file.buffer, 0, 3).set([MAGIC, VERSION, header.length]);
  file.set(header, 12);
  for (const [name, place] of Object.entries(places)) {
    const column = columns[name]!;
    file.set(new Uint8Array(column.buffer, column.byteOffset, column.byteLength), start + place.offset);
  }
  return file;
}

/** Views into `file`, no copies. Throws RangeError when it is no scene package of this version. */
export function decodeScene(file: ArrayBuffer): ScenePackage {
  const [magic, version, headerLength] = new Uint32Array(file, 0, 3);
  if (magic !== MAGIC || version !== VERSION)
    throw new RangeError(`Not a scene package of version ${VERSION}: magic ${magic}, version ${version}`);
  const header = JSON.parse(new TextDecoder().decode(new Uint8Array(file, 12, headerLength))) as Header;
  const start = align(12 + headerLength!);
  const column = <T extends Column>(name: string): T => {
    const { type, offset, length } = header.columns[name]!;
    return new CONSTRUCTORS[type](file, start + offset, length) as T;
  };
  return {
    origin: header.origin,
    bounds: header.bounds,
    shapes: {
      vertexStarts: column<Uint32Array>('vertexStarts'),
      indexStarts: column<Uint32Array>('indexStarts'),
      positions: column<Uint16Array>('positions'),
      indices: column<Uint32Array>('indices'),
    },
    instances: {
      shape: column<Uint32Array>('shape'),
      element: column<Uint32Array>('element'),
      matrix: column<Float32Array>('matrix'),
      colour: column<Uint8Array>('colour'),
    },
    ...(header.parts && { parts: { of: column<Uint16Array>('partOf'), places: header.parts } }),
  };
}
