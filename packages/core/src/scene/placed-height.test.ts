import { expect, it } from 'vitest';
import { placedHeight } from './placed-height.ts';

const wrapped = (...values: number[]) => values.map((value) => ({ value }));
/** Lines as web-ifc gives them, by number. */
function heightOf(lines: Record<number, object>, id: number): number | null {
  return placedHeight({ GetLine: (_model: number, at: number) => lines[at] } as never, 0, id);
}
const at = (value: number) => ({ value });

it('adds up what things are placed in, turned ones too', () => {
  const lines = {
    1: { ObjectPlacement: at(2) },
    2: { PlacementRelTo: at(5), RelativePlacement: at(3) },
    3: { Location: at(4), Axis: null, RefDirection: null },
    4: { Coordinates: wrapped(5, 0, 3000) },
    5: { PlacementRelTo: null, RelativePlacement: at(6) },
    6: { Location: at(7), Axis: null, RefDirection: null },
    7: { Coordinates: wrapped(0, 0, 250) },
  };
  expect(heightOf(lines, 1)).toBe(3250);
  // Laid down: what went up goes along x now, what went along x goes down.
  const laid = { ...lines, 6: { Location: at(7), Axis: at(8), RefDirection: at(9) } };
  const turned = { ...laid, 8: { DirectionRatios: wrapped(1, 0, 0) }, 9: { DirectionRatios: wrapped(0, 0, -1) } };
  expect(heightOf(turned, 1)).toBeCloseTo(245, 9);
});

it('says nothing of what is not placed, and does not go in circles', () => {
  expect(heightOf({ 1: { ObjectPlacement: null } }, 1)).toBeNull();
  const circle = {
    1: { ObjectPlacement: at(2) },
    2: { PlacementRelTo: at(2), RelativePlacement: at(3) },
    3: { Location: at(4) },
    4: { Coordinates: wrapped(0, 0, 1) },
  };
  expect(Number.isFinite(heightOf(circle, 1))).toBe(true);
});
