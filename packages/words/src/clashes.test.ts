import { expect, it } from 'vitest';
import { nameGroup, sayFarApart } from './clashes.ts';

it('names groups by what stands in the way, what meets again and again, or the two that meet', () => {
  const elements: Record<string, { class: string; name: string }> = {
    bar: { class: 'IfcReinforcingBar', name: '' },
    slab: { class: 'IfcSlab', name: 'Floor' },
    pipe: { class: 'IfcPipeSegment', name: 'Pipe 7' },
  };
  const elementOf = (key: string) => elements[key.replace(/\d/, '')]!;
  const met = ['slab', 'bar1', 'bar2'].map((b) => ({ a: 'pipe', b }));
  expect(nameGroup({ element: 'pipe' }, met, elementOf)).toBe('Pipe 7 against 2 × IfcReinforcingBar, 1 × IfcSlab');
  expect(nameGroup({ types: ['Duct 400', 'IPE 300'] }, met, elementOf)).toBe('3 times: Duct 400 against IPE 300');
  expect(nameGroup(null, [{ a: 'bar1', b: 'slab' }], elementOf)).toBe('IfcReinforcingBar against Floor');
  expect(sayFarApart(348_570)).toMatch(/^The two models lie 349 km apart: .* Export both in the same coordinates\.$/);
});
