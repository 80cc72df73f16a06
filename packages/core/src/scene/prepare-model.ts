/** IFC file → scene package, element table and property file. Runs once per version, on the server. */
import { CodedError } from '../platform/coded-error.ts';
import type { FlatMesh, IfcAPI } from 'web-ifc';
import { addUnitCube, addVertices, emptyBounds, isEmpty, type Bounds } from './bounds.ts';
import { readGeographicPlace, type GeographicPlace } from './geographic-place.ts';
import { readProperties, readTypeNames } from './ifc-properties.ts';
import {
  enumeration,
  GLOBAL_ID,
  instances,
  NAME,
  readLengthUnit,
  readSpatialTree,
  readSurveyPosition,
  structureTypes,
  text,
  type LengthUnit,
  type SpatialNode,
  type SurveyPosition,
} from './ifc-structure.ts';
import { Dictionary } from './dictionary.ts';
import { assembleScene, PlacedShapes } from './placed-shapes.ts';
import { MeshCollector, type ShapePlacement } from './mesh-collector.ts';
import { encodeScene, type ScenePackage } from './package.ts';
import { noteModel, type ModelNote } from './model-notes.ts';
import { splitScene } from './parts.ts';
import { placedHeight } from './placed-height.ts';
import { encodeProperties } from './property-file.ts';
import { withBaseSchema } from './schema-name.ts';
import { describeDamage, readablePart } from './step-damage.ts';
import { indexStepFile, readArguments, readReferences, StepError, typeOf, type StepFile } from './step-reader.ts';
import { UndrawnReasons, type Undrawn } from './undrawn.ts';

/** Columns of the elements that have a shape, one row each. */
export interface ElementTable {
  schema: string;
  application: string;
  lengthUnit: string;
  survey: SurveyPosition | null;
  /** Not said by models that were prepared before it was read. */
  place?: GeographicPlace;
  notes: ModelNote[];
  /** Elements that have a shape and could not be drawn, the first of them by name. Not said by models prepared earlier. */
  undrawn?: { count: number; elements: Undrawn[] };
  classes: string[];
  types: string[];
  nodes: SpatialNode[];
  globalId: string[];
  name: string[];
  /** As the authoring program numbers them; not there where none has one, or the model was prepared earlier. */
  tag?: string[];
  /** Index into `classes`. */
  class: number[];
  /** Index into `types`, −1 where the element has none. */
  type: number[];
  /** Index into `nodes`, −1 where the element stands nowhere. */
  node: number[];
}

export interface PreparedModel {
  scene: ScenePackage;
  table: ElementTable;
  properties: Uint8Array<ArrayBuffer>;
  /** In metres as the model has them: of the elements, and of the ground that they stand on; null where there is none. */
  bounds: { elements: Bounds; site: Bounds | null };
}

/** An element with a shape: its instance number and its class, as in `IfcWall`. */
interface DrawnElement {
  id: number;
  class: string;
}

/**
 * `api`: an initialised web-ifc, exclusively ours while this runs.
 * Throws StepError when the file is not a whole IFC file. A file without geometry gives an empty scene and a note.
 */
export function prepareModel(bytes: Uint8Array, api: IfcAPI): PreparedModel {
  const classOf = elementClasses(api);
  const file = indexStepFile(
    bytes,
    structureTypes((type) => classOf(type) !== undefined),
  );
  const readable = readablePart(file);
  const model = withBaseSchema(readable, file.schema, () => api.OpenModel(readable, { TAPE_SIZE: 1 << 22 }));
  if (model < 0)
    throw /^IFC(?:2X3|4)/i.test(file.schema)
      ? new CodedError('damaged-model')
      : new CodedError('unknown-schema', { schema: file.schema.slice(0, 40) });
  const collector = new MeshCollector();
  try {
    const { placed, elements, site } = collectMeshes(api, model, collector, classOf, cutElements(file));
    if (file.cutOffAt >= 0 && !elements.length) throw new StepError('cut-off');
    const bounds = boundsApart(placed, elements, terrainRows(file, elements), site);
    const scene = assembleScene(placed, collector);
    const unit = readLengthUnit(file);
    const heightOf = (id: number): number | null => {
      const height = placedHeight(api, model, id);
      return height === null ? null : height * unit.metres;
    };
    const survey = readSurveyPosition(file, unit);
    const place = readGeographicPlace(file, api, model, survey);
    const undrawn = findUndrawn(file, api, model, elements, classOf);
    const table = buildTable(file, elements, unit, heightOf, { survey, place, undrawn });
    table.notes = noteModel({
      damage: describeDamage(file),
      globalIds: table.globalId,
      undrawn,
      bounds: bounds.elements,
      structure: {
        unitIsAssumed: unit.assumed,
        nodes: table.nodes,
        unplaced: findUnplaced(file, elements).map((row) => table.name[row] || table.globalId[row]!),
      },
    });
    const properties = encodeProperties(
      readProperties(
        file,
        elements.map(({ id }) => id),
      ),
    );
    return { scene, table, properties, bounds };
  } finally {
    api.CloseModel(model);
  }
}

