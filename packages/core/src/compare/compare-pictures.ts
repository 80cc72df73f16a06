/** Scans compared with scans, or with drawn sheets: laid on each other, then what has no ink near it on the other one. */
import { Groups } from './groups.ts';
import { inkPoints, widened, type InkPage } from './ink.ts';
import { Similarity } from './similarity.ts';

export interface PictureChange {
  kind: 'added' | 'removed';
  /** Pixels on the second picture. */
  box: [number, number, number, number];
}
export interface PictureComparison {
  /** From pixels of the first picture to those of the second one. */
  similarity: Similarity;
  /** How much of the ink of both lies on ink, 0 to 1. */
  common: number;
  changes: PictureChange[];
}

/** Points of ink by which a place is judged. */
const JUDGED = 1500;
/** How far ink may be off while searching, as parts of the width; then in pixels. */
const COARSE = [1 / 40, 1 / 120, 1 / 400];
/** A page lies within this part of its width of where it is expected. */
const AWAY = 0.12;
/** Ink within so many pixels of ink is the same line: half a millimetre at 150 dots an inch. */
const NEAR = 3;
/** Scans bend: each block of so many pixels may lie by so many pixels elsewhere. */
const [BLOCK, BEND] = [128, 4];
/** What is left of ink is one change within so many pixels; less of it is a speck. */
const [TOGETHER, SPECK] = [6, 24];

export function comparePictures(before: InkPage, after: InkPage): PictureComparison {
  const similarity = lay(before, after);
  const offsets = bends(before, after, similarity);
  const map = (x: number, y: number): [number, number] => {
    const [u, v] = similarity.map(x, y);
    const [dx, dy] = offsets.at(u, v);
    return [u + dx, v + dy];
  };
  const moved = drawn(before, after, map);
  const [mine, theirs] = [widened(moved, NEAR), widened(after, NEAR)];
  const gone = less(moved, theirs);
  const come = less(after, mine);
  // Beyond the edge of the first page nothing is known to be new.
  const inside = insideOf(before, after, similarity);
  for (let i = 0; i < come.ink.length; i++) if (!inside[i]) come.ink[i] = 0;
  const [all, off] = [sum(moved) + sum(after), sum(gone) + sum(come)];
  return {
    similarity,
    common: all ? 1 - off / all : 1,
    changes: [
      ...components(gone).map((box): PictureChange => ({ kind: 'removed', box })),
      ...components(come).map((box): PictureChange => ({ kind: 'added', box })),
    ],
  };
}

const sum = ({ ink }: InkPage): number => ink.reduce((all, one) => all + one, 0);
const less = (page: InkPage, other: InkPage): InkPage => ({
  ...page,
  ink: page.ink.map((one, i) => one & (1 - other.ink[i]!)),
});

interface Place {
  x: number;
  y: number;
  angle: number;
  scale: number;
}

/** Where the first page lies on the second one: all quarter turns and shifts coarsely, then closer and closer. */
function lay(before: InkPage, after: InkPage): Similarity {
  const [mine, theirs] = [inkPoints(before, JUDGED), inkPoints(after, JUDGED)];
  if (!mine.length || !theirs.length) return Similarity.none;
  const middle = [before.width / 2, before.height / 2] as const;
  const of = ({ x, y, angle, scale }: Place): Similarity => Similarity.about(middle, [x, y], angle, scale);
  let best: Place = { x: middle[0], y: middle[1], angle: 0, scale: 1 };
  for (const [level, part] of COARSE.entries()) {
    const reach = Math.max(2, Math.round(part * after.width));
    const judge = judgeOf(mine, theirs, widened(before, reach), widened(after, reach));
    if (level === 0) best = mostOf(starts(before, after, reach), (place) => judge(of(place)));
    best = climbed(best, (place) => judge(of(place)), [reach / 2, reach / 2, reach / after.width, reach / after.width]);
  }
  const judge = judgeOf(mine, theirs, widened(before, 1), widened(after, 1));
  best = climbed(best, (place) => judge(of(place)), [1, 1, 1 / after.width, 1 / after.width]);
  const stays = Similarity.none;
  return judge(stays) >= judge(of(best)) - 0.01 ? stays : of(best);
}

