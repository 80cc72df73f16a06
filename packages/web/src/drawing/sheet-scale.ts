/** How large the thing is that a sheet shows: from its title block, or from a length that somebody knows. */
import { METRES_PER_POINT, readScale } from '@kindred/core/drawing/scale';
import { handlesOf, type Box, type MarkupShape } from '@kindred/core/markup/shapes';
import { computed } from 'vue';
import { usePreference } from '../identity/preferences.ts';

/** A part of a sheet that has a scale of its own: details beside a plan. */
export interface ScaledRegion {
  box: Box;
  metresPerPoint: number;
}

/** What somebody knows of the scales of a sheet, metres for a point. */
interface KnownScale {
  whole?: number;
  regions?: ScaledRegion[];
}

/** `key`: of the sheet that is open; `written`: what its title block says. */
export function useSheetScale(key: () => string, written: () => string) {
  const known = usePreference<KnownScale>(() => `scale/${key()}`, {});
  const regions = computed(() => known.value.regions ?? []);
  const fromBlock = computed(() => {
    const scale = readScale(written());
    return scale === undefined ? undefined : scale * METRES_PER_POINT;
  });
  return {
    /** Metres of the thing for a point of the paper; undefined where nobody knows. */
    metresPerPoint: computed(() => known.value.whole ?? fromBlock.value),
    regions,
    /** Of the region that a shape begins in, the one that was named last; else of the whole sheet. */
    metresPerPointOf(shape: MarkupShape): number | undefined {
      const [x, y] = handlesOf(shape)[0]!;
      const region = regions.value.findLast(
        ({ box }) => x >= box[0] && y >= box[1] && x <= box[0] + box[2] && y <= box[1] + box[3],
      );
      return region?.metresPerPoint ?? known.value.whole ?? fromBlock.value;
    },
    addRegion(box: Box, metresPerPoint: number): void {
      known.value = { ...known.value, regions: [...regions.value, { box, metresPerPoint }] };
    },
    isCalibrated: computed(() => regions.value.length > 0 || known.value.whole !== undefined),
    /** A line of `points` is `metres` long. */
    calibrate(points: number, metres: number): void {
      known.value = { ...known.value, whole: metres / points };
    },
    forget: (): void => void (known.value = {}),
  };
}
/** `1:100`, rounded as far as a measured length is good for. */
export function sayScale(metresPerPoint: number): string {
  const scale = metresPerPoint / METRES_PER_POINT;
  return `1:${scale >= 10 ? Math.round(scale) : Number(scale.toFixed(2))}`;
}
