/** Property sets and quantities of elements, each set stored once however many elements share it. */
import {
  argsOf,
  enumeration,
  instances,
  materialNames,
  NAME,
  numeric,
  references,
  relatedBy,
  text,
} from './ifc-structure.ts';
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
}
export interface PropertySet {
  name: string;
  kind: 'properties' | 'quantities' | 'materials' | 'classification';
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

/** Units of derived measures follow the file's length unit; SI otherwise. */
const QUANTITY_UNIT: Record<string, string> = {
  IFCQUANTITYAREA: 'm²',
  IFCQUANTITYVOLUME: 'm³',
  IFCQUANTITYWEIGHT: 'kg',
  IFCQUANTITYTIME: 's',
  IFCAREAMEASURE: 'm²',
  IFCVOLUMEMEASURE: 'm³',
  IFCMASSMEASURE: 'kg',
  IFCTHERMALTRANSMITTANCEMEASURE: 'W/m²K',
};
const LENGTHS = new Set([
  'IFCLENGTHMEASURE',
  'IFCPOSITIVELENGTHMEASURE',
  'IFCNONNEGATIVELENGTHMEASURE',
  'IFCQUANTITYLENGTH',
]);
const UNIT_SYMBOL: Record<string, string> = { millimetre: 'mm', centimetre: 'cm', metre: 'm', foot: 'ft', inch: 'in' };

/** `elements`: instance numbers in the order of the element table. */
export function readProperties(file: StepFile, elements: readonly number[], lengthUnit: string): PropertyStore {
  const reader = new SetReader(file, UNIT_SYMBOL[lengthUnit] ?? lengthUnit);
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
    classifications: kind((id) => reader.classification(id)),
  };

  const alike = new Alike(file, NAME);
  const defined = relatedBy(file, 'IFCRELDEFINESBYPROPERTIES', 4, (set) => alike.firstOf(set));
  const types = relatedBy(file, 'IFCRELDEFINESBYTYPE', 4);
  const materials = relatedBy(file, 'IFCRELASSOCIATESMATERIAL', 4);
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
    store.starts.push(store.numbers.length);
  }
  return store;
}

/** Makes the JSON of a set; exports share properties among thousands of sets, so each is read once. */
class SetReader {
  private readonly fragments = new Map<number, string>();
  constructor(
    private readonly file: StepFile,
    private readonly length: string,
  ) {}

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
    const set = materialSet(this.file, id);
    return set && JSON.stringify(set);
  }

  classification(id: number): string | undefined {
    const set = classificationSet(this.file, id);
    return set && JSON.stringify(set);
  }

  private json(
    name: string,
    kind: PropertySet['kind'],
    from: PropertySet['from'],
    members: number[],
    read: (file: StepFile, id: number, length: string) => Property[],
  ): string {
    const parts: string[] = [];
    for (const member of members) {
      let fragment = this.fragments.get(member);
      if (fragment === undefined) {
        fragment = read(this.file, member, this.length)
          .map((property) => JSON.stringify(property))
          .join();
        this.fragments.set(member, fragment);
      }
      if (fragment) parts.push(fragment);
    }
    return `{"name":${JSON.stringify(name)},"kind":"${kind}","from":"${from}","properties":[${parts.join()}]}`;
  }
}

function readProperty(file: StepFile, id: number, length: string): Property[] {
  const property = readInstance(file, id);
  if (!property) return [];
  const name = text(property.args[0]);
  const [, , third, fourth] = property.args;
  switch (property.type) {
    case 'IFCPROPERTYSINGLEVALUE':
      return [measured(name, third, length)];
    case 'IFCPROPERTYENUMERATEDVALUE':
    case 'IFCPROPERTYLISTVALUE':
      return [{ name, value: Array.isArray(third) ? third.map(plain).join(', ') : plain(third) }];
    case 'IFCPROPERTYBOUNDEDVALUE':
      return [{ name, value: `${plain(fourth) ?? '…'} to ${plain(third) ?? '…'}` }];
    case 'IFCCOMPLEXPROPERTY':
      return references(fourth).flatMap((part) =>
        readProperty(file, part, length).map((inner) => ({ ...inner, name: `${name} / ${inner.name}` })),
      );
    default:
      return [{ name, value: null }];
  }
}

function readQuantity(file: StepFile, id: number, length: string): Property[] {
  const quantity = readInstance(file, id);
  if (!quantity) return [];
  const unit = LENGTHS.has(quantity.type) ? length : QUANTITY_UNIT[quantity.type];
  return [{ name: text(quantity.args[0]), value: numeric(quantity.args[3]), ...(unit && { unit }) }];
}

function measured(name: string, value: StepValue | undefined, length: string): Property {
  const type = value && typeof value === 'object' && 'type' in value ? value.type : '';
  const unit = LENGTHS.has(type) ? length : QUANTITY_UNIT[type];
  return { name, value: plain(value), ...(unit && { unit }) };
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

function materialSet(file: StepFile, id: number): PropertySet | undefined {
  const names = [...new Set(materialNames(file, id))].filter(Boolean);
  if (!names.length) return undefined;
  const properties = names.map((value, i) => ({ name: names.length > 1 ? `Material ${i + 1}` : 'Material', value }));
  return { name: 'Materials', kind: 'materials', from: 'element', properties };
}

function classificationSet(file: StepFile, id: number): PropertySet | undefined {
  const [, code, name] = argsOf(file, id);
  if (!text(code) && !text(name)) return undefined;
  return {
    name: 'Classification',
    kind: 'classification',
    from: 'element',
    properties: [{ name: text(code) || 'Code', value: text(name) || text(code) }],
  };
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