function* starts(before: InkPage, after: InkPage, step: number): Generator<Place> {
  for (let quarter = 0; quarter < 4; quarter++) {
    const [w, h] = quarter % 2 ? [before.height, before.width] : [before.width, before.height];
    for (const scale of new Set([1, Math.min(after.width / w, after.height / h)])) {
      const away = Math.ceil((AWAY * after.width) / step);
      for (let i = -away; i <= away; i++)
        for (let k = -away; k <= away; k++)
          yield {
            x: after.width / 2 + i * step,
            y: after.height / 2 + k * step,
            angle: (quarter * Math.PI) / 2,
            scale,
          };
    }
  }
}

function mostOf(places: Iterable<Place>, score: (place: Place) => number): Place {
  let [best, most] = [undefined as Place | undefined, -Infinity];
  for (const place of places) {
    const found = score(place);
    if (found > most) [best, most] = [place, found];
  }
  return best!;
}

/** Both ways, so that a page full of ink is no place for everything. */
const judgeOf =
  (mine: Float64Array, theirs: Float64Array, before: InkPage, after: InkPage) =>
  ({ a, b, e, f }: Similarity): number => {
    const square = a * a + b * b;
    let [there, back] = [0, 0];
    for (let i = 0; i < mine.length; i += 2) {
      const [x, y] = [mine[i]!, mine[i + 1]!];
      there += inkAt(after, a * x - b * y + e, b * x + a * y + f);
    }
    for (let i = 0; i < theirs.length; i += 2) {
      const [x, y] = [theirs[i]! - e, theirs[i + 1]! - f];
      back += inkAt(before, (a * x + b * y) / square, (a * y - b * x) / square);
    }
    return (2 * there) / mine.length + (2 * back) / theirs.length;
  };
function inkAt({ width, height, ink }: InkPage, x: number, y: number): number {
  const [u, v] = [Math.round(x), Math.round(y)];
  return u < 0 || v < 0 || u >= width || v >= height ? 0 : ink[v * width + u]!;
}

const STEPS: readonly (keyof Place)[] = ['x', 'y', 'angle', 'scale'];
/** Uphill by steps along each of the four, halved when none leads higher. */
function climbed(from: Place, score: (place: Place) => number, first: readonly number[]): Place {
  let [best, most] = [from, score(from)];
  let steps = [...first];
  for (let round = 0; round < 40 && steps[0]! > 0.05; round++) {
    let rose = false;
    for (const [i, key] of STEPS.entries())
      for (const by of [steps[i]!, -steps[i]!]) {
        const next = { ...best, [key]: key === 'scale' ? best.scale * (1 + by) : best[key] + by };
        const found = score(next);
        if (found > most) [best, most, rose] = [next, found, true];
      }
    if (!rose) steps = steps.map((step) => step / 2);
  }
  return best;
}

