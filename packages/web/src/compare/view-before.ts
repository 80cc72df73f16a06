/** How the sheet before has to lie so that it comes onto the one after. */
import type { Similarity } from '@kindred/core/compare/similarity';
import { toWindow, type SheetView } from '../drawing/table/view.ts';

/** The view of the first sheet, and what it still has to be turned by, radians with the clock about its own corner. */
export function viewBefore(after: SheetView, { scale, angle, map }: Similarity): { view: SheetView; tilt: number } {
  const whole = (after.turn * Math.PI) / 2 + angle;
  const quarters = Math.round(whole / (Math.PI / 2));
  const [x, y] = toWindow(after, map(0, 0));
  const turn = (((quarters % 4) + 4) % 4) as SheetView['turn'];
  const tilt = whole - (quarters * Math.PI) / 2;
  return { view: { x, y, zoom: after.zoom * scale, turn }, tilt: Math.abs(tilt) < 1e-9 ? 0 : tilt };
}
