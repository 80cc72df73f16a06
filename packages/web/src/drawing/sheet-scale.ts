/** How large the thing is that a sheet shows: from its title block, or from a length that somebody knows. */
import { METRES_PER_POINT, readScale } from '@kindred/core/drawing/scale';
import { useLocalStorage } from '@vueuse/core';
import { computed } from 'vue';

/** `key`: of the sheet that is open; `written`: what its title block says. */
export function useSheetScale(key: () => string, written: () => string) {
  const calibrated = useLocalStorage<Record<string, number>>('calibrated-sheets', {});
  const fromBlock = computed(() => {
    const scale = readScale(written());
    return scale === undefined ? undefined : scale * METRES_PER_POINT;
  });
  return {
    /** Metres of the thing for a point of the paper; undefined where nobody knows. */
    metresPerPoint: computed(() => calibrated.value[key()] ?? fromBlock.value),
    isCalibrated: computed(() => calibrated.value[key()] !== undefined),
    /** A line of `points` is `metres` long. */
    calibrate(points: number, metres: number): void {
      calibrated.value = { ...calibrated.value, [key()]: metres / points };
    },
    forget(): void {
      const { [key()]: _, ...others } = calibrated.value;
      void _;
      calibrated.value = others;
    },
  };
}
/** `1:100`, rounded as far as a measured length is good for. */
export function sayScale(metresPerPoint: number): string {
  const scale = metresPerPoint / METRES_PER_POINT;
  return `1:${scale >= 10 ? Math.round(scale) : Number(scale.toFixed(2))}`;
}
