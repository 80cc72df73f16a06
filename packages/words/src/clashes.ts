/** Names for groups of clashes, and what was noticed on the way. */
import { counted } from './sentence.ts';

export interface ClashingElement {
  class: string;
  name: string;
}
const nameOf = ({ class: of, name }: ClashingElement): string => name || of;

/** `Supply duct 3 against 12 × IfcBeam, 2 × IfcSlab`. */
export function nameElementGroup(element: ClashingElement, others: readonly ClashingElement[]): string {
  const counts = new Map<string, number>();
  for (const { class: of } of others) counts.set(of, (counts.get(of) ?? 0) + 1);
  const said = [...counts].sort(([, p], [, q]) => q - p).map(([of, count]) => `${count} × ${of}`);
  return `${nameOf(element)} against ${said.join(', ')}`;
}

/** `7 times: Duct 400 × 300 against IPE 300`. */
export const nameTypeGroup = (count: number, [a, b]: readonly [string, string]): string =>
  `${counted(count, 'time')}: ${a} against ${b}`;

/** `Supply duct 3 against Portal column 1S`. */
export const namePair = (a: ClashingElement, b: ClashingElement): string => `${nameOf(a)} against ${nameOf(b)}`;

export const sayFarApart = (metres: number): string =>
  `The two models lie ${Math.round(metres / 1000)} km apart: they count from different origins, so nothing of them can clash. Export both in the same coordinates.`;
