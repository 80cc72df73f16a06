import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { figureOf, type Piece } from './figures.ts';
import { rectangleRing, type MarkupShape, type Point } from './shapes.ts';

const rounded = (value: number): number => Math.round(value * 100) / 100;
const LETTERS = { move: 'M', line: 'L', curve: 'C', close: 'Z' } as const;

/** The path as SVG writes it. */
const svgPath = (pieces: readonly Piece[]): string =>
  pieces.map(([what, ...values]) => `${LETTERS[what]}${(values as number[]).map(rounded).join(' ')}`).join('');

const coordinate = fc.integer({ min: -2000, max: 2000 });
const point: fc.Arbitrary<Point> = fc.tuple(coordinate, coordinate);
const path = (shape: MarkupShape): string => svgPath(figureOf(shape).paths[0]!.pieces);
const endsOf = (pieces: readonly Piece[]): Point[] =>
  pieces.flatMap(([, ...values]) => (values.length ? [(values as number[]).slice(-2) as Point] : []));

describe('a revision cloud', () => {
  it('closes, and has arcs of about the wanted size along every side', () => {
    const drawn = path({
      kind: 'cloud',
      points: [
        [0, 0],
        [140, 70],
      ],
    });
    expect(drawn.startsWith('M0 0C')).toBe(true);
    expect(drawn.endsWith('Z')).toBe(true);
    expect(drawn.match(/C/g)).toHaveLength(2 * 10 + 2 * 5);
  });

  it('bulges outwards whichever way the corners were drawn', () => {
    fc.assert(
      fc.property(point, point, (a, b) => {
        fc.pre(Math.abs(a[0] - b[0]) > 20 && Math.abs(a[1] - b[1]) > 20);
        const around = rectangleRing(a, b);
        for (const points of [around, [...around].reverse()]) {
          const { pieces } = figureOf({ kind: 'cloud', points }).paths[0]!;
          for (const [what, x, y] of pieces)
            if (what === 'curve') {
              const outside = x < around[0]![0] || x > around[1]![0] || y < around[0]![1] || y > around[2]![1];
              expect(outside).toBe(true);
            }
        }
      }),
    );
  });
});

it('an ellipse touches the middles of its box', () => {
  expect(
    endsOf(
      figureOf({
        kind: 'ellipse',
        points: [
          [0, 0],
          [100, 40],
        ],
      }).paths[0]!.pieces,
    ),
  ).toEqual([
    [100, 20],
    [50, 40],
    [0, 20],
    [50, 0],
    [100, 20],
  ]);
});

it('an arrow has its head at its second point, a dimension at both', () => {
  expect(
    path({
      kind: 'arrow',
      points: [
        [0, 0],
        [100, 0],
      ],
    }),
  ).toBe('M0 0L100 0M90.79 -3.89L100 0L90.79 3.89');
  const [dimension] = figureOf(
    {
      kind: 'dimension',
      points: [
        [0, 0],
        [100, 0],
      ],
    },
    '5.00 m',
  ).paths;
  expect(dimension!.pieces.filter(([what]) => what === 'move')).toHaveLength(3);
});

it('an area leaves out its holes, an angle is an arc between its sides', () => {
  const hole: Point[] = [
    [10, 10],
    [20, 10],
    [20, 20],
  ];
  const area: MarkupShape = {
    kind: 'area',
    points: [
      [0, 0],
      [50, 0],
      [50, 50],
      [0, 50],
    ],
    holes: [hole],
  };
  expect(path(area).match(/Z/g)).toHaveLength(2);
  const angle = figureOf(
    {
      kind: 'angle',
      points: [
        [100, 0],
        [0, 0],
        [0, 100],
      ],
    },
    '90°',
  );
  const last = endsOf(angle.paths[0]!.pieces).at(-1)!;
  expect(last[0]).toBeCloseTo(0);
  expect(last[1]).toBeCloseTo(50);
  expect(angle.words!.lines).toEqual(['90°']);
});

it('words stay in their box, smaller where they are many', () => {
  const box = (text: string) => figureOf({ kind: 'callout', target: [0, 0], box: [10, 10, 120, 40] }, text).words!;
  expect(box('Check')).toMatchObject({ lines: ['Check'], size: 11 });
  const many = box('The door leaf opens into the escape route, turn it about and widen the frame by one size');
  expect(many.size).toBeLessThan(11);
  expect(many.lines.length * many.size * 1.25).toBeLessThan(40);
  expect(figureOf({ kind: 'text', box: [0, 0, 1, 1] }, 'x '.repeat(3000)).words!.lines.length).toBeGreaterThan(1);
  expect(figureOf({ kind: 'text', box: [0, 0, 90, 20] }, '  ').words).toBeUndefined();
});
