/** What happened to tables: rows and columns that came or went, and what was moved or drawn longer only to make room for them. */
import { around, type Box } from './bounds.ts';
import type { TextChange } from './compare-texts.ts';
import { Groups } from './groups.ts';
import { textBox, type TextLine } from './text-lines.ts';

export type TablePart = 'row' | 'column';
/** Words that came, went, moved or changed together. */
export interface TextGroup {
  changes: TextChange[];
  part?: TablePart;
}
export interface TableChanges {
  groups: TextGroup[];
  /** Where tables were drawn anew, on the second page: their lines are no changes of their own. */
  drawnAnew: Box[];
}

/** In the size of letters: rows of a column are this near to each other; cells of one begin or end together; a table is wider than its words by this. */
const [ROWS_APART, TOGETHER, ASIDE] = [4, 0.5, 8];
/** A column has so many cells, and beside most of them something stands in the same row. */
const [COLUMN, BESIDE] = [3, 0.6];

type Side = 'before' | 'after';
interface Told extends TextGroup {
  /** Of what came or went: the page that has it. */
  side?: Side;
  shift?: readonly [number, number];
  size: number;
  boxes: Partial<Record<Side, Box>>;
}

/** `pages`: all words of both, on the second page. */
export function findTables(groups: readonly TextChange[][], pages: Record<Side, readonly TextLine[]>): TableChanges {
  const found: TableChanges = { groups: [], drawnAnew: [] };
  const turns = groups.map(([one]) => quarterOf((one!.after ?? one!.before)!));
  for (const turn of new Set(turns)) {
    const upright = groups.filter((_, i) => turns[i] === turn).map((changes) => told(changes, turn));
    const boxes = (side: Side): PlacedLine[] =>
      pages[side].filter((line) => quarterOf(line) === turn).map((line) => ({ line, box: uprightBox(line, turn) }));
    const own = findUpright(upright, { before: boxes('before'), after: boxes('after') });
    found.groups.push(...own.groups);
    found.drawnAnew.push(...own.drawnAnew.map((box) => turnedBox(box, (4 - turn) % 4)));
  }
  return found;
}

/** Quarters by which words are turned with the clock. */
const quarterOf = ({ angle }: TextLine): number => (Math.round(angle / (Math.PI / 2)) + 4) % 4;
/** Turned against the clock by quarters, about the corner of the page. */
function turnedBox([x0, y0, x1, y1]: Box, quarters: number): Box {
  if (quarters === 1) return [y0, -x1, y1, -x0];
  if (quarters === 2) return [-x1, -y1, -x0, -y0];
  return quarters === 3 ? [-y1, x0, -y0, x1] : [x0, y0, x1, y1];
}
const uprightBox = (line: TextLine, quarters: number): Box => turnedBox(textBox(line), quarters);
interface PlacedLine {
  line: TextLine;
  box: Box;
}

/** Words that are read from left to right. */
function findUpright(all: readonly Told[], pages: Record<Side, readonly PlacedLine[]>): TableChanges {
  const drawnAnew: Box[] = [];
  const madeRoom = new Set<Told>();
  const moved = all.filter((one) => one.shift && !one.side);
  const changed = (side: Side): Told[] => all.filter((one) => one.side === side);
  for (const side of ['after', 'before'] as const)
    for (const one of moved) {
      const rows = changed(side).filter((row) => !row.part && liesInGap(row, one, side));
      if (!rows.length) continue;
      madeRoom.add(one);
      // One line by itself is a note in a list, which has no lines to be drawn anew.
      const cells = rows.filter(({ changes }) => changes.length > 1);
      for (const row of cells) row.part = 'row';
      if (cells.length) drawnAnew.push(tableAround([one, ...cells]));
    }
  const out: Told[] = all.filter((one) => !one.part && !one.side && !madeRoom.has(one));
  for (const side of ['after', 'before'] as const) {
    const rest = changed(side);
    out.push(...rest.filter(({ part }) => part));
    for (const stack of stacked(rest.filter(({ part }) => !part))) {
      const column = merged(stack);
      if (stack.length >= COLUMN && hasNeighbours(stack, side, pages[side])) {
        column.part = 'column';
        const along = out.filter((one) => !one.side && wentAside(one, column));
        for (const one of along) out.splice(out.indexOf(one), 1);
        drawnAnew.push(tableAround([column, ...along]));
      }
      out.push(column);
    }
  }
  return { groups: out.map(({ changes, part }) => ({ changes, ...(part && { part }) })), drawnAnew };
}

function told(changes: TextChange[], turn: number): Told {
  const [{ before, after, shift }] = changes as [TextChange];
  const lines = (side: Side): TextLine[] => changes.flatMap((change) => change[side] ?? []);
  const boxes: Told['boxes'] = {};
  for (const side of ['before', 'after'] as const)
    if (lines(side).length)
      boxes[side] = lines(side)
        .map((line) => uprightBox(line, turn))
        .reduce(around);
  const side = before ? (after ? undefined : 'before') : 'after';
  const saysElse = before && after && before.key !== after.key;
  return {
    changes,
    size: (after ?? before)!.size,
    boxes,
    ...(side && { side }),
    ...(shift && !saysElse && { shift: uprightShift(shift, turn) }),
  };
}

