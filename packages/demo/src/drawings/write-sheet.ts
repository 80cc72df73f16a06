import { degrees, PDFDocument, rgb, StandardFonts, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import type { Outline } from './outline.ts';

/** A1 landscape in points. */
const WIDTH = 2384;
const HEIGHT = 1684;
const MARGIN = 57;
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
  const middle: [number, number] = [(WIDTH - 60) / 2, HEIGHT / 2 + 110];
  const at = ([x, y]: [number, number]): [number, number] => [
    middle[0] + (x - spec.centre[0]) * scale,
    middle[1] + (y - spec.centre[1]) * scale,
  ];
  drawOutlines(page, spec.outlines, at);
  drawGrid(page, spec, at, fonts);
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

function drawOutlines(page: PDFPage, outlines: Outline[], at: (p: [number, number]) => [number, number]): void {
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
  }
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
  cell('Originator', 'Ternvale Architects', 0, 100, 260, 50);
  cell('Drawn', spec.drawnBy, 260, 100, 130, 50);
  cell('Date', spec.date, 390, 100, 130, 50);
  cell('Scale', `1:${spec.scale} @ A1`, 0, 50, 170, 50);
  cell('Status', spec.status, 170, 50, 175, 50);
  cell('Revision', spec.revision, 345, 50, 175, 50);
  cell('Drawing number', spec.number, 0, 0, TITLE_WIDTH, 50, 22);
}
