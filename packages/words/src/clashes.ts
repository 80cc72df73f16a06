/** Names for groups of clashes, and what was noticed on the way. */
import type { ClashGroup, Met } from '@kindred/core/clash/group-clashes';
import { counted } from './sentence.ts';

export interface ClashingElement {
  class: string;
  name: string;
}
const nameOf = ({ class: of, name }: ClashingElement): string => name || of;

/**
 * `Supply duct 3 against 12 × IfcBeam, 2 × IfcSlab`, `7 times: Duct 400 × 300 against IPE 300`, `Supply duct 3 against Portal column 1S`.
 * `met`: the clashes of the group, by the keys of their elements.
 */
export function nameGroup(
  cause: ClashGroup['cause'],
  met: readonly Met[],
  elementOf: (key: string) => ClashingElement,
): string {
  const [first] = met as [Met, ...Met[]];
  if (!cause) return `${nameOf(elementOf(first.a))} against ${nameOf(elementOf(first.b))}`;
  if ('types' in cause) return `${counted(met.length, 'time')}: ${cause.types[0]} against ${cause.types[1]}`;
  const counts = new Map<string, number>();
  for (const { a, b } of met) {
    const { class: of } = elementOf(a === cause.element ? b : a);
    counts.set(of, (counts.get(of) ?? 0) + 1);
  }
  const said = [...counts].sort(([, p], [, q]) => q - p).map(([of, count]) => `${count} × ${of}`);
  return `${nameOf(elementOf(cause.element))} against ${said.join(', ')}`;
}

export const sayFarApart = (metres: number): string =>
  `The two models lie ${Math.round(metres / 1000)} km apart: they count from different origins, so nothing of them can clash. Export both in the same coordinates.`;
