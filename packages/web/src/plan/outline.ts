import { toPlan, type PlanMap } from '@kindred/core/plan/plan-map';
import type { PlacedElement } from '@kindred/core/plan/storey-plan';

export const isWall = ({ class: name }: PlacedElement): boolean => /^Ifc(Wall|CurtainWall|Column)/.test(name);

/** Boxes from above as the path of an SVG; `place`: from metres of the model to where they are drawn. */
export function outlineOf(
  elements: readonly PlacedElement[],
  place: (at: [number, number]) => readonly [number, number],
): string {
  const said = (at: [number, number]): string =>
    place(at)
      .map((value) => Number(value.toFixed(3)))
      .join(' ');
  return elements
    .map(({ bounds: [x0, y0, , x1, y1] }) => [said([x0, y0]), said([x1, y0]), said([x1, y1]), said([x0, y1])].join('L'))
    .map((corners) => `M${corners}Z`)
    .join('');
}
export const outlineOnPage = (elements: readonly PlacedElement[], map: PlanMap): string =>
  outlineOf(elements, (at) => toPlan(map, at));
