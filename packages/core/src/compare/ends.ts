/** Lines of a change, where they were and where they are. */
import type { SheetChange } from './compare-sheets.ts';
import { Similarity } from './similarity.ts';

/** x0, y0, x1, y1 by piece; empty where there was, or is, nothing, or it is about words. */
export interface ChangeEnds {
  /** On the sheet before. */
  before: number[];
  /** Where they were, on the sheet after. */
  was: number[];
  /** On the sheet after. */
  after: number[];
}

export function endsOf(
  { kind, ends = [], shift, turn, mirrored }: Pick<SheetChange, 'kind' | 'ends' | 'shift' | 'turn' | 'mirrored'>,
  similarity: Similarity,
): ChangeEnds {
  const back = kind === 'moved' && shift && !turn && !mirrored ? shift : undefined;
  const was = kind === 'removed' ? ends : back ? mapped(ends, (x, y) => [x - back[0], y - back[1]]) : [];
  return { before: mapped(was, similarity.inverse.map), was, after: kind === 'removed' ? [] : ends };
}

function mapped(ends: readonly number[], map: (x: number, y: number) => readonly [number, number]): number[] {
  const there: number[] = [];
  for (let i = 0; i < ends.length; i += 2) there.push(...map(ends[i]!, ends[i + 1]!));
  return there;
}
