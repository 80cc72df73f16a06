import { describe, expect, it } from 'vitest';
import type { Point } from '../scene/pick.ts';
import { changesBesidesShift, shiftOfAll } from './shift-of-all.ts';

const moves = (count: number, moved: Point | null) => Array.from({ length: count }, () => ({ moved }));

describe('the shift of a whole model', () => {
  it('is what most elements moved by', () => {
    const shapes = [...moves(8, [0.5, 0, 0]), ...moves(1, [0.5, 1, 0]), ...moves(1, null)];
    expect(shiftOfAll(shapes)).toEqual([0.5, 0, 0]);
  });
  it('is none where some moved and the rest did not', () => {
    expect(shiftOfAll([...moves(6, [0.5, 0, 0]), ...moves(4, null)])).toBeNull();
    expect(shiftOfAll(moves(10, null))).toBeNull();
    expect(shiftOfAll([])).toBeNull();
  });
  it('is not concluded from a handful', () => {
    expect(shiftOfAll(moves(3, [1, 0, 0]))).toBeNull();
  });
});

it('leaves of each element what it did by itself: those that stayed behind too', () => {
  const none = { renamed: false, turned: null, geometry: null, properties: [] };
  const changes = changesBesidesShift({
    ...{ shift: [0.5, 0, 0], added: [], removed: [] },
    changed: [
      { ...none, before: 0, after: 0, moved: [0.5, 0, 0] },
      { ...none, before: 1, after: 2, moved: [0.5, 1, 0] },
    ],
    unchanged: [{ before: 2, after: 1, renamed: false }],
  });
  expect(changes).toEqual([
    { ...none, before: 2, after: 1, moved: [-0.5, 0, 0] },
    { ...none, before: 1, after: 2, moved: [0, 1, 0] },
  ]);
});
