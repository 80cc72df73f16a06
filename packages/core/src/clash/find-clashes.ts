/** Where two sets of elements are in each other's way. */
import { bodyOf, type Body } from '../scene/element-body.ts';
import type { ScenePackage } from '../scene/package.ts';
import type { Point } from '../scene/pick.ts';
import { rowStarts } from '../scene/row-starts.ts';
import { motionBetween, NEAR } from '../scene/same-body.ts';
import { boxesOf, eachCandidate } from './candidates.ts';
import { overlapOf } from './overlap.ts';

export interface ClashSettings {
  /** Metres: bodies that reach no deeper into each other are taken as touching. */
  tolerance: number;
  /** Metres that have to stay free between bodies; 0 where none have to. */
  clearance: number;
}
export type Clash = {
  /** Rows of the two element tables. */
  a: number;
  b: number;
  /** In the coordinates of the model, metres. */
  at: Point;
} & (
  | { kind: 'hard'; depth: number }
  /** The surface of one of them is not closed: they meet, and how deep is not known. */
  | { kind: 'hard'; depth: null }
  | { kind: 'clearance'; gap: number }
  | { kind: 'duplicate' }
);
export interface ClashSide {
  scene: ScenePackage;
  /** How many rows its element table has. */
  rows: number;
}
/** Which pairs are looked at; all where nothing is said. */
export interface Looked {
  /** Rows of each side that take part at all. */
  a(row: number): boolean;
  b(row: number): boolean;
  pair(a: number, b: number): boolean;
}
const ALL: Looked = { a: () => true, b: () => true, pair: () => true };

export interface FoundClashes {
  clashes: Clash[];
  candidatePairs: number;
}

/** Bodies that are kept: those of neighbours are asked for again and again. */
const REMEMBERED = 200;

/** One side against itself (`a` is `b`): each pair once, and nothing against itself. `onPair`: called after each pair that was looked at; may throw to stop. */
export function findClashes(
  a: ClashSide,
  b: ClashSide,
  { tolerance, clearance }: ClashSettings,
  onPair: (looked: number) => void = () => undefined,
  looked: Looked = ALL,
): FoundClashes {
  const left = new SideBodies(a);
  const right = a === b ? left : new SideBodies(b);
  const clashes: Clash[] = [];
  let candidatePairs = 0;
  eachCandidate(boxesOf(a.scene, a.rows, looked.a), boxesOf(b.scene, b.rows, looked.b), clearance, (i, j) => {
    if ((a === b && j <= i) || !looked.pair(i, j)) return;
    candidatePairs++;
    const clash = clashOf(left.of(i), right.of(j), tolerance, clearance);
    if (clash) clashes.push({ a: i, b: j, ...clash });
    onPair(candidatePairs);
  });
  return { clashes: clashes.sort((p, q) => p.a - q.a || p.b - q.b), candidatePairs };
}

type Kind<T> = T extends unknown ? Omit<T, 'a' | 'b'> : never;

function clashOf(a: Body, b: Body, tolerance: number, clearance: number): Kind<Clash> | null {
  if (isDuplicate(a, b)) return { kind: 'duplicate', at: a.measures.middle };
  const overlap = overlapOf(a, b, tolerance);
  if (overlap) return { kind: 'hard', ...overlap };
  const open = a.measures.volume === null || b.measures.volume === null;
  if (!open && !clearance) return null;
  const meet = a.meets(b);
  if (meet && open) return { kind: 'hard', depth: null, at: middleOfBoth(a, b) };
  if (!clearance) return null;
  if (meet) return { kind: 'clearance', gap: 0, at: middleOfBoth(a, b) };
  const near = a.gapTo(b, clearance);
  return near && near.gap < clearance ? { kind: 'clearance', ...near } : null;
}

function isDuplicate(a: Body, b: Body): boolean {
  const [p, q] = [a.measures, b.measures];
  if (a.offsetTo(b).length() > NEAR || Math.abs(p.area - q.area) > 0.1 * p.area) return false;
  const motion = motionBetween(a, b);
  return motion !== null && !motion.turned;
}

/** Of the box that both share. */
function middleOfBoth({ measures: { bounds: p } }: Body, { measures: { bounds: q } }: Body): Point {
  return [0, 1, 2].map(
    (axis) => (Math.max(p[axis]!, q[axis]!) + Math.min(p[axis + 3]!, q[axis + 3]!)) / 2,
  ) as unknown as Point;
}

class SideBodies {
  private readonly starts: Uint32Array;
  private readonly bodies = new Map<number, Body>();

  constructor(private readonly side: ClashSide) {
    this.starts = rowStarts(side.scene.instances.element, side.rows);
  }
  of(row: number): Body {
    let body = this.bodies.get(row);
    if (!body) {
      body = bodyOf(this.side.scene, this.starts[row]!, this.starts[row + 1]!);
      if (this.bodies.size >= REMEMBERED) this.bodies.delete(this.bodies.keys().next().value!);
      this.bodies.set(row, body);
    }
    return body;
  }
}
