import { expect, it } from 'vitest';
import { readGeographicPlace } from './geographic-place.ts';
import { indexStepFile } from './step-reader.ts';

const file = (site: string) =>
  indexStepFile(
    new TextEncoder().encode(
      `ISO-10303-21;\nHEADER;\nFILE_DESCRIPTION((''),'2;1');\nFILE_NAME('a','t',(''),(''),'pre','The Program','');\nFILE_SCHEMA(('IFC4'));\nENDSEC;\nDATA;\n${site}\nENDSEC;\nEND-ISO-10303-21;\n`,
    ),
    () => true,
  );
const api = (lines: Record<number, object>) =>
  ({
    GetTypeCodeFromName: () => 1,
    GetLineIDsWithType: () => ({ size: () => (lines[7] ? 1 : 0), get: () => 7 }),
    GetLine: (_model: number, id: number) => lines[id],
  }) as never;
const SURVEY = { eastings: 0, northings: 0, height: 0, rotation: 23, grid: '' };
const site = (latitude: string, longitude: string): string =>
  `#1=IFCSITE('s',$,'Site',$,$,$,$,$,.ELEMENT.,${latitude},${longitude},4.2,$,$);`;

it('reads degrees, minutes and seconds on both sides of the equator', () => {
  expect(readGeographicPlace(file(site('(54,30,36,500000)', '(-1,-30,0)')), api({}), 0, null)).toEqual({
    latitude: expect.closeTo(54.5101389, 6),
    longitude: -1.5,
    trueNorth: null,
  });
  expect(readGeographicPlace(file(site('$', '$')), api({}), 0, null)).toMatchObject({
    latitude: null,
    longitude: null,
  });
});

it('takes true north as it is said, else that of the map', () => {
  const turned = api({
    7: { TrueNorth: { value: 8 } },
    8: { DirectionRatios: [{ value: 0.5 }, { value: Math.sqrt(0.75) }] },
  });
  expect(readGeographicPlace(file(site('$', '$')), turned, 0, SURVEY).trueNorth).toBeCloseTo(30);
  const unsaid = api({ 7: { TrueNorth: null } });
  expect(readGeographicPlace(file(site('$', '$')), unsaid, 0, SURVEY).trueNorth).toBe(23);
});
