/** Property sets and quantities of elements, each set stored once however many elements share it. */
import {
  argsOf,
  enumeration,
  instances,
  NAME,
  numeric,
  reference,
  references,
  relatedBy,
  text,
} from './ifc-structure.ts';
import { readMaterials } from './ifc-materials.ts';
import { Units } from './ifc-units.ts';
import {
  Alike,
  readArguments,
  readInstance,
  readReferences,
  typeOf,
  type StepFile,
  type StepValue,
} from './step-reader.ts';

export interface Property {
  name: string;
  value: string | number | boolean | null;
  unit?: string;
  /** Of the type: the element has a value of its own. */
  overridden?: true;
}
export interface PropertySet {
  name: string;
  kind: 'properties' | 'quantities' | 'materials' | 'classification' | 'groups' | 'documents';
  from: 'element' | 'type';
  properties: Property[];
}

export interface PropertyStore {
  /** Each set as JSON. */
  sets: string[];
  /** The numbers of the sets of all element rows, row after row … */
  numbers: number[];
  /** … and where those of each row begin, with the total at the end. */
  starts: number[];
}

/** `elements`: instance numbers in the order of the element table. */
export function readProperties(file: StepFile, elements: readonly number[]): PropertyStore {
  const reader = new SetReader(file);
  const store: PropertyStore = { sets: [], numbers: [], starts: [0] };
  /** Adds sets of one kind to the row that is being written; each is made once, whoever shares it. */
  const kind = (make: (id: number) => string | undefined) => {
    const numberOf = new Map<number, number>();
    return (ids: readonly number[] | undefined): void => {
      for (const id of ids ?? []) {
        let number = numberOf.get(id);
        if (number === undefined) {
          const set = make(id);
          number = set === undefined ? -1 : store.sets.push(set) - 1;
          numberOf.set(id, number);
        }
        if (number >= 0) store.numbers.push(number);
      }
    };
  };
  const add = {
    definitions: kind((id) => reader.definition(id, 'element')),
    ofType: kind((id) => reader.definition(id, 'type')),
    materials: kind((id) => reader.material(id)),
    groups: kind((id) => reader.group(id)),
    documents: kind((id) => reader.document(id)),
    classifications: kind((id) => reader.classification(id, 'element')),
    ofTypeClassified: kind((id) => reader.classification(id, 'type')),
  };

  const alike = new Alike(file, NAME);
  const defined = relatedBy(file, 'IFCRELDEFINESBYPROPERTIES', 4, (set) => alike.firstOf(set));
  const types = relatedBy(file, 'IFCRELDEFINESBYTYPE', 4);
  const materials = relatedBy(file, 'IFCRELASSOCIATESMATERIAL', 4);
  const groups = groupsOf(file);
  const documents = relatedBy(file, 'IFCRELASSOCIATESDOCUMENT', 4);
  const classified = relatedBy(file, 'IFCRELASSOCIATESCLASSIFICATION', 4);
  const typeSets = new Map<number, number[]>();
  for (const [type, ids] of file.byType)
    if (/(?:TYPE|STYLE)$/.test(type)) for (const id of ids) typeSets.set(id, readReferences(file, id, 5));

  for (const element of elements) {
    const type = types.get(element)?.[0] ?? 0;
    add.definitions(defined.get(element));
    add.ofType(typeSets.get(type));
    add.materials(materials.get(element) ?? materials.get(type));
    add.classifications(classified.get(element));
    add.ofTypeClassified(classified.get(type));
    add.groups(groups.get(element));
    add.documents([...(documents.get(element) ?? []), ...(documents.get(type) ?? [])]);
    store.starts.push(store.numbers.length);
  }
  return store;
}

/** What a group is called where its class says what it is for. */
const GROUPS: Record<string, string> = {
  IFCSYSTEM: 'System',
  IFCDISTRIBUTIONSYSTEM: 'System',
  IFCDISTRIBUTIONCIRCUIT: 'Circuit',
  IFCELECTRICALCIRCUIT: 'Circuit',
  IFCBUILDINGSYSTEM: 'System',
  IFCBUILTSYSTEM: 'System',
  IFCZONE: 'Zone',
};

/** element → the groups that it belongs to. */
function groupsOf(file: StepFile): Map<number, number[]> {
  const groups = new Map<number, number[]>();
  for (const id of instances(file, 'IFCRELASSIGNSTOGROUP')) {
    const [group = 0] = readReferences(file, id, 6);
    for (const element of readReferences(file, id, 4)) groups.set(element, [...(groups.get(element) ?? []), group]);
  }
  return groups;
}

