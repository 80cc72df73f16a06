/** Names for groups of clashes, and what was noticed on the way. */
import type { ClashGroup, KnownOf, Met } from '@kindred/core/clash/group-clashes';
import { counted } from './sentence.ts';

export interface ClashingElement {
  class: string;
  name: string;
  storey: string;
  /** What people call its model. */
  model: string;
}
const nameOf = ({ class: of, name }: ClashingElement): string => name || of;

/**
 * `40 of 52 elements on 01 First floor of ORP-…-0071 against 31 × IfcBeam`, `System Supply air 1 against 12 × IfcBeam`,
 * `Supply duct 3 against 12 × IfcBeam, 2 × IfcSlab`, `7 times: Duct 400 × 300 against IPE 300`, `Supply duct 3 against Portal column 1S`.
 * `met`: the clashes of the group, by the keys of their elements.
 */
export function nameGroup(
  cause: ClashGroup['cause'],
  met: readonly Met[],
  elementOf: (key: string) => ClashingElement,
  known: Pick<KnownOf, 'system' | 'storey'>,
): string {
  const [first] = met as [Met, ...Met[]];
  if (!cause) return `${nameOf(elementOf(first.a))} against ${nameOf(elementOf(first.b))}`;
  if ('types' in cause) return `${counted(met.length, 'time')}: ${cause.types[0]} against ${cause.types[1]}`;
  const isOwn = (key: string): boolean => {
    if ('storey' in cause) return known.storey(key) === cause.storey;
    return 'system' in cause ? known.system(key) === cause.system : key === cause.element;
  };
  const counts = new Map<string, number>();
  for (const key of new Set(met.map(({ a, b }) => (isOwn(a) ? b : a)))) {
    const { class: of } = elementOf(key);
    counts.set(of, (counts.get(of) ?? 0) + 1);
  }
  const said = [...counts].sort(([, p], [, q]) => q - p).map(([of, count]) => `${count} × ${of}`);
  const { storey, model, ...own } = elementOf(isOwn(first.a) ? first.a : first.b);
  const [named, system] = [nameOf({ storey, model, ...own }), 'system' in cause && `System ${cause.system}`];
  const whole = 'storey' in cause && `${cause.elements} of ${cause.of} elements on ${storey} of ${model}`;
  return `${whole || system || named} against ${said.join(', ')}`;
}

export const sayFarApart = (metres: number): string =>
  `The two models lie ${Math.round(metres / 1000)} km apart: they count from different origins, so nothing of them can clash. Export both in the same coordinates.`;
