import { CREW, HALL, LEVEL, STAIR, STAIRWELL, type Edition } from './layout.ts';
import { along, elevationOf, GROUND, ROOF, UPPER, type Part, type Vector } from './parts.ts';

const PLASTER: Vector = [0.9, 0.88, 0.83];
const MASONRY: Vector = [0.74, 0.66, 0.57];
const CLADDING: Vector = [0.42, 0.53, 0.56];
const TIMBER: Vector = [0.72, 0.55, 0.36];
const GLASS: Vector = [0.55, 0.72, 0.78];
const FLOOR: Vector = [0.66, 0.64, 0.6];
const ORANGE: Vector = [0.83, 0.44, 0.2];

export function architecture({ number }: Edition): Part[] {
  return [
    ...crewShell(),
    ...stair(number),
    ...partitions(number),
    ...openings(number),
    ...hallCladding(),
    ...ceilings(),
    ...ceilingRunners(),
    ...furniture(),
  ];
}

function wall(key: string, storey: string, at: Vector, size: Vector, external: boolean, turn = 0): Part {
  return {
    key,
    class: 'IFCWALL',
    name: `${external ? 'External' : 'Partition'} wall ${key}`,
    type: external ? 'Masonry cavity 350' : `Stud partition ${Math.round(size[1] * 1000)}`,
    material: external ? 'Rendered masonry' : 'Plasterboard on steel stud',
    colour: external ? MASONRY : PLASTER,
    storey,
    at,
    size,
    turn,
    properties: {
      Pset_WallCommon: {
        Reference: key,
        IsExternal: external,
        LoadBearing: external,
        FireRating: external ? 'REI 60' : 'EI 30',
        ThermalTransmittance: external ? 0.18 : 1.4,
      },
    },
  };
}

function crewShell(): Part[] {
  const parts: Part[] = [];
  const { x, y, length, width, storeyHeight } = CREW;
  for (const [storey, code] of [
    [GROUND, '00'],
    [UPPER, '01'],
  ] as const) {
    const z = elevationOf(storey);
    const h = storeyHeight - 0.3;
    parts.push(
      wall(`W-${code}-S`, storey, [x, y, z], [length, 0.35, h], true),
      wall(`W-${code}-N`, storey, [x, y + width - 0.35, z], [length, 0.35, h], true),
      wall(`W-${code}-W`, storey, [x + 0.35, y + 0.35, z], [width - 0.7, 0.35, h], true, 90),
      wall(`W-${code}-E`, storey, [x + length, y + 0.35, z], [width - 0.7, 0.35, h], true, 90),
    );
  }
  return parts;
}

function stair(edition: number): Part[] {
  const { x, y, going, rise, steps, width, gap, landing } = STAIR;
  const precast = (key: string, name: string, entity: string, at: Vector, size: Vector): Part => ({
    ...{ key, class: entity, name, at, size },
    ...{ type: 'Precast stair', material: 'Precast concrete', colour: FLOOR, storey: GROUND },
  });
  const flights = along(0, 1, steps * 2).map((i) => {
    const [upper, step] = [i >= steps, i % steps];
    // The upper half turns round between the two editions.
    const back = upper && edition === 2;
    const at: Vector = [x + (back ? steps - 1 - step : step) * going, y + (upper ? width + gap : 0), LEVEL + i * rise];
    return precast(`STEP-${i}`, `Stair step ${i + 1}`, 'IFCSTAIRFLIGHT', at, [going, width, rise]);
  });
  const level = LEVEL + steps * rise;
  return [
    ...flights,
    precast(
      'STAIR-LANDING',
      'Stair landing',
      'IFCSLAB',
      [x + steps * going, y, level - 0.15],
      [landing, STAIRWELL.width, 0.15],
    ),
  ];
}

