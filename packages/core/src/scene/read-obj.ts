/** Wavefront OBJ: objects and groups with their faces. Colours stand in another file, and are not read. */
import { Mesh, type BufferGeometry, type Material, type Object3D } from 'three';
import { OBJLoader } from 'three/examples/jsm/loaders/OBJLoader.js';
import { CodedError } from '../platform/coded-error.ts';
import type { MeshObject, MeshPart, MeshScene } from './mesh-scene.ts';

/** Metres and Y up are assumed: the format says neither. Throws CodedError `damaged-obj`. */
export function readObj(bytes: Uint8Array): MeshScene {
  const text = new TextDecoder().decode(bytes);
  const objects = parse(text).children.map(objectOf);
  return {
    format: 'OBJ',
    application: /^#\s*(.{1,80})/.exec(text)?.[1]?.trim() ?? '',
    groups: [],
    objects,
    notes: [{ code: 'obj-assumed', values: {} }],
  };
}

function parse(text: string): Object3D {
  try {
    return new OBJLoader().parse(text);
  } catch (error) {
    // Whatever the reader stumbles over lies in the file.
    throw new CodedError('damaged-obj', { reason: (error as Error).message.slice(0, 200) });
  }
}

const IDENTITY = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
const UNPAINTED = { x: 0.72, y: 0.72, z: 0.72, w: 1 };

function objectOf(object: Object3D, index: number): MeshObject {
  const name = object.name || `Object ${index + 1}`;
  const parts = object instanceof Mesh ? partsOf(object as Mesh) : [];
  return { name, definition: withoutNumber(name), group: -1, matrix: IDENTITY, parts, about: [] };
}

/** Copies are told apart by a number that the program appends: `Chair.003` is a `Chair`. */
function withoutNumber(name: string): string {
  let end = name.length;
  while (end > 0 && /\d/.test(name[end - 1]!)) end--;
  if (end < name.length && /[._ -]/.test(name[end - 1] ?? '')) end--;
  return name.slice(0, end) || name;
}

function partsOf({ geometry, material }: Mesh): MeshPart[] {
  const { attributes, groups } = geometry as BufferGeometry<{ position: never }>;
  const vertices = (attributes.position as { array: Float32Array }).array;
  const materials = [material].flat() as Material[];
  const ranges = groups.length ? groups : [{ start: 0, count: vertices.length / 3, materialIndex: 0 }];
  return ranges.map(({ start, count, materialIndex }) => ({
    vertices: vertices.subarray(start * 3, (start + count) * 3),
    indices: Uint32Array.from({ length: count - (count % 3) }, (_, i) => i),
    colour: UNPAINTED,
    material: materials[materialIndex ?? 0]?.name ?? '',
  }));
}
