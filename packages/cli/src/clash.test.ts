import { expect, it } from 'vitest';
import { listClashes } from './clash.ts';
import { modelOf, type TestElement } from './models.fixture.ts';

const bar = (id: string, x: number): TestElement => ({ id, name: `Bar ${id}`, min: [x, 0, 0], size: [0.1, 0.1, 4] });

it('lists clashes with their depth, grouped and named, and says what was looked at', () => {
  const pipe: TestElement = { id: 'pipe', name: 'Pipe', min: [-1, 0.02, 1], size: [9, 0.05, 0.05] };
  const spare: TestElement = { id: 'spare', name: 'Spare', min: [4.12, 0, 0], size: [0.1, 0.1, 0.5] };
  const [a, b] = [modelOf([pipe, spare]), modelOf([bar('1', 0), bar('2', 2), bar('3', 4)])];
  const { data, text, findings } = listClashes(a, b, { tolerance: 0.001, clearance: 0.03 });
  expect(data.clashes).toMatchObject([
    { a: 'pipe', b: '1', kind: 'hard', depthMm: expect.closeTo(50, 0) },
    { a: 'pipe', b: '2', kind: 'hard' },
    { a: 'pipe', b: '3', kind: 'hard' },
    { a: 'spare', b: '3', kind: 'clearance', gapMm: expect.closeTo(20, 0) },
  ]);
  expect(data.clashes[0]!.point[2]).toBeCloseTo(1.025, 2);
  expect(data.groups).toEqual([
    { name: 'Pipe against 3 × IfcWall', clashes: [0, 1, 2] },
    { name: 'Spare against Bar 3', clashes: [3] },
  ]);
  expect(data.stats).toMatchObject({ elementsA: 2, elementsB: 3, candidatePairs: 4 });
  expect(data.notes).toEqual([]);
  expect(findings).toBe(4);
  expect(text).toContain('20 mm apart at 4.11');
  expect(text).toMatch(/^4 clashes in 2 groups; 4 pairs looked at/);
});

it('says where two models cannot meet: they count from different origins', () => {
  const far = modelOf([bar('2', 2)]);
  far.bounds.elements = [348_600, 5_912_400, 0, 348_630, 5_912_420, 10];
  const { data, text } = listClashes(modelOf([bar('1', 0)]), far, { tolerance: 0.001, clearance: 0 });
  expect(data.notes[0]).toMatch(/^far-apart: The two models lie \d+ km apart/);
  expect(text).toMatch(/^The two models lie/);
});
