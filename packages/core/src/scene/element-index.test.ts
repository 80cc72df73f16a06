import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { filterElements, type FilterCondition } from './element-filter.ts';
import { ElementIndex, OF_CODE } from './element-index.ts';
import type { PropertySet } from './ifc-properties.ts';
import type { ElementTable } from './prepare-model.ts';
import { decodeProperties, encodeProperties } from './property-file.ts';
import { groupElements, scheduleElements } from './schedule.ts';

const set = (name: string, properties: PropertySet['properties'], from: PropertySet['from'] = 'element') => ({
  ...{ name, kind: 'properties' as const, from, properties },
});
const SETS: PropertySet[] = [
  set('Pset_DoorCommon', [{ name: 'FireRating', value: 'EI60' }]),
  set(
    'Pset_DoorCommon',
    [
      { name: 'FireRating', value: 'EI30' },
      { name: 'IsExternal', value: false },
    ],
    'type',
  ),
  { name: 'Base', kind: 'quantities', from: 'element', properties: [{ name: 'Width', value: 0.9, unit: 'm' }] },
  { name: 'Base', kind: 'quantities', from: 'element', properties: [{ name: 'Width', value: 1.2, unit: 'm' }] },
  {
    name: 'Materials',
    kind: 'materials',
    from: 'element',
    properties: [
      { name: 'Material 1', value: 'Oak' },
      { name: 'Material 1 / Thickness', value: 40 },
      { name: 'Material 2', value: 'Steel' },
    ],
  },
  { name: 'Groups', kind: 'groups', from: 'element', properties: [{ name: 'System', value: 'Supply air 1' }] },
];
const HAS = [[0, 1, 2, 4], [1, 3], [2, 5], []];
const table = {
  globalId: ['0aa', '0bb', '0cc', '0dd'],
  name: ['Door 1', 'Door 2', 'Duct', 'Bare wall'],
  classes: ['IfcDoor', 'IfcDuctSegment', 'IfcWall'],
  class: [0, 0, 1, 2],
  types: ['Door 900'],
  type: [0, 0, -1, -1],
  nodes: [{ class: 'IfcBuildingStorey', name: '00 Ground', parent: -1, elevation: 0 }],
  node: [0, 0, 0, -1],
} as unknown as ElementTable;
function index(): ElementIndex {
  const starts = [0];
  for (const sets of HAS) starts.push(starts.at(-1)! + sets.length);
  const file = encodeProperties({ sets: SETS.map((one) => JSON.stringify(one)), numbers: HAS.flat(), starts });
  return new ElementIndex(table, decodeProperties(file.buffer));
}
const FIRE = { set: 'Pset_DoorCommon', name: 'FireRating' };
const WIDTH = { set: 'Base', name: 'Width' };
const ALL = Uint32Array.of(0, 1, 2, 3);

describe('an index of elements', () => {
  it('lists every property with its unit and its values', () => {
    const said = index()
      .list()
      .map(({ set: of, name, unit, numeric, distinct, rows }) => [of, name, unit, numeric, distinct, rows]);
    expect(said).toContainEqual(['Base', 'Width', 'm', true, 2, 3]);
    expect(said).toContainEqual(['', 'Storey', undefined, false, 1, 3]);
    expect(said).toContainEqual(['', 'Material', undefined, false, 2, 2]);
    expect(said).toContainEqual(['', 'System', undefined, false, 1, 1]);
  });

  it('finds words wherever they are said; all of them must be', () => {
    const found = (words: string) => [...index().search(words)];
    expect(found('door')).toEqual([0, 1]);
    expect(found('DOOR ei60')).toEqual([0]);
    expect(found('0cc')).toEqual([2]);
    expect(found('supply')).toEqual([2]);
    expect(found('1.2')).toEqual([1]);
    expect(found('nothing of that')).toEqual([]);
    expect(found(' ')).toEqual([0, 1, 2, 3]);
  });

  it('finds the same as looking at each element', () => {
    const words = fc.array(fc.constantFrom('door', 'o', '9', 'ei', 'wall', 'x', '1', 'steel'), {
      minLength: 1,
      maxLength: 3,
    });
    const told = table.globalId.map((id, row) =>
      [id, table.name[row], table.classes[table.class[row]!], table.types[table.type[row]!], row < 3 ? '00 Ground' : '']
        .concat(
          row === 0
            ? ['ei60', 'false', '0.9', 'oak', '40', 'steel']
            : row === 1
              ? ['ei30', 'false', '1.2']
              : row === 2
                ? ['0.9', 'supply air 1']
                : [],
        )
        .map((word) => (word ?? '').toLowerCase()),
    );
    fc.assert(
      fc.property(words, (some) => {
        const expected = told.flatMap((said, row) =>
          some.every((word) => said.some((one) => one.includes(word))) ? [row] : [],
        );
        expect([...index().search(some.join(' '))]).toEqual(expected);
      }),
    );
  });
});

