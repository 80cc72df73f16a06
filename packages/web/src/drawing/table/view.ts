/** Where a page is on the table. Pure: every change answers a new view. */
import type { Box, Point } from '@kindred/core/markup/shapes';

/** `x`, `y` of the page's own corner in the window, `zoom` in pixels a point, `turn` in quarters with the clock. */
export interface SheetView {
  x: number;
  y: number;
  zoom: number;
  turn: 0 | 1 | 2 | 3;
}
export type Size = readonly [width: number, height: number];

/** A point on paper is 1/72 inch, a pixel of the screen 1/96: so much is the size of the paper. */
const ACTUAL = 96 / 72;
export const LEAST_ZOOM = 0.05 * ACTUAL;
export const MOST_ZOOM = 64 * ACTUAL;
const MARGIN = 16;

const COS = [1, 0, -1, 0] as const;
const SIN = [0, 1, 0, -1] as const;
const clamp = (zoom: number): number => Math.min(MOST_ZOOM, Math.max(LEAST_ZOOM, zoom));

/** The view as a map from the page to the window, as CSS and canvas write it. */
export function matrixOf({ x, y, zoom, turn }: SheetView): [number, number, number, number, number, number] {
  const [cos, sin] = [COS[turn] * zoom, SIN[turn] * zoom];
  return [cos, sin, -sin, cos, x, y];
}

export function toWindow(view: SheetView, [px, py]: Readonly<Point>): Point {
  const [a, b, c, d, e, f] = matrixOf(view);
  return [a * px + c * py + e, b * px + d * py + f];
}

export function toPage({ x, y, zoom, turn }: SheetView, [wx, wy]: Readonly<Point>): Point {
  const [dx, dy] = [(wx - x) / zoom, (wy - y) / zoom];
  return [COS[turn] * dx + SIN[turn] * dy, -SIN[turn] * dx + COS[turn] * dy];
}

/** The part of the page that the window shows: left, top, width, height in points. */
export function shownBox(view: SheetView, [width, height]: Size): Box {
  const corners = [toPage(view, [0, 0]), toPage(view, [width, height])] as const;
  const [left, top] = [Math.min(corners[0][0], corners[1][0]), Math.min(corners[0][1], corners[1][1])];
  return [left, top, Math.abs(corners[0][0] - corners[1][0]), Math.abs(corners[0][1] - corners[1][1])];
}

/** The view that has a box of the page in the middle of the window, as large as it goes but not beyond `most`. */
export function showing([x, y, w, h]: Box, window: Size, turn: SheetView['turn'] = 0, most = MOST_ZOOM): SheetView {
  const [across, down] = turn % 2 ? [h, w] : [w, h];
  const zoom = clamp(Math.min(most, window[0] / across, window[1] / down));
  const [mx, my] = toWindow({ x: 0, y: 0, zoom, turn }, [x + w / 2, y + h / 2]);
  return { x: window[0] / 2 - mx, y: window[1] / 2 - my, zoom, turn };
}

const withMargin = (length: number): number => Math.max(1, length - 2 * MARGIN);

export const fitted = (page: Size, window: Size, turn: SheetView['turn'] = 0): SheetView => {
  const inner: Size = [withMargin(window[0]), withMargin(window[1])];
  const view = showing([0, 0, ...page], inner, turn);
  return { ...view, x: view.x + MARGIN, y: view.y + MARGIN };
};

/** As wide as the window, its upper edge at the top. */
export function fittedWidth(page: Size, window: Size, turn: SheetView['turn'] = 0): SheetView {
  const across = turn % 2 ? page[1] : page[0];
  const zoom = clamp(withMargin(window[0]) / across);
  const whole = showing([0, 0, ...page], [Infinity, Infinity], turn, zoom);
  const [left, top] = topLeft({ ...whole, x: 0, y: 0 }, page);
  return { zoom, turn, x: (window[0] - across * zoom) / 2 - left, y: MARGIN - top };
}

function topLeft(view: SheetView, [width, height]: Size): Point {
  const [a, b] = [toWindow(view, [0, 0]), toWindow(view, [width, height])];
  return [Math.min(a[0], b[0]), Math.min(a[1], b[1])];
}

/** Closer by a factor, the point of the window `at` staying where it is. */
export function zoomedAt(view: SheetView, factor: number, [px, py]: Readonly<Point>): SheetView {
  const zoom = clamp(view.zoom * factor);
  const grows = zoom / view.zoom;
  return { ...view, zoom, x: px - (px - view.x) * grows, y: py - (py - view.y) * grows };
}

export const panned = (view: SheetView, dx: number, dy: number): SheetView => ({
  ...view,
  x: view.x + dx,
  y: view.y + dy,
});

/** A quarter turn with the clock about the middle of the window. */
export function turned(view: SheetView, window: Size): SheetView {
  const middle: Point = [window[0] / 2, window[1] / 2];
  const [px, py] = toPage(view, middle);
  const next = { ...view, x: 0, y: 0, turn: ((view.turn + 1) % 4) as SheetView['turn'] };
  const [mx, my] = toWindow(next, [px, py]);
  return { ...next, x: middle[0] - mx, y: middle[1] - my };
}

/** The view as an address has it; undefined where the text is none. */
export function readView(text: string): SheetView | undefined {
  const [x, y, zoom, turn = 0] = text.split(',').map(Number);
  if (![x, y, zoom, turn].every(Number.isFinite) || !zoom || text === '') return undefined;
  return { x: x!, y: y!, zoom: clamp(zoom), turn: ((Math.round(turn) & 3) % 4) as SheetView['turn'] };
}
export const writeView = ({ x, y, zoom, turn }: SheetView): string =>
  [...[x, y, zoom].map((value) => Number(value.toFixed(4))), ...(turn ? [turn] : [])].join(',');
