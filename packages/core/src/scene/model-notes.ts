/** What was noticed while a model was prepared: codes and what it takes to say them in words. */
import type { Values } from '../platform/coded-error.ts';
import type { Bounds } from './bounds.ts';
import type { SpatialNode } from './ifc-structure.ts';
import type { Damage } from './step-damage.ts';
import type { Undrawn } from './undrawn.ts';

export interface ModelNote {
  code: string;
  values: Values;
}

export interface Noticed {
  globalIds: readonly string[];
  undrawn: { count: number; elements: readonly Undrawn[] };
  /** Metres as the model has them, of the elements. */
  bounds: Bounds;
  /** Null where the format has no statements that could be left out. */
  damage: Damage | null;
  /** Null where the format knows none. */
  structure: {
    unitIsAssumed: boolean;
    nodes: readonly SpatialNode[];
    /** Names of elements that are drawn at the origin for want of a place. */
    unplaced: readonly string[];
  } | null;
}

/** A building this far from the origin of its file was drawn in survey coordinates, or by mistake. Metres. */
const FAR = 10_000;
const EXAMPLES = 3;

export function noteModel({ damage, globalIds, undrawn, bounds, structure }: Noticed): ModelNote[] {
  const notes: ModelNote[] = [];
  const note = (code: string, values: Values = {}): number => notes.push({ code, values });
  if (damage?.cutOff) note('read-until-cut', { elements: globalIds.length });
  if (damage?.statements) note('damaged-lines', { count: damage.statements, lines: damage.lines.map(String) });
  if (!globalIds.length) note('no-shapes');
  if (undrawn.count) {
    const names = undrawn.elements.slice(0, EXAMPLES).map(({ name, globalId }) => name || globalId);
    note('undrawn', { count: undrawn.count, names });
  }
  const twice = repeated(globalIds);
  if (twice.length) note('same-global-id', { count: twice.length, ids: twice.slice(0, EXAMPLES) });
  if (structure) notes.push(...noteStructure(structure, globalIds.length > 0));
  const distance = Math.hypot((bounds[0] + bounds[3]) / 2, (bounds[1] + bounds[4]) / 2);
  if (distance > FAR) note('far-away', { kilometres: Math.round(distance / 1000) });
  return notes;
}

function noteStructure(
  { unitIsAssumed, nodes, unplaced }: NonNullable<Noticed['structure']>,
  hasElements: boolean,
): ModelNote[] {
  const has = (wanted: (node: SpatialNode) => boolean): boolean => nodes.some(wanted);
  const notes: ModelNote[] = [];
  if (unplaced.length)
    notes.push({ code: 'unplaced', values: { count: unplaced.length, names: unplaced.slice(0, EXAMPLES) } });
  if (unitIsAssumed) notes.push({ code: 'no-length-unit', values: {} });
  if (!has((node) => node.class === 'IfcProject')) notes.push({ code: 'no-project', values: {} });
  if (hasElements && !has((node) => node.class === 'IfcBuildingStorey' || isBuilt(node)))
    notes.push({ code: 'no-storeys', values: {} });
  return notes;
}

/** What has parts instead of storeys: roads, bridges, railways, harbours. */
const isBuilt = ({ class: of }: SpatialNode): boolean => /^Ifc(?:Facility|Road|Bridge|Railway|Marine)/.test(of);

/** Each that stands there more than once, in the order in which it is met again. */
function repeated(ids: readonly string[]): string[] {
  const seen = new Set<string>();
  return [...new Set(ids.filter((id) => id && seen.size === seen.add(id).size))];
}
