import { describe, expect, it } from 'vitest';
import { seeded } from '../../../../scripts/bench/seeded.ts';
import { comparePictures } from './compare-pictures.ts';
import { inkOf, type InkPage } from './ink.ts';

const [WIDTH, HEIGHT] = [900, 640];
type Lines = (readonly [number, number, number, number])[];
/** A scanned plan: lines three pixels wide on grey paper, with specks; `map`: how it lay on the glass. */
function scan(lines: Lines, map: (x: number, y: number) => readonly [number, number], seed: number): InkPage {
  const random = seeded(seed);
  const pixels = new Uint8Array(4 * WIDTH * HEIGHT);
  const dot = (x: number, y: number, value: number): void => {
    const [u, v] = [Math.round(x), Math.round(y)];
    if (u < 0 || v < 0 || u >= WIDTH || v >= HEIGHT) return;
    for (let k = 0; k < 3; k++) pixels[4 * (v * WIDTH + u) + k] = value;
  };
  for (let i = 0; i < pixels.length; i++) pixels[i] = 205 + 20 * random();
  for (const [x0, y0, x1, y1] of lines) {
    const length = Math.hypot(x1 - x0, y1 - y0);
    for (let at = 0; at <= length; at += 0.4) {
      const [x, y] = map(x0 + (at / length) * (x1 - x0), y0 + (at / length) * (y1 - y0));
      for (const dx of [-1, 0, 1]) for (const dy of [-1, 0, 1]) dot(x + dx, y + dy, 40 + 30 * random());
    }
  }
  for (let i = 0; i < 60; i++) dot(WIDTH * random(), HEIGHT * random(), 50);
  return inkOf(pixels, WIDTH, HEIGHT);
}
const box = (x: number, y: number, w: number, h: number): Lines => [
  [x, y, x + w, y],
  [x + w, y, x + w, y + h],
  [x + w, y + h, x, y + h],
  [x, y + h, x, y],
];
const plan: Lines = [
  ...box(60, 50, 760, 520),
  ...[0, 1, 2, 3, 4].flatMap((i) => box(110 + 130 * i, 100 + 17 * i, 90 + 8 * i, 120)),
  ...[0, 1, 2, 3].flatMap((i) => box(130 + 160 * i, 340, 110 - 12 * i, 150 + 9 * i)),
];
const still = (x: number, y: number) => [x, y] as const;

describe('comparePictures', () => {
  it('sees no change in a sheet that was scanned again: shifted, a little askew and stretched, with other specks', () => {
    const again = (x: number, y: number) => {
      const [u, v] = [x - 450, y - 320];
      const [cos, sin] = [Math.cos(0.012), Math.sin(0.012)];
      return [450 + 1.004 * (cos * u - sin * v) + 9, 320 + 1.004 * (sin * u + cos * v) - 6] as const;
    };
    const { changes, common, similarity } = comparePictures(scan(plan, still, 1), scan(plan, again, 2));
    expect(changes).toEqual([]);
    expect(common).toBeGreaterThan(0.95);
    const [x, y] = similarity.map(800, 550);
    const [wantedX, wantedY] = again(800, 550);
    expect(Math.hypot(x - wantedX, y - wantedY)).toBeLessThan(4);
  });

  it('finds what came and what went, each as one change', () => {
    const before = [...plan, ...box(700, 520, 40, 24)];
    const after = [...plan, ...box(300, 260, 60, 40)];
    const { changes } = comparePictures(
      scan(before, still, 3),
      scan(after, (x, y) => [x + 4, y + 3], 4),
    );
    expect(changes.map(({ kind }) => kind).sort()).toEqual(['added', 'removed']);
    const added = changes.find(({ kind }) => kind === 'added')!;
    [303, 262, 367, 306].forEach((value, i) => expect(Math.abs(added.box[i]! - value)).toBeLessThan(5));
  });

  it('finds a scan that was turned by a quarter', () => {
    const turned = scan(plan, still, 5);
    const ink = new Uint8Array(WIDTH * HEIGHT);
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) ink[x * HEIGHT + (HEIGHT - 1 - y)] = turned.ink[y * WIDTH + x]!;
    const { changes, similarity } = comparePictures(scan(plan, still, 6), { width: HEIGHT, height: WIDTH, ink });
    expect(changes).toEqual([]);
    expect(similarity.angle).toBeCloseTo(Math.PI / 2, 1);
  });

  it('says of empty pages what is there', () => {
    const empty = scan([], still, 7);
    expect(comparePictures(empty, empty).changes).toEqual([]);
    expect(comparePictures(empty, scan(box(200, 200, 80, 60), still, 8)).changes).toMatchObject([{ kind: 'added' }]);
  });
});
