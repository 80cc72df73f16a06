import {
  clip,
  degrees,
  endPath,
  PDFDocument,
  popGraphicsState,
  pushGraphicsState,
  rectangle,
  rgb,
  StandardFonts,
  type PDFFont,
  type PDFPage,
} from '@cantoo/pdf-lib';
import type { PlanMap } from '@kindred/core/plan/plan-map';
import type { Outline } from './outline.ts';

/** A1 landscape in points. */
const WIDTH = 2384;
const HEIGHT = 1684;
const MARGIN = 57;
/** Where the centre of what is drawn stands. */
const MIDDLE = [(WIDTH - 60) / 2, HEIGHT / 2 + 110] as const;
const TITLE_WIDTH = 520;
const TITLE_HEIGHT = 250;
const POINTS_PER_METRE = 72 / 0.0254;
const INK = rgb(0.11, 0.16, 0.18);
const FAINT = rgb(0.55, 0.55, 0.52);

export interface SheetSpec {
  number: string;
  title: string;
  revision: string;
  status: string;
  date: string;
  drawnBy: string;
  scale: number;
  /** Model coordinates in the middle of the sheet, metres. */
  centre: [number, number];
  outlines: Outline[];
  /** Named lines across: grid axes on a plan, levels on a section. */
  verticals: { name: string; at: number }[];
  horizontals: { name: string; at: number }[];
  labels: { text: string; at: [number, number] }[];
  dimensions: { from: [number, number]; to: [number, number] }[];
  /** Of the company that draws; the architects where absent. */
  originator?: string;
  /** Only what lies in this box is drawn, with a frame around it: left, lower, right, upper in model coordinates. */
  window?: [number, number, number, number];
  /** What is cut is hatched. */
  hatched?: boolean;
  /** Names in a box beside a thing: doors, columns. */
  tags?: { text: string; at: [number, number] }[];
  /** Seen from above, in thin lines: left lower corner and size, metres. */
  furniture?: { at: [number, number]; size: [number, number] }[];
  notes?: string[];
  table?: { head: string[]; widths: number[]; rows: string[][] };
}

/** Where a plan lies in the model. */
export function planMapOf({ scale, centre: [x, y] }: Pick<SheetSpec, 'scale' | 'centre'>): PlanMap {
  const a = scale / POINTS_PER_METRE;
  return { a, b: 0, c: x - MIDDLE[0] * a, d: y + (HEIGHT - MIDDLE[1]) * a };
}

/** A sheet as vectors and text, with grid, dimensions and a title block. */
export async function writeSheet(spec: SheetSpec): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  pdf.setTitle(`${spec.number} ${spec.title}`);
  pdf.setProducer('Kindred Sheet demo');
  const page = pdf.addPage([WIDTH, HEIGHT]);
  const fonts = {
    plain: await pdf.embedFont(StandardFonts.Helvetica),
    bold: await pdf.embedFont(StandardFonts.HelveticaBold),
  };
  const scale = POINTS_PER_METRE / spec.scale;
  const at = ([x, y]: [number, number]): [number, number] => [
    MIDDLE[0] + (x - spec.centre[0]) * scale,
    MIDDLE[1] + (y - spec.centre[1]) * scale,
  ];
  if (spec.window) clipTo(page, spec.window, at);
  drawOutlines(page, spec.outlines, at, spec.hatched ?? false);
  for (const piece of spec.furniture ?? []) drawFurniture(page, piece, at, scale);
  if (spec.window) page.pushOperators(popGraphicsState());
  drawGrid(page, spec, at, fonts);
  for (const tag of spec.tags ?? []) drawTag(page, tag.text, at(tag.at), fonts.plain);
  drawNotes(page, spec.notes ?? [], fonts.plain);
  if (spec.table) drawTable(page, spec.table, fonts);
  for (const { text, at: place } of spec.labels) {
    const [x, y] = at(place);
    page.drawText(text, {
      x: x - fonts.plain.widthOfTextAtSize(text, 15) / 2,
      y,
      size: 15,
      font: fonts.plain,
      color: INK,
    });
  }
  for (const { from, to } of spec.dimensions)
    drawDimension(page, at(from), at(to), Math.hypot(to[0] - from[0], to[1] - from[1]), fonts.plain);
  drawTitleBlock(page, spec, fonts);
  return pdf.save();
}

type Place = (p: [number, number]) => [number, number];

