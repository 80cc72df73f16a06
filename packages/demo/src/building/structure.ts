import { CREW, HALL, LEVEL, STAIR, STAIRWELL, type Edition } from './layout.ts';
import { along, elevationOf, GROUND, iSection, ROOF, round, UPPER, type Part, type Vector } from './parts.ts';

const STEEL: Vector = [0.6, 0.36, 0.28];
const CONCRETE: Vector = [0.7, 0.69, 0.66];
const ZINC: Vector = [0.62, 0.66, 0.68];

export function structure({ number }: Edition): Part[] {
  const parts = [...frames(number), ...secondarySteel(), ...slabs(), ...crewFrame(), ...slipway()];
  return number === 1 ? parts.map(unprotected) : parts;
}

/** In the first edition nobody has said yet how long the portal frames have to withstand fire. */
function unprotected(part: Part): Part {
  const { Pset_ColumnCommon: common } = part.properties ?? {};
  return common && part.material === 'Steel S355'
    ? { ...part, properties: { Pset_ColumnCommon: { ...common, FireRating: 'none' } } }
    : part;
}

function steel(
  key: string,
  cls: string,
  name: string,
  type: string,
  rest: Pick<Part, 'at' | 'size'> & Partial<Part>,
): Part {
  return {
    key,
    class: cls,
    name,
    type,
    material: 'Steel S355',
    colour: STEEL,
    storey: GROUND,
    properties: {
      [cls === 'IFCCOLUMN' ? 'Pset_ColumnCommon' : 'Pset_BeamCommon']: {
        Reference: type,
        LoadBearing: true,
        FireRating: 'R 30',
        IsExternal: false,
      },
    },
    ...rest,
  };
}

function frames(edition: number): Part[] {
  const parts: Part[] = [];
  const { width, eaves, ridge, length, bay } = HALL;
  const rise = ridge - eaves + 1.2;
  const half = width / 2;
  const slope = (Math.atan2(rise, half) * 180) / Math.PI;
  const rafter = Math.hypot(half, rise);
  along(0, bay, length / bay + 1).forEach((x, i) => {
    for (const side of ['S', 'N'] as const) {
      const y = side === 'S' ? 0 : width;
      const inward = side === 'S' ? 1 : -1;
      const axis = `${i + 1}${side}`;
      parts.push(
        steel(`COL-${axis}`, 'IFCCOLUMN', `Portal column ${axis}`, 'UC 305 × 305', {
          at: [x, y - (side === 'S' ? 0 : 0.305), LEVEL + 0.05],
          size: [0.305, 0.305, eaves - 1.3],
          profile: iSection(0.305, 0.305, 0.012, 0.019),
        }),
        steel(`RAF-${axis}`, 'IFCBEAM', `Portal rafter ${axis}`, 'UB 457 × 191', {
          at: [x - inward * 0.095, y, LEVEL + eaves - 1.55],
          turn: inward * 90,
          tilt: -slope,
          size: [rafter, 0.191, 0.457],
          storey: ROOF,
        }),
        {
          key: `PAD-${axis}`,
          class: 'IFCFOOTING',
          name: `Pad foundation ${axis}`,
          type: 'Pad 1500',
          material: 'Concrete C32/40',
          colour: CONCRETE,
          storey: GROUND,
          at: [x - 0.75, y - 0.75, LEVEL - 1.1],
          size: [1.5, 1.5, 0.8],
        },
      );
      // In the second edition the base plate of one column is missing.
      if (edition === 2 && axis === '4N') continue;
      parts.push(
        steel(`BP-${axis}`, 'IFCPLATE', `Base plate ${axis}`, 'Plate 450 × 450 × 30', {
          at: [x - 0.225, y - 0.225 + inward * 0.15, LEVEL],
          size: [0.45, 0.45, 0.03],
        }),
      );
      for (const [b, [dx, dy]] of [
        [-0.17, -0.17],
        [0.17, -0.17],
        [-0.17, 0.17],
        [0.17, 0.17],
      ].entries())
        parts.push({
          key: `BOLT-${axis}-${b}`,
          class: 'IFCMECHANICALFASTENER',
          name: `Holding-down bolt ${axis}.${b + 1}`,
          type: 'Bolt M24',
          material: 'Steel 8.8',
          colour: ZINC,
          storey: GROUND,
          at: [x + dx! - 0.012, y + dy! + inward * 0.15 - 0.012, LEVEL - 0.45],
          size: [0.024, 0.024, 0.55],
          profile: round(0.024, 8),
        });
    }
  });
  return parts;
}

