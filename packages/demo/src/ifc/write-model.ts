import { createHash } from 'node:crypto';
import { encodeStepString } from '@kindred/core/scene/step-strings';
import { STOREYS, type Part, type Vector } from '../building/parts.ts';
import type { Room } from '../building/rooms.ts';

export interface ModelOptions {
  title: string;
  organisation: string;
  schema: 'IFC4' | 'IFC2X3';
  /** Added to every coordinate, as some authors do who draw in survey coordinates. Metres. */
  offset?: Vector;
  /** Written as spaces of their storeys. */
  rooms?: readonly Room[];
  survey?: { eastings: number; northings: number; height: number; rotation: number };
}

/** IfcMapConversion of the station: project north turned 23° from true north. */
export const STATION_SURVEY = { eastings: 348_600, northings: 5_912_400, height: 0, rotation: 23 };

/** An IFC file in millimetres: shared types with mapped geometry, placements, colours, property and quantity sets. */
export function writeModel(parts: readonly Part[], options: ModelOptions): string {
  return new ModelWriter(options).write(parts);
}

const ALPHABET = '0123456789ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz_$';

/** An IFC GlobalId that is always the same for the same key: 128 bits in base 64, the first digit 0 to 3. */
export function globalId(key: string): string {
  let bits = BigInt(`0x${createHash('sha1').update(key).digest('hex').slice(0, 32)}`);
  let id = '';
  for (let i = 0; i < 22; i++) {
    id = ALPHABET[Number(bits & 63n)]! + id;
    bits >>= 6n;
  }
  return id;
}

class ModelWriter {
  private readonly lines: string[] = [];
  private readonly cache = new Map<string, string>();
  private context = '';
  private owner = '$';

  constructor(private readonly options: ModelOptions) {}

  write(parts: readonly Part[]): string {
    const { title, organisation, schema } = this.options;
    const storeys = this.spatialStructure();
    const byStorey = new Map<string, string[]>();
    const byType = new Map<string, { type: string; elements: string[] }>();
    const byMaterial = new Map<string, string[]>();
    const bySystem = new Map<string, string[]>();
    for (const part of parts) {
      const element = this.element(part);
      push(byStorey, part.storey, element);
      push(byMaterial, part.material, element);
      if (part.system) push(bySystem, part.system, element);
      const key = typeKey(part);
      const typed = byType.get(key) ?? { type: this.type(part), elements: [] };
      typed.elements.push(element);
      byType.set(key, typed);
    }
    for (const [storey, elements] of byStorey)
      this.root(
        'IFCRELCONTAINEDINSPATIALSTRUCTURE',
        `contains ${storey}`,
        '$',
        `(${elements.join()}),${storeys.get(storey)}`,
      );
    for (const [key, { type, elements }] of byType)
      this.root('IFCRELDEFINESBYTYPE', `typed ${key}`, '$', `(${elements.join()}),${type}`);
    for (const [material, elements] of byMaterial) {
      const id = this.line('IFCMATERIAL', schema === 'IFC4' ? `${quote(material)},$,$` : quote(material));
      this.root('IFCRELASSOCIATESMATERIAL', `material ${material}`, '$', `(${elements.join()}),${id}`);
    }
    for (const [system, elements] of bySystem) {
      const id = this.root('IFCSYSTEM', system, quote(system), '$');
      this.root('IFCRELASSIGNSTOGROUP', system, '$', `(${elements.join()}),$,${id}`);
    }
    this.spaces(storeys);
    const header = [
      'ISO-10303-21;',
      'HEADER;',
      `FILE_DESCRIPTION(('ViewDefinition [ReferenceView]'),'2;1');`,
      `FILE_NAME(${quote(title)},'2026-01-05T09:00:00',(''),(${quote(organisation)}),'Kindred Sheet demo','Kindred Sheet demo','');`,
      `FILE_SCHEMA(('${schema}'));`,
      'ENDSEC;',
      'DATA;',
    ];
    return [...header, ...this.lines, 'ENDSEC;', 'END-ISO-10303-21;', ''].join('\n');
  }

