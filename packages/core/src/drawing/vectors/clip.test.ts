import fc from 'fast-check';
import { expect, it } from 'vitest';
import { boxOf, clipRing, clipSegment, contains, intersect, isEmpty, type Box } from './clip.ts';

const BOX: Box = [0, 0, 10, 10];
const coordinate = fc.integer({ min: -20, max: 30 });

it('a segment is cut where it leaves, and gone where it never comes in', () => {
  expect(clipSegment(-10, 5, 30, 5, BOX)).toEqual([0.25, 0.5]);
  expect(clipSegment(2, 2, 8, 8, BOX)).toEqual([0, 1]);
  expect(clipSegment(-5, -1, 15, -1, BOX)).toBeUndefined();
  expect(clipSegment(-5, 8, 5, 18, BOX)).toBeUndefined();
});

it('what is left of a segment lies inside, and what was inside is left', () => {
  fc.assert(
    fc.property(coordinate, coordinate, coordinate, coordinate, (x0, y0, x1, y1) => {
      const part = clipSegment(x0, y0, x1, y1, BOX);
      for (let t = 0; t <= 1; t += 0.05) {
        const [x, y] = [x0 + t * (x1 - x0), y0 + t * (y1 - y0)];
        const kept = part !== undefined && t >= part[0] - 1e-9 && t <= part[1] + 1e-9;
        const inside = Math.min(x, y, 10 - x, 10 - y);
        if (inside > 1e-6) expect(kept).toBe(true);
        if (inside < -1e-6) expect(kept).toBe(false);
      }
    }),
  );
});

it('a ring is cut to the box: nothing outside, the area of a rectangle exact', () => {
  fc.assert(
    fc.property(
      coordinate,
      coordinate,
      fc.integer({ min: 1, max: 30 }),
      fc.integer({ min: 1, max: 30 }),
      (x, y, w, h) => {
        const cut = clipRing([x, y, x + w, y, x + w, y + h, x, y + h], BOX);
        const wanted = intersect(BOX, [x, y, x + w, y + h]);
        const area = isEmpty(wanted) ? 0 : (wanted[2] - wanted[0]) * (wanted[3] - wanted[1]);
        let twice = 0;
        for (let i = 0; i < cut.length; i += 2) {
          const j = (i + 2) % cut.length;
          twice += cut[i]! * cut[j + 1]! - cut[j]! * cut[i + 1]!;
        }
        expect(twice / 2).toBeCloseTo(area, 6);
        if (cut.length)
          expect(contains([-1e-9, -1e-9, 10 + 1e-9, 10 + 1e-9], boxOf(cut, 0, cut.length / 2))).toBe(true);
      },
    ),
  );
});
