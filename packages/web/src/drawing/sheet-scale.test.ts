import { METRES_PER_POINT } from '@kindred/core/drawing/scale';
import { expect, it, vi } from 'vitest';
import { ref } from 'vue';

const kept: Record<string, unknown> = {};
vi.mock('../identity/preferences.ts', () => ({
  usePreference: (key: () => string, initial: unknown) => (kept[key()] ??= ref(initial)),
}));
const { sayScale, useSheetScale } = await import('./sheet-scale.ts');

const line = (x: number) => ({
  kind: 'dimension' as const,
  points: [
    [x, 10],
    [x + 5, 10],
  ] as [[number, number], [number, number]],
});

it('a scale is that of the title block, or what somebody knows, or that of a region', () => {
  const scale = useSheetScale(
    () => 'v/1',
    () => '1:100 @ A1',
  );
  expect(sayScale(scale.metresPerPoint.value!)).toBe('1:100');
  scale.calibrate(100, 7);
  expect(scale.metresPerPoint.value).toBe(0.07);
  scale.addRegion([200, 0, 100, 100], 20 * METRES_PER_POINT);
  expect(sayScale(scale.metresPerPointOf(line(250))!)).toBe('1:20');
  expect(scale.metresPerPointOf(line(10))).toBe(0.07);
  scale.addRegion([240, 0, 20, 20], 5 * METRES_PER_POINT);
  expect(sayScale(scale.metresPerPointOf(line(250))!)).toBe('1:5');
  scale.forget();
  expect(sayScale(scale.metresPerPointOf(line(250))!)).toBe('1:100');
  expect(scale.isCalibrated.value).toBe(false);
});

it('nothing is known of a sheet without a scale', () => {
  const scale = useSheetScale(
    () => 'v/2',
    () => 'not to scale',
  );
  expect(scale.metresPerPointOf(line(1))).toBeUndefined();
});
