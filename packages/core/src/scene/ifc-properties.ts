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
import { readInstance, type StepFile, type StepValue } from './step-reader.ts';

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
  /** Each set as JSON in UTF-8. */
  blobs: Uint8Array[];
  /** For each element row, the numbers of its sets. */
  setsOf: number[][];
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
  const encoder = new TextEncoder();
  const blobs: Uint8Array[] = [];
  const numberOf = new Map<string, number>();
  const store = (key: string, make: () => PropertySet | undefined): number | undefined => {
    const known = numberOf.get(key);
    if (known !== undefined) return known < 0 ? undefined : known;
    const set = make();
    numberOf.set(key, set ? blobs.length : -1);
    if (set) blobs.push(encoder.encode(JSON.stringify(set)));
    return set ? blobs.length - 1 : undefined;
  };

  const length = UNIT_SYMBOL[lengthUnit] ?? lengthUnit;
  const defined = relatedBy(file, 'IFCRELDEFINESBYPROPERTIES', 4, 5);
  const types = relatedBy(file, 'IFCRELDEFINESBYTYPE', 4, 5);
  const materials = relatedBy(file, 'IFCRELASSOCIATESMATERIAL', 4, 5);
  const classified = relatedBy(file, 'IFCRELASSOCIATESCLASSIFICATION', 4, 5);
  const typeSets = new Map<number, number[]>();
  for (const [type, ids] of file.byType)
    if (/(?:TYPE|STYLE)$/.test(type)) for (const id of ids) typeSets.set(id, references(argsOf(file, id)[5]));

  const setsOf = elements.map((element) => {
    const type = types.get(element)?.[0] ?? 0;
    const numbers = [
      ...(defined.get(element) ?? []).map((id) => store(`o${id}`, () => readSet(file, id, 'element', length))),
      ...(typeSets.get(type) ?? []).map((id) => store(`t${id}`, () => readSet(file, id, 'type', length))),
      ...[...(materials.get(element) ?? []), ...(materials.get(type) ?? [])].map((id) =>
        store(`m${id}`, () => materialSet(file, id)),
      ),
      ...(classified.get(element) ?? []).map((id) => store(`c${id}`, () => classificationSet(file, id))),
    ];
    return numbers.filter((number) => number !== undefined);
  });
  return { blobs, setsOf };
}

function readSet(file: StepFile, id: number, from: PropertySet['from'], length: string): PropertySet | undefined {
  const set = readInstance(file, id);
  if (set?.type === 'IFCPROPERTYSET') {
    const properties = references(set.args[4]).flatMap((property) => readProperty(file, property, length));
    return { name: text(set.args[NAME]), kind: 'properties', from, properties };
  }
  if (set?.type === 'IFCELEMENTQUANTITY') {
    const properties = references(set.args[5]).flatMap((quantity) => readQuantity(file, quantity, length));
    return { name: text(set.args[NAME]), kind: 'quantities', from, properties };
  }
  return undefined;
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

/** element → index into `names`, for showing the type of an element. */
export function readTypeNames(file: StepFile): Map<number, string> {
  const names = new Map<number, string>();
  for (const id of instances(file, 'IFCRELDEFINESBYTYPE')) {
    const args = argsOf(file, id);
    const type = text(argsOf(file, references([args[5] ?? null])[0] ?? 0)[NAME]);
    for (const element of references(args[4])) names.set(element, type);
  }
  return names;
}