function clipTo(page: PDFPage, [x0, y0, x1, y1]: [number, number, number, number], at: Place): void {
  const [[left, lower], [right, upper]] = [at([x0, y0]), at([x1, y1])];
  const box = { x: left, y: lower, width: right - left, height: upper - lower };
  page.drawRectangle({ ...box, borderColor: FAINT, borderWidth: 1 });
  page.pushOperators(pushGraphicsState(), rectangle(box.x, box.y, box.width, box.height), clip(), endPath());
}

/** Lines at 45 degrees inside of a convex ring, every `step` points. */
function hatch(page: PDFPage, ring: readonly [number, number][], step: number): void {
  // Along a line x + y = c the ring is entered once and left once.
  const sums = ring.map(([x, y]) => x + y);
  const line = { thickness: 0.3, color: INK };
  for (let c = Math.ceil(Math.min(...sums) / step) * step; c < Math.max(...sums); c += step) {
    const crossings = ring.flatMap(([ax, ay], i): [number, number][] => {
      const [bx, by] = ring[(i + 1) % ring.length]!;
      const [da, db] = [ax + ay - c, bx + by - c];
      if (da === db || Math.sign(da) === Math.sign(db)) return [];
      const t = da / (da - db);
      return [[ax + t * (bx - ax), ay + t * (by - ay)]];
    });
    const [from, to] = crossings;
    if (from && to) page.drawLine({ start: { x: from[0], y: from[1] }, end: { x: to[0], y: to[1] }, ...line });
  }
}

function drawTag(page: PDFPage, text: string, [x, y]: [number, number], font: PDFFont): void {
  const width = font.widthOfTextAtSize(text, 10) + 8;
  page.drawRectangle({
    x: x - width / 2,
    y: y - 7,
    width,
    height: 15,
    borderColor: INK,
    borderWidth: 0.6,
    color: rgb(1, 1, 1),
  });
  page.drawText(text, { x: x - width / 2 + 4, y: y - 3, size: 10, font, color: INK });
}

function drawNotes(page: PDFPage, notes: readonly string[], font: PDFFont): void {
  notes.forEach((note, i) =>
    page.drawText(`${i + 1}  ${note}`, {
      x: MARGIN + 40,
      y: MARGIN + 40 + (notes.length - i) * 22,
      size: 14,
      font,
      color: INK,
    }),
  );
}

function drawTable(
  page: PDFPage,
  { head, widths, rows }: NonNullable<SheetSpec['table']>,
  fonts: { plain: PDFFont; bold: PDFFont },
): void {
  const [left, top, high] = [MARGIN + 60, HEIGHT - MARGIN - 80, 34];
  [head, ...rows].forEach((cells, row) => {
    let x = left;
    cells.forEach((text, column) => {
      const y = top - (row + 1) * high;
      page.drawRectangle({ x, y, width: widths[column]!, height: high, borderColor: INK, borderWidth: row ? 0.5 : 1 });
      page.drawText(text, { x: x + 8, y: y + 11, size: 14, font: row ? fonts.plain : fonts.bold, color: INK });
      x += widths[column]!;
    });
  });
}

function drawOutlines(page: PDFPage, outlines: Outline[], at: Place, hatched: boolean): void {
  for (const { part, ring, cut } of [...outlines].sort((a, b) => Number(a.cut) - Number(b.cut) || a.near - b.near)) {
    if (ring.length < 2) continue;
    // pdf-lib draws SVG paths with y downwards from the given origin.
    const path = `${ring
      .map(
        (point, i) =>
          `${i ? 'L' : 'M'}${at(point)
            .map((v, k) => (k ? HEIGHT - v : v).toFixed(2))
            .join(' ')}`,
      )
      .join('')}Z`;
    const [r, g, b] = part.colour;
    const fill = cut ? rgb(0.72, 0.71, 0.68) : rgb(0.5 + r / 2, 0.5 + g / 2, 0.5 + b / 2);
    page.drawSvgPath(path, {
      x: 0,
      y: HEIGHT,
      color: fill,
      borderColor: INK,
      borderWidth: cut ? 1.4 : 0.4,
      opacity: cut ? 1 : 0.55,
    });
    if (cut && hatched) hatch(page, ring.map(at), 9);
  }
}

function drawFurniture(
  page: PDFPage,
  { at: corner, size: [width, height] }: NonNullable<SheetSpec['furniture']>[number],
  at: Place,
  scale: number,
): void {
  const [x, y] = at(corner);
  page.drawRectangle({ x, y, width: width * scale, height: height * scale, borderColor: INK, borderWidth: 0.4 });
}

