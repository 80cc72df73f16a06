/** Regions of a sheet that are left out of what is looked at; the address carries them. */
import type { Place } from '@kindred/core/compare/numbered';

const MOST = 20;

/** “x,y,w,h;…” in whole points; what is none of that is left. */
export const boxesFrom = (text: string): Place[] =>
  text
    .split(';')
    .slice(0, MOST)
    .flatMap((part) => {
      const values = part.split(',').map(Number);
      return part && values.length === 4 && values.every(Number.isFinite) ? [values as Place] : [];
    });
export const addressOfBoxes = (boxes: readonly Place[]): string =>
  boxes.map((box) => box.map(Math.round).join()).join(';');

/** Its middle is in the box. */
export const liesIn = ([x, y, w, h]: Place, [left, top, width, height]: Place): boolean => {
  const [mx, my] = [x + w / 2, y + h / 2];
  return mx >= left && mx <= left + width && my >= top && my <= top + height;
};