  private line(entity: string, args: string): string {
    const id = `#${this.lines.length + 1}`;
    this.lines.push(`${id}=${entity}(${args});`);
    return id;
  }

  /** The same line is written once. */
  private shared(entity: string, args: string): string {
    const key = `${entity}(${args}`;
    let id = this.cache.get(key);
    if (!id) this.cache.set(key, (id = this.line(entity, args)));
    return id;
  }

  private root(entity: string, key: string, name: string, args: string): string {
    const id = globalId(`${this.options.title}/${entity}/${key}`);
    return this.line(entity, `'${id}',${this.owner},${name},$,${args}`);
  }

  private spatialStructure() {
    const { schema, survey, organisation, offset = [0, 0, 0] } = this.options;
    if (schema === 'IFC2X3') {
      const person = this.line('IFCPERSON', `$,'Author',$,$,$,$,$,$`);
      const company = this.line('IFCORGANIZATION', `$,${quote(organisation)},$,$,$`);
      const both = this.line('IFCPERSONANDORGANIZATION', `${person},${company},$`);
      const application = this.line('IFCAPPLICATION', `${company},'1','Kindred Sheet demo','KSD'`);
      this.owner = this.line('IFCOWNERHISTORY', `${both},${application},$,.ADDED.,$,$,$,1767603600`);
    }
    const units = [
      this.line('IFCSIUNIT', '*,.LENGTHUNIT.,.MILLI.,.METRE.'),
      this.line('IFCSIUNIT', '*,.AREAUNIT.,$,.SQUARE_METRE.'),
      this.line('IFCSIUNIT', '*,.VOLUMEUNIT.,$,.CUBIC_METRE.'),
      this.line('IFCSIUNIT', '*,.PLANEANGLEUNIT.,$,.RADIAN.'),
    ];
    const assignment = this.line('IFCUNITASSIGNMENT', `(${units.join()})`);
    this.context = this.line('IFCGEOMETRICREPRESENTATIONCONTEXT', `$,'Model',3,1.E-05,${this.axes([0, 0, 0])},$`);
    const project = this.line(
      'IFCPROJECT',
      `'${globalId('ORP/project')}',${this.owner},'Orrin Point Lifeboat Station',$,$,$,$,(${this.context}),${assignment}`,
    );
    if (survey && schema === 'IFC4') {
      const metre = this.line('IFCSIUNIT', '*,.LENGTHUNIT.,$,.METRE.');
      const crs = this.line('IFCPROJECTEDCRS', `'Orrin local grid',$,$,$,$,$,${metre}`);
      const angle = (survey.rotation * Math.PI) / 180;
      this.line(
        'IFCMAPCONVERSION',
        `${this.context},${crs},${real(survey.eastings)},${real(survey.northings)},${real(survey.height)},${real(Math.cos(angle))},${real(Math.sin(angle))},0.001`,
      );
    }
    const place = (origin: Vector) => this.line('IFCLOCALPLACEMENT', `$,${this.axes(origin)}`);
    const site = this.root(
      'IFCSITE',
      'site',
      `'Orrin Point'`,
      `$,${place(offset)},$,$,.ELEMENT.,(54,10,30),(-2,-40,-12),4200.,$,$`,
    );
    const building = this.root(
      'IFCBUILDING',
      'building',
      `'Lifeboat station'`,
      `$,${place(offset)},$,$,.ELEMENT.,$,$,$`,
    );
    const storeys = new Map(
      STOREYS.map(({ name, elevation }) => [
        name,
        this.root('IFCBUILDINGSTOREY', name, quote(name), `$,${place(offset)},$,$,.ELEMENT.,${real(elevation * 1000)}`),
      ]),
    );
    this.root('IFCRELAGGREGATES', 'project', '$', `${project},(${site})`);
    this.root('IFCRELAGGREGATES', 'site', '$', `${site},(${building})`);
    this.root('IFCRELAGGREGATES', 'building', '$', `${building},(${[...storeys.values()].join()})`);
    return storeys;
  }

