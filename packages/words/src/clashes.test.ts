import { expect, it } from 'vitest';
import { nameGroup, sayFarApart } from './clashes.ts';

it('names groups by what stands in the way, what meets again and again, or the two that meet', () => {
  const on = { storey: '01 First', model: 'Structural model' };
  const elements: Record<string, { class: string; name: string; storey: string; model: string }> = {
    bar: { class: 'IfcReinforcingBar', name: '', ...on },
    slab: { class: 'IfcSlab', name: 'Floor', ...on },
    pipe: { class: 'IfcPipeSegment', name: 'Pipe 7', ...on },
  };
  const elementOf = (key: string) => elements[key.replace(/\d/, '')]!;
  const known = {
    system: (key: string) => (key === 'pipe' ? 'Supply' : ''),
    storey: (key: string) => (key === 'pipe' ? '' : 'one'),
  };
  const met = ['slab', 'bar1', 'bar2'].map((b) => ({ a: 'pipe', b }));
  expect(nameGroup({ element: 'pipe' }, met, elementOf, known)).toBe(
    'Pipe 7 against 2 × IfcReinforcingBar, 1 × IfcSlab',
  );
  expect(nameGroup({ types: ['Duct 400', 'IPE 300'] }, met, elementOf, known)).toBe(
    '3 times: Duct 400 against IPE 300',
  );
  expect(nameGroup({ system: 'Supply', element: 'pipe' }, met, elementOf, known)).toBe(
    'System Supply against 2 × IfcReinforcingBar, 1 × IfcSlab',
  );
  expect(nameGroup({ storey: 'one', elements: 3, of: 5 }, met, elementOf, known)).toBe(
    '3 of 5 elements on 01 First of Structural model against 1 × IfcPipeSegment',
  );
  expect(nameGroup(null, [{ a: 'bar1', b: 'slab' }], elementOf, known)).toBe('IfcReinforcingBar against Floor');
  expect(sayFarApart(348_570)).toMatch(/^The two models lie 349 km apart: .* Export both in the same coordinates\.$/);
});
