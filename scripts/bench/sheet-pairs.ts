/** Pairs of generated plans: what was done to each is known, and has to be found, all of it and nothing else. */
import { VectorColumns, type SheetVectors, type VectorText } from '@kindred/core/drawing/vectors/sheet-vectors';
import { compareSheets, type SheetChange } from '@kindred/core/compare/compare-sheets';
import { seeded } from './seeded.ts';

type Point = readonly [number, number];
interface Thing {
  chains: Point[][];
  texts: { text: string; x: number; y: number; size: number }[];
}

const line = (...points: Point[]): Thing => ({ chains: [points], texts: [] });
const words = (text: string, x: number, y: number, size = 7): Thing => ({ chains: [], texts: [{ text, x, y, size }] });
const arc = (cx: number, cy: number, r: number, from: number, steps = 16): Point[] =>
  Array.from({ length: steps + 1 }, (_, i) => {
    const at = from + ((Math.PI / 2) * i) / steps;
    return [cx + r * Math.cos(at), cy + r * Math.sin(at)] as const;
  });
const rectangle = (x: number, y: number, w: number, h: number): Point[] => [
  [x, y],
  [x + w, y],
  [x + w, y + h],
  [x, y + h],
  [x, y],
];
const door = (x: number, y: number, r: number): Thing => ({
  chains: [
    [
      [x, y],
      [x, y - r],
      [x - 2, y - r],
      [x - 2, y],
      [x, y],
    ],
    arc(x, y, r, -Math.PI / 2),
  ],
  texts: [],
});
const basin = (x: number, y: number): Thing => ({
  chains: [
    rectangle(x, y, 22, 16),
    arc(x + 11, y + 8, 6, 0),
    arc(x + 11, y + 8, 6, Math.PI / 2),
    [
      [x + 11, y],
      [x + 11, y + 3],
    ],
  ],
  texts: [],
});

interface Plan {
  walls: Thing[];
  doors: Thing[];
  basins: Thing[];
  tags: Thing[];
  cells: Thing[];
  frame: Thing[];
  /** A dashed line: by its dashes, or its strokes written one by one. */
  dashed?: { from: Point; to: Point; written: boolean };
}
const everything = ({ dashed: _, ...plan }: Plan): Thing[] => (void _, Object.values(plan).flat());

function drawPlan(random: () => number): Plan {
  const plan: Plan = { walls: [], doors: [], basins: [], tags: [], cells: [], frame: [] };
  const [left, top] = [120 + 40 * random(), 110 + 40 * random()];
  const columns = 5 + Math.floor(random() * 3);
  const [w, h] = [104 + 12 * random(), 92 + 10 * random()];
  for (let c = 0; c < columns; c++)
    for (let r = 0; r < 4; r++) {
      const [x, y] = [left + c * w, top + r * h];
      plan.walls.push(line(...rectangle(x, y, w - 4, h - 4)));
      plan.doors.push(door(x + 30 + 10 * random(), y + h - 4, 18));
      if (random() < 0.6) plan.basins.push(basin(x + 8 + 20 * random(), y + 8 + 8 * random()));
      plan.tags.push(words(`Room ${r + 1}.${String(c + 1).padStart(2, '0')}`, x + 50, y + 44));
      plan.tags.push(words(`${(8 + 12 * random()).toFixed(1)} m²`, x + 50, y + 54, 6));
    }
  for (let r = 0; r < 9; r++)
    for (const [k, text] of [
      `D${101 + r}`,
      String(700 + 25 * Math.floor(random() * 12)),
      random() < 0.5 ? 'T30' : 'none',
    ].entries())
      plan.cells.push(words(text, 980 + 60 * k, 120 + 14 * r));
  plan.frame.push(line(...rectangle(20, 20, 1150, 802)));
  for (let r = 0; r <= 9; r++) plan.frame.push(line([975, 110 + 14 * r], [1150, 110 + 14 * r]));
  plan.frame.push(words('Drawing No.', 960, 740, 6), words('KRD-01-D-A-0101', 960, 752, 11));
  plan.frame.push(words('Rev', 1100, 740, 6), words('P01', 1100, 752, 11));
  plan.frame.push(words('Date', 1100, 770, 6), words('01.02.2026', 1100, 780, 8));
  return plan;
}

const movedBy = ({ chains, texts }: Thing, dx: number, dy: number): Thing => ({
  chains: chains.map((chain) => chain.map(([x, y]) => [x + dx, y + dy] as const)),
  texts: texts.map((text) => ({ ...text, x: text.x + dx, y: text.y + dy })),
});