  private spaces(storeys: ReadonlyMap<string, string>): void {
    const byStorey = new Map<string, string[]>();
    for (const { key, number, name, storey, at, size } of this.options.rooms ?? []) {
      const solid = this.solid({ size });
      const body = this.line('IFCSHAPEREPRESENTATION', `${this.context},'Body','SweptSolid',(${solid})`);
      const shape = this.line('IFCPRODUCTDEFINITIONSHAPE', `$,$,(${body})`);
      const place = `${this.placement({ at })},${shape},${quote(name)},.ELEMENT.,.INTERNAL.,$`;
      const space = this.root('IFCSPACE', key, quote(number), `$,${place}`);
      const area = this.shared('IFCQUANTITYAREA', `'NetFloorArea',$,$,${real(size[0] * size[1])}${this.formula}`);
      this.define(key, space, 'Qto_SpaceBaseQuantities', 'IFCELEMENTQUANTITY', `$,(${area})`);
      push(byStorey, storey, space);
    }
    for (const [storey, spaces] of byStorey)
      this.root('IFCRELAGGREGATES', `rooms ${storey}`, '$', `${storeys.get(storey)},(${spaces.join()})`);
  }

  private point(x: number, y: number, z?: number): string {
    const args = [x, y, ...(z === undefined ? [] : [z])].map((value) => real(value * 1000)).join();
    return this.shared('IFCCARTESIANPOINT', `(${args})`);
  }

  private direction(vector: Vector): string {
    return this.shared('IFCDIRECTION', `(${vector.map(real).join()})`);
  }

  private axes(at: Vector, z?: Vector, x?: Vector): string {
    const turned = z && x ? `${this.direction(z)},${this.direction(x)}` : '$,$';
    return this.line('IFCAXIS2PLACEMENT3D', `${this.point(...at)},${turned}`);
  }

  private placement({ at, turn = 0, tilt = 0 }: Pick<Part, 'at' | 'turn' | 'tilt'>): string {
    const offset = this.options.offset ?? [0, 0, 0];
    const origin: Vector = [at[0] + offset[0], at[1] + offset[1], at[2] + offset[2]];
    const [t, u] = [(turn * Math.PI) / 180, (tilt * Math.PI) / 180];
    const x: Vector = [Math.cos(u) * Math.cos(t), Math.cos(u) * Math.sin(t), -Math.sin(u)];
    const z: Vector = [Math.sin(u) * Math.cos(t), Math.sin(u) * Math.sin(t), Math.cos(u)];
    return this.line('IFCLOCALPLACEMENT', `$,${turn || tilt ? this.axes(origin, z, x) : this.axes(origin)}`);
  }

  /** Geometry of a shape, once; elements that share it refer to it by a mapped item. */
  private map(part: Part): string {
    const key = `map ${shapeKey(part)}`;
    const known = this.cache.get(key);
    if (known) return known;
    const solid = this.solid(part);
    this.line('IFCSTYLEDITEM', `${solid},(${this.style(part)}),$`);
    const shape = this.line('IFCSHAPEREPRESENTATION', `${this.context},'Body','SweptSolid',(${solid})`);
    const map = this.line('IFCREPRESENTATIONMAP', `${this.axes([0, 0, 0])},${shape}`);
    this.cache.set(key, map);
    return map;
  }

  private solid(part: Pick<Part, 'size' | 'profile'>): string {
    const [dx, dy, dz] = part.size;
    const corners: [number, number][] = part.profile ?? [
      [0, 0],
      [dx, 0],
      [dx, dy],
      [0, dy],
    ];
    const ring = [...corners, corners[0]!].map(([x, y]) => this.point(x, y));
    const profile = this.line(
      'IFCARBITRARYCLOSEDPROFILEDEF',
      `.AREA.,$,${this.line('IFCPOLYLINE', `(${ring.join()})`)}`,
    );
    return this.line(
      'IFCEXTRUDEDAREASOLID',
      `${profile},${this.axes([0, 0, 0])},${this.direction([0, 0, 1])},${real(dz * 1000)}`,
    );
  }

