import fc from 'fast-check';
import { Vector3 } from 'three';
import { expect, it } from 'vitest';
import type { Bounds } from './bounds.ts';
import { fitView } from './fit-view.ts';

it('shows all of a box, and fills the picture in one direction', () => {
  const place = fc.double({ min: -300, max: 300, noNaN: true });
  const size = fc.double({ min: 0.5, max: 200, noNaN: true });
  const angle = (most: number) => fc.double({ min: -most, max: most, noNaN: true });
  fc.assert(
    fc.property(
      fc.tuple(place, place, place),
      fc.tuple(size, size, size),
      angle(3),
      angle(1.4),
      fc.double({ min: 0.3, max: 3, noNaN: true }),
      (min, sizes, turn, tilt, shape) => {
        const box = [...min, ...min.map((low, i) => low + sizes[i]!)] as Bounds;
        const towards = new Vector3(Math.cos(turn) * Math.cos(tilt), Math.sin(turn) * Math.cos(tilt), Math.sin(tilt));
        const right = new Vector3().crossVectors(towards, new Vector3(0, 0, 1)).normalize();
        const roof = new Vector3().crossVectors(right, towards);
        const opening = { across: 0.45 * shape, up: 0.45 };
        const corners = Array.from({ length: 8 }, (_, k) => [
          box[k & 1 ? 3 : 0],
          box[k & 2 ? 4 : 1],
          box[k & 4 ? 5 : 2],
        ]);
        const { position, target } = fitView(corners.flat(), towards, roof, opening);
        let most = 0;
        for (const corner of corners) {
          const seen = new Vector3(...corner).sub(new Vector3(...position));
          const depth = seen.dot(towards);
          expect(depth).toBeGreaterThan(0);
          const out = Math.max(
            Math.abs(seen.dot(right)) / depth / opening.across,
            Math.abs(seen.dot(roof)) / depth / opening.up,
          );
          expect(out).toBeLessThan(1 + 1e-6);
          most = Math.max(most, out);
        }
        expect(most).toBeGreaterThan(1 - 1e-6);
        const gaze = new Vector3(...target).sub(new Vector3(...position)).normalize();
        expect(gaze.distanceTo(towards)).toBeLessThan(1e-6);
      },
    ),
  );
});
