import { expect, it } from 'vitest';
import { listModelChanges } from './model-changes.ts';
import { modelOf, type TestElement } from './models.fixture.ts';

const wall = (id: string, more: Partial<TestElement> = {}): TestElement => ({
  id,
  min: [0, 0, 0],
  size: [5, 0.3, 3],
  ...more,
});

it('lists what was added, removed and changed, as data and as text', () => {
  const before = modelOf([
    wall('a'),
    wall('b', { min: [0, 9, 0], name: 'Old' }),
    wall('c', { min: [0, 20, 0], fire: 'EI 30' }),
    wall('d'),
  ]);
  const after = modelOf([
    wall('a', { min: [0.25, 0, 0] }),
    wall('c', { min: [0, 20, 0], size: [6, 0.3, 3], fire: 'EI 60' }),
    wall('d'),
    wall('new', { min: [0, 50, 0], name: 'New' }),
  ]);
  const { data, text, findings } = listModelChanges(before, after);
  expect(data.added).toEqual([{ globalId: 'new', class: 'IfcWall', name: 'New' }]);
  expect(data.removed).toEqual([{ globalId: 'b', class: 'IfcWall', name: 'Old' }]);
  expect(data.unchanged).toBe(1);
  expect(data.changed).toMatchObject([
    { globalId: 'a', moved: [0.25, 0, 0], properties: [] },
    {
      globalId: 'c',
      geometry: { length: [expect.closeTo(5), expect.closeTo(6)], volume: [expect.closeTo(4.5), expect.closeTo(5.4)] },
      properties: [{ set: 'Pset_WallCommon', name: 'FireRating', before: 'EI 30', after: 'EI 60' }],
    },
  ]);
  expect(findings).toBe(4);
  expect(text.split('\n').slice(0, 4)).toEqual([
    '1 added, 1 removed, 2 changed, 1 unchanged',
    '+ IfcWall New new',
    '- IfcWall Old b',
    '~ IfcWall Wall a: moved by 0.25 m (0.25, 0, 0)',
  ]);
  expect(text).toContain('    Pset_WallCommon / FireRating: EI 30 → EI 60');
});

it('says under which GlobalId an element was known', () => {
  const { data } = listModelChanges(
    modelOf([wall('was', { fire: 'EI 30' })]),
    modelOf([wall('is', { fire: 'EI 60' })]),
  );
  expect(data.changed).toMatchObject([{ globalId: 'is', globalIdBefore: 'was' }]);
});
