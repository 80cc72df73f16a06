import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { handlesOf, type MarkupShape, type Point } from '../shapes.ts';
import type { Annotation } from './annotation.ts';
import { annotationOf, type MarkupToWrite } from './of-markup.ts';
import type { PagePlace } from './page-space.ts';
import { markupShapeOf, markupStyleOf } from './to-markup.ts';

const coordinate = fc.integer({ min: 20, max: 500 });
const point: fc.Arbitrary<Point> = fc.tuple(coordinate, coordinate);
const size = fc.integer({ min: 40, max: 200 });
const two = fc.tuple(point, point).filter(([a, b]) => Math.abs(a[0] - b[0]) > 30 && Math.abs(a[1] - b[1]) > 30);
const shape: fc.Arbitrary<MarkupShape> = fc.oneof(
  fc.record({ kind: fc.constantFrom('line' as const, 'arrow' as const, 'dimension' as const), points: two }),
  fc.record({ kind: fc.constantFrom('rectangle' as const, 'ellipse' as const), points: two }),
  fc.record({
    kind: fc.constant('freehand' as const),
    points: fc.array(point, { minLength: 2 }),
    strokes: fc.array(fc.array(point, { minLength: 2 }), { minLength: 1, maxLength: 3 }),
  }),
  fc.record({
    kind: fc.constantFrom('polygon' as const, 'polyline' as const, 'cloud' as const),
    points: fc.array(point, { minLength: 3 }),
  }),
  fc.record({
    kind: fc.constant('area' as const),
    points: fc.array(point, { minLength: 3 }),
    holes: fc.array(fc.array(point, { minLength: 3 }), { minLength: 1, maxLength: 1 }),
  }),
  fc.record({ kind: fc.constant('angle' as const), points: fc.tuple(point, point, point) }),
  fc.record({ kind: fc.constant('count' as const), points: fc.array(point, { minLength: 1 }) }),
  fc.record({
    kind: fc.constantFrom('text' as const, 'stamp' as const),
    box: fc.tuple(coordinate, coordinate, size, size),
  }),
  fc.record({ kind: fc.constant('note' as const), points: fc.tuple(point) }),
);
const place: fc.Arbitrary<PagePlace> = fc.record({
  box: fc.tuple(
    fc.integer({ min: -50, max: 50 }),
    fc.integer({ min: -50, max: 50 }),
    fc.constant(842),
    fc.constant(595),
  ),
  turn: fc.constantFrom(0, 90, 180, 270),
  unit: fc.constantFrom(1, 2),
});
const markup = (one: MarkupShape): MarkupToWrite => ({
  ...{ id: 'm', page: 1, shape: one, style: {}, text: '', status: 'ask', author: '', answers: [] },
  createdAt: '2026-11-25T10:15:00Z',
});
const back = (one: MarkupShape, at: PagePlace): MarkupShape =>
  markupShapeOf(annotationOf(markup(one), at) as unknown as Annotation, at, one);

describe('a shape that went out as an annotation', () => {
  it('comes back as what it was, where it was', () => {
    fc.assert(
      fc.property(shape, place, (one, at) => {
        const again = back(one, at);
        expect(again.kind).toBe(one.kind);
        const [was, is] = [handlesOf(one), handlesOf(again)];
        expect(is).toHaveLength(was.length);
        // Lines along a box stand inside of it, and boxes of words have an edge: as broad as half a line.
        if (one.kind !== 'rectangle' && one.kind !== 'ellipse')
          for (const [i, [x, y]] of is.entries()) {
            expect(Math.abs(x - was[i]![0])).toBeLessThan(2);
            expect(Math.abs(y - was[i]![1])).toBeLessThan(2);
          }
      }),
    );
  });
});

const foreign = (over: Partial<Annotation>): Annotation =>
  ({
    ...{
      id: 'f',
      kind: 'rectangle',
      author: '',
      created: null,
      modified: null,
      contents: '',
      status: null,
      replies: [],
    },
    ...{ colour: '#ff0000', box: [10, 10, 110, 60], points: [], width: 1, opacity: 1, fill: null },
    ...over,
  }) as Annotation;
const upright: PagePlace = { box: [0, 0, 600, 400], turn: 0, unit: 1 };

describe('what others drew', () => {
  it('of words that were marked in two lines is one highlighter', () => {
    const mark = foreign({
      kind: 'highlighter',
      points: [
        [10, 60, 110, 60, 10, 48, 110, 48],
        [10, 40, 70, 40, 10, 28, 70, 28],
      ],
    });
    expect(markupShapeOf(mark, upright)).toEqual({
      kind: 'highlighter',
      points: [
        [10, 346],
        [110, 346],
      ],
      strokes: [
        [
          [10, 366],
          [70, 366],
        ],
      ],
    });
    expect(markupStyleOf(mark, 'note')).toMatchObject({ width: 12, colour: '#ff0000' });
  });

  it('without a place that can be read is a note in the middle of its box', () => {
    expect(markupShapeOf(foreign({ kind: 'line' }), upright)).toEqual({ kind: 'note', points: [[60, 365]] });
    expect(markupShapeOf(foreign({ kind: 'freehand' }), upright).kind).toBe('note');
  });

  it('has a colour of its own unless it is that of its status', () => {
    expect(markupStyleOf(foreign({ colour: '#3F6188' }), 'note')).not.toHaveProperty('colour');
    expect(markupStyleOf(foreign({ opacity: 0.5, fill: '#ffffff' }), 'note')).toEqual({
      colour: '#ff0000',
      width: 1,
      opacity: 0.5,
    });
  });
});