/** Makes the JSON of a set; exports share properties among thousands of sets, so each is read once. */
class SetReader {
  private readonly fragments = new Map<number, string>();
  private readonly units: Units;
  constructor(private readonly file: StepFile) {
    this.units = new Units(file);
  }

  definition(id: number, from: PropertySet['from']): string | undefined {
    const name = (): string => text(readArguments(this.file, id, NAME, NAME + 1)[0]);
    switch (typeOf(this.file, id)) {
      case 'IFCPROPERTYSET':
        return this.json(name(), 'properties', from, readReferences(this.file, id, 4), readProperty);
      case 'IFCELEMENTQUANTITY':
        return this.json(name(), 'quantities', from, readReferences(this.file, id, 5), readQuantity);
      default:
        return undefined;
    }
  }

  material(id: number): string | undefined {
    return this.told('Materials', 'materials', readMaterials(this.file, id, this.units));
  }

  group(id: number): string | undefined {
    const group = readInstance(this.file, id);
    const name = text(group?.args[NAME]);
    const kind = group && (GROUPS[group.type] ?? 'Group');
    return this.told('Groups', 'groups', kind && name ? [{ name: kind, value: name }] : []);
  }

  document(id: number): string | undefined {
    const { type, args } = readInstance(this.file, id) ?? { type: '', args: [] };
    // A reference has a location before its identification; information begins with the identification.
    const [location, code, name] =
      type === 'IFCDOCUMENTINFORMATION' ? [text(args[3]), text(args[0]), text(args[1])] : args.slice(0, 3).map(text);
    const about = code || name;
    const value = name || location || code;
    return this.told('Documents', 'documents', about && value ? [{ name: code || 'Document', value }] : []);
  }

  private told(name: string, kind: PropertySet['kind'], properties: Property[]): string | undefined {
    return properties.length ? JSON.stringify({ name, kind, from: 'element', properties }) : undefined;
  }

  classification(id: number, from: PropertySet['from']): string | undefined {
    const set = classificationSet(this.file, id, from);
    return set && JSON.stringify(set);
  }

  private json(
    name: string,
    kind: PropertySet['kind'],
    from: PropertySet['from'],
    members: number[],
    read: (file: StepFile, id: number, units: Units) => Property[],
  ): string {
    const parts: string[] = [];
    for (const member of members) {
      let fragment = this.fragments.get(member);
      if (fragment === undefined) {
        fragment = read(this.file, member, this.units)
          .map((property) => JSON.stringify(property))
          .join();
        this.fragments.set(member, fragment);
      }
      if (fragment) parts.push(fragment);
    }
    return `{"name":${JSON.stringify(name)},"kind":"${kind}","from":"${from}","properties":[${parts.join()}]}`;
  }
}

/** Complex properties name themselves before those that they hold; deeper than this nobody writes them. */
const DEEPEST = 6;
function readProperty(file: StepFile, id: number, units: Units, depth = 0): Property[] {
  const property = readInstance(file, id);
  if (!property || depth > DEEPEST) return [];
  const { type, args } = property;
  const name = text(args[0]);
  const [, , third, fourth, fifth, sixth, seventh] = args;
  const own = (value: StepValue | undefined, unit: StepValue | undefined, measured = value): Property => {
    const symbol = units.symbolOf(reference(unit)) ?? units.of(measureOf(measured));
    return { name, value: plain(value), ...(symbol && { unit: symbol }) };
  };
  switch (type) {
    case 'IFCPROPERTYSINGLEVALUE':
      return [own(third, fourth)];
    case 'IFCPROPERTYENUMERATEDVALUE':
      return [own(third, argsOf(file, reference(fourth))[2])];
    case 'IFCPROPERTYLISTVALUE':
      return [own(third, fourth)];
    case 'IFCPROPERTYBOUNDEDVALUE': {
      const set = plain(sixth);
      const range = `${plain(fourth) ?? '…'} to ${plain(third) ?? '…'}`;
      return [
        { ...own(null, fifth, third ?? fourth ?? sixth), value: set === null ? range : `${set}, within ${range}` },
      ];
    }
    case 'IFCPROPERTYTABLEVALUE':
      return [
        { name, value: tableOf(third, fourth, units.symbolOf(reference(sixth)), units.symbolOf(reference(seventh))) },
      ];
    case 'IFCPROPERTYREFERENCEVALUE':
      return [{ name, value: text(third) || firstWords(file, reference(fourth)) }];
    case 'IFCCOMPLEXPROPERTY':
      return references(fourth).flatMap((part) => within(name, readProperty(file, part, units, depth + 1)));
    default:
      return [{ name, value: null }];
  }
}
const within = (name: string, parts: readonly Property[]): Property[] =>
  parts.map((inner) => ({ ...inner, name: `${name} / ${inner.name}` }));

