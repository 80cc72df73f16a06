import type { Point } from '@kindred/core/markup/shapes';
import { describe, expect, it } from 'vitest';
import {
  angle,
  boxed,
  byHand,
  callout,
  counting,
  manyPoints,
  onePoint,
  twoPoints,
  type Drawn,
  type Sketch,
} from './sketches.ts';

const least = () => 3;
const size = (): [number, number] => [190, 52];
const drag = (sketch: Sketch, from: Point, ...along: Point[]): Drawn => {
  sketch.start(from);
  for (const at of along) sketch.move(at);
  return sketch.end(along.at(-1) ?? from);
};
const click = (sketch: Sketch, at: Point): Drawn => drag(sketch, at);

describe('two points', () => {
  it.each(['line', 'arrow', 'rectangle', 'ellipse', 'cloud', 'dimension'] as const)('a %s is dragged', (kind) => {
    const shape = {
      kind,
      points: [
        [0, 0],
        [40, 30],
      ],
    };
    expect(drag(twoPoints(kind, least), [0, 0], [10, 10], [40, 30])).toEqual({ shape, done: true });
  });

  it('or clicked, and shown on the way', () => {
    const sketch = twoPoints('line', least);
    expect(click(sketch, [5, 5]).done).toBe(false);
    expect(sketch.from()).toEqual([5, 5]);
    expect(sketch.move([9, 5])).toEqual({
      shape: {
        kind: 'line',
        points: [
          [5, 5],
          [9, 5],
        ],
      },
      done: false,
    });
    expect(click(sketch, [50, 5])).toEqual({
      shape: {
        kind: 'line',
        points: [
          [5, 5],
          [50, 5],
        ],
      },
      done: true,
    });
    expect(sketch.from()).toBeUndefined();
  });
});

describe('click by click', () => {
  it('a polyline ends by a double click or by Enter, and needs two points', () => {
    const sketch = manyPoints('polyline', least);
    click(sketch, [0, 0]);
    expect(sketch.finish()).toEqual({ done: false });
    click(sketch, [0, 0]);
    click(sketch, [20, 0]);
    expect(click(sketch, [21, 0])).toEqual({
      shape: {
        kind: 'polyline',
        points: [
          [0, 0],
          [20, 0],
        ],
      },
      done: true,
    });
  });

  it('a surface is closed by a click on its first point, not before it has three', () => {
    const sketch = manyPoints('area', least);
    for (const at of [
      [0, 0],
      [20, 0],
      [20, 20],
    ] as Point[])
      expect(click(sketch, at).done).toBe(false);
    expect(sketch.move([5, 5]).shape).toMatchObject({
      points: [
        [0, 0],
        [20, 0],
        [20, 20],
        [5, 5],
      ],
    });
    expect(click(sketch, [1, 1])).toEqual({
      shape: {
        kind: 'area',
        points: [
          [0, 0],
          [20, 0],
          [20, 20],
        ],
      },
      done: true,
    });
  });

  it('things are counted until Enter', () => {
    const sketch = counting();
    expect(sketch.finish().done).toBe(false);
    click(sketch, [1, 1]);
    click(sketch, [2, 2]);
    expect(sketch.finish()).toEqual({
      shape: {
        kind: 'count',
        points: [
          [1, 1],
          [2, 2],
        ],
      },
      done: true,
    });
    expect(sketch.move([0, 0])).toEqual({ done: false });
  });

  it('an angle takes three', () => {
    const sketch = angle();
    click(sketch, [10, 0]);
    click(sketch, [0, 0]);
    expect(click(sketch, [0, 10])).toEqual({
      shape: {
        kind: 'angle',
        points: [
          [10, 0],
          [0, 0],
          [0, 10],
        ],
      },
      done: true,
    });
  });

  it('a note takes one', () =>
    expect(click(onePoint(), [7, 8])).toEqual({ shape: { kind: 'note', points: [[7, 8]] }, done: true }));
});

it('a line by hand follows the pointer, and a click is none', () => {
  const sketch = byHand('freehand', least);
  const { shape, done } = drag(sketch, [0, 0], [5, 0], [5.2, 0], [10, 5]);
  expect({ shape, done }).toEqual({
    shape: {
      kind: 'freehand',
      points: [
        [0, 0],
        [5, 0],
        [10, 5],
      ],
    },
    done: true,
  });
  expect(click(sketch, [0, 0])).toEqual({ done: false });
});

it('words have the box that is dragged, or a common one where it is clicked', () => {
  expect(drag(boxed('text', least, size), [50, 50], [10, 20])).toEqual({
    shape: { kind: 'text', box: [10, 20, 40, 30] },
    done: true,
  });
  expect(click(boxed('stamp', least, size), [5, 6])).toEqual({
    shape: { kind: 'stamp', box: [5, 6, 190, 52] },
    done: true,
  });
});

it('a callout stands away from what it points at, on the side where the pointer went', () => {
  expect(drag(callout(least, size), [500, 500], [400, 300])).toEqual({
    shape: { kind: 'callout', target: [500, 500], box: [210, 248, 190, 52] },
    done: true,
  });
  expect(click(callout(least, size), [5, 5])).toEqual({ done: false });
});