describe('a filter', () => {
  const rows = (match: 'all' | 'any', ...conditions: FilterCondition[]) => [
    ...filterElements(index(), { match, conditions }),
  ];
  const where = (key: typeof FIRE, test: FilterCondition['test'], value = ''): FilterCondition => ({
    ...key,
    test,
    value,
  });
  it('asks what is said, the value of an element before that of its type', () => {
    expect(rows('all', where(FIRE, 'is', 'ei60'))).toEqual([0]);
    expect(rows('all', where(FIRE, 'is', 'EI30'))).toEqual([1]);
    expect(rows('all', where(FIRE, 'is not', 'EI30'))).toEqual([0, 2, 3]);
    expect(rows('all', where(FIRE, 'is not said'))).toEqual([2, 3]);
    expect(rows('all', where({ set: 'Pset_DoorCommon', name: 'IsExternal' }, 'is', 'false'))).toEqual([0, 1]);
  });
  it('knows numbers, several conditions, and properties that nothing has', () => {
    expect(rows('all', where(WIDTH, 'from', '1'))).toEqual([1]);
    expect(rows('all', where(WIDTH, 'to', '0,9'))).toEqual([0, 2]);
    expect(rows('all', where(WIDTH, 'from', ''))).toEqual([]);
    expect(rows('all', where(WIDTH, 'is', '0.9'), where({ set: '', name: 'Class' }, 'contains', 'door'))).toEqual([0]);
    expect(rows('any', where(WIDTH, 'is', '1.2'), where({ set: '', name: 'Class' }, 'is', 'ifcwall'))).toEqual([1, 3]);
    expect(rows('all', where({ set: 'No', name: 'Such' }, 'is', '1'))).toEqual([]);
    expect(rows('all', where({ set: 'No', name: 'Such' }, 'is not said'))).toEqual([0, 1, 2, 3]);
    expect(rows('any')).toEqual([0, 1, 2, 3]);
  });
  it('by a material finds all that have it, also as second', () => {
    expect(rows('all', where({ set: '', name: 'Material' }, 'is', 'steel'))).toEqual([0]);
  });
});

describe('a schedule', () => {
  it('groups, the most frequent first, what says nothing last', () => {
    const groups = groupElements(index(), { set: '', name: 'Type' }, ALL);
    expect(groups.map(({ value, rows: members }) => [value, [...members]])).toEqual([
      ['Door 900', [0, 1]],
      [null, [2, 3]],
    ]);
  });
  it('counts and sums, one property within the other', () => {
    const lines = scheduleElements(index(), { by: [{ set: '', name: 'Class' }, FIRE], sum: [WIDTH] }, ALL);
    expect(lines.map(({ values, count, sums }) => [...values, count, ...sums])).toEqual([
      ['IfcDoor', 'EI60', 1, 0.9],
      ['IfcDoor', 'EI30', 1, 1.2],
      ['IfcDuctSegment', null, 1, 0.9],
      ['IfcWall', null, 1, null],
    ]);
    const [all] = scheduleElements(index(), { by: [], sum: [WIDTH] }, ALL);
    expect(all).toMatchObject({ count: 4, sums: [expect.closeTo(3)] });
  });
});

it('what the code of a model says is said of all its elements, and can be grouped by', () => {
  const table = {
    globalId: ['a', 'b'],
    name: ['A', 'B'],
    class: [0, 0],
    classes: ['IfcWall'],
    type: [-1, -1],
    node: [-1, -1],
  };
  const index = new ElementIndex({ ...table, types: [], nodes: [] } as never, null);
  index.describe({ Discipline: 'A Architecture' });
  index.describe({ Discipline: 'S Structure' });
  const column = index.get({ set: OF_CODE, name: 'Discipline' })!;
  expect([column.values, [...column.rows], [...column.of]]).toEqual([['S Structure'], [0, 1], [0, 0]]);
});
