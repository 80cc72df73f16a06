/** Where on the earth a model stands, and where north is in it. */
import type { IfcAPI } from 'web-ifc';
import { argsOf, instances, type SurveyPosition } from './ifc-structure.ts';
import type { StepFile, StepValue } from './step-reader.ts';

export interface GeographicPlace {
  /** Degrees, north and east; null where the file does not say. */
  latitude: number | null;
  longitude: number | null;
  /** From the y axis of the model clockwise to true north, degrees; by the grid of the map where the file says nothing else. */
  trueNorth: number | null;
}

/** Positions among the arguments of IfcSite. */
const [LATITUDE, LONGITUDE] = [9, 10];

export function readGeographicPlace(
  file: StepFile,
  api: Pick<IfcAPI, 'GetLine' | 'GetLineIDsWithType' | 'GetTypeCodeFromName'>,
  model: number,
  survey: SurveyPosition | null,
): GeographicPlace {
  const sites = instances(file, 'IFCSITE').map((id) => argsOf(file, id));
  const said = sites.find((args) => degrees(args[LATITUDE]) !== null);
  return {
    latitude: degrees(said?.[LATITUDE]),
    longitude: degrees(said?.[LONGITUDE]),
    trueNorth: northOf(api, model) ?? (survey ? survey.rotation : null),
  };
}

/** IfcCompoundPlaneAngleMeasure: degrees, minutes, seconds, millionths of a second, all with the same sign. */
function degrees(value: StepValue | undefined): number | null {
  if (!Array.isArray(value) || !value.length || !value.every((part) => typeof part === 'number')) return null;
  const [whole = 0, minutes = 0, seconds = 0, millionths = 0] = value;
  return whole + minutes / 60 + (seconds + millionths / 1e6) / 3600;
}

interface NorthLine {
  TrueNorth?: { value: number } | null;
  DirectionRatios?: { value: number }[];
}
function northOf(
  api: Pick<IfcAPI, 'GetLine' | 'GetLineIDsWithType' | 'GetTypeCodeFromName'>,
  model: number,
): number | null {
  const contexts = api.GetLineIDsWithType(model, api.GetTypeCodeFromName('IFCGEOMETRICREPRESENTATIONCONTEXT'));
  for (let i = 0; i < contexts.size(); i++) {
    const { TrueNorth } = api.GetLine(model, contexts.get(i)) as NorthLine;
    if (!TrueNorth) continue;
    const { DirectionRatios = [] } = api.GetLine(model, TrueNorth.value) as NorthLine;
    const [x = 0, y = 0] = DirectionRatios.map(({ value }) => Number(value));
    if (x || y) return (Math.atan2(x, y) * 180) / Math.PI;
  }
  return null;
}
