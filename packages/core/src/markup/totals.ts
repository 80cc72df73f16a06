/** What several markups measure together. */
import { measureOf } from './measure.ts';
import type { MarkupKind, MarkupShape } from './shapes.ts';

export interface Total {
  kind: MarkupKind;
  /** Words that they share. */
  label: string;
  markups: number;
  /** Metres, square metres, or how many; of angles nothing is summed up. */
  sum: number;
  unit: 'length' | 'area' | 'count';
}

/** By kind and words, in the order of their first. Where no scale is known (null) a length is none that could be added to others: left out. */
export function totalsOf(
  markups: Iterable<{ shape: MarkupShape; text: string; metresPerPoint: number | null }>,
): Total[] {
  const totals = new Map<string, Total>();
  for (const { shape, text, metresPerPoint } of markups) {
    const measure = measureOf(shape, metresPerPoint ?? 0);
    if (!measure || measure.of === 'angle' || (measure.of !== 'count' && metresPerPoint === null)) continue;
    const key = `${shape.kind}/${text}`;
    const total = totals.get(key) ?? { kind: shape.kind, label: text, markups: 0, sum: 0, unit: measure.of };
    total.markups++;
    total.sum +=
      measure.of === 'length' ? measure.metres : measure.of === 'area' ? measure.squareMetres : measure.count;
    totals.set(key, total);
  }
  return [...totals.values()];
}
