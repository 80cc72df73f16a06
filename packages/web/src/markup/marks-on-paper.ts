/** Markups as a picture of a page, to be laid over it. */
import { MarkupStage, type Mark } from './markup-stage.ts';

/** `scale`: pixels a point. */
export function marksOnPaper(
  marks: readonly Mark[],
  [width, height]: readonly [number, number],
  scale: number,
): HTMLCanvasElement {
  const nobody = (): void => undefined;
  const stage = new MarkupStage(document.createElement('div'), {
    choose: nobody,
    reshaped: nobody,
    movedBy: nobody,
    turned: nobody,
    pin: nobody,
  });
  stage.setView([scale, 0, 0, scale, 0, 0], scale, [width * scale, height * scale]);
  stage.setMarks(marks);
  const canvas = stage.toCanvas();
  stage.destroy();
  return canvas;
}