interface Look {
  /** Of the second page. */
  map: (x: number, y: number) => Point;
  scale: number;
  angle: number;
  size: Point;
  random: () => number;
  /** Drawn by another program: in another order, other directions, lines split and joined, some twice. */
  redrawn: boolean;
}
function vectorsOf(plan: Plan, look: Look): SheetVectors {
  const things = everything(plan);
  const { map, scale, angle, random, redrawn } = look;
  const columns = new VectorColumns();
  let chains = things.flatMap((thing) => thing.chains);
  if (redrawn) {
    chains = chains.flatMap((chain): Point[][] => {
      const cut: Point[][] = [];
      let open: Point[] = [chain[0]!];
      for (const [i, point] of chain.slice(1).entries()) {
        const before = chain[i]!;
        if (random() < 0.3) {
          const middle = [before[0] + 0.4 * (point[0] - before[0]), before[1] + 0.4 * (point[1] - before[1])] as const;
          open.push(middle);
          cut.push(open);
          open = [middle];
        }
        open.push(point);
        if (random() < 0.3) {
          cut.push(open);
          open = [point];
        }
      }
      cut.push(open);
      const real = cut.filter((one) => one.length > 1).map((one) => (random() < 0.5 ? [...one].reverse() : one));
      return random() < 0.15 ? [...real, real[0]!] : real;
    });
    chains = chains
      .map((chain) => ({ chain, key: random() }))
      .sort((a, b) => a.key - b.key)
      .map(({ chain }) => chain);
  }
  for (const chain of chains) {
    for (const [x, y] of chain) columns.add(...map(x, y));
    columns.end(0);
  }
  for (const chain of strokesOf(plan.dashed)) {
    for (const [x, y] of chain) columns.add(...map(x, y));
    columns.end(plan.dashed!.written ? 0 : 1);
  }
  const texts = things
    .flatMap(({ texts }) => texts)
    .map(({ text, x, y, size }): VectorText => {
      const [px, py] = map(x, y);
      return { text, x: px, y: py, size: size * scale, width: text.length * 0.5 * size * scale, angle };
    });
  return {
    width: look.size[0],
    height: look.size[1],
    styles: [
      { kind: 'line', colour: '#000000', width: 0.5, dash: [], layer: '' },
      { kind: 'line', colour: '#000000', width: 0.5, dash: DASH.map((length) => length * scale), layer: '' },
    ],
    texts,
    pictures: [],
    ...columns.columns(),
  };
}

const DASH = [6, 3] as const;
function strokesOf(dashed: Plan['dashed']): Point[][] {
  if (!dashed) return [];
  const { from, to, written } = dashed;
  if (!written) return [[from, to]];
  const length = Math.hypot(to[0] - from[0], to[1] - from[1]);
  const at = (along: number): Point => {
    const t = Math.min(1, along / length);
    return [from[0] + t * (to[0] - from[0]), from[1] + t * (to[1] - from[1])];
  };
  const strokes: Point[][] = [];
  for (let along = 0; along < length; along += DASH[0] + DASH[1]) strokes.push([at(along), at(along + DASH[0])]);
  return strokes;
}

const MM = 72 / 25.4;
const KINDS = [
  ...['moved', 'added', 'removed', 'text', 'cell', 'two near', 'wall', 'repeated', 'nothing', 'turned'],
  ...['row', 'tag moved', 'note', 'hair', 'mirrored', 'dashes', 'curves', 'wider'],
];
const PAGES = ['same', 'redrawn', 'scaled', 'shifted', 'quarter', 'rotated'] as const;

interface Expected {
  kind: SheetChange['kind'];
  shift?: Point;
  before?: string;
  after?: string;
  turned?: boolean;
  mirrored?: boolean;
}
interface Pair {
  name: string;
  before: SheetVectors;
  after: SheetVectors;
  scale: number;
  map: Look['map'];
  expected: Expected[];
}