function secondarySteel(): Part[] {
  const parts: Part[] = [];
  const { width, eaves, ridge, length, bay } = HALL;
  const slope = (ridge - eaves + 1.2) / (width / 2);
  along(0, bay, length / bay).forEach((x, i) => {
    along(0.6, 0.45, 29).forEach((y, j) => {
      const run = y < width / 2 ? y : width - y;
      parts.push(
        steel(`PUR-${i}-${j}`, 'IFCMEMBER', `Purlin ${i + 1}.${j + 1}`, 'Z 200', {
          at: [x, y, LEVEL + eaves - 1.25 + run * slope],
          size: [bay, 0.065, 0.2],
          material: 'Galvanised steel',
          colour: ZINC,
          storey: ROOF,
        }),
        steel(`CLEAT-${i}-${j}`, 'IFCPLATE', `Purlin cleat ${i + 1}.${j + 1}`, 'Cleat 180 × 8', {
          at: [x + 0.1, y - 0.008, LEVEL + eaves - 1.25 + run * slope],
          size: [0.12, 0.008, 0.18],
          storey: ROOF,
        }),
      );
    });
    for (const [side, y] of [
      ['S', -0.2],
      ['N', width],
    ] as const)
      along(0.6, 1.2, 6).forEach((rise, j) =>
        parts.push(
          steel(`RAIL-${side}-${i}-${j}`, 'IFCMEMBER', `Side rail ${side}${i + 1}.${j + 1}`, 'C 200', {
            at: [x, y, LEVEL + rise],
            size: [bay, 0.2, 0.065],
            material: 'Galvanised steel',
            colour: ZINC,
          }),
        ),
      );
    parts.push(
      steel(`GANTRY-STOP-${i}`, 'IFCPLATE', `Gantry splice ${i + 1}`, 'Plate 300 × 10', {
        at: [x - 0.005, width / 2 - 0.15, LEVEL + 7.3],
        size: [0.01, 0.3, 0.12],
      }),
      steel(`GANTRY-${i}`, 'IFCBEAM', `Gantry rail ${i + 1}`, 'HEB 300', {
        at: [x, width / 2 - 0.15, LEVEL + 7],
        size: [bay, 0.3, 0.3],
      }),
    );
  });
  return parts;
}

function slabs(): Part[] {
  const slab = (key: string, name: string, storey: string, at: Vector, size: Vector): Part => ({
    key,
    class: 'IFCSLAB',
    name,
    type: `Slab ${Math.round(size[2] * 1000)}`,
    material: 'Concrete C32/40',
    colour: CONCRETE,
    storey,
    at,
    size,
    properties: { Pset_SlabCommon: { LoadBearing: true, FireRating: 'REI 60', IsExternal: false } },
  });
  const { x, y, length, width } = CREW;
  return [
    slab('SL-HALL', 'Boat hall slab', GROUND, [-0.4, -0.4, LEVEL - 0.3], [HALL.length + 0.8, HALL.width + 0.8, 0.3]),
    slab('SL-00', 'Crew building slab', GROUND, [x, y, LEVEL - 0.3], [length, width, 0.3]),
    {
      ...slab('SL-01', 'Upper floor slab', UPPER, [x, y, elevationOf(UPPER) - 0.3], [length, width, 0.3]),
      voids: [{ at: [STAIR.x, STAIR.y, elevationOf(UPPER) - 0.5], size: [STAIRWELL.length, STAIRWELL.width, 0.7] }],
    },
    slab(
      'SL-RF',
      'Crew roof slab',
      ROOF,
      [x - 0.3, y - 0.3, elevationOf(ROOF) - 0.3],
      [length + 0.6, width + 0.6, 0.25],
    ),
  ];
}

