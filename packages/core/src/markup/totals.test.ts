import { expect, it } from 'vitest';
import { totalsOf } from './totals.ts';
import type { Point } from './shapes.ts';

const across: [Point, Point] = [
  [0, 0],
  [100, 0],
];

it('lengths, areas and counts are summed up by kind and words; what has no scale is not', () => {
  const one = (text: string, metresPerPoint: number | null) => ({
    shape: { kind: 'dimension' as const, points: across },
    text,
    metresPerPoint,
  });
  const area = {
    shape: { kind: 'area' as const, points: [...across, [100, 100]] as Point[] },
    text: '',
    metresPerPoint: 0.1,
  };
  const doors = { shape: { kind: 'count' as const, points: across as Point[] }, text: 'door', metresPerPoint: null };
  expect(
    totalsOf([one('skirting', 0.1), one('skirting', 0.05), one('rail', 0.1), one('rail', null), area, doors, doors]),
  ).toEqual([
    { kind: 'dimension', label: 'skirting', markups: 2, sum: 15, unit: 'length' },
    { kind: 'dimension', label: 'rail', markups: 1, sum: 10, unit: 'length' },
    { kind: 'area', label: '', markups: 1, sum: expect.closeTo(50) as number, unit: 'area' },
    { kind: 'count', label: 'door', markups: 2, sum: 4, unit: 'count' },
  ]);
});

it('angles and what measures nothing have no total', () => {
  const angle = {
    shape: { kind: 'angle' as const, points: [...across, [0, 9]] as [Point, Point, Point] },
    text: '',
    metresPerPoint: 1,
  };
  expect(totalsOf([angle, { shape: { kind: 'line', points: across }, text: '', metresPerPoint: 1 }])).toEqual([]);
});
