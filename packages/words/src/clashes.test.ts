import { expect, it } from 'vitest';
import { nameElementGroup, namePair, nameTypeGroup, sayFarApart } from './clashes.ts';

it('names groups by what stands in the way, what meets again and again, or the two that meet', () => {
  const [bar, slab] = [
    { class: 'IfcReinforcingBar', name: '' },
    { class: 'IfcSlab', name: 'Floor' },
  ];
  expect(nameElementGroup({ class: 'IfcPipeSegment', name: 'Pipe 7' }, [slab, bar, bar])).toBe(
    'Pipe 7 against 2 × IfcReinforcingBar, 1 × IfcSlab',
  );
  expect(nameTypeGroup(3, ['Duct 400', 'IPE 300'])).toBe('3 times: Duct 400 against IPE 300');
  expect(namePair(bar, slab)).toBe('IfcReinforcingBar against Floor');
  expect(sayFarApart(348_570)).toMatch(/^The two models lie 349 km apart: .* Export both in the same coordinates\.$/);
});
