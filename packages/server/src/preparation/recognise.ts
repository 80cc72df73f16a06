/** Words of a page that has none of its own, recognised from its picture. */
import { pageTextOf, recognisedTexts, type RecognisedWord } from '@kindred/core/drawing/recognition';
import { readByLayout, type TaughtLayout } from '@kindred/core/drawing/taught-layout';
import { readTitleBlock, type TitleBlock } from '@kindred/core/drawing/title-block';
import type { VectorText } from '@kindred/core/drawing/vectors/sheet-vectors';
import { createWorker, OEM, PSM } from 'tesseract.js';
import { LETTERS } from '../places.ts';
import { openPdf } from './pdf.ts';

/** Letters of 2 mm are tall enough at 150 dots an inch; more pixels than that take more time than they tell. */
const PIXELS_A_POINT = 150 / 72;
const LONGEST = 7500;

export interface RecognisedPage {
  texts: VectorText[];
  titleBlock: TitleBlock;
}

export async function recognisePage(
  file: Uint8Array,
  page: number,
  layouts: readonly TaughtLayout[],
): Promise<RecognisedPage> {
  const pdf = await openPdf(file);
  const size = await pdf.sizeOf(page);
  const side = Math.round(Math.min(LONGEST, Math.max(...size) * PIXELS_A_POINT));
  const picture = await pdf.drawPage(page, side);
  const texts = recognisedTexts(await wordsIn(Buffer.from(picture)), side / Math.max(...size));
  return { texts, titleBlock: { ...readTitleBlock(pageTextOf(texts, size)), ...readByLayout(texts, size, layouts) } };
}

async function wordsIn(picture: Buffer): Promise<RecognisedWord[]> {
  const worker = await createWorker('eng', OEM.LSTM_ONLY, { langPath: LETTERS, gzip: true, cacheMethod: 'none' });
  try {
    // A drawing has words here and there, no columns of text.
    await worker.setParameters({ tessedit_pageseg_mode: PSM.SPARSE_TEXT });
    const { data } = await worker.recognize(picture, {}, { blocks: true });
    const lines = (data.blocks ?? []).flatMap(({ paragraphs }) => paragraphs.flatMap((part) => part.lines));
    return lines.flatMap(({ words }) => words.map(({ text, confidence, bbox }) => ({ text, confidence, ...bbox })));
  } finally {
    await worker.terminate();
  }
}
