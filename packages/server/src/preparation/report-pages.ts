/** Pages of a report: headings, sentences and tables that flow from page to page. */
import fontkit from '@cantoo/fontkit';
import { PDFDocument, rgb, type PDFFont, type PDFPage } from '@cantoo/pdf-lib';
import fs from 'node:fs/promises';
import path from 'node:path';
import { PDFJS } from '../places.ts';
import type { ReportTable } from './messages.ts';

/** A4 lying, points. */
const [WIDTH, HEIGHT] = [841.89, 595.28];
const MARGIN = 42;
const [SIZE, LINE, PAD] = [9, 12, 4];
const INK = rgb(0.13, 0.16, 0.18);
const FAINT = rgb(0.75, 0.77, 0.78);

export interface ReportPicture {
  png: Uint8Array;
  width: number;
  height: number;
}
/** A row of words, and pictures that stand behind them. */
export interface ReportRow {
  cells: readonly string[];
  pictures?: readonly ReportPicture[];
}

export class ReportPages {
  private page: PDFPage | undefined;
  /** From the upper edge. */
  private y = 0;
  private constructor(
    readonly pdf: PDFDocument,
    readonly font: PDFFont,
    readonly bold: PDFFont,
  ) {}

  /** Letters of a face that has Latin, Greek and Cyrillic. */
  static async open(pdf: PDFDocument): Promise<ReportPages> {
    pdf.registerFontkit(fontkit);
    const face = async (name: string) =>
      pdf.embedFont(await fs.readFile(path.join(PDFJS, 'standard_fonts', name)), { subset: true });
    return new ReportPages(pdf, await face('LiberationSans-Regular.ttf'), await face('LiberationSans-Bold.ttf'));
  }

  /** What follows begins on a page of its own. */
  breakPage(): void {
    this.page = undefined;
  }

  private roomFor(height: number): PDFPage {
    if (!this.page || this.y + height > HEIGHT - MARGIN) {
      this.page = this.pdf.addPage([WIDTH, HEIGHT]);
      this.y = MARGIN;
    }
    return this.page;
  }

  private write(text: string, x: number, y: number, font: PDFFont, size: number): void {
    this.page!.drawText(text, { x, y: HEIGHT - y - size, size, font, color: INK });
  }

  heading(text: string, size = 14): void {
    for (const line of wrapped(text, this.bold, size, WIDTH - 2 * MARGIN)) {
      this.roomFor(size * 1.4 + 4 * LINE);
      this.write(line, MARGIN, this.y, this.bold, size);
      this.y += size * 1.4;
    }
    this.y += PAD;
  }

  sentence(text: string): void {
    for (const line of wrapped(text, this.font, SIZE + 1, WIDTH - 2 * MARGIN)) {
      this.roomFor(LINE);
      this.write(line, MARGIN, this.y, this.font, SIZE + 1);
      this.y += LINE + 2;
    }
    this.y += PAD;
  }

  /** A JPEG, so large on the page. */
  async picture(jpeg: Uint8Array, width: number, height: number): Promise<void> {
    this.roomFor(height + PAD);
    this.page!.drawImage(await this.pdf.embedJpg(jpeg), { x: MARGIN, y: HEIGHT - this.y - height, width, height });
    this.y += height + 2 * PAD;
  }

  /** Heads come again on each page. */
  async table(columns: ReportTable['columns'], rows: Iterable<ReportRow> | AsyncIterable<ReportRow>): Promise<void> {
    let drawn: number[] | undefined;
    for await (const { cells, pictures = [] } of rows) {
      const taken = pictures.reduce((sum, { width }) => sum + width + PAD, 0);
      const whole = columns.reduce((sum, { width }) => sum + width, 0);
      const widths = columns.map(({ width }) => (width / whole) * (WIDTH - 2 * MARGIN - taken));
      const lines = cells.map((cell, i) => wrapped(cell, this.font, SIZE, widths[i]! - PAD));
      const height = Math.max(
        LINE * Math.max(1, ...lines.map(({ length }) => length)),
        ...pictures.map(({ height }) => height),
      );
      const before = this.page;
      this.roomFor(height + 2 * PAD + (drawn ? 0 : LINE + 2 * PAD));
      if (!drawn || this.page !== before)
        this.row(
          columns.map(({ head }) => [head]),
          widths,
          this.bold,
          LINE,
        );
      drawn = widths;
      let x = WIDTH - MARGIN - taken + PAD;
      for (const { png, width, height: high } of pictures) {
        const image = await this.pdf.embedPng(png);
        this.page!.drawImage(image, { x, y: HEIGHT - this.y - high, width, height: high });
        x += width + PAD;
      }
      this.row(lines, widths, this.font, height);
    }
    this.y += LINE;
  }

  private row(lines: string[][], widths: readonly number[], font: PDFFont, height: number): void {
    let x = MARGIN;
    for (const [i, cell] of lines.entries()) {
      for (const [k, line] of cell.entries()) this.write(line, x, this.y + k * LINE, font, SIZE);
      x += widths[i]!;
    }
    this.y += height + PAD;
    const y = HEIGHT - this.y;
    this.page!.drawLine({ start: { x: MARGIN, y }, end: { x: WIDTH - MARGIN, y }, thickness: 0.5, color: FAINT });
    this.y += PAD;
  }
}

/** More lines than this in a cell say no more. */
const MOST_LINES = 12;
function wrapped(text: string, font: PDFFont, size: number, width: number): string[] {
  const lines: string[] = [];
  let line = '';
  for (const word of text.replace(/\p{C}+/gu, ' ').split(' ')) {
    for (const part of parts(word, font, size, width)) {
      const longer = line ? `${line} ${part}` : part;
      if (font.widthOfTextAtSize(longer, size) <= width) line = longer;
      else {
        lines.push(line);
        line = part;
      }
    }
  }
  lines.push(line);
  return lines.length > MOST_LINES ? [...lines.slice(0, MOST_LINES - 1), '…'] : lines;
}
/** A word that is longer than the line is broken. */
function parts(word: string, font: PDFFont, size: number, width: number): string[] {
  if (font.widthOfTextAtSize(word, size) <= width) return [word];
  const fitting: string[] = [''];
  for (const letter of word)
    if (font.widthOfTextAtSize(fitting.at(-1)! + letter, size) <= width) fitting[fitting.length - 1] += letter;
    else fitting.push(letter);
  return fitting;
}