function partitions(edition: number): Part[] {
  const parts: Part[] = [];
  const { x, y, width, length } = CREW;
  for (const [storey, code, walls] of [
    [GROUND, '00', [4.2, 8.6, 13, 14.8, 20.1]],
    [UPPER, '01', [5.1, 9.3, 13, 14.8, 20.1]],
  ] as const) {
    const z = elevationOf(storey);
    walls.forEach((offset, i) => {
      for (const [half, from, to] of [
        ['A', 0.35, 4],
        ['B', 5.6, width - 0.35],
      ] as const) {
        // Nobody asked for it: one partition moved by 30 mm in the second edition.
        const moved = edition === 2 && storey === GROUND && i === 1 && half === 'A' ? 0.03 : 0;
        const part = wall(
          `P-${code}-${i + 1}${half}`,
          storey,
          [x + offset + 0.12 + moved, y + from, z],
          [to - from, 0.12, 3.2],
          false,
          90,
        );
        parts.push(part);
      }
    });
    parts.push(
      ...[0, 1].map((side) => ({
        ...wall(
          `C-${code}-${side ? 'N' : 'S'}`,
          storey,
          [x + 0.35, y + (side ? 5.6 : 3.94), z],
          [length - 0.7, 0.12, 3.2],
          false,
        ),
        voids: doors(storey, code)
          .filter((_, i) => i % 2 === side)
          .map(({ at, size }): { at: Vector; size: Vector } => ({ at, size })),
      })),
    );
  }
  return parts;
}

function openings(edition: number): Part[] {
  const parts: Part[] = [];
  const { x, y, width } = CREW;
  for (const [storey, code] of [
    [GROUND, '00'],
    [UPPER, '01'],
  ] as const) {
    const z = elevationOf(storey);
    along(1.2, 2.4, 9).forEach((offset, i) => {
      for (const [side, sy] of [
        ['S', y - 0.02],
        ['N', y + width - 0.33],
      ] as const) {
        const key = `WIN-${code}-${side}${i + 1}`;
        parts.push({
          key,
          class: 'IFCWINDOW',
          name: `Window ${key.slice(4)}`,
          type: 'Window 1200 × 1400',
          material: 'Timber and glass',
          colour: GLASS,
          opacity: 0.45,
          storey,
          at: [x + offset, sy, z + 0.9],
          size: [1.2, 0.37, 1.4],
          properties: {
            Pset_WindowCommon: {
              IsExternal: true,
              ThermalTransmittance: edition === 1 ? 1.1 : 0.9,
              FireRating: 'none',
            },
          },
        });
      }
    });
    parts.push(...doors(storey, code));
  }
  return parts;
}

/** Along the corridor, in turn on its south and its north side. */
function doors(storey: string, code: string): Part[] {
  return [1.6, 5.2, 8.8, 12.4, 16, 14.95].map((offset, i) => ({
    key: `D-${code}-${i + 1}`,
    class: 'IFCDOOR',
    name: `Door ${code}.${String(i + 1).padStart(2, '0')}`,
    type: i % 3 ? 'Door single 925' : 'Door single 1025 fire',
    material: 'Timber',
    colour: TIMBER,
    storey,
    at: [CREW.x + offset, CREW.y + (i % 2 ? 5.58 : 3.92), elevationOf(storey)],
    size: [i % 3 ? 0.925 : 1.025, 0.16, 2.1],
    properties: { Pset_DoorCommon: { FireRating: i % 3 ? 'none' : 'EI 30', HandicapAccessible: true } },
  }));
}

