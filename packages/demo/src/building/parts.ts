/** One building described once; models and drawings are both made from these parts. Metres, project north up, Z up. */
export type Vector = [number, number, number];

export interface Part {
  /** Stable from version to version: the GlobalId is made from it. */
  key: string;
  class: string;
  name: string;
  type: string;
  material: string;
  colour: Vector;
  opacity?: number;
  storey: string;
  /** Corner or start of the part. */
  at: Vector;
  /** Degrees counter-clockwise about the vertical. */
  turn?: number;
  /** Degrees about the part's own y axis, after `turn`: raises (negative) or lowers its x axis. */
  tilt?: number;
  size: Vector;
  /** Closed profile in the part's own x/y, extruded by size z; a rectangle of size x × y when absent. */
  profile?: [number, number][];
  /** The system or circuit that it belongs to. */
  system?: string;
  /** Openings through it: boxes along the axes of the project. */
  voids?: { at: Vector; size: Vector }[];
  properties?: Record<string, Record<string, string | number | boolean>>;
}

export interface Storey {
  name: string;
  elevation: number;
}

export const STOREYS: Storey[] = [
  { name: '00 Ground', elevation: 4.2 },
  { name: '01 Upper', elevation: 8.1 },
  { name: 'RF Roof', elevation: 11.7 },
];
export const GROUND = '00 Ground';
export const UPPER = '01 Upper';
export const ROOF = 'RF Roof';

export const elevationOf = (storey: string): number => STOREYS.find(({ name }) => name === storey)!.elevation;

/** `count` positions from `start` with equal steps. */
export const along = (start: number, step: number, count: number): number[] =>
  Array.from({ length: count }, (_, i) => start + i * step);

/** A circle as a profile about the middle of its bounding square. */
export function round(diameter: number, corners = 12): [number, number][] {
  const r = diameter / 2;
  return Array.from({ length: corners }, (_, i) => {
    const angle = (2 * Math.PI * i) / corners;
    return [r + r * Math.cos(angle), r + r * Math.sin(angle)];
  });
}

/** The profile of an I section, `width` × `depth`, centred on x, standing on y = 0. */
export function iSection(width: number, depth: number, web: number, flange: number): [number, number][] {
  const [w, t] = [width / 2, web / 2];
  return [
    [-w, 0],
    [w, 0],
    [w, flange],
    [t, flange],
    [t, depth - flange],
    [w, depth - flange],
    [w, depth],
    [-w, depth],
    [-w, depth - flange],
    [-t, depth - flange],
    [-t, flange],
    [-w, flange],
  ];
}
