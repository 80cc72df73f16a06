import fc from 'fast-check';
import { expect, it } from 'vitest';
import { areNear, eachCandidate, type Boxes } from './candidates.ts';

const place = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -50, max: 50, noNaN: true })));
const size = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0, max: 12, noNaN: true })));
const box = fc.tuple(place, size).map(([at, by]) => [...at, ...at.map((value, axis) => value + by[axis]!)]);
const boxes = (least: number, most: number) =>
  fc.array(box, { minLength: least, maxLength: most }).map((all): Boxes => Float64Array.from(all.flat()));

it('visits the pairs that lie near each other, however many there are on each side', () => {
  fc.assert(
    fc.property(boxes(0, 6), boxes(20, 90), fc.double({ min: 0, max: 3, noNaN: true }), (few, many, reach) => {
      const found: string[] = [];
      eachCandidate(few, many, reach, (i, j) => found.push(`${i} ${j}`));
      const turned: string[] = [];
      eachCandidate(many, few, reach, (j, i) => turned.push(`${i} ${j}`));
      const all: string[] = [];
      for (let i = 0; i < few.length / 6; i++)
        for (let j = 0; j < many.length / 6; j++) if (areNear(few, i, many, j, reach)) all.push(`${i} ${j}`);
      expect(found.sort()).toEqual(all.sort());
      expect(turned.sort()).toEqual(all);
    }),
  );
});
