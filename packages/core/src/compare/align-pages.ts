/** Finds how one page lies on another: plotted at another scale, shifted, turned, on other paper. */
import { LineIndex, total } from './line-index.ts';
import { lengthOf, pieceCount, type Linework } from './linework.ts';
import { fitToLines, Similarity, type PointOnLine } from './similarity.ts';
import type { TextLine } from './text-lines.ts';

export interface Page {
  width: number;
  height: number;
  linework: Linework;
  texts: readonly TextLine[];
}
export interface Alignment {
  similarity: Similarity;
  /** How much of what is drawn and written on the first page is there on the second one, 0 to 1. */
  common: number;
}

/** Pieces by which a similarity is judged, and tried out. */
const [JUDGED, TRIED] = [500, 120];
/** Within so many points a piece lies on another one: while searching, and in the end. */
const [COARSE, FINE] = [1.5, 0.3];
/** The page as it is is kept where another place is not this much better. */
const BETTER = 0.03;
/** So much of the page in place is enough not to look for others. */
const [ENOUGH, SURE] = [0.6, 0.85];
/** So many of the tried ones are made exact; fewer lines than these hold no page. */
const [REFINED, LEAST_PAIRS] = [6, 6];

/** The map from the first page to the second one. Deterministic. */
export function alignPages(before: Page, after: Page): Alignment {
  const judge = new Judge(before, after);
  const judged = sample(before.linework, JUDGED);
  const tried = sample(before.linework, TRIED);
  let best: Alignment = { similarity: Similarity.none, common: judge.common(Similarity.none, judged, FINE) };
  /** The best of some starts, made exact by a few pieces first, then by all. */
  const take = (starts: readonly Similarity[]): void => {
    let [found, most] = [undefined as Similarity | undefined, 0];
    for (const start of starts) {
      const similarity = judge.refined(start, tried);
      const common = similarity ? judge.common(similarity, tried, FINE) : 0;
      if (common > most) [found, most] = [similarity, common];
      if (most > SURE) break;
    }
    const similarity = found && judge.refined(found, judged);
    const common = similarity ? judge.common(similarity, judged, FINE) : 0;
    if (similarity && common > best.common + BETTER) best = { similarity, common };
  };
  take([Similarity.none]);
  for (const candidates of [
    byWords(before.texts, after.texts),
    byPaper(before, after),
    byLines(before.linework, after.linework),
  ]) {
    if (best.common >= ENOUGH) break;
    const scored = [...candidates]
      .filter(({ scale }) => scale > 0.05 && scale < 20)
      .map((similarity) => ({ similarity, score: judge.common(similarity, tried, COARSE) }))
      .sort((p, q) => q.score - p.score);
    take(scored.slice(0, REFINED).map(({ similarity }) => similarity));
  }
  return best;
}

/** The longest pieces, and others spread over all. */
function sample(linework: Linework, most: number): number[] {
  const count = pieceCount(linework);
  const all = Array.from({ length: count }, (_, i) => i);
  if (count <= most) return all;
  const longest = all.sort((a, b) => lengthOf(linework, b) - lengthOf(linework, a) || a - b).slice(0, most / 2);
  const step = (count - longest.length) / (most / 2);
  const rest = all.slice(longest.length);
  return [...longest, ...Array.from({ length: most / 2 }, (_, k) => rest[Math.floor(k * step)]!)];
}

/** Lines of words by what they say. */
export function placesOf(texts: readonly TextLine[]): Map<string, TextLine[]> {
  const places = new Map<string, TextLine[]>();
  for (const text of texts) {
    const known = places.get(text.key);
    if (known) known.push(text);
    else places.set(text.key, [text]);
  }
  return places;
}

class Judge {
  private readonly index: LineIndex;
  private readonly places: Map<string, TextLine[]>;

  constructor(
    private readonly before: Page,
    after: Page,
  ) {
    this.index = new LineIndex(after.linework);
    this.places = placesOf(after.texts);
  }

  /** The part of the pieces (by the root of their length, so that long ones do not decide alone) and words that come onto their like. */
  common(similarity: Similarity, pieces: readonly number[], reach: number): number {
    let [found, all] = [0, 0];
    const { linework, texts } = this.before;
    const { ends, gaps } = linework;
    for (const i of pieces) {
      const from = similarity.map(ends[4 * i]!, ends[4 * i + 1]!);
      const to = similarity.map(ends[4 * i + 2]!, ends[4 * i + 3]!);
      const weight = Math.sqrt(lengthOf(linework, i));
      all += weight;
      const covered = this.index.covered([...from, ...to], { reach, bridge: 1.5 * gaps[i]! * similarity.scale });
      found += weight * Math.min(1, total(covered));
    }
    for (const text of texts.slice(0, Math.max(pieces.length, TRIED))) {
      const [x, y] = similarity.map(text.x, text.y);
      const weight = Math.sqrt(text.width);
      all += weight;
      const there = this.places.get(text.key);
      if (there?.some((at) => Math.hypot(at.x - x, at.y - y) < Math.max(reach, 0.1 * at.size))) found += weight;
    }
    return all ? found / all : 0;
  }

  /** A start made exact: pieces are drawn onto the lines nearest to them, closer and closer; undefined where nothing holds it. */
  refined(start: Similarity, pieces: readonly number[]): Similarity | undefined {
    const { width, height } = this.before;
    let similarity = start;
    for (const reach of [4, 2, 1, 0.6, 0.4, 0.4]) {
      const pairs = [...this.pairsOf(similarity, pieces, reach)];
      if (pairs.length < LEAST_PAIRS) return undefined;
      const next = fitToLines(pairs, [width / 2, height / 2]);
      if (!next || next.scale < 0.02) return undefined;
      similarity = next;
    }
    return similarity.differs(start, width, height) < 1e-3 ? start : similarity;
  }

