/** How large the thing is that a sheet shows: from its title block, or from a length that somebody knows. */
import { METRES_PER_POINT, readScale } from '@kindred/core/drawing/scale';
import { handlesOf, type Box, type MarkupShape } from '@kindred/core/markup/shapes';
import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';

/** A part of a sheet that has a scale of its own: details beside a plan. */
export interface ScaledRegion {
  box: Box;
  metresPerPoint: number;
}

/** `key`: of the sheet that is open; `written`: what its title block says. */
export function useSheetScale(key: () => string, written: () => string) {
  const calibrated = useLocalStorage<Record<string, number>>('calibrated-sheets', {});
  const allRegions = useLocalStorage<Record<string, ScaledRegion[]>>('scaled-regions', {});
  const regions = computed(() => allRegions.value[key()] ?? []);
  const fromBlock = computed(() => {
    const scale = readScale(written());
    return scale === undefined ? undefined : scale * METRES_PER_POINT;
  });
  return {
    /** Metres of the thing for a point of the paper; undefined where nobody knows. */
    metresPerPoint: computed(() => calibrated.value[key()] ?? fromBlock.value),
    regions,
    /** Of the region that a shape begins in, the one that was named last; else of the whole sheet. */
    metresPerPointOf(shape: MarkupShape): number | undefined {
      const [x, y] = handlesOf(shape)[0]!;
      const region = regions.value.findLast(
        ({ box }) => x >= box[0] && y >= box[1] && x <= box[0] + box[2] && y <= box[1] + box[3],
      );
      return region?.metresPerPoint ?? calibrated.value[key()] ?? fromBlock.value;
    },
    addRegion(box: Box, metresPerPoint: number): void {
      allRegions.value = { ...allRegions.value, [key()]: [...regions.value, { box, metresPerPoint }] };
    },
    isCalibrated: computed(() => regions.value.length > 0 || calibrated.value[key()] !== undefined),
    /** A line of `points` is `metres` long. */
    calibrate(points: number, metres: number): void {
      calibrated.value = { ...calibrated.value, [key()]: metres / points };
    },
    forget(): void {
      const { [key()]: _, ...others } = calibrated.value;
      void _;
      calibrated.value = others;
      allRegions.value = { ...allRegions.value, [key()]: [] };
    },
  };
}
/** `1:100`, rounded as far as a measured length is good for. */
export function sayScale(metresPerPoint: number): string {
  const scale = metresPerPoint / METRES_PER_POINT;
  return `1:${scale >= 10 ? Math.round(scale) : Number(scale.toFixed(2))}`;
}
