/** Lines of two pages that lie on each other: what came, what went, what was moved and how far. */
import { boundsOf } from './bounds.ts';
import { Groups } from './groups.ts';
import { LineIndex, total, uncovered, type Parts } from './line-index.ts';
import { lengthOf, lineworkFrom, pieceCount, type Linework } from './linework.ts';
import { piecesTouching, SMALL, TOUCH } from './touching.ts';

export interface LineChange {
  kind: 'added' | 'removed' | 'moved';
  /** Pieces as x0, y0, x1, y1: where they are, on the second page; of what was removed, where they were. */
  ends: number[];
  /** Of what was moved: points on the second page. */
  shift?: [number, number];
  /** Of what was turned: radians with the clock. */
  turn?: number;
  mirrored?: boolean;
}

/** Lines within this many points of each other are one, whatever program wrote them. */
const REACH = 0.3;
/** What sticks out less is the end of a line that another program wrote a hair longer. */
const LEAST = 0.3;
/** Longer pieces join only by what of them changed. */
const LONG = 150;
/** Parts of a thing that seem to be there still stand out of the rest of it by no more than this. */
const ASIDE = 4;
/** So much of the pieces of a group has to be found where it is said to have gone. */
const WHOLE = 0.97;
/** So much of what is not there any more is explained by what is new. */
const EXPLAINED = 0.6;
/** A group of one or two lines has many that are as long: it is looked for within this many points. */
const [FEW, NEAR_FEW] = [2, 90];
/** Of those that vote for where a group went, and of the places that are tried. */
const [VOTERS, VOTES_EACH, TRIED] = [14, 300, 8];
/** Points: what stood in the same square of this side may have gone the same way. */
const BESIDE = 100;
/** Groups that went the same way, within this many points of each other, went together. */
const [SAME_SHIFT, TOGETHER] = [0.25, 24];

/** The lines of both pages, on the second page. */
export function compareLines(mine: LineIndex, theirs: LineIndex): LineChange[] {
  const gone = leftOver(mine.linework, theirs);
  const come = leftOver(theirs.linework, mine);
  const moves = findMoves(gone, come, mine, theirs);
  const rest = [
    ...groupsOf(gone).map((ends): LineChange => ({ kind: 'removed', ends })),
    ...groupsOf(come).map((ends): LineChange => ({ kind: 'added', ends })),
  ];
  const partOf = (change: LineChange, move: LineChange): boolean =>
    isEndOf(change.ends, move) ||
    (change.kind === 'added' && wasHidden(change.ends, move, mine)) ||
    (change.kind === 'removed' && slidAlong(change.ends, move, theirs));
  return [...moves, ...rest.filter((change) => !isTrace(change.ends) && !moves.some((move) => partOf(change, move)))];
}

/** Of each piece, the parts that have nothing on them on the other page. */
class LeftOver {
  /** By piece; emptied as they are explained. */
  readonly parts = new Map<number, Parts>();
  private index: { lines: LineIndex; pieces: number[] } | undefined;
  constructor(readonly linework: Linework) {}

  /** Pieces with something left, by a box. */
  near(x0: number, y0: number, x1: number, y1: number): number[] {
    if (!this.index) {
      const pieces = [...this.parts.keys()];
      this.index = { lines: new LineIndex(lineworkFrom(pieces.map((piece) => this.endsOf(piece)))), pieces };
    }
    const { lines, pieces } = this.index;
    return lines
      .inBox(x0 - TOUCH, y0 - TOUCH, x1 + TOUCH, y1 + TOUCH)
      .map((i) => pieces[i]!)
      .filter((piece) => this.parts.has(piece));
  }

  lengthOf(piece: number): number {
    return total(this.parts.get(piece) ?? []) * lengthOf(this.linework, piece);
  }
  endsOf(piece: number): number[] {
    return [...this.linework.ends.subarray(4 * piece, 4 * piece + 4)];
  }
  /** What is left, as pieces of their own. */
  pieces(): { piece: number; ends: number[] }[] {
    return [...this.parts].flatMap(([piece, parts]) => {
      const [x0, y0, x1, y1] = this.endsOf(piece) as [number, number, number, number];
      const at = (t: number): [number, number] => [x0 + t * (x1 - x0), y0 + t * (y1 - y0)];
      return Array.from({ length: parts.length / 2 }, (_, k) => ({
        piece,
        ends: [...at(parts[2 * k]!), ...at(parts[2 * k + 1]!)],
      }));
    });
  }
}

