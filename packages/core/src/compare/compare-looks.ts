/** Lines and areas that are where they were and look different: colour, weight, dashes, fill. */
import type { VectorStyle } from '../drawing/vectors/sheet-vectors.ts';
import { isUnseen, lengthOf, pieceCount, type Linework } from './linework.ts';
import { total, type LineIndex } from './line-index.ts';
import { piecesTouching } from './touching.ts';

/** How a line or an area is drawn. */
export interface Look {
  kind: VectorStyle['kind'];
  /** `#rrggbb` or `pattern`. */
  colour: string;
  /** Of lines, points on the second page. */
  width: number;
  dashed: boolean;
}
export interface LookChange {
  /** None: there was nothing of this kind here, or is nothing now. */
  before?: Look;
  after?: Look;
  /** Pieces as x0, y0, x1, y1, on the second page. */
  ends: number[];
}

/** Weights are the same within this part of them, or so many points; colours within so much of each of their parts (0 to 255). */
const [SAME_PART, SAME_WIDTH, SAME_COLOUR] = [0.15, 0.06, 16];
/** A look whose lines are as long as before, within this part and so many points, did not change. */
const [AS_LONG, HARDLY] = [0.002, 3];
/** A piece lies on another one within so many points, for this part of it. */
const [REACH, ON] = [0.3, 0.5];
/** Shorter pieces are what sticks out from under something else, points. */
const SEEN = 3;
/** More places than these with the same change are told as one. */
const PLACES = 12;

/** A page: its lines on the second page, and how they are drawn. */
export interface DrawnPage {
  lines: LineIndex;
  styles: readonly VectorStyle[];
}

/** `scale`: of the first page on the second one; pens may have been scaled with it or not. */
export function compareLooks(before: DrawnPage, after: DrawnPage, scale: number): LookChange[] {
  const ways = (Math.abs(scale - 1) < SAME_PART ? [1] : [scale, 1]).map((pens) => sideBySide(before, after, pens));
  const { looks, mine, theirs, changed } = ways.reduce((a, b) => (b.off < a.off ? b : a));
  if (!changed.some(Boolean)) return [];
  const found = new Map<string, number[][]>();
  const note = (was: number | undefined, is: number | undefined, ends: number[]): void => {
    const key = `${was ?? ''} ${is ?? ''}`;
    const known = found.get(key);
    if (known) known.push(ends);
    else found.set(key, [ends]);
  };
  for (const [ends, is, was] of otherLooks(after, theirs, before, mine, looks, changed)) note(was, is, ends);
  // What changed from one look to another one has been seen from the second page.
  for (const [ends, was, is] of otherLooks(before, mine, after, theirs, looks, changed))
    if (is === undefined) note(was, undefined, ends);
  return [...found].flatMap(([key, pieces]) => {
    const [was, is] = key.split(' ').map((look) => (look ? looks[Number(look)] : undefined));
    const groups = piecesTouching(pieces);
    const places = groups.length > PLACES ? [pieces] : groups.map((group) => group.map((i) => pieces[i]!));
    return places.map((place) => ({ ...(was && { before: was }), ...(is && { after: is }), ends: place.flat() }));
  });
}

/** The looks of both pages, by style, and which of them have more or fewer lines now. `pens`: what the weights of the first page are multiplied by. */
function sideBySide(before: DrawnPage, after: DrawnPage, pens: number) {
  const looks: Look[] = [];
  const [mine, theirs] = [looksOf(before.styles, pens, looks), looksOf(after.styles, 1, looks)];
  const lengths = [lengthsOf(before.lines.linework, mine), lengthsOf(after.lines.linework, theirs)] as const;
  let off = 0;
  const changed = looks.map((_, look) => {
    const [was, is] = [lengths[0][look] ?? 0, lengths[1][look] ?? 0];
    off += Math.abs(was - is);
    return Math.abs(was - is) > AS_LONG * Math.max(was, is) + HARDLY;
  });
  return { looks, mine, theirs, changed, off };
}

