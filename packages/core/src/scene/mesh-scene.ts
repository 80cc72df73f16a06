/**
 * What a general modeller hands over (glTF, OBJ): objects with meshes in a tree of groups, made into what IFC models are
 * made into. Metres, Y up.
 */
import { addUnitCube, emptyBounds, isEmpty, type Bounds } from './bounds.ts';
import { Dictionary } from './dictionary.ts';
import type { SpatialNode } from './ifc-structure.ts';
import type { Property, PropertySet } from './ifc-properties.ts';
import { MeshCollector, type ShapePlacement } from './mesh-collector.ts';
import { noteModel, type ModelNote } from './model-notes.ts';
import { assembleScene, PlacedShapes, type Colour } from './placed-shapes.ts';
import type { ElementTable, PreparedModel } from './prepare-model.ts';
import { encodeProperties } from './property-file.ts';
import type { Undrawn } from './undrawn.ts';

/** Triangles of one colour. */
export interface MeshPart {
  /** x, y, z one after the other. */
  vertices: Float32Array;
  indices: Uint32Array;
  /** 0 … 1 each: x red, y green, z blue, w opacity. */
  colour: Colour;
  /** Empty where it has none. */
  material: string;
}

export interface MeshObject {
  name: string;
  /** Objects of one definition are alike. */
  definition: string;
  /** Index of the group that it stands in, −1 for none. */
  group: number;
  /** Column-major 4 × 4. */
  matrix: ArrayLike<number>;
  parts: readonly MeshPart[];
  /** What its author wrote at it. */
  about: readonly Property[];
}

export interface MeshScene {
  format: 'glTF' | 'OBJ';
  application: string;
  groups: { name: string; parent: number }[];
  objects: MeshObject[];
  /** Codes of what was noticed while it was read. */
  notes: ModelNote[];
}

export function prepareMeshes({ format, application, groups, objects, notes }: MeshScene): PreparedModel {
  const collector = new MeshCollector();
  const placed = new PlacedShapes();
  const types = new Dictionary();
  const sets = new Dictionary();
  const numbers: number[] = [];
  const starts = [0];
  const undrawn: Undrawn[] = [];
  const ids = new PathIds(groups);
  const table: ElementTable = {
    schema: format,
    application,
    lengthUnit: 'metre',
    survey: null,
    notes: [],
    classes: ['Object'],
    types: types.words,
    nodes: groups.map(({ name, parent }): SpatialNode => ({ name, parent, class: 'Group', elevation: null })),
    ...{ globalId: [], name: [], class: [], type: [], node: [] },
  };
  const shapes = new Map<MeshPart, ShapePlacement | undefined>();
  const shapeOf = (part: MeshPart): ShapePlacement | undefined => {
    if (!shapes.has(part)) shapes.set(part, collector.add(part.vertices, 3, part.indices));
    return shapes.get(part);
  };
  for (const object of objects) {
    const { name, definition, group, matrix, parts, about } = object;
    const globalId = ids.of(object);
    const before = placed.length;
    for (const part of parts) {
      const shape = shapeOf(part);
      if (shape) placed.add(shape, table.globalId.length, matrix, part.colour);
    }
    if (placed.length === before) {
      const reason = parts.length ? 'not-built' : 'lines-only';
      undrawn.push({ globalId, name, class: 'Object', reason, detail: parts.length ? definition : '' });
      continue;
    }
    table.globalId.push(globalId);
    table.name.push(name);
    table.class.push(0);
    table.type.push(definition ? types.numberOf(definition) : -1);
    table.node.push(group);
    for (const set of setsOf(parts, about)) numbers.push(sets.numberOf(JSON.stringify(set)));
    starts.push(numbers.length);
  }
  const bounds = boundsOf(placed);
  table.undrawn = { count: undrawn.length, elements: undrawn };
  table.notes = [
    ...notes,
    ...noteModel({ globalIds: table.globalId, undrawn: table.undrawn, bounds, damage: null, structure: null }),
  ];
  return {
    scene: assembleScene(placed, collector),
    table,
    properties: encodeProperties({ sets: sets.words, numbers, starts }),
    bounds: { elements: bounds, site: null },
  };
}

function setsOf(parts: readonly MeshPart[], about: readonly Property[]): PropertySet[] {
  const materials = [...new Set(parts.map(({ material }) => material).filter(Boolean))];
  const named = materials.map((value, i) => ({ name: materials.length > 1 ? `Material ${i + 1}` : 'Material', value }));
  const sets: PropertySet[] = [];
  if (named.length) sets.push({ name: 'Material', kind: 'materials', from: 'element', properties: named });
  if (about.length) sets.push({ name: 'Extras', kind: 'properties', from: 'element', properties: [...about] });
  return sets;
}

function boundsOf({ length, matrix }: PlacedShapes): Bounds {
  const bounds = emptyBounds();
  for (let i = 0; i < length; i++) addUnitCube(bounds, matrix, i * 16);
  return isEmpty(bounds) ? [0, 0, 0, 0, 0, 0] : bounds;
}

/** Such files have no GlobalIds: an object is known by the names on its way and its number among those of one way. */
class PathIds {
  private readonly ways: string[] = [];
  private readonly met = new Map<string, number>();

  /** `groups`: outer ones first. */
  constructor(groups: MeshScene['groups']) {
    for (const { name, parent } of groups) this.ways.push(`${parent < 0 ? '' : this.ways[parent]!}/${name}`);
  }

  of({ group, name, definition }: MeshObject): string {
    const way = `${this.ways[group] ?? ''}/${name || definition}`;
    const number = (this.met.get(way) ?? 0) + 1;
    this.met.set(way, number);
    return idOf(number > 1 ? `${way} ${number}` : way);
  }
}

const DIGITS = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';
const WORDS = 4;

/** 22 digits as a GlobalId has them, the same for the same text (FNV-1a, 32 bits from each of four beginnings). */
function idOf(text: string): string {
  let bits = 0n;
  for (let word = 0; word < WORDS; word++) {
    let hash = (0x811c9dc5 + word * 0x9e3779b9) >>> 0;
    for (let i = 0; i < text.length; i++) hash = Math.imul(hash ^ text.charCodeAt(i), 0x01000193) >>> 0;
    bits = (bits << 32n) | BigInt(hash);
  }
  let id = '';
  for (let i = 0; i < 22; i++, bits >>= 6n) id = DIGITS[Number(bits & 63n)]! + id;
  return id;
}