function crewFrame(): Part[] {
  const parts: Part[] = [];
  const { x, y, width } = CREW;
  for (const [storey, index] of [
    [GROUND, 0],
    [UPPER, 1],
  ] as const) {
    const z = elevationOf(storey);
    along(0.4, 5.75, 5).forEach((dx, i) => {
      for (const [j, dy] of [0.4, width / 2, width - 0.7].entries()) {
        const key = `CC-${index}-${i}-${j}`;
        parts.push({
          key,
          class: 'IFCCOLUMN',
          name: `Column ${index}${i + 1}${j + 1}`,
          type: 'RC column 300 × 300',
          material: 'Concrete C32/40',
          colour: CONCRETE,
          storey,
          at: [x + dx, y + dy, z],
          size: [0.3, 0.3, 3.6],
          properties: { Pset_ColumnCommon: { Reference: 'RC 300', LoadBearing: true, FireRating: 'R 60' } },
        });
        for (const [b, [bx, by]] of [
          [0.05, 0.05],
          [0.23, 0.05],
          [0.05, 0.23],
          [0.23, 0.23],
        ].entries())
          parts.push({
            key: `BAR-${key}-${b}`,
            class: 'IFCREINFORCINGBAR',
            name: `Main bar ${key}.${b + 1}`,
            type: 'Bar H20',
            material: 'Reinforcing steel B500',
            colour: STEEL,
            storey,
            at: [x + dx + bx!, y + dy + by!, z],
            size: [0.02, 0.02, 3.6],
            profile: round(0.02, 6),
          });
      }
      parts.push({
        key: `CB-${index}-${i}`,
        class: 'IFCBEAM',
        name: `Beam ${index}${i + 1}`,
        type: 'RC beam 300 × 450',
        material: 'Concrete C32/40',
        colour: CONCRETE,
        storey,
        at: [x + dx, y + 0.4, z + 3.15],
        // It ends before the stairwell, which it would cross.
        size: [0.3, storey === GROUND && i === 3 ? STAIR.y - y - 0.4 : width - 0.8, 0.45],
        properties: { Pset_BeamCommon: { Reference: 'RC 300 × 450', LoadBearing: true, FireRating: 'R 60' } },
      });
    });
  }
  return parts;
}

function slipway(): Part[] {
  const parts: Part[] = [];
  along(0, 0.5, 80).forEach((run, i) => {
    parts.push({
      key: `SLIP-${i}`,
      class: 'IFCSLAB',
      name: `Slipway plank ${i + 1}`,
      type: 'Precast plank 500',
      material: 'Precast concrete',
      colour: CONCRETE,
      storey: GROUND,
      at: [-0.6 - run - 1, 4, LEVEL - 0.35 - run * 0.2],
      size: [0.49, 6, 0.3],
    });
    if (i % 8 === 0)
      for (const y of [4.4, 9])
        parts.push({
          key: `PILE-${i}-${y}`,
          class: 'IFCPILE',
          name: `Pile ${i / 8 + 1}${y < 5 ? 'S' : 'N'}`,
          type: 'Tubular pile 600',
          material: 'Steel S355',
          colour: STEEL,
          storey: GROUND,
          at: [-1.3 - run, y, LEVEL - 12],
          size: [0.6, 0.6, 11.4 - run * 0.2],
          profile: round(0.6, 16),
        });
  });
  return parts;
}
