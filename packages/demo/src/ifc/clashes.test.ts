import { findClashes } from '@kindred/core/clash/find-clashes';
import { prepareModel } from '@kindred/core/scene/prepare-model';
import type { IfcAPI } from 'web-ifc';
import { beforeAll, expect, it } from 'vitest';
import type { Part } from '../building/parts.ts';
import { services } from '../building/services.ts';
import { structure } from '../building/structure.ts';
import { kernel } from './kernel.fixture.ts';
import { writeModel } from './write-model.ts';

let api: IfcAPI;
beforeAll(async () => {
  api = await kernel();
});
const options = { title: 'Test', organisation: 'Nobody', schema: 'IFC4' as const };
function side(parts: readonly Part[]) {
  const { scene, table } = prepareModel(new TextEncoder().encode(writeModel(parts, options)), api);
  return { scene, rows: table.globalId.length, name: (row: number): string => table.name[row]! };
}
function clashing(ducts: readonly Part[], steel: readonly Part[]): Set<string> {
  const [a, b] = [side(ducts), side(steel)];
  const { clashes } = findClashes(a, b, { tolerance: 0.001, clearance: 0 });
  return new Set(clashes.map((clash) => `${a.name(clash.a)} / ${b.name(clash.b)}`));
}

it('the duct that was lowered between two editions runs through a beam; before it did not', () => {
  const before = clashing(services({ number: 1 }), structure({ number: 2 }));
  const after = clashing(services({ number: 2 }), structure({ number: 2 }));
  const beams = [...after].filter((pair) => !before.has(pair) && /duct/i.test(pair) && /beam/i.test(pair));
  expect(beams.length).toBeGreaterThan(0);
});