function makePair(seed: number): Pair {
  const random = seeded(seed);
  const kind = KINDS[seed % KINDS.length]!;
  const page = PAGES[Math.floor(seed / KINDS.length) % PAGES.length]!;
  const plan = drawPlan(random);
  const next: Plan = structuredClone(plan);
  const pick = (things: Thing[]): number => Math.floor(random() * things.length);
  const expected: Expected[] = [];
  const far = (0.5 + 3 * random() ** 2) * MM;
  const way = random() * 2 * Math.PI;
  const shift: Point =
    random() < 0.5 ? [far * Math.cos(way), far * Math.sin(way)] : random() < 0.5 ? [far, 0] : [0, -far];
  const move = (things: Thing[], i: number, by = shift): void => {
    things[i] = movedBy(things[i]!, ...by);
    expected.push({ kind: 'moved', shift: by });
  };
  if (kind === 'moved') move(random() < 0.5 ? next.doors : next.basins, pick(plan.basins));
  else if (kind === 'repeated') move(next.doors, pick(plan.doors), [9 * MM * (random() < 0.5 ? 1 : -1), 0]);
  else if (kind === 'wall') {
    const i = pick(plan.walls);
    const [[x0], [x1, y1]] = [next.walls[i]!.chains[0]![0]!, next.walls[i]!.chains[0]![2]!];
    next.walls.push(line([x0 + 12, y1 - 30], [x1 - 20, y1 - 30]));
    plan.walls.push(line([x0 + 12, y1 - 30 + far], [x1 - 20, y1 - 30 + far]));
    expected.push({ kind: 'moved', shift: [0, -far] });
  } else if (kind === 'added') {
    next.basins.push(basin(300 + 200 * random(), 560 + 60 * random()));
    expected.push({ kind: 'added' });
  } else if (kind === 'removed') {
    next.doors.splice(pick(plan.doors), 1);
    expected.push({ kind: 'removed' });
  } else if (kind === 'text') {
    const i = 2 * Math.floor(random() * (plan.tags.length / 2));
    next.tags[i]!.texts[0]!.text = 'Kit room';
    expected.push({ kind: 'text', before: plan.tags[i]!.texts[0]!.text, after: 'Kit room' });
  } else if (kind === 'cell') {
    const i = 3 * Math.floor(random() * 9) + 1;
    next.cells[i]!.texts[0]!.text = '1010';
    expected.push({ kind: 'text', before: plan.cells[i]!.texts[0]!.text, after: '1010' });
  } else if (kind === 'two near') {
    const i = pick(plan.basins);
    move(next.basins, i);
    const [x, y] = plan.basins[i]!.chains[0]![0]!;
    next.walls.push(line([x + 22 + far + 5, y - 3], [x + 22 + far + 5, y + 20]));
    expected.push({ kind: 'added' });
  } else if (kind === 'row') {
    // A row comes in: what stands below it goes down by one, which is no change of its own.
    const at = 2 + Math.floor(random() * 5);
    next.cells = next.cells.map((cell, i) => (i < 3 * at ? cell : movedBy(cell, 0, 14)));
    const row = ['D150', '1 260', 'T90'];
    row.forEach((said, k) => next.cells.push(words(said, 980 + 60 * k, 120 + 14 * at)));
    expected.push({ kind: 'added', after: row.join(' · ') });
  } else if (kind === 'tag moved') {
    const i = 2 * Math.floor(random() * (plan.tags.length / 2));
    move(next.tags, i, [7 * MM, -2 * MM]);
  } else if (kind === 'note') {
    next.tags.push(words('Seal the joint all around', 300, 640));
    expected.push({ kind: 'added', after: 'Seal the joint all around' });
  } else if (kind === 'hair')
    move(next.doors, pick(plan.doors), [0.31 * MM * Math.cos(way), 0.31 * MM * Math.sin(way)]);
  else if (kind === 'mirrored') {
    const i = pick(plan.doors);
    const x = plan.doors[i]!.chains[0]![0]![0] + 9;
    next.doors[i]!.chains = plan.doors[i]!.chains.map((chain) => chain.map(([px, py]) => [2 * x - px, py] as const));
    expected.push({ kind: 'moved', mirrored: true });
  } else if (kind === 'dashes') {
    // The same dashed line, its strokes written one by one.
    const y = 600 + 40 * random();
    plan.dashed = { from: [200, y], to: [640, y + 30 * random()], written: false };
    next.dashed = { ...plan.dashed, written: true };
  } else if (kind === 'curves') {
    const [x, y] = [300 + 100 * random(), 620];
    plan.frame.push(line(...arc(x, y, 60, 0, 40)));
    next.frame.push(line(...arc(x, y, 60, 0, 27)));
  } else if (kind === 'wider') {
    // One side of a rectangle goes out.
    const [x, y] = [300 + 100 * random(), 600];
    plan.frame.push(line(...rectangle(x, y, 90, 40)));
    next.frame.push(line(...rectangle(x, y, 90 + far + 6, 40)));
    expected.push({ kind: 'moved', shift: [far + 6, 0] });
  } else if (kind === 'turned') {
    const i = pick(plan.basins);
    const [x, y] = plan.basins[i]!.chains[0]![0]!;
    const [cx, cy] = [x + 11, y + 8];
    next.basins[i]!.chains = plan.basins[i]!.chains.map((chain) =>
      chain.map(([px, py]) => [cx - (py - cy), cy + (px - cx)] as const),
    );
    expected.push({ kind: 'moved', turned: true });
  }
  // Each issue says another date and revision.
  for (const { texts } of next.frame)
    for (const text of texts) {
      if (text.text === 'P01') text.text = 'P02';
      if (text.text === '01.02.2026') text.text = '03.04.2026';
    }
  const same: Look = { map: (x, y) => [x, y], scale: 1, angle: 0, size: [1190, 842], random, redrawn: false };
  const about = (angle: number, scale: number, dx: number, dy: number, size: Point): Look => ({
    map: (x, y) => {
      const [u, v] = [x - 595, y - 421];
      return [
        size[0] / 2 + scale * (Math.cos(angle) * u - Math.sin(angle) * v) + dx,
        size[1] / 2 + scale * (Math.sin(angle) * u + Math.cos(angle) * v) + dy,
      ];
    },
    ...{ scale, angle, size, random, redrawn: random() < 0.5 },
  });
  const looks: Record<(typeof PAGES)[number], () => Look> = {
    same: () => same,
    redrawn: () => ({ ...same, redrawn: true }),
    scaled: () => about(0, Math.SQRT1_2, 0, 0, [842, 595]),
    shifted: () => about(0, 1, 10 * MM * (random() - 0.3), 7 * MM * random(), [1190, 842]),
    quarter: () => about(Math.PI / 2, 1, 0, 0, [842, 1190]),
    rotated: () => about(0.02 * (random() - 0.5), 1, 3, -2, [1190, 842]),
  };
  const look = looks[page]();
  return {
    name: `${seed} ${kind} · ${page}`,
    before: vectorsOf(plan, same),
    after: vectorsOf(next, look),
    ...{ scale: look.scale, map: look.map, expected },
  };
}