  private style({ colour, opacity = 1 }: Part): string {
    const rgb = this.shared('IFCCOLOURRGB', `$,${colour.map(real).join()}`);
    const rendering = this.shared('IFCSURFACESTYLERENDERING', `${rgb},${real(1 - opacity)},$,$,$,$,$,$,.NOTDEFINED.`);
    const style = this.shared('IFCSURFACESTYLE', `$,.BOTH.,(${rendering})`);
    return this.options.schema === 'IFC4' ? style : this.shared('IFCPRESENTATIONSTYLEASSIGNMENT', `(${style})`);
  }

  private element(part: Part): string {
    const target = this.shared('IFCCARTESIANTRANSFORMATIONOPERATOR3D', `$,$,${this.point(0, 0, 0)},1.,$`);
    const item = this.line('IFCMAPPEDITEM', `${this.map(part)},${target}`);
    const representation = this.line(
      'IFCSHAPEREPRESENTATION',
      `${this.context},'Body','MappedRepresentation',(${item})`,
    );
    const shape = this.line('IFCPRODUCTDEFINITIONSHAPE', `$,$,(${representation})`);
    const { entity, tail } = this.occurrence(part.class);
    const element = this.line(
      entity,
      `'${globalId(`${this.options.title}/${part.key}`)}',${this.owner},${quote(part.name)},$,${quote(part.type)},${this.placement(part)},${shape},${quote(part.key)}${tail}`,
    );
    this.propertySets(part, element);
    part.voids?.forEach((hole, i) => this.opening(part, element, hole, i));
    return element;
  }

  private opening(part: Part, element: string, { at, size }: { at: Vector; size: Vector }, number: number): void {
    const hole: Part = { ...part, at, size, turn: 0, tilt: 0 };
    const solid = this.solid(hole);
    const representation = this.line('IFCSHAPEREPRESENTATION', `${this.context},'Body','SweptSolid',(${solid})`);
    const shape = this.line('IFCPRODUCTDEFINITIONSHAPE', `$,$,(${representation})`);
    const key = `${part.key} opening ${number + 1}`;
    const tail = this.options.schema === 'IFC4' ? ',$,.OPENING.' : ',$';
    const opening = this.root('IFCOPENINGELEMENT', key, '$', `$,${this.placement(hole)},${shape}${tail}`);
    this.root('IFCRELVOIDSELEMENT', key, '$', `${element},${opening}`);
  }

  /** Entity name and the arguments after Tag, which differ between schemas. */
  private occurrence(entity: string): { entity: string; tail: string } {
    if (this.options.schema === 'IFC2X3') return ifc2x3Occurrence(entity);
    if (entity === 'IFCWINDOW' || entity === 'IFCDOOR') return { entity, tail: ',$,$,$,$,$' };
    if (entity === 'IFCREINFORCINGBAR') return { entity, tail: ',$,$,$,$,$,$' };
    if (entity === 'IFCMECHANICALFASTENER') return { entity, tail: ',$,$,$' };
    if (entity === 'IFCPILE') return { entity, tail: ',$,$' };
    if (entity === 'IFCFURNISHINGELEMENT') return { entity, tail: '' };
    return { entity, tail: ',$' };
  }

  private type(part: Part): string {
    const key = typeKey(part);
    const { entity, tail } = this.typeOf(part.class);
    return this.root(entity, key, quote(part.type), `$,$,(${this.map(part)}),$,$${tail}`);
  }

  /** The type's entity and its arguments after ElementType; what has no type of so few arguments gets a neutral one. */
  private typeOf(of: string): { entity: string; tail: string } {
    const entity = `${of}TYPE`;
    if (TYPED_ALIKE.has(of)) return { entity, tail: ',.NOTDEFINED.' };
    if (of === 'IFCDISCRETEACCESSORY') return { entity, tail: this.options.schema === 'IFC4' ? ',.NOTDEFINED.' : '' };
    return { entity: 'IFCBUILDINGELEMENTPROXYTYPE', tail: ',.NOTDEFINED.' };
  }

