/** What an IFC file says about its elements apart from their geometry: tree, types, materials, units, survey position. */
import { readInstance, readReferenceLists, type StepFile, type StepValue } from './step-reader.ts';

export interface SpatialNode {
  name: string;
  class: string;
  /** Metres; storeys only. */
  elevation: number | null;
  /** Index of the parent node, −1 for the project. */
  parent: number;
}

export interface LengthUnit {
  name: string;
  /** Metres in one unit. */
  metres: number;
}

/** Where a model says it stands on the survey grid (IfcMapConversion). */
export interface SurveyPosition {
  eastings: number;
  northings: number;
  height: number;
  /** Degrees from the grid's east to the model's x axis, counter-clockwise. */
  rotation: number;
  grid: string;
}

/** Rooted instances begin with GlobalId, OwnerHistory, Name, Description. */
export const GLOBAL_ID = 0;
export const NAME = 2;

const RELATIONS = new Set([
  'IFCRELAGGREGATES',
  'IFCRELCONTAINEDINSPATIALSTRUCTURE',
  'IFCRELDEFINESBYTYPE',
  'IFCRELDEFINESBYPROPERTIES',
  'IFCRELASSOCIATESMATERIAL',
  'IFCRELASSOCIATESCLASSIFICATION',
]);
const STRUCTURE = new Set([
  'IFCPROJECT',
  'IFCSITE',
  'IFCBUILDING',
  'IFCBUILDINGSTOREY',
  'IFCSPACE',
  'IFCFACILITY',
  'IFCFACILITYPART',
  'IFCUNITASSIGNMENT',
  'IFCSIUNIT',
  'IFCCONVERSIONBASEDUNIT',
  'IFCCONVERSIONBASEDUNITWITHOFFSET',
  'IFCCONTEXTDEPENDENTUNIT',
  'IFCDERIVEDUNIT',
  'IFCDERIVEDUNITELEMENT',
  'IFCMONETARYUNIT',
  'IFCMEASUREWITHUNIT',
  'IFCMAPCONVERSION',
  'IFCPROJECTEDCRS',
  'IFCPROPERTYSET',
  'IFCELEMENTQUANTITY',
  'IFCMATERIAL',
  'IFCMATERIALLAYER',
  'IFCMATERIALLAYERSET',
  'IFCMATERIALLAYERSETUSAGE',
  'IFCMATERIALLIST',
  'IFCMATERIALCONSTITUENT',
  'IFCMATERIALCONSTITUENTSET',
  'IFCMATERIALPROFILE',
  'IFCMATERIALPROFILESET',
  'IFCMATERIALPROFILESETUSAGE',
  'IFCCLASSIFICATIONREFERENCE',
  'IFCCLASSIFICATION',
  'IFCPHYSICALCOMPLEXQUANTITY',
]);

/** Accepts the entity names that structure and properties need, and those that `isElement` accepts. */
export function structureTypes(isElement: (type: string) => boolean): (type: string) => boolean {
  return (type) =>
    RELATIONS.has(type) ||
    STRUCTURE.has(type) ||
    type.startsWith('IFCPROPERTY') ||
    type.startsWith('IFCQUANTITY') ||
    /^IFC\w+(?:TYPE|STYLE)$/.test(type) ||
    isElement(type);
}

export const text = (value: StepValue | undefined): string => (typeof value === 'string' ? value : '');
export const numeric = (value: StepValue | undefined): number | null => {
  if (typeof value === 'number') return value;
  if (value && typeof value === 'object' && 'type' in value) return numeric(value.value);
  return null;
};
export const reference = (value: StepValue | undefined): number =>
  value && typeof value === 'object' && 'ref' in value ? value.ref : 0;
export const references = (value: StepValue | undefined): number[] =>
  Array.isArray(value) ? value.map(reference).filter(Boolean) : [];
export const enumeration = (value: StepValue | undefined): string =>
  value && typeof value === 'object' && 'enum' in value ? value.enum : '';

export const instances = (file: StepFile, type: string): number[] => file.byType.get(type) ?? [];
export const argsOf = (file: StepFile, id: number): StepValue[] => readInstance(file, id)?.args ?? [];

const PREFIX: Record<string, number> = { MILLI: 1e-3, CENTI: 1e-2, DECI: 1e-1, KILO: 1e3, MICRO: 1e-6, HECTO: 1e2 };

/** The file's length unit, metre when it names none. */
export function readLengthUnit(file: StepFile): LengthUnit {
  const assigned = instances(file, 'IFCUNITASSIGNMENT').flatMap((id) => references(argsOf(file, id)[0]));
  for (const id of assigned) {
    const unit = readInstance(file, id);
    if (!unit || enumeration(unit.args[1]) !== 'LENGTHUNIT') continue;
    if (unit.type === 'IFCSIUNIT') {
      const prefix = enumeration(unit.args[2]);
      return { name: `${prefix.toLowerCase()}metre`, metres: PREFIX[prefix] ?? 1 };
    }
    if (unit.type === 'IFCCONVERSIONBASEDUNIT') {
      const [value, base] = argsOf(file, reference(unit.args[3]));
      const prefix = enumeration(argsOf(file, reference(base))[2]);
      return { name: text(unit.args[2]).toLowerCase(), metres: (numeric(value) ?? 1) * (PREFIX[prefix] ?? 1) };
    }
  }
  return { name: 'metre', metres: 1 };
}

