import type { ScannedPage } from '@kindred/core/compare/compare-scans';
import { drawPage, type Drawn } from './draw-page.ts';

/** A page of a PDF as a picture that can be compared. */
export async function scannedPage(drawn: Drawn): Promise<ScannedPage> {
  const { width, height } = (await drawn.pdf.getPage(drawn.page)).getViewport({ scale: 1 });
  return {
    ...{ width, height },
    async draw(scale, ...size) {
      const canvas = await drawPage(drawn, size, [scale, 0, 0, scale, 0, 0]);
      return canvas.getContext('2d').getImageData(0, 0, ...size).data;
    },
  };
}