  private propertySets(part: Part, element: string): void {
    for (const [name, values] of Object.entries(part.properties ?? {})) {
      const properties = Object.entries(values).map(([property, value]) =>
        this.shared('IFCPROPERTYSINGLEVALUE', `${quote(property)},$,${typedValue(property, value)},$`),
      );
      this.define(part.key, element, name, 'IFCPROPERTYSET', `(${properties.join()})`);
    }
    const [dx, dy, dz] = part.size;
    const quantities = [
      this.shared('IFCQUANTITYLENGTH', `'Length',$,$,${real(Math.max(dx, dy, dz) * 1000)}${this.formula}`),
      this.shared('IFCQUANTITYVOLUME', `'GrossVolume',$,$,${real(volumeOf(part))}${this.formula}`),
    ];
    this.define(part.key, element, 'BaseQuantities', 'IFCELEMENTQUANTITY', `$,(${quantities.join()})`);
  }

  /** IFC4 added a Formula to quantities. */
  private get formula(): string {
    return this.options.schema === 'IFC4' ? ',$' : '';
  }

  private define(key: string, element: string, name: string, entity: string, args: string): void {
    const set = this.root(entity, `${key} ${name}`, quote(name), args);
    this.root('IFCRELDEFINESBYPROPERTIES', `${key} ${name}`, '$', `(${element}),${set}`);
  }
}

/** Classes whose types have a predefined type and nothing more, in IFC4 and, where it knows them, in IFC2X3. */
const TYPED_ALIKE = new Set(
  ['WALL', 'SLAB', 'BEAM', 'COLUMN', 'MEMBER', 'PLATE', 'COVERING', 'RAILING', 'DUCTSEGMENT', 'PIPESEGMENT']
    .concat('AIRTERMINAL', 'TANK', 'PUMP', 'BOILER', 'UNITARYEQUIPMENT', 'CABLECARRIERSEGMENT', 'CABLESEGMENT')
    .concat('LIGHTFIXTURE', 'SENSOR', 'OUTLET', 'SWITCHINGDEVICE', 'ELECTRICDISTRIBUTIONBOARD', 'WASTETERMINAL')
    .concat('DISTRIBUTIONCHAMBERELEMENT', 'FOOTING', 'PILE', 'AUDIOVISUALAPPLIANCE')
    .map((name) => `IFC${name}`),
);

function ifc2x3Occurrence(entity: string): { entity: string; tail: string } {
  switch (entity) {
    case 'IFCDUCTSEGMENT':
    case 'IFCPIPESEGMENT':
      return { entity: 'IFCFLOWSEGMENT', tail: '' };
    case 'IFCAIRTERMINAL':
      return { entity: 'IFCFLOWTERMINAL', tail: '' };
    case 'IFCDISCRETEACCESSORY':
      return { entity, tail: '' };
    default:
      return { entity: 'IFCENERGYCONVERSIONDEVICE', tail: '' };
  }
}

const quote = (text: string): string => `'${encodeStepString(text)}'`;

/** STEP reals always have a point. */
function real(value: number): string {
  const text = String(Math.round(value * 1e6) / 1e6);
  if (text.includes('e')) return value.toExponential().replace('e', 'E');
  return text.includes('.') ? text : `${text}.`;
}

function typedValue(name: string, value: string | number | boolean): string {
  if (typeof value === 'boolean') return `IFCBOOLEAN(.${value ? 'T' : 'F'}.)`;
  if (typeof value === 'string') return `IFCLABEL(${quote(value)})`;
  return `${name === 'ThermalTransmittance' ? 'IFCTHERMALTRANSMITTANCEMEASURE' : 'IFCREAL'}(${real(value)})`;
}

const shapeKey = (part: Part): string => JSON.stringify([part.size, part.profile, part.colour, part.opacity]);
const typeKey = (part: Part): string => `${part.class} ${part.type} ${shapeKey(part)}`;

/** Area of the profile (shoelace) × height. */
function volumeOf({ profile, size: [dx, dy, dz] }: Part): number {
  if (!profile) return dx * dy * dz;
  let twice = 0;
  for (const [i, [x, y]] of profile.entries()) {
    const [nx, ny] = profile[(i + 1) % profile.length]!;
    twice += x * ny - nx * y;
  }
  return Math.abs(twice / 2) * dz;
}

function push<K, V>(map: Map<K, V[]>, key: K, value: V): void {
  const list = map.get(key);
  if (list) list.push(value);
  else map.set(key, [value]);
}