  /** Points near both ends of the pieces, each with the line of the other page that it belongs on. */
  private *pairsOf(similarity: Similarity, pieces: readonly number[], reach: number): Generator<PointOnLine> {
    const { ends } = this.before.linework;
    for (const i of pieces)
      for (const t of [0.1, 0.9]) {
        const x = ends[4 * i]! + t * (ends[4 * i + 2]! - ends[4 * i]!);
        const y = ends[4 * i + 1]! + t * (ends[4 * i + 3]! - ends[4 * i + 1]!);
        const line = this.lineAt(similarity.map(x, y), directionOf(similarity, ends, i), reach);
        if (line) yield { x, y, ...line, weight: 1 };
      }
  }

  private lineAt(
    [px, py]: readonly [number, number],
    [ux, uy]: readonly [number, number],
    reach: number,
  ): Pick<PointOnLine, 'lx' | 'ly' | 'nx' | 'ny'> | undefined {
    const { ends } = this.index.linework;
    let best: Pick<PointOnLine, 'lx' | 'ly' | 'nx' | 'ny'> | undefined;
    let least = reach;
    for (const k of this.index.near(px, py, px, py, reach)) {
      const [ax, ay, bx, by] = [ends[4 * k]!, ends[4 * k + 1]!, ends[4 * k + 2]!, ends[4 * k + 3]!];
      const length = Math.hypot(bx - ax, by - ay);
      const [vx, vy] = [(bx - ax) / length, (by - ay) / length];
      if (Math.abs(ux * vy - uy * vx) > 0.1) continue;
      const along = (px - ax) * vx + (py - ay) * vy;
      if (along < -reach || along > length + reach) continue;
      const off = Math.abs((py - ay) * vx - (px - ax) * vy);
      if (off > least || (best && off === least)) continue;
      best = { lx: ax, ly: ay, nx: -vy, ny: vx };
      least = off;
    }
    return best;
  }
}

function directionOf({ a, b }: Similarity, ends: Float64Array, i: number): [number, number] {
  const [dx, dy] = [ends[4 * i + 2]! - ends[4 * i]!, ends[4 * i + 3]! - ends[4 * i + 1]!];
  const [ux, uy] = [a * dx - b * dy, b * dx + a * dy];
  const length = Math.hypot(ux, uy);
  return [ux / length, uy / length];
}

/** By words that stand once on both. */
const MOST_WORDS = 14;
function* byWords(before: readonly TextLine[], after: readonly TextLine[]): Generator<Similarity> {
  const [mine, theirs] = [placesOf(before), placesOf(after)];
  const pairs = [...mine.entries()]
    .flatMap(([text, [at, more]]) => {
      const [there, others] = theirs.get(text) ?? [];
      return at && there && !more && !others ? [{ at, there }] : [];
    })
    .sort((p, q) => q.at.text.length - p.at.text.length);
  // Words far apart hold a page better than ones close together: take them from all over.
  const step = Math.max(1, Math.floor(pairs.length / MOST_WORDS));
  const chosen = pairs.filter((_, i) => i % step === 0).slice(0, MOST_WORDS);
  for (const [i, p] of chosen.entries()) {
    const scale = p.there.size / p.at.size;
    yield Similarity.about([p.at.x, p.at.y], [p.there.x, p.there.y], p.there.angle - p.at.angle, scale);
    for (const q of chosen.slice(i + 1)) {
      const one = Similarity.between(
        [p.at.x, p.at.y],
        [q.at.x, q.at.y],
        [p.there.x, p.there.y],
        [q.there.x, q.there.y],
      );
      if (one) yield one;
    }
  }
}

/** By corners and middles of the paper, in each turn. */
const QUARTERS = [0, 1, 2, 3].map((turns) => (turns * Math.PI) / 2);
function* byPaper(before: Page, after: Page): Generator<Similarity> {
  for (const angle of QUARTERS) {
    const sideways = Math.abs(Math.sin(angle)) > 0.5;
    const [w, h] = sideways ? [before.height, before.width] : [before.width, before.height];
    for (const scale of new Set([1, after.width / w, after.height / h]))
      for (const [u, v] of [
        [0.5, 0.5],
        [0, 0],
        [1, 1],
        [0, 1],
        [1, 0],
      ] as const) {
        // A corner of the turned page, and which one it was before.
        const [x, y] = [(u - 0.5) * w, (v - 0.5) * h];
        const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
        const from = [before.width / 2 + cos * x + sin * y, before.height / 2 - sin * x + cos * y];
        yield Similarity.about(from, [u * after.width, v * after.height], angle, scale);
      }
  }
}

/** By the longest lines. */
const MOST_LINES = 16;
function* byLines(before: Linework, after: Linework): Generator<Similarity> {
  const longest = (linework: Linework): number[] => sample(linework, 2 * MOST_LINES).slice(0, MOST_LINES);
  const [mine, theirs] = [longest(before), longest(after)];
  for (const i of mine)
    for (const k of theirs) {
      const [p, q] = [before.ends.subarray(4 * i, 4 * i + 2), before.ends.subarray(4 * i + 2, 4 * i + 4)];
      const [P, Q] = [after.ends.subarray(4 * k, 4 * k + 2), after.ends.subarray(4 * k + 2, 4 * k + 4)];
      for (const [from, to] of [
        [P, Q],
        [Q, P],
      ] as const) {
        const one = Similarity.between([...p], [...q], [...from], [...to]);
        if (one) yield one;
      }
    }
}
