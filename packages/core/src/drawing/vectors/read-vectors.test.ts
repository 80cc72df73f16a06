import { describe, expect, it } from 'vitest';
import type { Matrix } from './matrix.ts';
import { readVectors, type Operators } from './read-vectors.ts';
import type { SheetVectors } from './sheet-vectors.ts';

const NAMES =
  'save restore transform setLineWidth setDash setGState setStrokeRGBColor setFillRGBColor setFillColorN clip beginMarkedContentProps endMarkedContent paintFormXObjectBegin paintFormXObjectEnd beginGroup endGroup constructPath stroke fill fillStroke endPath paintImageXObject paintImageXObjectRepeat';
const OPS = Object.fromEntries(NAMES.split(' ').map((name, i) => [name, i + 1])) as Operators;
type Operation = [name: string, ...args: unknown[]];

/** A page 200 × 100 points that is shown as it is: PDF's y goes up, ours down. */
const UPRIGHT: Matrix = [1, 0, 0, -1, 0, 100];
const draw = (list: Operation[], view = UPRIGHT, items: unknown[] = []): Promise<SheetVectors> =>
  readVectors(
    {
      getViewport: () => ({ width: 200, height: 100, transform: [...view] }),
      getOperatorList: () =>
        Promise.resolve({
          fnArray: list.map(([name]) => OPS[name]!),
          argsArray: list.map(([, ...args]) => args),
        }),
    },
    OPS,
    items,
  );
const line = (...points: number[]): number[] =>
  Array.from({ length: points.length / 2 }, (_, i) => [i ? 1 : 0, points[2 * i]!, points[2 * i + 1]!]).flat();
const path = (how: string, data: number[] | null): Operation => ['constructPath', OPS[how], [data], null];
const chains = ({ starts, points }: SheetVectors): number[][] =>
  Array.from({ length: starts.length - 1 }, (_, i) =>
    [...points.subarray(2 * starts[i]!, 2 * starts[i + 1]!)].map((value) => Math.round(value * 100) / 100),
  );

describe('lines', () => {
  it('stand where the page shows them, in the space of markups', async () => {
    expect(chains(await draw([path('stroke', line(10, 10, 60, 10, 60, 90))]))).toEqual([[10, 90, 60, 90, 60, 10]]);
  });

  it('go through every transform, which ends with its state', async () => {
    const vectors = await draw([
      ['save'],
      ['transform', 2, 0, 0, 2, 10, 0].slice(0, 7) as Operation,
      ['setLineWidth', 3],
      path('stroke', line(0, 0, 20, 0)),
      ['restore'],
      path('stroke', line(0, 0, 20, 0)),
    ]);
    expect(chains(vectors)).toEqual([
      [10, 100, 50, 100],
      [0, 100, 20, 100],
    ]);
    expect(vectors.styles.map(({ width }) => width)).toEqual([6, 1]);
  });

  it('turn with the page', async () => {
    const quarter: Matrix = [0, 1, 1, 0, 0, 0];
    expect(chains(await draw([path('stroke', line(10, 20, 30, 20))], quarter))).toEqual([[20, 10, 20, 30]]);
  });

  it('have colour, dashes and layer', async () => {
    const { styles } = await draw([
      ['setStrokeRGBColor', '#ff0000'],
      ['setDash', [4, 2], 0],
      ['beginMarkedContentProps', 'OC', { type: 'OCG', id: '7R' }],
      path('stroke', line(0, 0, 9, 9)),
      ['endMarkedContent'],
      path('stroke', line(0, 0, 9, 9)),
    ]);
    expect(styles).toEqual([
      { kind: 'line', colour: '#ff0000', width: 1, dash: [4, 2], layer: '7R' },
      { kind: 'line', colour: '#ff0000', width: 1, dash: [4, 2], layer: '' },
    ]);
  });

  it('that nobody sees are none', async () => {
    const vectors = await draw([
      ['setGState', [['CA', 0]]],
      path('stroke', line(0, 0, 9, 9)),
      path('endPath', line(0, 0, 9, 9)),
      path('stroke', line(300, 0, 400, 0)),
      path('stroke', line(5, 5)),
    ]);
    expect(chains(vectors)).toEqual([]);
  });

  it('keep the centre of an arc', async () => {
    const k = (4 / 3) * (Math.SQRT2 - 1) * 20;
    const vectors = await draw([path('stroke', [0, 70, 50, 2, 70, 50 + k, 50 + k, 70, 50, 70])]);
    expect([...vectors.circles].map((value) => Math.round(value * 10) / 10)).toEqual([50, 50, 20, 0]);
    expect(chains(vectors)[0]!.slice(-2)).toEqual([50, 30]);
  });

  it('are closed where the path is, and begin anew where nothing was moved to', async () => {
    const vectors = await draw([path('stroke', [...line(0, 0, 10, 0, 10, 10), 4, 1, 50, 50])]);
    expect(chains(vectors)).toEqual([
      [0, 100, 10, 100, 10, 90, 0, 100],
      [0, 100, 50, 50],
    ]);
  });
});

