/** Sheets on paper, each as large as its page. */
import { readPages } from '@kindred/core/drawing/page-range';
import { ElMessageBox } from 'element-plus';
import { answered } from '../platform/say.ts';
import type { SheetSource } from './table/sources.ts';
import type { Size } from './table/view.ts';

/** Pixels a point: 150 an inch is as sharp as a plotter of drawings. */
const DENSITY = 150 / 72;
const MOST_PIXELS = 40_000_000;

/** `drawOver`: puts markups over a page, so many pixels a point. Resolves when the browser has taken the pages over. */
export async function printSheets(
  source: SheetSource,
  pages: readonly number[],
  drawOver: ((page: number, size: Size, scale: number) => HTMLCanvasElement) | undefined,
): Promise<void> {
  const frame = document.createElement('iframe');
  frame.style.cssText = 'position:fixed;width:0;height:0;border:0';
  frame.title = 'Sheets to print';
  document.body.append(frame);
  const paper = frame.contentDocument!;
  const rules: string[] = ['body{margin:0}img{display:block;width:100%}'];
  for (const [i, page] of pages.entries()) {
    const size = await source.size(page);
    const scale = Math.min(DENSITY, Math.sqrt(MOST_PIXELS / (size[0] * size[1])));
    const picture = await drawn(source, page, size, scale, drawOver);
    const image = paper.createElement('img');
    image.src = picture;
    image.style.cssText = `page:p${i};break-after:page`;
    paper.body.append(image);
    rules.push(`@page p${i}{size:${size[0]}pt ${size[1]}pt;margin:0}`);
    await image.decode();
  }
  const style = paper.createElement('style');
  style.textContent = rules.join('');
  paper.head.append(style);
  frame.contentWindow!.addEventListener('afterprint', () => frame.remove());
  frame.contentWindow!.print();
}

async function drawn(
  source: SheetSource,
  page: number,
  size: Size,
  scale: number,
  drawOver: ((page: number, size: Size, scale: number) => HTMLCanvasElement) | undefined,
): Promise<string> {
  const window: Size = [size[0] * scale, size[1] * scale];
  const bitmap = await source.draw(page, { x: 0, y: 0, zoom: scale, turn: 0 }, window, 1, new AbortController().signal);
  const canvas = document.createElement('canvas');
  canvas.width = Math.ceil(window[0]);
  canvas.height = Math.ceil(window[1]);
  const context = canvas.getContext('2d')!;
  context.drawImage(bitmap!, 0, 0);
  bitmap!.close();
  if (drawOver) context.drawImage(drawOver(page, size, scale), 0, 0);
  return canvas.toDataURL('image/jpeg', 0.92);
}

/** Which of `count` sheets somebody wants; undefined for none. */
export async function askForPages(count: number): Promise<number[] | undefined> {
  const answer = await answered(
    ElMessageBox.prompt(`Pages of the drawing, from 1 to ${count}, as in 1-3, 7`, 'Print some sheets', {
      confirmButtonText: 'Print',
      cancelButtonText: 'Cancel',
      inputValidator: (text) => readPages(text ?? '', count) !== undefined || 'Write pages and ranges, as in 1-3, 7.',
    }),
  );
  return answer && readPages(answer.value, count);
}
