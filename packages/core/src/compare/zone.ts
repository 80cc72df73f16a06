/** Where on a sheet something is, as the fields along its border name it (ISO 5457): letters down, numbers across. */
import type { Place } from './numbered.ts';

/** Points: a field is 50 mm long, counted from the middle of the sheet outwards. */
const FIELD = (50 / 25.4) * 72;
/** I and O look like numbers. */
const LETTERS = 'ABCDEFGHJKLMNPQRSTUVWXYZ';

/** By the grid of the drawing, else by the field of the sheet. */
export const whereOf = (
  { grid, place }: { grid?: string; place: Place },
  sheet: readonly [width: number, height: number],
): string => grid ?? zoneOf(place, sheet);

/** “C7”: the field of the middle of a place on a sheet of this size, points. Sheets taller than the alphabet go on with AA, AB. */
export function zoneOf([x, y, width, height]: Place, sheet: readonly [width: number, height: number]): string {
  const [column, row] = [fieldAt(x + width / 2, sheet[0]), fieldAt(y + height / 2, sheet[1])];
  const round = Math.floor(row / LETTERS.length);
  return `${round ? LETTERS[round - 1] : ''}${LETTERS[row % LETTERS.length]}${column + 1}`;
}

function fieldAt(at: number, length: number): number {
  const half = Math.max(1, Math.round(length / (2 * FIELD)));
  return Math.min(2 * half - 1, Math.max(0, half + Math.floor((at - length / 2) / FIELD)));
}