function leftOver(linework: Linework, other: LineIndex): LeftOver {
  const left = new LeftOver(linework);
  const { ends, gaps } = linework;
  for (let i = 0; i < pieceCount(linework); i++) {
    const covered = other.covered(ends.subarray(4 * i, 4 * i + 4) as unknown as number[], {
      reach: REACH,
      bridge: 1.5 * gaps[i]!,
    });
    // A dashed line may end in a gap.
    const parts = longEnough(uncovered(covered), lengthOf(linework, i), Math.max(LEAST, 1.2 * gaps[i]!));
    if (parts.length) left.parts.set(i, parts);
  }
  return left;
}

function longEnough(parts: Parts, length: number, least: number): Parts {
  const out: Parts = [];
  for (let k = 0; k < parts.length; k += 2)
    if ((parts[k + 1]! - parts[k]!) * length >= Math.min(least, 0.9 * length)) out.push(parts[k]!, parts[k + 1]!);
  return out;
}

function groupsOf(left: LeftOver): number[][] {
  const pieces = left.pieces().map(({ ends }) => ends);
  return piecesTouching(pieces).map((group) => group.flatMap((i) => pieces[i]!));
}

/** So short that it is no drawing: the seam of two programs. */
const isTrace = (ends: readonly number[]): boolean => lengthSum(ends) < 0.6;
function lengthSum(ends: readonly number[]): number {
  let sum = 0;
  for (let i = 0; i < ends.length; i += 4) sum += Math.hypot(ends[i + 2]! - ends[i]!, ends[i + 3]! - ends[i + 1]!);
  return sum;
}

const longest = (ends: readonly number[]): number => {
  let most = 0;
  for (let i = 0; i < ends.length; i += 4) most = Math.max(most, lengthSum(ends.slice(i, i + 4)));
  return most;
};

/** A line that met what was moved is longer or shorter now by as much: part of that move. */
function isEndOf(ends: readonly number[], { ends: moved, shift }: LineChange): boolean {
  if (!shift) return false;
  const far = Math.hypot(...shift);
  if (lengthSum(ends) > 4 * far + 1 || longest(ends) > 1.3 * far + 0.5) return false;
  const [x0, y0, x1, y1] = boundsOf(moved);
  const [u0, v0, u1, v1] = boundsOf(ends);
  const aside = far + TOUCH;
  return u0 >= x0 - aside && v0 >= y0 - aside && u1 <= x1 + aside && v1 <= y1 + aside;
}

/** What came out from under another line when it was moved: it was there before. */
function wasHidden(
  ends: readonly number[],
  { ends: moved, shift, turn, mirrored }: LineChange,
  mine: LineIndex,
): boolean {
  if (!shift || turn || mirrored) return false;
  const [x0, y0, x1, y1] = boundsOf(moved);
  const [u0, v0, u1, v1] = boundsOf(ends);
  if (u0 < x0 - ASIDE || v0 < y0 - ASIDE || u1 > x1 + ASIDE || v1 > y1 + ASIDE) return false;
  return isThere(
    ends.map((value, i) => value - shift[i % 2]!),
    mine,
  );
}

/** The end of a curve that moved along itself: most of it lies where it lay, the rest is where the move took it. */
function slidAlong(
  ends: readonly number[],
  { ends: moved, shift, turn, mirrored }: LineChange,
  theirs: LineIndex,
): boolean {
  if (!shift || turn || mirrored) return false;
  if (lengthSum(ends) > 1.3 * Math.hypot(...shift) + 0.5) return false;
  const [x0, y0, x1, y1] = boundsOf(moved);
  const [u0, v0, u1, v1] = boundsOf(ends);
  const aside = Math.max(x1 - x0, y1 - y0);
  if (u0 < x0 - aside || v0 < y0 - aside || u1 > x1 + aside || v1 > y1 + aside) return false;
  return isThere(
    ends.map((value, i) => value + shift[i % 2]!),
    theirs,
  );
}