/** By name; further parts of a large scene are numbered. */
export function encodePrepared({ scene, table, properties }: Omit<PreparedModel, 'bounds'>) {
  const parts = splitScene(scene).map((part, i) => [i ? `scene-${i}` : 'scene', encodeScene(part)] as const);
  return { ...Object.fromEntries(parts), elements: new TextEncoder().encode(JSON.stringify(table)), properties };
}

/**
 * Products that are no bodies of a building, though the geometry kernel counts them among its elements: what holds or
 * orders others, what is analysed, what is cut away. IfcProxy is drawn, but no element either.
 */
const NO_BODY =
  /^IFC(?:ALIGNMENT|ANNOTATION|BRIDGE|BUILDING(?:STOREY)?$|EARTHWORKSCUT|EXTERNALSPATIAL|FACILITY|FEATUREELEMENTSUBTRACTION|GRID$|LINEAR|MARINE|OPENING|POSITIONING|PRODUCT$|RAILWAY|REFERENT|ROAD|SITE$|SPACE$|SPATIAL|STRUCTURAL|VOIDING|\w*EDGEFEATURE|\w*PORT$)/;

/** Upper-case entity name → `IfcWall`, for what is drawn in the schemas that web-ifc knows. */
function elementClasses(api: IfcAPI): (type: string) => string | undefined {
  const known = new Map<string, string | undefined>();
  return (type) => {
    if (!known.has(type)) {
      const code = api.GetTypeCodeFromName(type);
      const isDrawn = code && api.IsIfcElement(code) && !NO_BODY.test(type);
      known.set(type, isDrawn ? api.GetNameFromTypeCode(code) : undefined);
    }
    return known.get(type);
  };
}

/** What is drawn counts as an element; a proxy stands for anything at all. */
export const isElement = (className: string): boolean => className !== 'IfcProxy';

function collectMeshes(
  api: IfcAPI,
  model: number,
  collector: MeshCollector,
  classOf: (type: string) => string | undefined,
  cut: ReadonlySet<number>,
) {
  const placed = new PlacedShapes();
  const elements: DrawnElement[] = [];
  const classNames = new Map<number, string>();
  const classNameOf = (code: number): string => {
    let name = classNames.get(code);
    if (name === undefined) classNames.set(code, (name = classOf(api.GetNameFromTypeCode(code).toUpperCase()) ?? ''));
    return name;
  };
  const placements = new Map<number, ShapePlacement | undefined>();
  /** `own`: a shape that is cut for one element has the number of the shape that it is cut from. */
  const shapeOf = (geometryId: number, own: boolean): ShapePlacement | undefined => {
    if (!own && placements.has(geometryId)) return placements.get(geometryId);
    const geometry = api.GetGeometry(model, geometryId);
    const vertices = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
    const indices = api.GetIndexArray(geometry.GetIndexData(), geometry.GetIndexDataSize());
    geometry.delete();
    const placement = vertices.length ? collector.add(vertices, 6, indices) : undefined;
    if (!own) placements.set(geometryId, placement);
    return placement;
  };
  // The ground itself is no element: its extent is told, it is not drawn.
  const site = emptyBounds();
  const siteCode = api.GetTypeCodeFromName('IFCSITE');
  const addSite = (mesh: FlatMesh): void => {
    for (let i = 0; i < mesh.geometries.size(); i++) {
      const { geometryExpressID, flatTransformation } = mesh.geometries.get(i);
      const geometry = api.GetGeometry(model, geometryExpressID);
      const vertices = api.GetVertexArray(geometry.GetVertexData(), geometry.GetVertexDataSize());
      geometry.delete();
      addVertices(site, vertices, flatTransformation);
    }
  };
  api.StreamAllMeshes(model, (mesh) => {
    const code = api.GetLineType(model, mesh.expressID) as number;
    if (code === siteCode) return addSite(mesh);
    const className = classNameOf(code);
    if (!className) return;
    const before = placed.length;
    for (let i = 0; i < mesh.geometries.size(); i++) {
      const { geometryExpressID, flatTransformation, color } = mesh.geometries.get(i);
      const placement = shapeOf(geometryExpressID, cut.has(mesh.expressID));
      if (placement) placed.add(placement, elements.length, flatTransformation, color);
    }
    if (placed.length > before) elements.push({ id: mesh.expressID, class: className });
  });
  return { placed, elements, site };
}

