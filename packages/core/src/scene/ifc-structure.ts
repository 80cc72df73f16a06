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
  /** The file names none. */
  assumed: boolean;
}

/** Where a model says it stands on the survey grid (IfcMapConversion), metres. */
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
  'IFCRELASSOCIATESDOCUMENT',
  'IFCRELASSIGNSTOGROUP',
  'IFCRELVOIDSELEMENT',
]);
/** Classes of the spatial structure, of buildings and of what else is built (IFC4X3), outer ones first. */
const SPATIAL: Record<string, string> = {
  IFCPROJECT: 'IfcProject',
  IFCSITE: 'IfcSite',
  IFCFACILITY: 'IfcFacility',
  IFCROAD: 'IfcRoad',
  IFCRAILWAY: 'IfcRailway',
  IFCBRIDGE: 'IfcBridge',
  IFCMARINEFACILITY: 'IfcMarineFacility',
  IFCBUILDING: 'IfcBuilding',
  IFCFACILITYPART: 'IfcFacilityPart',
  IFCFACILITYPARTCOMMON: 'IfcFacilityPartCommon',
  IFCROADPART: 'IfcRoadPart',
  IFCRAILWAYPART: 'IfcRailwayPart',
  IFCBRIDGEPART: 'IfcBridgePart',
  IFCMARINEPART: 'IfcMarinePart',
  IFCBUILDINGSTOREY: 'IfcBuildingStorey',
  IFCSPACE: 'IfcSpace',
};
const STRUCTURE = new Set([
  ...Object.keys(SPATIAL),
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
  'IFCMATERIALPROFILESETUSAGETAPERING',
  'IFCMATERIALPROFILEWITHOFFSETS',
  'IFCMATERIALLAYERWITHOFFSETS',
  'IFCCLASSIFICATIONREFERENCE',
  'IFCCLASSIFICATION',
  'IFCPHYSICALCOMPLEXQUANTITY',
  'IFCGROUP',
  'IFCSYSTEM',
  'IFCDISTRIBUTIONSYSTEM',
  'IFCDISTRIBUTIONCIRCUIT',
  'IFCELECTRICALCIRCUIT',
  'IFCBUILDINGSYSTEM',
  'IFCBUILTSYSTEM',
  'IFCZONE',
  'IFCDOCUMENTREFERENCE',
  'IFCDOCUMENTINFORMATION',
]);

/** Accepts the entity names that structure and properties need, and those that `isElement` accepts. */
export function structureTypes(isElement: (type: string) => boolean): (type: string) => boolean {
  return (type) =>
    RELATIONS.has(type) ||
    STRUCTURE.has(type) ||
    type.startsWith('IFCPROPERTY') ||
    type.startsWith('IFCQUANTITY') ||
    type.endsWith('PROFILEDEF') ||
    type.endsWith('PLACEMENT') ||
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
    const unit = lengthUnitAt(file, id);
    if (unit) return unit;
  }
  return { name: 'metre', metres: 1, assumed: true };
}
function lengthUnitAt(file: StepFile, id: number): LengthUnit | undefined {
  const unit = readInstance(file, id);
  if (!unit || enumeration(unit.args[1]) !== 'LENGTHUNIT') return undefined;
  if (unit.type === 'IFCSIUNIT') {
    const prefix = enumeration(unit.args[2]);
    return { name: `${prefix.toLowerCase()}metre`, metres: PREFIX[prefix] ?? 1, assumed: false };
  }
  if (unit.type !== 'IFCCONVERSIONBASEDUNIT') return undefined;
  const [value, base] = argsOf(file, reference(unit.args[3]));
  const prefix = enumeration(argsOf(file, reference(base))[2]);
  return {
    name: text(unit.args[2]).toLowerCase(),
    metres: (numeric(value) ?? 1) * (PREFIX[prefix] ?? 1),
    assumed: false,
  };
}

/** In metres: written in the unit of the map, else in that of the file. */
export function readSurveyPosition(file: StepFile, unit: LengthUnit): SurveyPosition | null {
  const id = instances(file, 'IFCMAPCONVERSION')[0];
  if (id === undefined) return null;
  const [, target, eastings, northings, height, abscissa, ordinate] = argsOf(file, id);
  const crs = argsOf(file, reference(target));
  const { metres } = lengthUnitAt(file, reference(crs[MAP_UNIT])) ?? unit;
  return {
    eastings: roundNanometre((numeric(eastings) ?? 0) * metres),
    northings: roundNanometre((numeric(northings) ?? 0) * metres),
    height: roundNanometre((numeric(height) ?? 0) * metres),
    rotation: (Math.atan2(numeric(ordinate) ?? 0, numeric(abscissa) ?? 1) * 180) / Math.PI,
    grid: text(crs[0]),
  };
}
/** Position of the unit among the arguments of IfcProjectedCRS. */
const MAP_UNIT = 6;

/** Positions among the arguments of IfcSpatialStructureElement and IfcBuildingStorey. */
const [LONG_NAME, ELEVATION] = [7, 9];

export interface SpatialTree {
  nodes: SpatialNode[];
  /** instance number → index of the node that holds it, through any number of aggregations. */
  nodeOf(element: number): number;
}

/** `heightOf`: metres at which an instance is placed; asked for storeys that do not say it themselves. */
export function readSpatialTree(
  file: StepFile,
  unit: LengthUnit,
  heightOf: (id: number) => number | null = () => null,
): SpatialTree {
  const nodes: SpatialNode[] = [];
  const indexOf = new Map<number, number>();
  for (const [type, className] of Object.entries(SPATIAL))
    for (const id of instances(file, type)) {
      const args = argsOf(file, id);
      const said = numeric(args[ELEVATION]);
      const elevation = said === null ? heightOf(id) : said * unit.metres;
      const isStorey = type === 'IFCBUILDINGSTOREY';
      indexOf.set(id, nodes.length);
      nodes.push({
        name: text(args[NAME]) || text(args[LONG_NAME]) || className.slice(3),
        class: className,
        elevation: isStorey && elevation !== null ? roundNanometre(elevation) : null,
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

const roundNanometre = (metres: number): number => Math.round(metres * 1e9) / 1e9;
