/** What an element is made of: one material, several, or layers, profiles and constituents with what is said of each. */
import { numeric, reference, references, text } from './ifc-structure.ts';
import type { Property } from './ifc-properties.ts';
import type { Units } from './ifc-units.ts';
import { readInstance, type StepFile, type StepValue } from './step-reader.ts';

const DEEPEST = 6;

interface Part {
  material: string;
  /** What it is called where parts have names. */
  name?: string;
  about: Property[];
}

/** Of any IfcMaterialSelect; none where it names nothing. */
export function readMaterials(file: StepFile, id: number, units: Units): Property[] {
  const parts = partsOf(file, id, units, 0).filter(({ material }) => material);
  const plain = parts.every(({ about }) => !about.length);
  const kept = plain
    ? parts.filter((part, i) => parts.findIndex((one) => one.material === part.material) === i)
    : parts;
  return kept.flatMap(({ material, name, about }, i) => {
    const called = name ?? (kept.length > 1 ? `Material ${i + 1}` : 'Material');
    return [{ name: called, value: material }, ...about.map((one) => ({ ...one, name: `${called} / ${one.name}` }))];
  });
}

/** Arguments by IFC4; a list, a layer or a usage is the same in IFC2X3. */
function partsOf(file: StepFile, id: number, units: Units, depth: number): Part[] {
  const found = readInstance(file, id);
  if (!found || depth > DEEPEST) return [];
  const { type, args } = found;
  const follow = (value: StepValue | undefined): Part[] =>
    [reference(value), ...references(value)].filter(Boolean).flatMap((next) => partsOf(file, next, units, depth + 1));
  const materialOf = (value: StepValue | undefined): string => follow(value)[0]?.material ?? '';
  switch (type) {
    case 'IFCMATERIAL':
      return [{ material: text(args[0]), about: [] }];
    case 'IFCMATERIALLAYERSETUSAGE':
    case 'IFCMATERIALLAYERSET':
    case 'IFCMATERIALLIST':
    case 'IFCMATERIALPROFILESETUSAGE':
    case 'IFCMATERIALPROFILESETUSAGETAPERING':
      return follow(args[0]);
    case 'IFCMATERIALLAYER':
    case 'IFCMATERIALLAYERWITHOFFSETS': {
      const [thickness, unit] = [numeric(args[1]), units.of('IFCLENGTHMEASURE')];
      const about = thickness ? [{ name: 'Thickness', value: thickness, ...(unit && { unit }) }] : [];
      return [{ material: materialOf(args[0]), about }];
    }
    case 'IFCMATERIALPROFILE':
    case 'IFCMATERIALPROFILEWITHOFFSETS': {
      const section = text(readInstance(file, reference(args[3]))?.args[1]) || text(args[0]);
      return [{ material: materialOf(args[2]), about: section ? [{ name: 'Profile', value: section }] : [] }];
    }
    case 'IFCMATERIALCONSTITUENT': {
      const [name, fraction] = [text(args[0]), numeric(args[3])];
      const about = fraction === null ? [] : [{ name: 'Fraction', value: fraction }];
      return [{ material: materialOf(args[2]), ...(name && { name }), about }];
    }
    default:
      return follow(args[2]);
  }
}
