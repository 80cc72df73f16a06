import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Bounds } from '../scene/bounds.ts';
import { boundsAt, type Placing } from '../scene/placing.ts';
import { judgePositions, type PlacedPosition } from './positions.ts';

const SURVEY = { eastings: 348_600, northings: 5_912_400, height: 12, rotation: 23, grid: 'GRID' };
const HOUSE: Bounds = [5, 10, 0, 65, 30, 12];
const model = (over: Partial<PlacedPosition> = {}): PlacedPosition => ({
  ...{ lengthUnit: 'millimetre', survey: SURVEY, bounds: HOUSE },
  ...over,
});
const others = [model(), model({ bounds: [6, 11, 0, 60, 29, 9] })];
const judged = (over: Partial<PlacedPosition>) => judgePositions([...others, model(over)])[2]!;
const codes = (over: Partial<PlacedPosition>) => judged(over).findings.map(({ code }) => code);
const scaled = (factor: number): Bounds => HOUSE.map((value) => value * factor) as unknown as Bounds;

describe('the position of a model among the others', () => {
  it('is right where it lies with them and says the same of the map', () => {
    expect(judgePositions(others)).toEqual(Array(2).fill({ findings: [], placing: null }));
    expect(codes({ bounds: [20, 12, 0, 21, 13, 1] })).toEqual([]);
    expect(codes({ bounds: [70, 12, 0, 120, 30, 1] })).toEqual([]);
  });
  it('is told where it was drawn in another unit', () => {
    expect(judged({ bounds: scaled(1000) }).findings).toEqual([{ code: 'wrong-unit', values: { factor: 0.001 } }]);
    expect(judged({ bounds: scaled(0.001) }).findings).toEqual([{ code: 'wrong-unit', values: { factor: 1000 } }]);
  });
  it('is told where it was drawn in coordinates of the map, with the way back', () => {
    const back = { turn: SURVEY.rotation, shift: [0, 0, 0] as [number, number, number] };
    const drawn = boundsAt(HOUSE, back).map((value, i) => value + [348_600, 5_912_400, 12][i % 3]!);
    const { findings, placing } = judged({ survey: null, bounds: drawn as unknown as Bounds });
    expect(findings.map(({ code }) => code)).toEqual(['survey-coordinates']);
    expect(placing!.turn).toBe(-23);
    const put = boundsAt(drawn as unknown as Bounds, placing!);
    expect(put[2]).toBeCloseTo(0, 6);
    expect(put[0]).toBeLessThan(HOUSE[0]);
    expect(put[3]).toBeGreaterThan(HOUSE[3]);
  });
  it('is told where it is far away, turned or mirrored', () => {
    expect(codes({ bounds: HOUSE.map((value) => value + 50_000) as unknown as Bounds })).toEqual(['far']);
    const turned = boundsAt(HOUSE, { turn: 90, shift: [0, 0, 0] });
    expect(judged({ bounds: turned })).toEqual({
      findings: [{ code: 'turned', values: { degrees: 270 } }],
      placing: { turn: 270, shift: [0, 0, 0] },
    });
    expect(codes({ bounds: [-65, 10, 0, -5, 30, 12] })).toEqual(['mirrored']);
  });
  it('is told where it was turned by what is no quarter, as its walls tell', () => {
    const walls = (turn: number) => ({ degrees: turn, along: HOUSE });
    const straight = [model({ walls: walls(0) }), model({ bounds: [6, 11, 0, 60, 29, 9], walls: walls(0) })];
    const among = (over: Partial<PlacedPosition>) => judgePositions([...straight, model(over)])[2]!;
    const bounds = boundsAt(HOUSE, { turn: 23, shift: [0, 0, 0] });
    const { findings, placing } = among({ bounds, walls: walls(23) });
    expect(findings).toMatchObject([{ code: 'turned', values: { degrees: -23 } }]);
    expect(placing!.turn).toBeCloseTo(-23, 0);
    // A quarter and a bit: its walls say the bit, its box the quarter.
    const more = among({
      bounds: boundsAt(HOUSE, { turn: 113, shift: [0, 0, 0] }),
      walls: { degrees: 23, along: boundsAt(HOUSE, { turn: 90, shift: [0, 0, 0] }) },
    });
    expect(more.placing!.turn).toBeCloseTo(-113, 0);
    // A wing that stands askew beside the house is not.
    expect(
      among({ bounds: [70, 10, 0, 90, 30, 9], walls: { degrees: 30, along: [65, -35, 0, 90, -20, 9] } }).findings,
    ).toEqual([]);
    expect(among({ walls: walls(0.4) }).findings).toEqual([]);
    expect(among({ bounds, walls: null }).findings).toEqual([]);
  });
  it('is told where it says something else of the map, or nothing', () => {
    const { findings, placing } = judged({ survey: { ...SURVEY, rotation: 24, height: 10 } });
    expect(findings).toEqual([{ code: 'other-survey', values: { metres: 2, degrees: 1 } }]);
    expect(placing).toEqual({ turn: 1, shift: [expect.closeTo(0), expect.closeTo(0), -2] });
    expect(codes({ survey: null })).toEqual(['no-survey']);
    expect(codes({ bounds: null })).toEqual(['empty']);
  });
  it('is that of the placed model, and the next placing holds for it as it was delivered', () => {
    const placing: Placing = { turn: 270, shift: [0, 0, 0] };
    const bounds = boundsAt(HOUSE, { turn: 90, shift: [0, 0, 0] });
    expect(judged({ bounds, set: { placing, of: bounds } })).toEqual({ findings: [], placing: null });
    expect(judged({ bounds, set: { placing: { turn: 90, shift: [0, 0, 0] }, of: bounds } })).toMatchObject({
      findings: [{ code: 'turned', values: { degrees: 180 } }],
      placing: { turn: 270 },
    });
  });
  it('needs no placing any more where a new version lies right by itself', () => {
    const of = HOUSE.map((value, i) => value + (i % 3 === 0 ? 2 : 0)) as unknown as Bounds;
    const placing: Placing = { turn: 0, shift: [-2, 0, 0] };
    expect(codes({ bounds: of, set: { placing, of } })).toEqual([]);
    expect(codes({ bounds: HOUSE, set: { placing, of } })).toEqual(['needs-no-placing']);
    const far: Placing = { turn: 0, shift: [-50_000, 0, 0] };
    expect(codes({ bounds: HOUSE, set: { placing: far, of: null } })).toEqual(['needs-no-placing']);
  });
  it('brings another conversion to where the common one leads', () => {
    const number = fc.double({ min: -500, max: 500, noNaN: true });
    fc.assert(
      fc.property(number, number, number, fc.double({ min: -180, max: 180, noNaN: true }), (east, north, up, turn) => {
        const own = { ...SURVEY, eastings: 348_600 + east, northings: 5_912_400 + north, height: up, rotation: turn };
        const { placing } = judged({ survey: own });
        if (!placing) return;
        // A point of the model has one place on the map, whichever way it goes there.
        const onMap = ({ eastings, northings, height, rotation }: typeof SURVEY, [x, y, z]: number[]) => {
          const at = (rotation * Math.PI) / 180;
          return [
            eastings + Math.cos(at) * x! - Math.sin(at) * y!,
            northings + Math.sin(at) * x! + Math.cos(at) * y!,
            height + z!,
          ];
        };
        const point = [3, 4, 5];
        const [x, y, z] = boundsAt([...point, ...point] as unknown as Bounds, placing);
        const [one, other] = [onMap(own, point), onMap(SURVEY, [x, y, z])];
        one.forEach((value, axis) => expect(other[axis]).toBeCloseTo(value, 4));
      }),
    );
  });
});