function hallCladding(): Part[] {
  const parts: Part[] = [];
  const { length, width, eaves, ridge } = HALL;
  const slope = (Math.atan2(ridge - eaves + 1.2, width / 2) * 180) / Math.PI;
  along(0, 1, length).forEach((offset) => {
    for (const [side, sy] of [
      ['S', -0.32],
      ['N', width + 0.2],
    ] as const)
      along(0, 2.6, 3).forEach((rise, row) =>
        parts.push({
          key: `CL-${side}-${row}-${offset}`,
          class: 'IFCCOVERING',
          name: `Cladding panel ${side}${row + 1}.${offset + 1}`,
          type: 'Insulated panel 1000',
          material: 'Coated steel',
          colour: row === 1 && offset % 9 === 4 ? ORANGE : CLADDING,
          storey: GROUND,
          at: [offset + 0.005, sy, LEVEL + 0.2 + rise],
          size: [0.99, 0.12, 2.59],
          properties: { Pset_CoveringCommon: { FireRating: 'E 30', ThermalTransmittance: 0.2 } },
        }),
      );
    for (const side of [-1, 1])
      parts.push({
        key: `RF-${side}-${offset}`,
        class: 'IFCCOVERING',
        name: `Roof panel ${side < 0 ? 'S' : 'N'}.${offset + 1}`,
        type: 'Roof panel 1000',
        material: 'Coated steel',
        colour: [0.35, 0.43, 0.46],
        storey: ROOF,
        at: [side < 0 ? offset + 0.995 : offset + 0.005, width / 2 + side * (width / 2 + 0.5), LEVEL + eaves - 1.02],
        turn: side < 0 ? 90 : -90,
        tilt: -slope,
        size: [(width / 2 + 0.5) / Math.cos((slope * Math.PI) / 180), 0.99, 0.14],
      });
  });
  along(0, 1.75, 8).forEach((offset, i) =>
    parts.push({
      key: `FD-${i}`,
      class: 'IFCDOOR',
      name: `Folding door leaf ${i + 1}`,
      type: 'Folding leaf 1750',
      material: 'Steel and polycarbonate',
      colour: ORANGE,
      storey: GROUND,
      at: [-0.2, offset + 0.02, LEVEL],
      size: [0.12, 1.71, 7.8],
    }),
  );
  return parts;
}

function ceilings(): Part[] {
  const parts: Part[] = [];
  for (const [storey, code] of [
    [GROUND, '00'],
    [UPPER, '01'],
  ] as const)
    along(0.5, 0.6, 38).forEach((dx, i) =>
      along(0.5, 1.2, 3).forEach((dy, j) =>
        parts.push({
          key: `CT-${code}-${i}-${j}`,
          class: 'IFCCOVERING',
          name: `Ceiling tile ${code}.${i + 1}.${j + 1}`,
          type: 'Ceiling tile 600',
          material: 'Mineral fibre',
          colour: [0.93, 0.92, 0.89],
          storey,
          at: [CREW.x + dx, CREW.y + dy + 0.02, elevationOf(storey) + 2.75],
          size: [0.59, 1.1, 0.02],
        }),
      ),
    );
  return parts;
}

/** What the tiles lie on. */
const ceilingRunners = (): Part[] =>
  [GROUND, UPPER].flatMap((storey, floor) =>
    along(0.48, 0.6, 39).flatMap((dx, i) =>
      [0.4, 2.2].map((dy, half): Part => ({
        ...{
          key: `CT-R-${floor}-${i}-${half}`,
          class: 'IFCMEMBER',
          name: `Ceiling runner ${floor}.${i + 1}.${half + 1}`,
        },
        ...{ type: 'Runner T24', material: 'Galvanised steel', colour: CLADDING, storey },
        ...{ at: [CREW.x + dx, CREW.y + dy, elevationOf(storey) + 2.77], size: [0.024, 1.78, 0.038] },
      })),
    ),
  );

function furniture(): Part[] {
  const parts: Part[] = [];
  along(0.6, 0.45, 18).forEach((offset, i) =>
    parts.push({
      key: `LOCKER-${i}`,
      class: 'IFCFURNISHINGELEMENT',
      name: `Kit locker ${i + 1}`,
      type: 'Locker 400',
      material: 'Painted steel',
      colour: [0.27, 0.45, 0.55],
      storey: GROUND,
      at: [CREW.x + offset, 5.8, LEVEL],
      size: [0.4, 0.5, 1.9],
    }),
  );
  for (const row of [0, 1, 2])
    for (const seat of along(0, 0.8, 6))
      parts.push({
        key: `SEAT-${row}-${seat.toFixed(1)}`,
        class: 'IFCFURNISHINGELEMENT',
        name: `Training room chair ${row + 1}.${Math.round(seat / 0.8) + 1}`,
        type: 'Stacking chair',
        material: 'Plywood',
        colour: TIMBER,
        storey: UPPER,
        at: [CREW.x + 6 + seat, 6.2 + row * 1.1, elevationOf(UPPER)],
        size: [0.45, 0.45, 0.45],
      });
  return parts;
}