export function readSurveyPosition(file: StepFile): SurveyPosition | null {
  const id = instances(file, 'IFCMAPCONVERSION')[0];
  if (id === undefined) return null;
  const [, target, eastings, northings, height, abscissa, ordinate] = argsOf(file, id);
  return {
    eastings: numeric(eastings) ?? 0,
    northings: numeric(northings) ?? 0,
    height: numeric(height) ?? 0,
    rotation: (Math.atan2(numeric(ordinate) ?? 0, numeric(abscissa) ?? 1) * 180) / Math.PI,
    grid: text(argsOf(file, reference(target))[0]),
  };
}

const SPATIAL = [
  'IFCPROJECT',
  'IFCSITE',
  'IFCFACILITY',
  'IFCFACILITYPART',
  'IFCBUILDING',
  'IFCBUILDINGSTOREY',
  'IFCSPACE',
];
/** Position of the elevation among the arguments of IfcBuildingStorey. */
const ELEVATION = 9;

export interface SpatialTree {
  nodes: SpatialNode[];
  /** instance number → index of the node that holds it, through any number of aggregations. */
  nodeOf(element: number): number;
}

export function readSpatialTree(file: StepFile, unit: LengthUnit): SpatialTree {
  const nodes: SpatialNode[] = [];
  const indexOf = new Map<number, number>();
  for (const type of SPATIAL)
    for (const id of instances(file, type)) {
      const args = argsOf(file, id);
      const elevation = type === 'IFCBUILDINGSTOREY' ? numeric(args[ELEVATION]) : null;
      indexOf.set(id, nodes.length);
      nodes.push({
        name: text(args[NAME]) || type.slice(3),
        class: className(type),
        elevation: elevation === null ? null : roundNanometre(elevation * unit.metres),
        parent: -1,
      });
    }
  const holder = new Map<number, number>();
  for (const id of instances(file, 'IFCRELAGGREGATES')) {
    const [[whole = 0], parts] = readReferenceLists(file, id, 4, 2) as [number[], number[]];
    for (const part of parts) holder.set(part, whole);
  }
  for (const id of instances(file, 'IFCRELCONTAINEDINSPATIALSTRUCTURE')) {
    const [parts, [node = 0]] = readReferenceLists(file, id, 4, 2) as [number[], number[]];
    for (const part of parts) holder.set(part, node);
  }
  for (const [id, index] of indexOf) nodes[index]!.parent = indexOf.get(holder.get(id) ?? 0) ?? -1;
  const nodeOf = (element: number): number => {
    let at: number | undefined = element;
    for (let depth = 0; at && depth < 64; depth++) {
      at = holder.get(at);
      const index = at === undefined ? undefined : indexOf.get(at);
      if (index !== undefined) return index;
    }
    return -1;
  };
  return { nodes, nodeOf };
}

/**
 * element → what it is related to, for the relations whose related and relating side stand side by side at `related`.
 * `stands`: the instance that stands for the one it is related to.
 */
export function relatedBy(
  file: StepFile,
  relation: string,
  related: number,
  stands: (target: number) => number = (target) => target,
): Map<number, number[]> {
  const map = new Map<number, number[]>();
  for (const id of instances(file, relation)) {
    const [elements, relating] = readReferenceLists(file, id, related, 2) as [number[], number[]];
    for (let i = 0; i < relating.length; i++) relating[i] = stands(relating[i]!);
    for (const element of elements) {
      const targets = map.get(element);
      if (targets) targets.push(...relating);
      else map.set(element, [...relating]);
    }
  }
  return map;
}

/** Names of the materials behind any IfcMaterialSelect. */
export function materialNames(file: StepFile, id: number, depth = 0): string[] {
  const material = readInstance(file, id);
  if (!material || depth > 6) return [];
  const { type, args } = material;
  if (type === 'IFCMATERIAL') return [text(args[0])];
  const follow = (value: StepValue | undefined): string[] =>
    [reference(value), ...references(value)].filter(Boolean).flatMap((next) => materialNames(file, next, depth + 1));
  switch (type) {
    case 'IFCMATERIALLAYERSETUSAGE':
    case 'IFCMATERIALLAYERSET':
    case 'IFCMATERIALLAYER':
    case 'IFCMATERIALLIST':
    case 'IFCMATERIALPROFILESETUSAGE':
      return follow(args[0]);
    default:
      return follow(args[2]);
  }
}

const CLASS_NAMES: Record<string, string> = {
  IFCPROJECT: 'IfcProject',
  IFCSITE: 'IfcSite',
  IFCBUILDING: 'IfcBuilding',
  IFCBUILDINGSTOREY: 'IfcBuildingStorey',
  IFCSPACE: 'IfcSpace',
  IFCFACILITY: 'IfcFacility',
  IFCFACILITYPART: 'IfcFacilityPart',
};
const roundNanometre = (metres: number): number => Math.round(metres * 1e9) / 1e9;
const className = (type: string): string => CLASS_NAMES[type] ?? type;