type PointMap = (x: number, y: number) => readonly [number, number];
interface Move {
  map: PointMap;
  shift: [number, number];
  turn: number;
  mirrored: boolean;
}

/** What went, and where it is now. */
interface Taken {
  move: Move;
  ends: number[];
}

function findMoves(gone: LeftOver, come: LeftOver, mine: LineIndex, theirs: LineIndex): LineChange[] {
  const pieces = gone.pieces();
  const byLength = new ByLength(come);
  const found: Taken[] = [];
  const known = new MovesFrom();
  const largestFirst = (groups: number[][]): number[][] =>
    groups
      .map((group) => [...new Set(group.map((i) => pieces[i]!.piece))])
      .sort((a, b) => b.length - a.length || a[0]! - b[0]!);
  const fine = largestFirst(piecesTouching(pieces.map(({ ends }) => ends)));
  const coarse = largestFirst(
    piecesTouching(
      pieces.map(({ piece, ends }) => (lengthOf(gone.linework, piece) > LONG ? ends : gone.endsOf(piece))),
    ),
  );
  // Things that stand close to each other may have gone different ways.
  const apart = largestFirst(
    piecesTouching(
      pieces.map(({ ends }) => ends),
      REACH,
    ),
  );
  const shifts = (lines: readonly number[]): Move[] => [
    ...known.beside(boundsOf(lines.flatMap((piece) => gone.endsOf(piece)))),
    ...shiftsOf(lines, gone, byLength),
  ];
  const turns = (lines: readonly number[]): Move[] => turnsOf(lines, gone, byLength);
  for (const [groups, candidates, least] of [
    [coarse, shifts, 1],
    [fine, shifts, 1],
    [apart, shifts, 1],
    [coarse, turns, FEW + 1],
    [fine, turns, FEW + 1],
    [apart, turns, FEW + 1],
  ] as const)
    for (const group of groups) {
      const lines = group.filter((piece) => gone.parts.has(piece));
      if (lines.length < least) continue;
      const { outline, hatch } = withoutHatch(lines, gone);
      const taken = bestOf(candidates(outline), outline, { gone, come, mine, theirs }, least > FEW);
      if (!taken) continue;
      found.push(taken);
      known.add(taken);
      if (hatch.length) cutAnew(hatch, taken.ends, gone, come);
    }
  return together(found);
}

/** So many lines of one direction in a group, each much shorter than its longest one, fill it. */
const [HATCH, SHORT_OF] = [8, 0.3];

/** The lines that fill a group and those that bound it: where something is moved its hatch is often cut anew, not moved. */
function withoutHatch(lines: readonly number[], gone: LeftOver): { outline: readonly number[]; hatch: number[] } {
  const longestOf = Math.max(...lines.map((piece) => lengthOf(gone.linework, piece)));
  const directions = new Map<number, number[]>();
  for (const piece of lines) {
    if (lengthOf(gone.linework, piece) > SHORT_OF * longestOf) continue;
    const turn = ((directionOf(gone.endsOf(piece)) % Math.PI) + Math.PI) % Math.PI;
    const key = Math.round(turn / 0.02) % Math.round(Math.PI / 0.02);
    directions.set(key, [...(directions.get(key) ?? []), piece]);
  }
  const hatch = [...directions.values()].filter((pieces) => pieces.length >= HATCH).flat();
  const fills = new Set(hatch);
  const outline = lines.filter((piece) => !fills.has(piece));
  return outline.length ? { outline, hatch } : { outline: lines, hatch: [] };
}

/** What filled a thing is explained by its move, and so is what fills it now. */
function cutAnew(hatch: readonly number[], ends: readonly number[], gone: LeftOver, come: LeftOver): void {
  for (const piece of hatch) gone.parts.delete(piece);
  const [x0, y0, x1, y1] = boundsOf(ends);
  const turns = hatch.map((piece) => directionOf(gone.endsOf(piece)));
  for (const piece of come.near(x0, y0, x1, y1)) {
    const own = come.endsOf(piece);
    const [u0, v0, u1, v1] = boundsOf(own);
    const inside = u0 >= x0 - TOUCH && v0 >= y0 - TOUCH && u1 <= x1 + TOUCH && v1 <= y1 + TOUCH;
    if (inside && turns.some((turn) => Math.abs(Math.sin(turn - directionOf(own))) < 0.03)) come.parts.delete(piece);
  }
}

