import { LONGEST_SPAN, SHORTEST_SPAN } from '@kindred/core/register/timeline';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { scaleOf, spanOf, transformOf } from './zoom-span.ts';

const span = fc
  .record({
    from: fc.integer({ min: Date.UTC(2000, 0), max: Date.UTC(2060, 0) }),
    length: fc.integer({ min: SHORTEST_SPAN, max: LONGEST_SPAN }),
  })
  .map(({ from, length }) => ({ from, to: from + length }));
const room = fc.integer({ min: 100, max: 4000 });

it('a span and how it is carried to the screen are the same thing', () => {
  fc.assert(
    fc.property(span, room, (one, width) => {
      const { from, to } = spanOf(transformOf(one, 110, width), 110, width);
      // A thousandth of a pixel.
      const close = (one.to - one.from) / width / 1000 + 1;
      expect(Math.abs(from - one.from)).toBeLessThanOrEqual(close);
      expect(Math.abs(to - one.to)).toBeLessThanOrEqual(close);
    }),
  );
});

it('zooming keeps the moment under the pointer in its place', () => {
  fc.assert(
    fc.property(span, room, fc.double({ min: 0, max: 1, noNaN: true }), (one, width, share) => {
      const x = 110 + share * width;
      const before = transformOf(one, 110, width);
      const after = before.translate(before.invertX(x), 0).scale(2).translate(-before.invertX(x), 0);
      const moment = (of: typeof one) => scaleOf(of, 110, width).invert(x).getTime();
      expect(Math.abs(moment(spanOf(after, 110, width)) - moment(one))).toBeLessThanOrEqual(
        (one.to - one.from) / width + 2,
      );
    }),
  );
});
