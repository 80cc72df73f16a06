/** How shapes are drawn with the pointer. A sketch knows points of the page and nothing else. */
import type { Box, MarkupShape, Point } from '@kindred/core/markup/shapes';

/** What a sketch is after something was done: what to show, and whether that is all of it. */
export interface Drawn {
  shape?: MarkupShape;
  done: boolean;
}

export interface Sketch {
  start(at: Point): Drawn;
  move(at: Point): Drawn;
  end(at: Point): Drawn;
  /** Enter, or a double click: what is there is enough. */
  finish(): Drawn;
  /** The point from which the next line starts, for what is caught at right angles to a line. */
  from(): Point | undefined;
}

const NOTHING: Drawn = { done: false };
const distance = (a: Point, b: Point): number => Math.hypot(a[0] - b[0], a[1] - b[1]);

type TwoPointKind = Extract<MarkupShape, { points: [Point, Point] }>['kind'] | 'cloud';

/** Drag from one point to the other, or click both. `least`: closer together they are one click. */
export function twoPoints(kind: TwoPointKind, least: () => number): Sketch {
  let first: Point | undefined;
  let clicked = false;
  const shape = (to: Point) => ({ kind, points: [first!, to] }) as MarkupShape;
  const end = (at: Point): Drawn => {
    const whole = { shape: shape(at), done: true };
    first = undefined;
    clicked = false;
    return whole;
  };
  return {
    start(at) {
      if (clicked) return NOTHING;
      first = at;
      return NOTHING;
    },
    move: (at) => (first ? { shape: shape(at), done: false } : NOTHING),
    end(at) {
      if (!first) return NOTHING;
      if (distance(first, at) >= least()) return end(at);
      clicked = true;
      return { shape: shape(at), done: false };
    },
    finish: () => NOTHING,
    from: () => first,
  };
}

type PathKind = 'polyline' | 'polygon' | 'area' | 'cloud';
const CLOSED = new Set<PathKind>(['polygon', 'area', 'cloud']);

/** Click by click; a click on the first point closes it. */
export function manyPoints(kind: PathKind, least: () => number): Sketch {
  let points: Point[] = [];
  const needed = CLOSED.has(kind) ? 3 : 2;
  const shape = (some: Point[]) => ({ kind, points: some }) as MarkupShape;
  const finish = (): Drawn => {
    const whole = points;
    points = [];
    return whole.length >= needed ? { shape: shape(whole), done: true } : NOTHING;
  };
  return {
    start: () => NOTHING,
    move: (at) => (points.length ? { shape: shape([...points, at]), done: false } : NOTHING),
    end(at) {
      const last = points.at(-1);
      if (last && distance(last, at) < least()) return points.length >= needed ? finish() : NOTHING;
      if (CLOSED.has(kind) && points.length >= needed && distance(points[0]!, at) < least()) return finish();
      points.push(at);
      return { shape: shape([...points]), done: false };
    },
    finish,
    from: () => points.at(-1),
  };
}

/** Follows the pointer while it is down. */
export function byHand(kind: 'freehand' | 'highlighter', least: () => number): Sketch {
  let points: Point[] = [];
  const shape = (): MarkupShape => ({ kind, points });
  return {
    start(at) {
      points = [at];
      return NOTHING;
    },
    move(at) {
      if (!points.length) return NOTHING;
      if (distance(points.at(-1)!, at) >= least() / 3) points = [...points, at];
      return { shape: shape(), done: false };
    },
    end() {
      const whole = shape();
      const enough = points.length > 1;
      points = [];
      return enough ? { shape: whole, done: true } : NOTHING;
    },
    finish: () => NOTHING,
    from: () => undefined,
  };
}

/** Three clicks: along one side to the corner, then along the other. */
export function angle(): Sketch {
  let points: Point[] = [];
  const shape = (some: Point[]) => ({ kind: 'angle', points: some }) as MarkupShape;
  return {
    start: () => NOTHING,
    move: (at) =>
      points.length === 2
        ? { shape: shape([...points, at]), done: false }
        : points.length === 1
          ? { shape: { kind: 'line', points: [points[0]!, at] }, done: false }
          : NOTHING,
    end(at) {
      points = [...points, at];
      if (points.length < 3) return NOTHING;
      const whole = shape(points);
      points = [];
      return { shape: whole, done: true };
    },
    finish: () => NOTHING,
    from: () => points.at(-1),
  };
}

/** Each click counts one more. */
export function counting(): Sketch {
  let points: Point[] = [];
  const shape = (): MarkupShape => ({ kind: 'count', points });
  return {
    start: () => NOTHING,
    move: () => (points.length ? { shape: shape(), done: false } : NOTHING),
    end(at) {
      points = [...points, at];
      return { shape: shape(), done: false };
    },
    finish() {
      const whole = shape();
      const enough = points.length > 0;
      points = [];
      return enough ? { shape: whole, done: true } : NOTHING;
    },
    from: () => undefined,
  };
}

/** One click. */
export const onePoint = (): Sketch => ({
  start: () => NOTHING,
  move: () => NOTHING,
  end: (at) => ({ shape: { kind: 'note', points: [at] }, done: true }),
  finish: () => NOTHING,
  from: () => undefined,
});

/** A box for words: drag it, or click where a common one shall stand. `size`: width and height of the common one. */
export function boxed(kind: 'text' | 'stamp' | 'photo', least: () => number, size: () => [number, number]): Sketch {
  let first: Point | undefined;
  const box = (a: Point, b: Point): Box => [
    Math.min(a[0], b[0]),
    Math.min(a[1], b[1]),
    Math.abs(a[0] - b[0]),
    Math.abs(a[1] - b[1]),
  ];
  return {
    start(at) {
      first = at;
      return NOTHING;
    },
    move: (at) => (first ? { shape: { kind, box: box(first, at) }, done: false } : NOTHING),
    end(at) {
      if (!first) return NOTHING;
      const drawn = box(first, at);
      const whole: Box = Math.min(drawn[2], drawn[3]) < least() ? [...first, ...size()] : drawn;
      first = undefined;
      return { shape: { kind, box: whole }, done: true };
    },
    finish: () => NOTHING,
    from: () => undefined,
  };
}

/** From what one points at to where the words shall stand. */
export function callout(least: () => number, size: () => [number, number]): Sketch {
  let target: Point | undefined;
  const shape = (at: Point): MarkupShape => {
    const [w, h] = size();
    const [x, y] = [at[0] - (at[0] < target![0] ? w : 0), at[1] - (at[1] < target![1] ? h : 0)];
    return { kind: 'callout', target: target!, box: [x, y, w, h] };
  };
  return {
    start(at) {
      target = at;
      return NOTHING;
    },
    move: (at) => (target ? { shape: shape(at), done: false } : NOTHING),
    end(at) {
      if (!target) return NOTHING;
      const drawn = distance(target, at) >= least() ? { shape: shape(at), done: true } : NOTHING;
      target = undefined;
      return drawn;
    },
    finish: () => NOTHING,
    from: () => undefined,
  };
}