function uprightShift([dx, dy]: readonly [number, number], turn: number): [number, number] {
  const [x, y] = turnedBox([dx, dy, dx, dy], turn);
  return [x, y];
}

const bothBoxes = ({ boxes }: Told): Box => around((boxes.before ?? boxes.after)!, (boxes.after ?? boxes.before)!);

/** A new row lies where those below it were before they moved; one that was taken out, where they are now. */
function liesInGap(row: Told, moved: Told, side: Side): boolean {
  const [dx, dy] = moved.shift!;
  if (Math.abs(dx) > 0.3 * moved.size || Math.abs(dy) < moved.size) return false;
  const box = row.boxes[side]!;
  const was = moved.boxes[side === 'after' ? 'before' : 'after']!;
  const far = side === 'after' ? dy : -dy;
  const middle = (box[1] + box[3]) / 2;
  const gap = far > 0 ? [was[1], was[1] + far] : [was[3] + far, was[3]];
  const across = Math.min(box[2], was[2]) - Math.max(box[0], was[0]);
  return middle > gap[0]! && middle < gap[1]! && across > 0;
}

/** Words below each other that begin or end at the same place. */
function stacked(cells: readonly Told[]): Told[][] {
  const groups = new Groups(cells.length);
  const boxes = cells.map(bothBoxes);
  const order = cells.map((_, i) => i).sort((a, b) => boxes[a]![1] - boxes[b]![1]);
  for (const [at, i] of order.entries())
    for (let next = at + 1; next < order.length; next++) {
      const k = order[next]!;
      const [a, b, size] = [boxes[i]!, boxes[k]!, cells[i]!.size];
      if (b[1] > a[3] + ROWS_APART * size) break;
      const alike = Math.abs(cells[k]!.size - size) < 0.2 * size && cells[k]!.side === cells[i]!.side;
      const off = [a[0] - b[0], a[2] - b[2], (a[0] + a[2] - b[0] - b[2]) / 2].map(Math.abs);
      if (alike && b[1] > a[1] + 0.5 * size && Math.min(...off) < TOGETHER * size) groups.join(i, k);
    }
  return groups.list().map((group) => group.map((i) => cells[i]!).sort((a, b) => bothBoxes(a)[1] - bothBoxes(b)[1]));
}

function merged(stack: readonly Told[]): Told {
  const [first, ...rest] = stack as [Told, ...Told[]];
  const side = first.side!;
  const box = rest.reduce((all, one) => around(all, one.boxes[side]!), first.boxes[side]!);
  return { ...first, changes: stack.flatMap(({ changes }) => changes), boxes: { [side]: box } };
}

/** Something else stands in most of the rows. */
function hasNeighbours(stack: readonly Told[], side: Side, page: readonly PlacedLine[]): boolean {
  const own = new Set(stack.flatMap(({ changes }) => changes.map((change) => change[side]!)));
  const others = page.filter(({ line }) => !own.has(line));
  const found = stack.filter(({ boxes, size }) => {
    const [x0, y0, x1, y1] = boxes[side]!;
    return others.some(({ box: [u0, v0, u1, v1] }) => {
      const sameRow = Math.abs(v0 + v1 - y0 - y1) < size;
      return sameRow && u0 < x1 + 2 * ASIDE * size && u1 > x0 - 2 * ASIDE * size;
    });
  });
  return found.length >= BESIDE * stack.length;
}

/** Cells that made room for a column: in its rows, moved along them. */
function wentAside(one: Told, column: Told): boolean {
  if (!one.shift || Math.abs(one.shift[1]) > 0.3 * one.size) return false;
  const [, y0, , y1] = bothBoxes(column);
  const [, v0, , v1] = bothBoxes(one);
  return v0 > y0 - 2 * column.size && v1 < y1 + 2 * column.size;
}

function tableAround(parts: readonly Told[]): Box {
  const [x0, y0, x1, y1] = parts.map(bothBoxes).reduce(around);
  const { size } = parts[0]!;
  return [x0 - ASIDE * size, y0 - 2 * size, x1 + ASIDE * size, y1 + 2 * size];
}

/** Lines along the rows and columns of a table that was drawn anew. */
export function isDrawnAnew(ends: readonly number[], box: Box, tables: readonly Box[]): boolean {
  const within = tables.some(([x0, y0, x1, y1]) => box[0] >= x0 && box[1] >= y0 && box[2] <= x1 && box[3] <= y1);
  if (!within) return false;
  for (let i = 0; i < ends.length; i += 4)
    if (Math.min(Math.abs(ends[i + 2]! - ends[i]!), Math.abs(ends[i + 3]! - ends[i + 1]!)) > 0.1) return false;
  return true;
}
