/** Changes of a model in the scene: each version's elements in the colour of what became of them. */
import type { ChangeKind } from '@kindred/core/compare/change-counts';
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { elementNumber } from '../scene/engine/element-numbers.ts';
import type { PaintLayers } from '../scene/engine/paint-layers.ts';

export type Side = 'before' | 'after';
/** What becomes of elements that did not change. */
export const UNCHANGED = { ghost: 'as traces', own: 'as they are', hidden: 'not at all' } as const;
export type Unchanged = keyof typeof UNCHANGED;

/** A version that a picture shows. */
export interface ShownVersion {
  side: Side;
  slot: number;
  elements: number;
}
export interface ShownChanges {
  changes: readonly ModelChange[];
  colours: Readonly<Record<ChangeKind, string>>;
  unchanged: Unchanged;
  chosen: ModelChange | undefined;
}

/**
 * Where one picture holds both versions, of the earlier one is seen what is gone, and how the chosen element was before it moved or
 * changed its shape.
 */
export function paintChanges(
  paint: PaintLayers,
  versions: readonly ShownVersion[],
  { changes, colours, unchanged, chosen }: ShownChanges,
): void {
  const together = versions.length > 1;
  const colour = (kind: ChangeKind): number => Number.parseInt(colours[kind].slice(1), 16);
  const painted = new Map<number, Int32Array>();
  const [hidden, ghosts, selection]: number[][] = [[], [], []];
  for (const { side, slot, elements } of versions) {
    const colouring = new Int32Array(elements).fill(-1);
    const earlier = together && side === 'before';
    for (const change of changes) {
      const row = change[side];
      if (row !== null && (!earlier || change.kind === 'removed')) colouring[row] = colour(change.kind);
    }
    const chosenRow = chosen?.[side] ?? null;
    if (chosenRow !== null && earlier && isShapeBefore(chosen!)) colouring[chosenRow] = colour('removed');
    else if (chosenRow !== null && !(earlier && chosen!.kind !== 'removed'))
      selection!.push(elementNumber(slot, chosenRow));
    const rest = earlier || unchanged === 'hidden' ? hidden! : unchanged === 'ghost' ? ghosts! : null;
    if (rest) colouring.forEach((value, row) => value < 0 && row !== chosenRow && rest.push(elementNumber(slot, row)));
    if (earlier && chosenRow !== null && colouring[chosenRow]! < 0) hidden!.push(elementNumber(slot, chosenRow));
    painted.set(slot, colouring);
  }
  paint.apply({ hidden: hidden!, ghosts: ghosts!, isolated: null, rest: 'hidden', selection: selection! });
  paint.colour(painted);
}

const isShapeBefore = ({ kind }: ModelChange): boolean => kind === 'moved' || kind === 'look';