interface Pages {
  gone: LeftOver;
  come: LeftOver;
  mine: LineIndex;
  theirs: LineIndex;
}

/** The first of the moves that holds, or the one that explains most; what it explains is taken out of what is left. */
function bestOf(
  moves: readonly Move[],
  lines: readonly number[],
  pages: Pages,
  mostExplained: boolean,
): Taken | undefined {
  const { gone, come, theirs } = pages;
  const missing = lines.reduce((sum, piece) => sum + gone.lengthOf(piece), 0);
  let best: { move: Move; pieces: number[]; ends: number[]; explained: ReturnType<typeof explainedBy> } | undefined;
  for (const move of moves) {
    const own = lines.flatMap((piece) => mapped(gone.endsOf(piece), move.map));
    if (!isThere(own, theirs)) continue;
    const pieces = [...lines, ...goingAlong(lines, move, pages)];
    const ends = pieces.flatMap((piece) => mapped(gone.endsOf(piece), move.map));
    const explained = explainedBy(ends, come);
    if (explained.length < EXPLAINED * missing) continue;
    // A hair more is no reason to call something mirrored that was turned.
    if (!best || explained.length > 1.02 * best.explained.length + LEAST) best = { move, pieces, ends, explained };
    if (!mostExplained) break;
  }
  if (!best) return undefined;
  best.explained.take();
  for (const piece of best.pieces) gone.parts.delete(piece);
  return { move: best.move, ends: best.ends };
}

/** Where a thing overlaps the place it had, parts of it seem to be there still: pieces among the others that are new where they would have gone. */
function goingAlong(lines: readonly number[], move: Move, { gone, come, mine, theirs }: Pages): number[] {
  const [x0, y0, x1, y1] = boundsOf(lines.flatMap((piece) => gone.endsOf(piece)));
  if (Math.max(x1 - x0, y1 - y0) > SMALL) return [];
  const own = new Set(lines);
  return mine.inBox(x0 - ASIDE, y0 - ASIDE, x1 + ASIDE, y1 + ASIDE).filter((piece) => {
    if (own.has(piece)) return false;
    const ends = gone.endsOf(piece);
    const [u0, v0, u1, v1] = boundsOf(ends);
    if (u0 < x0 - ASIDE || v0 < y0 - ASIDE || u1 > x1 + ASIDE || v1 > y1 + ASIDE) return false;
    const there = mapped(ends, move.map);
    if (!isThere(there, theirs)) return false;
    return gone.parts.has(piece) || explainedBy(there, come).length > EXPLAINED * lengthSum(ends);
  });
}

function mapped(ends: readonly number[], map: PointMap): number[] {
  return [...map(ends[0]!, ends[1]!), ...map(ends[2]!, ends[3]!)];
}

function isThere(ends: readonly number[], theirs: LineIndex): boolean {
  const allowed = (1 - WHOLE) * lengthSum(ends) + 0.3;
  let [there, all] = [0, 0];
  for (let i = 0; i < ends.length; i += 4) {
    const piece = ends.slice(i, i + 4);
    const length = Math.hypot(piece[2]! - piece[0]!, piece[3]! - piece[1]!);
    all += length;
    there += length * total(theirs.covered(piece, { reach: REACH }));
    if (all - there > allowed) return false;
  }
  return true;
}

/** What is new and lies where a group went; `take` says that it is explained. */
function explainedBy(ends: readonly number[], come: LeftOver): { length: number; take(): void } {
  const quads = Array.from({ length: ends.length / 4 }, (_, k) => ends.slice(4 * k, 4 * k + 4));
  const group = new LineIndex(lineworkFrom(quads));
  const [x0, y0, x1, y1] = boundsOf(ends);
  const after: { piece: number; rest: Parts }[] = [];
  let length = 0;
  for (const piece of come.near(x0, y0, x1, y1)) {
    const parts = come.parts.get(piece)!;
    const covered = group.covered(come.endsOf(piece), { reach: REACH });
    const rest = longEnough(without(parts, covered), lengthOf(come.linework, piece), LEAST);
    const explained = (total(parts) - total(rest)) * lengthOf(come.linework, piece);
    if (explained > 0) after.push({ piece, rest });
    length += explained;
  }
  const take = (): void => {
    for (const { piece, rest } of after)
      if (rest.length) come.parts.set(piece, rest);
      else come.parts.delete(piece);
  };
  return { length, take };
}

