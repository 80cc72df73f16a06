/** The station again and again on a grid, until there are as many elements as asked for. */
import { architecture } from '../../packages/demo/src/building/architecture.ts';
import type { Part, Vector } from '../../packages/demo/src/building/parts.ts';
import { services } from '../../packages/demo/src/building/services.ts';
import { structure } from '../../packages/demo/src/building/structure.ts';
import { writeModel } from '../../packages/demo/src/ifc/write-model.ts';

const DISCIPLINES = { architecture, structure, services };

/** `change`: of each part, by its number; `of`: what of the station there is. */
export function largeModel(
  elements: number,
  change: (part: Part, i: number) => Part = (part) => part,
  of: readonly (keyof typeof DISCIPLINES)[] = ['architecture', 'structure', 'services'],
): Uint8Array {
  const one = of.flatMap((discipline) => DISCIPLINES[discipline]({ number: 1 }));
  const parts: Part[] = [];
  for (let copy = 0; parts.length < elements; copy++) {
    const [dx, dy] = [(copy % 4) * 120, Math.floor(copy / 4) * 40];
    const moved = ([x, y, z]: Vector): Vector => [x + dx, y + dy, z];
    for (const part of one.slice(0, elements - parts.length)) {
      const voids = part.voids?.map(({ at, size }) => ({ at: moved(at), size }));
      const placed = { ...part, key: `${copy}/${part.key}`, at: moved(part.at), ...(voids && { voids }) };
      parts.push(change(placed, parts.length));
    }
  }
  return new TextEncoder().encode(writeModel(parts, { title: 'Large', organisation: 'Nobody', schema: 'IFC4' }));
}