/** “0 → 1, 10 → 4”: what stands on the left defines what stands on the right. */
function tableOf(
  defining: StepValue | undefined,
  defined: StepValue | undefined,
  definingUnit: string | undefined,
  definedUnit: string | undefined,
): string | null {
  if (!Array.isArray(defining) || !Array.isArray(defined)) return null;
  const said = (value: StepValue | undefined, unit: string | undefined): string =>
    [plain(value) ?? '…', unit].filter((part) => part !== undefined).join(' ');
  return defining.map((value, i) => `${said(value, definingUnit)} → ${said(defined[i], definedUnit)}`).join(', ');
}

/** What a thing that a property refers to calls itself. */
function firstWords(file: StepFile, id: number): string | null {
  const found = argsOf(file, id).find((arg) => typeof arg === 'string' && arg);
  return typeof found === 'string' ? found : null;
}

function readQuantity(file: StepFile, id: number, units: Units, depth = 0): Property[] {
  const quantity = readInstance(file, id);
  if (!quantity || depth > DEEPEST) return [];
  const { type, args } = quantity;
  const name = text(args[0]);
  if (type === 'IFCPHYSICALCOMPLEXQUANTITY')
    return references(args[2]).flatMap((part) => within(name, readQuantity(file, part, units, depth + 1)));
  const unit = units.symbolOf(reference(args[2])) ?? units.of(type);
  return [{ name, value: numeric(args[3]), ...(unit && { unit }) }];
}

/** The measure that a value says it is of; of a list that of its first one. */
function measureOf(value: StepValue | undefined): string {
  const one = Array.isArray(value) ? value[0] : value;
  return one && typeof one === 'object' && 'type' in one ? one.type : '';
}

function plain(value: StepValue | undefined): Property['value'] {
  if (value === null || value === undefined) return null;
  if (typeof value !== 'object') return value;
  if (Array.isArray(value)) return value.map(plain).join(', ');
  if ('type' in value) {
    if (/BOOLEAN$|LOGICAL$/.test(value.type)) return logical(enumeration(value.value));
    return plain(value.value);
  }
  return 'enum' in value ? (logical(value.enum) ?? value.enum) : null;
}

function logical(code: string): boolean | string | null {
  if (code === 'T') return true;
  if (code === 'F') return false;
  return code === 'U' ? 'unknown' : null;
}

function classificationSet(file: StepFile, id: number, from: PropertySet['from']): PropertySet | undefined {
  const [, code, name, source] = argsOf(file, id);
  if (!text(code) && !text(name)) return undefined;
  return {
    name: systemOf(file, reference(source)) || 'Classification',
    kind: 'classification',
    from,
    properties: [{ name: text(code) || 'Code', value: text(name) || text(code) }],
  };
}
/** Name of the system at the end of the references: the table stands above the code, the system above the table. */
function systemOf(file: StepFile, id: number, depth = 0): string {
  const source = readInstance(file, id);
  if (!source || depth > DEEPEST) return '';
  if (source.type === 'IFCCLASSIFICATION') return text(source.args[3]);
  return systemOf(file, reference(source.args[3]), depth + 1);
}

/** element → the name of its type. */
export function readTypeNames(file: StepFile): Map<number, string> {
  const names = new Map<number, string>();
  for (const id of instances(file, 'IFCRELDEFINESBYTYPE')) {
    const [type = 0] = readReferences(file, id, 5);
    const name = text(readArguments(file, type, NAME, NAME + 1)[0]);
    for (const element of readReferences(file, id, 4)) names.set(element, name);
  }
  return names;
}

/** What an element says for itself replaces what its type says, which is kept and marked. */
export function withOverrides(sets: readonly PropertySet[]): PropertySet[] {
  const own = new Set(
    sets.flatMap(({ name, kind, from, properties }) =>
      from === 'element' ? properties.map((property) => `${kind} ${name} ${property.name}`) : [],
    ),
  );
  return sets.map((set) => {
    if (set.from === 'element') return set;
    const properties = set.properties.map((property): Property =>
      own.has(`${set.kind} ${set.name} ${property.name}`) ? { ...property, overridden: true } : property,
    );
    return { ...set, properties };
  });
}
