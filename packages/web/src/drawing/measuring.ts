/** Measuring on a sheet: by which scale, in which units. */
import type { Markup } from '@kindred/contract/markup/markup';
import { METRES_PER_POINT, readScale } from '@kindred/core/drawing/scale';
import { measureOf, pathLength } from '@kindred/core/markup/measure';
import { shapeBounds, type MarkupShape } from '@kindred/core/markup/shapes';
import type { Total } from '@kindred/core/markup/totals';
import { readNumber } from '@kindred/core/platform/number-text';
import { sayMeasure, sayTotal } from '@kindred/words/measures';
import { ElMessageBox } from 'element-plus';
import { useMeasureUnits } from '../identity/measure-units.ts';
import { answered } from '../platform/say.ts';
import { useSheetScale } from './sheet-scale.ts';

/** `key`: of the sheet that is open; `written`: the scale that its title block names. */
export function useMeasuring(key: () => string, written: () => string) {
  const scale = useSheetScale(key, written);
  const { chosen: units, units: inUnits } = useMeasureUnits();
  /** Where no scale is known a length is that on the paper. */
  function measured(shape: MarkupShape, metresPerPoint: number | undefined): string {
    const measure = measureOf(shape, metresPerPoint ?? METRES_PER_POINT);
    const onPaper = metresPerPoint === undefined && (measure?.of === 'length' || measure?.of === 'area');
    return measure ? `${sayMeasure(measure, inUnits.value)}${onPaper ? ' on paper' : ''}` : '';
  }
  return {
    scale,
    units,
    ofDrawn: (shape: MarkupShape): string => measured(shape, scale.metresPerPointOf(shape)),
    ofMarkup: ({ shape, metresPerPoint }: Markup): string => measured(shape, metresPerPoint ?? undefined),
    ofTotal: (total: Total): string => sayTotal(total, inUnits.value),
    /** Asks for the scale of a part of the sheet. */
    async scaleRegion(shape: MarkupShape): Promise<void> {
      const answer = await answered(
        ElMessageBox.prompt('Which scale has this part of the sheet?', 'A region of its own scale', {
          confirmButtonText: 'Keep',
          cancelButtonText: 'Cancel',
          inputPlaceholder: '1:20',
          inputValidator: (text) => readScale(text ?? '') !== undefined || 'Write a scale such as 1:20.',
        }),
      );
      if (answer) scale.addRegion(shapeBounds(shape), readScale(answer.value)! * METRES_PER_POINT);
    },
    /** Asks how long a line is that somebody knows. */
    async calibrate(shape: MarkupShape): Promise<void> {
      if (shape.kind !== 'dimension') return;
      const answer = await answered(
        ElMessageBox.prompt('How long is it really, in metres?', 'Calibrate this sheet', {
          confirmButtonText: 'Calibrate',
          cancelButtonText: 'Cancel',
          inputValidator: (text) =>
            (readNumber(text ?? '', navigator.language) ?? 0) > 0 || 'Write a length in metres, such as 3.6.',
        }),
      );
      if (answer) scale.calibrate(pathLength(shape.points), readNumber(answer.value, navigator.language)!);
    },
  };
}