/** The parts of the first that are not in the second. */
function without(parts: Parts, less: Parts): Parts {
  const out: Parts = [];
  const free = uncovered(less);
  for (let i = 0; i < parts.length; i += 2)
    for (let k = 0; k < free.length; k += 2) {
      const [from, to] = [Math.max(parts[i]!, free[k]!), Math.min(parts[i + 1]!, free[k + 1]!)];
      if (to > from) out.push(from, to);
    }
  return out;
}

/** What is new, by its length: who was moved is as long as before. */
class ByLength {
  private readonly buckets = new Map<number, number[]>();

  constructor(readonly come: LeftOver) {
    for (const piece of come.parts.keys()) {
      const key = Math.round(2 * lengthOf(come.linework, piece));
      const known = this.buckets.get(key);
      if (known) known.push(piece);
      else this.buckets.set(key, [piece]);
    }
  }

  /** Those that are as long and still unexplained, the nearest first. */
  like(ends: readonly number[]): number[][] {
    const length = lengthSum(ends);
    const [x, y] = middleOf(ends);
    const allowed = 0.3 + 0.002 * length;
    const found: { off: number; ends: number[] }[] = [];
    const last = Math.round(2 * (length + allowed));
    for (let key = Math.round(2 * (length - allowed)); key <= last; key++)
      for (const piece of this.buckets.get(key) ?? []) {
        if (!this.come.parts.has(piece)) continue;
        const other = this.come.endsOf(piece);
        if (Math.abs(lengthSum(other) - length) > allowed) continue;
        const [u, v] = middleOf(other);
        found.push({ off: Math.hypot(u - x, v - y), ends: other });
      }
    found.sort((a, b) => a.off - b.off);
    return found.slice(0, VOTES_EACH).map((one) => one.ends);
  }
}

const middleOf = (ends: readonly number[]): [number, number] => [(ends[0]! + ends[2]!) / 2, (ends[1]! + ends[3]!) / 2];
const directionOf = (ends: readonly number[]): number => Math.atan2(ends[3]! - ends[1]!, ends[2]! - ends[0]!);
const voters = (lines: readonly number[], gone: LeftOver): number[][] =>
  [...lines]
    .sort((a, b) => gone.lengthOf(b) - gone.lengthOf(a) || a - b)
    .slice(0, VOTERS)
    .map((piece) => gone.endsOf(piece));

/** Moves by where they began, in squares: what stands beside others that went somewhere most likely went with them. */
class MovesFrom {
  private readonly squares = new Map<string, Move[]>();

  add({ move, ends }: Taken): void {
    if (move.turn || move.mirrored) return;
    const [dx, dy] = move.shift;
    const [x0, y0, x1, y1] = boundsOf(ends);
    for (const key of squaresIn([x0 - dx, y0 - dy, x1 - dx, y1 - dy])) {
      const known = this.squares.get(key) ?? [];
      const isNew = known.length < TRIED && known.every(({ shift }) => apartBy(shift, move.shift) >= SAME_SHIFT);
      if (isNew) this.squares.set(key, [...known, move]);
    }
  }
  beside(box: readonly [number, number, number, number]): Move[] {
    const found = new Set(squaresIn(box).flatMap((key) => this.squares.get(key) ?? []));
    return [...found].slice(0, TRIED);
  }
}
function squaresIn([x0, y0, x1, y1]: readonly [number, number, number, number]): string[] {
  const keys: string[] = [];
  for (let i = Math.floor(x0 / BESIDE); i <= Math.floor(x1 / BESIDE); i++)
    for (let k = Math.floor(y0 / BESIDE); k <= Math.floor(y1 / BESIDE); k++) keys.push(`${i} ${k}`);
  return keys;
}
const apartBy = (a: readonly [number, number], b: readonly [number, number]): number =>
  Math.hypot(a[0] - b[0], a[1] - b[1]);

