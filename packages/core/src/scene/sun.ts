/** Where the sun stands over a model. */
import { getPosition, getTimes } from 'suncalc';
import type { Point } from './pick.ts';

export interface SunPlace {
  /** Degrees. */
  latitude: number;
  longitude: number;
  /** From the y axis of the model clockwise to true north, degrees. */
  trueNorth: number;
}
export interface Sun {
  /** From the model to the sun, of length one. */
  towards: Point;
  /** Degrees above the horizon, and clockwise from true north. */
  altitude: number;
  azimuth: number;
}

const RADIANS = Math.PI / 180;

export function sunAt(moment: Date, { latitude, longitude, trueNorth }: SunPlace): Sun {
  const { altitude, azimuth } = getPosition(moment, latitude, longitude);
  const [turn, tilt] = [(trueNorth + azimuth) * RADIANS, altitude * RADIANS];
  return {
    towards: [Math.sin(turn) * Math.cos(tilt), Math.cos(turn) * Math.cos(tilt), Math.sin(tilt)],
    altitude,
    azimuth,
  };
}

/** Null where the sun does not rise or set on that day. */
export function daylight(day: Date, { latitude, longitude }: SunPlace): { rises: Date; sets: Date } | null {
  const { sunrise, sunset } = getTimes(day, latitude, longitude);
  return sunrise && sunset ? { rises: sunrise, sets: sunset } : null;
}