/** Elements with openings, and their parts. */
function cutElements(file: StepFile): Set<number> {
  const cut = new Set(instances(file, 'IFCRELVOIDSELEMENT').flatMap((id) => readReferences(file, id, 4)));
  for (const id of instances(file, 'IFCRELAGGREGATES'))
    if (readReferences(file, id, 4).some((whole) => cut.has(whole)))
      for (const part of readReferences(file, id, 5)) cut.add(part);
  return cut;
}

/** Rows of elements that are the ground: no building is as large as they are. */
function terrainRows(file: StepFile, elements: readonly DrawnElement[]): ReadonlySet<number> {
  const isTerrain = ({ id, class: of }: DrawnElement): boolean =>
    of === 'IfcGeographicElement' &&
    enumeration(readArguments(file, id, PREDEFINED_TYPE, PREDEFINED_TYPE + 1)[0]) === 'TERRAIN';
  return new Set(elements.flatMap((element, row) => (isTerrain(element) ? [row] : [])));
}
/** Position of the predefined type among the arguments of IfcGeographicElement. */
const PREDEFINED_TYPE = 8;

function boundsApart(
  { length, matrix, element }: PlacedShapes,
  rows: readonly DrawnElement[],
  terrain: ReadonlySet<number>,
  site: Bounds,
) {
  const elements = emptyBounds();
  for (let i = 0; i < length; i++) {
    const row = element[i]!;
    if (terrain.has(row)) addUnitCube(site, matrix, i * 16);
    else if (isElement(rows[row]!.class)) addUnitCube(elements, matrix, i * 16);
  }
  return {
    elements: isEmpty(elements) ? ([0, 0, 0, 0, 0, 0] satisfies Bounds) : elements,
    site: isEmpty(site) ? null : site,
  };
}

/** Elements that have a shape and were not drawn. */
function findUndrawn(
  file: StepFile,
  api: IfcAPI,
  model: number,
  drawn: readonly DrawnElement[],
  classOf: (type: string) => string | undefined,
): { count: number; elements: Undrawn[] } {
  const seen = new Set(drawn.map(({ id }) => id));
  const reasons = new UndrawnReasons(api, model);
  const elements: Undrawn[] = [];
  let count = 0;
  for (const [type, ids] of file.byType) {
    const className = classOf(type);
    if (!className) continue;
    for (const id of ids) {
      if (seen.has(id)) continue;
      const shape = readReferences(file, id, REPRESENTATION)[0];
      if (shape === undefined) continue;
      if (count++ >= MOST_UNDRAWN) continue;
      const args = readArguments(file, id, 0, NAME + 1);
      elements.push({
        globalId: text(args[GLOBAL_ID]),
        name: text(args[NAME]),
        class: className,
        ...reasons.reasonOf(shape),
      });
    }
  }
  return { count, elements };
}
/** Positions of the placement and of the shape among the arguments of IfcProduct, and of the tag of IfcElement. */
const [PLACEMENT, REPRESENTATION, TAG] = [5, 6, 7];
/** More are counted, not named. */
const MOST_UNDRAWN = 500;

/** Rows of elements whose placement is not in the file: they are drawn at the origin. */
function findUnplaced(file: StepFile, elements: readonly DrawnElement[]): number[] {
  return elements.flatMap(({ id }, row) => {
    const placement = readReferences(file, id, PLACEMENT)[0];
    return placement !== undefined && !typeOf(file, placement) ? [row] : [];
  });
}

function buildTable(
  file: StepFile,
  elements: readonly DrawnElement[],
  unit: LengthUnit,
  heightOf: (id: number) => number | null,
  more: Pick<ElementTable, 'survey' | 'place' | 'undrawn'>,
): ElementTable {
  const tree = readSpatialTree(file, unit, heightOf);
  const typeNames = readTypeNames(file);
  const classes = new Dictionary();
  const types = new Dictionary();
  const table: ElementTable = {
    schema: file.schema.toUpperCase(),
    application: file.application,
    lengthUnit: unit.name,
    ...more,
    notes: [],
    classes: classes.words,
    types: types.words,
    nodes: tree.nodes,
    globalId: [],
    name: [],
    class: [],
    type: [],
    node: [],
  };
  const tags: string[] = [];
  for (const { id: element, class: className } of elements) {
    const args = readArguments(file, element, 0, TAG + 1);
    const typeName = typeNames.get(element);
    table.globalId.push(text(args[GLOBAL_ID]));
    table.name.push(text(args[NAME]));
    tags.push(text(args[TAG]));
    table.class.push(classes.numberOf(className));
    table.type.push(typeName ? types.numberOf(typeName) : -1);
    table.node.push(tree.nodeOf(element));
  }
  if (tags.some(Boolean)) table.tag = tags;
  return table;
}
