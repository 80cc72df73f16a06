import { hasUnreadWords } from '@kindred/core/drawing/recognition';
import { readPageText } from '@kindred/core/drawing/page-text';
import { readVectors } from '@kindred/core/drawing/vectors/read-vectors';
import { encodePage, joinPages } from '@kindred/core/drawing/vectors/vectors-file';
import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import { readByLayout, type TaughtLayout } from '@kindred/core/drawing/taught-layout';
import { readTitleBlock, type PageText } from '@kindred/core/drawing/title-block';
import { createCanvas, type Canvas } from '@napi-rs/canvas';
import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs';
import type { PreparedSheet } from '../register/sheets.ts';
import { PDFJS } from '../places.ts';

/** Points. A damaged file may name any number; the largest page that PDF knows has 14,400 units of at most 75,000 points. */
const pageLength = (points: number): number => (points > 0 ? Math.min(points, 1e9) : 1);

/** More text than this on one sheet is not searched: PostgreSQL holds a megabyte of words for a row. */
const MOST_TEXT = 200_000;
const wordsOn = ({ runs }: PageText): string =>
  runs
    .map(({ text }) => text)
    .join(' ')
    .replaceAll('\u0000', ' ')
    .slice(0, MOST_TEXT);

/** Opens a PDF without running anything in it; rejects with PasswordException or InvalidPDFException. */
export async function openPdf(data: Uint8Array) {
  const pdf = await getDocument({
    data,
    ...pdfOptions(PDFJS),
  }).promise;
  return {
    /** What there is on each page, and what all of them draw, in one file. */
    async read(layouts: readonly TaughtLayout[] = []): Promise<{ sheets: PreparedSheet[]; vectors: Uint8Array }> {
      const labels = (await pdf.getPageLabels()) ?? [];
      const sheets: PreparedSheet[] = [];
      const vectors: Uint8Array[] = [];
      for (let page = 1; page <= pdf.numPages; page++) {
        const loaded = await pdf.getPage(page);
        const { width, height } = loaded.getViewport({ scale: 1 });
        const { items } = await loaded.getTextContent();
        const text = readPageText(loaded, items);
        const label = labels[page - 1];
        const drawn = await readVectors(loaded, OPS, items);
        sheets.push({
          page,
          label: label && label !== String(page) ? label : `Sheet ${page}`,
          width: pageLength(width),
          height: pageLength(height),
          titleBlock: { ...readTitleBlock(text), ...readByLayout(drawn.texts, [width, height], layouts) },
          text: wordsOn(text),
          unread: hasUnreadWords(drawn),
        });
        vectors.push(await encodePage(drawn));
        loaded.cleanup();
      }
      return { sheets, vectors: joinPages(vectors) };
    },
    /** PNG of a page within a square of `side` pixels. */
    async drawPage(number: number, side: number): Promise<Uint8Array> {
      return (await draw(number, side)).encode('png');
    },
    draw,
    drawAt,
    /** Width and height as displayed, points. */
    async sizeOf(number: number): Promise<readonly [number, number]> {
      const { width, height } = (await pdf.getPage(number)).getViewport({ scale: 1 });
      return [width, height];
    },
  };
  async function draw(number: number, side: number): Promise<Canvas> {
    const { width, height } = (await pdf.getPage(number)).getViewport({ scale: 1 });
    const scale = side / Math.max(width, height);
    return drawAt(number, scale, Math.max(1, Math.round(width * scale)), Math.max(1, Math.round(height * scale)));
  }
  /** `scale`: pixels a point, from the upper left corner. */
  async function drawAt(number: number, scale: number, width: number, height: number): Promise<Canvas> {
    const page = await pdf.getPage(number);
    const canvas = createCanvas(width, height);
    await page.render({
      canvas: canvas as never,
      canvasContext: canvas.getContext('2d') as never,
      viewport: page.getViewport({ scale }),
      background: '#FFFFFF',
    }).promise;
    return canvas;
  }
}