function drawGrid(
  page: PDFPage,
  spec: SheetSpec,
  at: (p: [number, number]) => [number, number],
  fonts: { plain: PDFFont },
): void {
  const dashed = { thickness: 0.5, color: FAINT, dashArray: [14, 4, 3, 4] };
  const bubble = (x: number, y: number, name: string): void => {
    page.drawCircle({ x, y, size: 17, borderColor: FAINT, borderWidth: 0.8 });
    page.drawText(name, {
      x: x - fonts.plain.widthOfTextAtSize(name, 14) / 2,
      y: y - 5,
      size: 14,
      font: fonts.plain,
      color: INK,
    });
  };
  for (const { name, at: x } of spec.verticals) {
    const [px] = at([x, 0]);
    page.drawLine({
      start: { x: px, y: MARGIN + TITLE_HEIGHT + 60 },
      end: { x: px, y: HEIGHT - MARGIN - 60 },
      ...dashed,
    });
    bubble(px, HEIGHT - MARGIN - 43, name);
  }
  for (const { name, at: y } of spec.horizontals) {
    const [, py] = at([0, y]);
    page.drawLine({ start: { x: MARGIN + 60, y: py }, end: { x: WIDTH - MARGIN - 60, y: py }, ...dashed });
    page.drawText(name, { x: MARGIN + 20, y: py + 5, size: 14, font: fonts.plain, color: INK });
  }
}

function drawDimension(
  page: PDFPage,
  [x0, y0]: [number, number],
  [x1, y1]: [number, number],
  metres: number,
  font: PDFFont,
): void {
  const line = { thickness: 0.7, color: INK };
  const text = String(Math.round(metres * 1000));
  page.drawLine({ start: { x: x0, y: y0 }, end: { x: x1, y: y1 }, ...line });
  for (const [x, y] of [
    [x0, y0],
    [x1, y1],
  ] as const)
    page.drawLine({ start: { x: x - 5, y: y - 5 }, end: { x: x + 5, y: y + 5 }, thickness: 1.6, color: INK });
  const upright = Math.abs(x1 - x0) < Math.abs(y1 - y0);
  const width = font.widthOfTextAtSize(text, 13);
  page.drawText(text, {
    x: (x0 + x1) / 2 - (upright ? 6 : width / 2),
    y: (y0 + y1) / 2 + (upright ? -width / 2 : 6),
    size: 13,
    font,
    color: INK,
    ...(upright && { rotate: degrees(90) }),
  });
}

function drawTitleBlock(page: PDFPage, spec: SheetSpec, fonts: { plain: PDFFont; bold: PDFFont }): void {
  page.drawRectangle({
    x: MARGIN,
    y: MARGIN,
    width: WIDTH - 2 * MARGIN,
    height: HEIGHT - 2 * MARGIN,
    borderColor: INK,
    borderWidth: 2,
  });
  const left = WIDTH - MARGIN - TITLE_WIDTH;
  page.drawRectangle({
    x: left,
    y: MARGIN,
    width: TITLE_WIDTH,
    height: TITLE_HEIGHT,
    borderColor: INK,
    borderWidth: 1.4,
    color: rgb(1, 1, 1),
  });
  const cell = (label: string, value: string, x: number, y: number, width: number, height: number, size = 18): void => {
    page.drawRectangle({ x: left + x, y: MARGIN + y, width, height, borderColor: INK, borderWidth: 0.6 });
    page.drawText(label, { x: left + x + 7, y: MARGIN + y + height - 14, size: 9, font: fonts.plain, color: FAINT });
    page.drawText(value, { x: left + x + 7, y: MARGIN + y + 9, size, font: fonts.bold, color: INK });
  };
  cell('Project', 'Orrin Point Lifeboat Station', 0, 200, TITLE_WIDTH, 50, 22);
  cell('Title', spec.title, 0, 150, TITLE_WIDTH, 50, 22);
  cell('Originator', spec.originator ?? 'Ternvale Architects', 0, 100, 260, 50);
  cell('Drawn', spec.drawnBy, 260, 100, 130, 50);
  cell('Date', spec.date, 390, 100, 130, 50);
  cell('Scale', `1:${spec.scale} @ A1`, 0, 50, 170, 50);
  cell('Status', spec.status, 170, 50, 175, 50);
  cell('Revision', spec.revision, 345, 50, 175, 50);
  cell('Drawing number', spec.number, 0, 0, TITLE_WIDTH, 50, 22);
}
