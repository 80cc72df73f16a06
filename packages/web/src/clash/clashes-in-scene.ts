/** Clashes in the scene: the elements that meet are bright, the rest is a trace of itself. */
import type { Clash } from '@kindred/contract/clash/clashes';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import type { Unchanged } from '../compare/changes-in-scene.ts';
import { elementNumber } from '../scene/engine/element-numbers.ts';
import type { PaintLayers } from '../scene/engine/paint-layers.ts';

/** After Okabe and Ito, “Color Universal Design” (2008): told apart by whoever confuses red and green, too. */
export const SIDES = { a: '#0072b2', b: '#c2407f' } as const;
const colourOf = (side: 'a' | 'b'): number => Number.parseInt(SIDES[side].slice(1), 16);

export interface ShownModel {
  versionId: string;
  slot: number;
  table: Pick<ElementTable, 'globalId'>;
}

/** Where an element of a clash is drawn; nowhere where its model is not open. */
export class ClashElements {
  private readonly rows: ReadonlyMap<string, { slot: number; byId: ReadonlyMap<string, number> }>;

  constructor(models: readonly ShownModel[]) {
    this.rows = new Map(
      models.map(({ versionId, slot, table }) => [
        versionId,
        { slot, byId: new Map(table.globalId.map((id, row) => [id, row])) },
      ]),
    );
  }
  numberOf({ versionId, globalId }: Clash['a']): number | undefined {
    const model = this.rows.get(versionId);
    const row = model?.byId.get(globalId);
    return row === undefined ? undefined : elementNumber(model!.slot, row);
  }
}

/** What is chosen is in two colours; with nothing chosen, all that meets anything. */
export function paintClashes(
  paint: PaintLayers,
  models: readonly ShownModel[],
  elements: ClashElements,
  clashes: readonly Clash[],
  unchanged: Unchanged,
): void {
  const colours = new Map(models.map(({ slot, table }) => [slot, new Int32Array(table.globalId.length).fill(-1)]));
  const bySlot = new Map(models.map(({ versionId, slot }) => [versionId, slot]));
  for (const clash of clashes)
    for (const side of ['a', 'b'] as const) {
      const number = elements.numberOf(clash[side]);
      const slot = bySlot.get(clash[side].versionId);
      if (number !== undefined) colours.get(slot!)![number - elementNumber(slot!, 0)] = colourOf(side);
    }
  const rest: number[] = [];
  if (unchanged !== 'own')
    for (const [slot, rows] of colours)
      rows.forEach((colour, row) => colour < 0 && rest.push(elementNumber(slot, row)));
  const [hidden, ghosts] = unchanged === 'hidden' ? [rest, []] : [[], rest];
  paint.apply({ hidden, ghosts, isolated: null, rest: 'hidden', selection: [] });
  paint.colour(colours);
}

/** Metres around a clash that one wants to see of what is there. */
const AROUND = 1.4;
type Box = readonly [number, number, number, number, number, number];
/** Around all of them. */
export function boxAround(clashes: readonly Pick<Clash, 'at'>[]): Box | null {
  if (!clashes.length) return null;
  const along = (axis: number): number[] => clashes.map(({ at }) => at[axis]!);
  const [low, high] = [0, 1].map((end) =>
    [0, 1, 2].map(
      (axis) => along(axis).reduce((a, b) => (end ? Math.max(a, b) : Math.min(a, b))) + (end ? AROUND : -AROUND),
    ),
  ) as [number[], number[]];
  return [...low, ...high] as unknown as Box;
}
