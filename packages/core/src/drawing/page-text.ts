import type { PageText, TextRun } from './title-block.ts';

/** As much of a page of pdf.js as the place of its text takes. */
export interface PdfPage {
  getViewport(options: { scale: number }): { width: number; height: number; transform: number[] };
}
/** A run of text as pdf.js gives it. */
export interface TextItem {
  str: string;
  transform: number[];
  width: number;
  height: number;
}

/** The text of a page as it is displayed (its rotation applied), in points, origin lower left. */
export function readPageText(page: PdfPage, items: readonly unknown[]): PageText {
  const { width, height, transform } = page.getViewport({ scale: 1 });
  const runs = (items as TextItem[]).filter((item) => item.str?.trim()).map((item) => runOf(item, transform, height));
  return { width, height, runs };
}

function runOf({ str, transform: t, width, height }: TextItem, view: number[], pageHeight: number): TextRun {
  const [a, b, c, d, e, f] = view as [number, number, number, number, number, number];
  const along = [a * t[0]! + c * t[1]!, b * t[0]! + d * t[1]!] as const;
  const x = a * t[4]! + c * t[5]! + e;
  const y = b * t[4]! + d * t[5]! + f;
  const turn = Math.round(Math.atan2(-along[1], along[0]) / (Math.PI / 2));
  return { text: str, x, y: pageHeight - y, width, size: height || Math.hypot(...along), turn: (turn + 4) % 4 };
}