describe('a clip', () => {
  const box = line(20, 20, 80, 20, 80, 60, 20, 60);
  it('cuts lines and areas, and ends with its state', async () => {
    const vectors = await draw([
      ['save'],
      ['clip'],
      path('endPath', box),
      path('stroke', line(0, 40, 100, 40)),
      path('fill', line(0, 0, 200, 0, 200, 100, 0, 100)),
      ['restore'],
      path('stroke', line(0, 40, 100, 40)),
    ]);
    expect(chains(vectors)[0]).toEqual([20, 60, 80, 60]);
    expect(new Set(chains(vectors)[1]!)).toEqual(new Set([20, 80, 40]));
    expect(chains(vectors)[2]).toEqual([0, 60, 100, 60]);
  });

  it('of a form holds inside of it alone', async () => {
    const vectors = await draw([
      ['paintFormXObjectBegin', [1, 0, 0, 1, 100, 0], [0, 0, 50, 50]],
      path('stroke', line(-10, 10, 90, 10)),
      ['paintFormXObjectEnd'],
      path('stroke', line(-10, 10, 90, 10)),
    ]);
    expect(chains(vectors)).toEqual([
      [100, 90, 150, 90],
      [0, 90, 90, 90],
    ]);
  });

  it('of nothing leaves nothing', async () => {
    expect(chains(await draw([['clip'], path('endPath', null), path('stroke', line(0, 0, 9, 9))]))).toEqual([]);
  });
});

it('masks of groups are no drawing, what they cover is', async () => {
  const vectors = await draw([
    ['beginGroup', { smask: { subtype: 'Alpha' }, bbox: null, matrix: null }],
    path('stroke', line(0, 0, 9, 9)),
    ['endGroup', {}],
    ['beginGroup', { bbox: [0, 0, 5, 5], matrix: [1, 0, 0, 1, 10, 0] }],
    path('stroke', line(0, 2, 90, 2)),
    ['endGroup', {}],
  ]);
  expect(chains(vectors)).toEqual([[10, 98, 15, 98]]);
});

it('pictures lie where they are drawn, one or many', async () => {
  const { pictures } = await draw([
    ['transform', 50, 0, 0, 40, 10, 20].slice(0, 7) as Operation,
    ['paintImageXObject', 'img', 10, 10],
    ['paintImageXObjectRepeat', 'img', 0.5, 0.5, [0, 0, 1, 1]],
  ]);
  expect(pictures).toEqual([
    [50, 0, 0, -40, 10, 80],
    [25, 0, 0, -20, 10, 80],
    [25, 0, 0, -20, 60, 40],
  ]);
});

it('words keep their size and direction', async () => {
  const items = [
    { str: 'Kit room', transform: [8, 0, 0, 8, 30, 40], width: 33, height: 8 },
    { str: 'up', transform: [0, 6, -6, 0, 90, 10], width: 7, height: 6 },
    { str: '  ', transform: [8, 0, 0, 8, 0, 0], width: 4, height: 8 },
  ];
  const { texts } = await draw([], UPRIGHT, items);
  expect(texts).toEqual([
    { text: 'Kit room', x: 30, y: 60, width: 33, size: 8, angle: 0 },
    { text: 'up', x: 90, y: 90, width: 7, size: 6, angle: -Math.PI / 2 },
  ]);
});
