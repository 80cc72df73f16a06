import { architecture } from '../building/architecture.ts';
import { CREW, HALL, LEVEL, type Edition } from '../building/layout.ts';
import { along, elevationOf, GROUND, STOREYS, UPPER } from '../building/parts.ts';
import { structure } from '../building/structure.ts';
import { planOutlines, sectionOutlines } from './outline.ts';
import type { SheetSpec } from './write-sheet.ts';

export type StationSheet = Omit<SheetSpec, 'revision' | 'status' | 'date' | 'drawnBy'>;

const AXES = [
  ...along(0, HALL.bay, 7).map((at, i) => ({ name: String(i + 1), at })),
  ...along(CREW.x + 6, 6, 4).map((at, i) => ({ name: String(i + 8), at })),
];
const LEVELS = STOREYS.map(({ name, elevation }) => ({ name: `${name} +${elevation.toFixed(2)}`, at: elevation }));
const ROOMS = {
  [GROUND]: [
    ['Boat hall', 18, 7],
    ['Drying room', CREW.x + 2.2, 2],
    ['Kit room', CREW.x + 6.5, 2],
    ['Workshop', CREW.x + 10.8, 2],
    ['Plant room', CREW.x + 22, 7.6],
  ],
  [UPPER]: [
    ['Mess', CREW.x + 2.7, 2],
    ['Control room', CREW.x + 7.2, 2],
    ['Training room', CREW.x + 11, 7.6],
    ['Office', CREW.x + 21.5, 2],
  ],
} as const;

/** The four sheets of the architect, cut from the same parts as the models. */
export function stationSheets(edition: Edition): StationSheet[] {
  const parts = [...architecture(edition), ...structure(edition)];
  const walls = parts.filter(({ key }) => !key.startsWith('CT-'));
  const plan = (number: string, title: string, storey: typeof GROUND | typeof UPPER): StationSheet => ({
    number,
    title,
    scale: 100,
    centre: [27, 4.6],
    outlines: planOutlines(
      walls.filter((part) => part.storey === storey && !part.key.startsWith('SLIP')),
      elevationOf(storey) + 1.2,
      elevationOf(storey) - 0.5,
    ),
    verticals: AXES,
    horizontals: [],
    labels: ROOMS[storey].map(([text, x, y]) => ({ text, at: [x, y] })),
    dimensions: [
      { from: [0, -2.4], to: [HALL.length, -2.4] },
      { from: [CREW.x, -2.4], to: [CREW.x + CREW.length, -2.4] },
      { from: [-2.2, 0], to: [-2.2, HALL.width] },
    ],
  });
  return [
    plan('ORP-TVA-ZZ-00-D-A-0101', 'Ground floor plan', GROUND),
    plan('ORP-TVA-CB-01-D-A-0102', 'Upper floor plan', UPPER),
    {
      number: 'ORP-TVA-ZZ-ZZ-D-A-0201',
      title: 'Section A-A',
      scale: 100,
      centre: [27, 6.6],
      outlines: sectionOutlines(
        walls.filter(({ key }) => !/^(?:SLIP|PILE)/.test(key)),
        4.5,
      ),
      verticals: AXES,
      horizontals: LEVELS,
      labels: [],
      dimensions: [{ from: [63, LEVEL], to: [63, 11.7] }],
    },
    {
      number: 'ORP-TVA-ZZ-ZZ-D-A-0301',
      title: 'South elevation',
      scale: 200,
      centre: [12, 3.2],
      outlines: sectionOutlines(walls, -30).filter(({ part }) => !/^(?:PAD|BOLT|BAR)/.test(part.key)),
      verticals: [],
      horizontals: LEVELS,
      labels: [],
      dimensions: [],
    },
  ];
}
