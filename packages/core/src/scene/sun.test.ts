import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { daylight, sunAt } from './sun.ts';

const at = (latitude: number, longitude = 0, trueNorth = 0) => ({ latitude, longitude, trueNorth });
const NOON = new Date('2026-06-21T12:00:00Z');

describe('the sun', () => {
  it('stands in the south at noon, as high as latitude and season say', () => {
    const { towards, altitude } = sunAt(NOON, at(54));
    expect(altitude).toBeCloseTo(90 - 54 + 23.44, 0);
    expect(towards[1]).toBeLessThan(-0.4);
    expect(Math.abs(towards[0])).toBeLessThan(0.02);
    expect(sunAt(new Date('2026-12-21T12:00:00Z'), at(54)).altitude).toBeCloseTo(90 - 54 - 23.44, 0);
  });
  it('turns with north, and nothing else of it changes', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 8759 }), fc.double({ min: -180, max: 180, noNaN: true }), (hour, north) => {
        const moment = new Date(Date.UTC(2026, 0, 1, hour));
        const [plain, turned] = [sunAt(moment, at(54, 8)), sunAt(moment, at(54, 8, north))];
        expect(Math.hypot(...turned.towards)).toBeCloseTo(1, 9);
        expect(turned.towards[2]).toBeCloseTo(plain.towards[2], 9);
        const angle = ([x, y]: readonly number[]) => Math.atan2(x!, y!);
        const by = ((angle(turned.towards) - angle(plain.towards)) * 180) / Math.PI - north;
        expect(Math.abs(Math.sin((by * Math.PI) / 180))).toBeLessThan(1e-6);
      }),
    );
  });
  it('rises and sets, or does neither', () => {
    const day = daylight(NOON, at(54))!;
    expect(day.sets.getTime() - day.rises.getTime()).toBeGreaterThan(16 * 3_600_000);
    expect(daylight(NOON, at(80))).toBeNull();
  });
});