/** By how much each block of the second page lies elsewhere on the first one: scans stretch and bend a little. */
function bends(
  before: InkPage,
  after: InkPage,
  similarity: Similarity,
): { at(x: number, y: number): [number, number] } {
  const [columns, rows] = [Math.ceil(after.width / BLOCK), Math.ceil(after.height / BLOCK)];
  const points: number[][] = Array.from({ length: columns * rows }, () => []);
  const all = inkPoints(before, 60_000);
  for (let i = 0; i < all.length; i += 2) {
    const [x, y] = similarity.map(all[i]!, all[i + 1]!);
    const [c, r] = [Math.floor(x / BLOCK), Math.floor(y / BLOCK)];
    if (c >= 0 && r >= 0 && c < columns && r < rows) points[r * columns + c]!.push(x, y);
  }
  const offsets = points.map((block): [number, number] => {
    let [best, most] = [[0, 0] as [number, number], -1];
    if (block.length < 40) return best;
    for (let dx = -BEND; dx <= BEND; dx++)
      for (let dy = -BEND; dy <= BEND; dy++) {
        let hits = -0.001 * block.length * Math.hypot(dx, dy);
        for (let i = 0; i < block.length; i += 2) hits += inkAt(after, block[i]! + dx, block[i + 1]! + dy);
        if (hits > most) [best, most] = [[dx, dy], hits];
      }
    return best;
  });
  const smooth = offsets.map((_, i): [number, number] => {
    const [c, r] = [i % columns, Math.floor(i / columns)];
    const near = [-1, 0, 1].flatMap((dr) =>
      [-1, 0, 1].flatMap((dc) =>
        c + dc >= 0 && c + dc < columns && r + dr >= 0 && r + dr < rows ? [offsets[i + dr * columns + dc]!] : [],
      ),
    );
    const middle = (k: 0 | 1): number => near.map((one) => one[k]).sort((a, b) => a - b)[Math.floor(near.length / 2)]!;
    return [middle(0), middle(1)];
  });
  return {
    at(x, y) {
      const [c, r] = [Math.floor(x / BLOCK), Math.floor(y / BLOCK)];
      return c >= 0 && r >= 0 && c < columns && r < rows ? smooth[r * columns + c]! : [0, 0];
    },
  };
}

/** The ink of the first page on the second one. */
function drawn({ width, ink }: InkPage, after: InkPage, map: (x: number, y: number) => [number, number]): InkPage {
  const there = new Uint8Array(after.ink.length);
  for (let i = 0; i < ink.length; i++) {
    if (!ink[i]) continue;
    const [x, y] = map(i % width, Math.floor(i / width)).map(Math.round) as [number, number];
    if (x >= 0 && y >= 0 && x < after.width && y < after.height) there[y * after.width + x] = 1;
  }
  return { width: after.width, height: after.height, ink: there };
}

/** Where of the second page the first one is. */
function insideOf(before: InkPage, after: InkPage, { a, b, e, f }: Similarity): Uint8Array {
  const square = a * a + b * b;
  const inside = new Uint8Array(after.ink.length);
  for (let y = 0; y < after.height; y++)
    for (let x = 0; x < after.width; x++) {
      const [u, v] = [(a * (x - e) + b * (y - f)) / square, (a * (y - f) - b * (x - e)) / square];
      inside[y * after.width + x] = Number(u >= 0 && v >= 0 && u < before.width && v < before.height);
    }
  return inside;
}

/** Boxes of what hangs together, specks left out. O(pixels). */
function components(page: InkPage): [number, number, number, number][] {
  const { width, height, ink } = page;
  const wide = widened(page, TOGETHER).ink;
  const label = new Int32Array(ink.length).fill(-1);
  const runs: number[] = [];
  // Runs of each row are numbered and joined with those that touch them in the row above.
  const links: [number, number][] = [];
  let count = 0;
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      if (!wide[i]) continue;
      if (x && wide[i - 1]) label[i] = label[i - 1]!;
      else {
        label[i] = count++;
        runs.push(i);
      }
      if (y && wide[i - width]) links.push([label[i]!, label[i - width]!]);
    }
  const groups = new Groups(count);
  for (const [a, b] of links) groups.join(a, b);
  const boxes = new Map<number, { box: [number, number, number, number]; pixels: number }>();
  for (let i = 0; i < ink.length; i++) {
    if (!ink[i]) continue;
    const root = groups.root(label[i]!);
    const [x, y] = [i % width, Math.floor(i / width)];
    const known = boxes.get(root) ?? { box: [x, y, x + 1, y + 1], pixels: 0 };
    const { box } = known;
    known.box = [Math.min(box[0], x), Math.min(box[1], y), Math.max(box[2], x + 1), Math.max(box[3], y + 1)];
    known.pixels++;
    boxes.set(root, known);
  }
  return [...boxes.values()].filter(({ pixels }) => pixels >= SPECK).map(({ box }) => box);
}