/** Found, missed and invented, by what was done and how the page was plotted. */
export interface PairSum {
  right: number;
  missed: number;
  invented: number;
}
export interface PairsResult {
  all: PairSum;
  byKind: Map<string, PairSum>;
  /** The largest error of a shift, millimetres on the paper of the first page. */
  worst: number;
  /** What went wrong, in words. */
  wrong: string[];
}

export function comparePairs(count: number): PairsResult {
  const all: PairSum = { right: 0, missed: 0, invented: 0 };
  const byKind = new Map<string, PairSum>();
  const wrong: string[] = [];
  let worst = 0;
  for (let seed = 0; seed < count; seed++) {
    const { name, before, after, scale, map, expected } = makePair(seed);
    const found = compareSheets(before, after).changes.filter(({ routine }) => !routine);
    const open = [...found];
    let missed = 0;
    for (const wanted of expected) {
      const shift = wanted.shift && map(...wanted.shift).map((value, k) => value - map(0, 0)[k]!);
      const off = (one: SheetChange): number =>
        shift && one.shift ? Math.hypot(one.shift[0] - shift[0]!, one.shift[1] - shift[1]!) : 0;
      const i = open.findIndex(
        (one) =>
          one.kind === wanted.kind &&
          (!wanted.after || one.after === wanted.after) &&
          (!wanted.turned || Boolean(one.turn)) &&
          (!wanted.mirrored || Boolean(one.mirrored)) &&
          (!shift || (one.shift !== undefined && off(one) < 1)),
      );
      if (i < 0) missed++;
      else {
        worst = Math.max(worst, off(open[i]!) / MM / scale);
        open.splice(i, 1);
      }
    }
    const kinds = name.slice(name.indexOf(' ') + 1).split(' · ');
    for (const sum of [all, ...kinds.map((kind) => sumOf(byKind, kind))]) {
      sum.right += expected.length - missed;
      sum.missed += missed;
      sum.invented += open.length;
    }
    if (missed || open.length)
      wrong.push(`${name}: wanted ${JSON.stringify(expected)}, found ${JSON.stringify(found)}`);
  }
  return { all, byKind, worst, wrong };
}
function sumOf(sums: Map<string, PairSum>, kind: string): PairSum {
  const known = sums.get(kind) ?? { right: 0, missed: 0, invented: 0 };
  sums.set(kind, known);
  return known;
}