/** Look of each style, by number in `looks`, which grows by what it does not know. */
function looksOf(styles: readonly VectorStyle[], pens: number, looks: Look[]): number[] {
  return styles.map(({ kind, colour, width, dash }) => {
    const own: Look = { kind, colour, width: width * pens, dashed: dash.length > 0 };
    const known = looks.findIndex((look) => isSameLook(look, own));
    return known >= 0 ? known : looks.push(own) - 1;
  });
}
function isSameLook(a: Look, b: Look): boolean {
  if (a.kind !== b.kind || !isSameColour(a.colour, b.colour)) return false;
  if (a.kind === 'area') return true;
  const width = Math.max(a.width, b.width);
  return a.dashed === b.dashed && Math.abs(a.width - b.width) <= Math.max(SAME_WIDTH, SAME_PART * width);
}
function isSameColour(a: string, b: string): boolean {
  if (a === b) return true;
  const [p, q] = [a, b].map((colour) =>
    /^#(..)(..)(..)$/
      .exec(colour)
      ?.slice(1)
      .map((part) => parseInt(part, 16)),
  );
  return Boolean(p && q?.every((value, i) => Math.abs(value - p[i]!) <= SAME_COLOUR));
}

function lengthsOf(linework: Linework, looks: readonly number[]): number[] {
  const lengths: number[] = [];
  for (let i = 0; i < pieceCount(linework); i++) {
    const look = looks[linework.styles[i]!]!;
    lengths[look] = (lengths[look] ?? 0) + lengthOf(linework, i);
  }
  return lengths;
}

/** Pieces of a page whose look is not where they lie on the other page: with their look, and the one that is there instead. */
function* otherLooks(
  page: DrawnPage,
  own: readonly number[],
  other: DrawnPage,
  others: readonly number[],
  looks: readonly Look[],
  changed: readonly boolean[],
): Generator<[ends: number[], look: number, there: number | undefined]> {
  const { linework } = page.lines;
  const lookThere = (i: number): number => others[other.lines.linework.styles[i]!]!;
  for (let i = 0; i < pieceCount(linework); i++) {
    const look = own[linework.styles[i]!]!;
    if (!changed[look] || lengthOf(linework, i) < SEEN || isUnseen(looks[look]!.colour)) continue;
    const ends = [...linework.ends.subarray(4 * i, 4 * i + 4)];
    const [x0, y0, x1, y1] = ends as [number, number, number, number];
    const near = new Set(other.lines.near(x0, y0, x1, y1, REACH).map(lookThere));
    const bridge = 3 * linework.gaps[i]!;
    const on = (one: number | undefined): number =>
      total(
        other.lines.covered(ends, { reach: REACH, bridge, only: (k) => one === undefined || lookThere(k) === one }),
      );
    // What is not there at all came or went.
    if (on(undefined) < ON || (near.has(look) && on(look) >= ON)) continue;
    let [best, most] = [undefined as number | undefined, ON];
    for (const one of near) {
      if (looks[one]!.kind !== looks[look]!.kind || one === look) continue;
      const part = on(one);
      if (part > most) [best, most] = [one, part];
    }
    if (best !== undefined && isDashWrittenOut(looks[look]!, looks[best]!, lengthOf(linework, i), other, ends))
      continue;
    yield [ends, look, best];
  }
}

/** A dashed line whose strokes the other page has one by one, or such a stroke. */
function isDashWrittenOut(own: Look, there: Look, length: number, other: DrawnPage, ends: readonly number[]): boolean {
  if (own.dashed === there.dashed || !isSameLook({ ...own, dashed: there.dashed }, there)) return false;
  return own.dashed ? total(other.lines.covered(ends, { reach: REACH })) < THROUGH : length < STROKE;
}
/** What has gaps is not drawn through; no stroke of a dashed line is longer than this, points. */
const [THROUGH, STROKE] = [0.9, 60];
