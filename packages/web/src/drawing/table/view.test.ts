import fc from 'fast-check';
import { expect, it } from 'vitest';
import {
  fitted,
  fittedWidth,
  LEAST_ZOOM,
  MOST_ZOOM,
  readView,
  showing,
  shownBox,
  toPage,
  toWindow,
  turned,
  writeView,
  zoomedAt,
  type SheetView,
  type Size,
} from './view.ts';

const WINDOW: Size = [832, 632];
const turn = fc.constantFrom(0 as const, 1 as const, 2 as const, 3 as const);
const coordinate = fc.integer({ min: -3000, max: 3000 });
const view: fc.Arbitrary<SheetView> = fc.record({
  x: coordinate,
  y: coordinate,
  zoom: fc.double({ min: LEAST_ZOOM, max: MOST_ZOOM, noNaN: true }),
  turn,
});
const close = (a: readonly number[], b: readonly number[], digits = 5): void =>
  a.forEach((value, i) => expect(value).toBeCloseTo(b[i]!, digits));

it('a point goes to the window and back, however the sheet is turned', () => {
  fc.assert(fc.property(view, coordinate, coordinate, (at, x, y) => close(toPage(at, toWindow(at, [x, y])), [x, y])));
});

it('coming closer leaves the point under the pointer where it is, within the bounds', () => {
  fc.assert(
    fc.property(view, fc.double({ min: 0.001, max: 1000, noNaN: true }), (at, factor) => {
      const under = toPage(at, [300, 200]);
      const next = zoomedAt(at, factor, [300, 200]);
      close(toPage(next, [300, 200]), under, 3);
      expect(next.zoom).toBeGreaterThanOrEqual(LEAST_ZOOM);
      expect(next.zoom).toBeLessThanOrEqual(MOST_ZOOM);
    }),
  );
});

it('four quarters are none, and the middle stays', () => {
  fc.assert(
    fc.property(view, (at) => {
      const middle = toPage(at, [416, 316]);
      const quarter = turned(at, WINDOW);
      close(toPage(quarter, [416, 316]), middle, 3);
      const whole = turned(turned(turned(quarter, WINDOW), WINDOW), WINDOW);
      close([whole.x, whole.y, whole.turn], [at.x, at.y, at.turn], 3);
    }),
  );
});

it('the whole sheet is in the window, with a margin, upright or turned', () => {
  for (const quarter of [0, 1, 2, 3] as const) {
    const [x, y, w, h] = shownBox(fitted([1600, 600], WINDOW, quarter), WINDOW);
    expect(x).toBeLessThanOrEqual(0);
    expect(y).toBeLessThanOrEqual(0);
    expect(x + w).toBeGreaterThanOrEqual(1600);
    expect(y + h).toBeGreaterThanOrEqual(600);
  }
  expect(fitted([1600, 600], WINDOW)).toEqual({ x: 16, y: 166, zoom: 0.5, turn: 0 });
});

it('fitted to the width it begins at the top', () => {
  for (const quarter of [0, 1, 2, 3] as const) {
    const at = fittedWidth([400, 3000], WINDOW, quarter);
    const corners = [toWindow(at, [0, 0]), toWindow(at, [400, 3000])];
    close([Math.min(corners[0]![1], corners[1]![1])], [16]);
    close([Math.min(corners[0]![0], corners[1]![0]), Math.max(corners[0]![0], corners[1]![0])], [16, 816]);
  }
});

it('a box comes to the middle, not closer than wanted', () => {
  const at = showing([100, 100, 20, 10], WINDOW, 0, 4);
  expect(at.zoom).toBe(4);
  close(toPage(at, [416, 316]), [110, 105]);
});

it('an address brings it back', () => {
  expect(readView(writeView({ x: 1.5, y: -2, zoom: 0.75, turn: 0 }))).toEqual({ x: 1.5, y: -2, zoom: 0.75, turn: 0 });
  expect(readView(writeView({ x: 1, y: 2, zoom: 3, turn: 3 }))).toEqual({ x: 1, y: 2, zoom: 3, turn: 3 });
  for (const nothing of ['', '1,2', 'a,b,c', '1,2,0']) expect(readView(nothing)).toBeUndefined();
});