/** Where a group may have gone without a turn: each line votes for the places of those that are like it. */
function shiftsOf(lines: readonly number[], gone: LeftOver, byLength: ByLength): Move[] {
  const votes = new Map<string, { weight: number; x: number; y: number }>();
  for (const ends of voters(lines, gone)) {
    const [x, y] = middleOf(ends);
    const weight = lengthSum(ends);
    const seen = new Set<string>();
    for (const other of byLength.like(ends)) {
      if (Math.abs(Math.sin(directionOf(ends) - directionOf(other))) > 0.02) continue;
      const [u, v] = middleOf(other);
      const [dx, dy] = [u - x, v - y];
      if (lines.length <= FEW && Math.hypot(dx, dy) > NEAR_FEW) continue;
      const key = `${Math.round(2 * dx)} ${Math.round(2 * dy)}`;
      if (seen.has(key)) continue;
      seen.add(key);
      const known = votes.get(key) ?? { weight: 0, x: 0, y: 0 };
      votes.set(key, { weight: known.weight + weight, x: known.x + weight * dx, y: known.y + weight * dy });
    }
  }
  return [...votes.values()]
    .map(({ weight, x, y }) => ({ weight, shift: [x / weight, y / weight] as [number, number] }))
    .sort((a, b) => b.weight - a.weight || Math.hypot(...a.shift) - Math.hypot(...b.shift))
    .slice(0, TRIED)
    .map(({ shift }) => ({ map: (x, y) => [x + shift[0], y + shift[1]], shift, turn: 0, mirrored: false }));
}

/** Where a group may have gone turned or mirrored: its longest line on each that is as long, both ways around. */
function turnsOf(lines: readonly number[], gone: LeftOver, byLength: ByLength): Move[] {
  const [first] = voters(lines, gone);
  const all = lines.flatMap((piece) => gone.endsOf(piece));
  const [x0, y0, x1, y1] = boundsOf(all);
  const centre = [(x0 + x1) / 2, (y0 + y1) / 2] as const;
  const [px, py] = middleOf(first!);
  const from = directionOf(first!);
  const others = byLength.like(first!).slice(0, 4 * TRIED);
  return [false, true].flatMap((mirrored) =>
    others.flatMap((other) =>
      [0, Math.PI].map((half): Move => {
        const [qx, qy] = middleOf(other);
        const to = directionOf(other) + half;
        // Mirrored: over the first line, then turned onto the other one.
        const turn = to - from;
        const [cos, sin] = mirrored ? [Math.cos(to + from), Math.sin(to + from)] : [Math.cos(turn), Math.sin(turn)];
        const sign = mirrored ? -1 : 1;
        const map: PointMap = (x, y) => [
          qx + cos * (x - px) - sign * sin * (y - py),
          qy + sin * (x - px) + sign * cos * (y - py),
        ];
        const [cx, cy] = map(...centre);
        return { map, shift: [cx - centre[0], cy - centre[1]], turn: mirrored ? 0 : Math.atan2(sin, cos), mirrored };
      }),
    ),
  );
}

/** Groups that went the same way and are close to each other went together. */
function together(found: readonly Taken[]): LineChange[] {
  const groups = new Groups(found.length);
  const boxes = found.map(({ ends }) => boundsOf(ends));
  const order = found.map((_, i) => i).sort((a, b) => boxes[a]![0] - boxes[b]![0]);
  for (const [at, i] of order.entries())
    for (const k of order.slice(at + 1)) {
      if (boxes[k]![0] > boxes[i]![2] + TOGETHER) break;
      const [p, q] = [found[i]!.move, found[k]!.move];
      const alike = !p.turn && !q.turn && !p.mirrored && !q.mirrored;
      const same = apartBy(p.shift, q.shift) < SAME_SHIFT;
      const close = boxes[k]![1] < boxes[i]![3] + TOGETHER && boxes[i]![1] < boxes[k]![3] + TOGETHER;
      if (alike && same && close) groups.join(i, k);
    }
  return groups.list().map((group): LineChange => {
    const main = group.reduce((a, b) => (lengthSum(found[b]!.ends) > lengthSum(found[a]!.ends) ? b : a));
    const { shift, turn, mirrored } = found[main]!.move;
    const ends = group.flatMap((i) => found[i]!.ends);
    return { kind: 'moved', ends, shift, ...(turn && { turn }), ...(mirrored && { mirrored }) };
  });
}
