import { CREW, HALL, LEVEL } from './layout.ts';
import { along, GROUND, round, type Part, type Vector } from './parts.ts';

const PAVING: Vector = [0.62, 0.62, 0.6];
const KERB: Vector = [0.5, 0.5, 0.49];
const STEEL: Vector = [0.55, 0.58, 0.6];
const RAIL: Vector = [0.45, 0.36, 0.32];
const TANK: Vector = [0.3, 0.46, 0.42];
const PIPE: Vector = [0.72, 0.46, 0.3];
const YELLOW: Vector = [0.86, 0.7, 0.2];

/** Between the buildings and the road. Metres. */
const YARD = { x: 0, y: -16, length: CREW.x + CREW.length, width: 14 };
/** The slipway falls one in five. */
const FALL = 0.2;

/** Three editions: the fence comes with the second; the third has a larger fuel tank and one gully moved away from the doors. */
export type YardEdition = 1 | 2 | 3;

export function yard(edition: YardEdition): Part[] {
  return [
    ...paving(),
    ...kerbs(),
    ...endKerbs(),
    ...drainage(edition),
    ...fuelStore(edition),
    ...slipRails(),
    ...bollards(),
    ...(edition > 1 ? fence() : []),
  ];
}

type Rest = Pick<Part, 'at' | 'size'> & Partial<Part>;
const piece = (key: string, cls: string, name: string, type: string, material: string, rest: Rest): Part => ({
  ...{ key, class: cls, name, type, material, colour: PAVING, storey: GROUND },
  properties: { Station_Site: { Zone: rest.at[0] < 0 ? 'Slipway' : 'Yard', MaintainedBy: 'Harbour' } },
  ...rest,
});

function paving(): Part[] {
  return along(YARD.x, 2, 30).flatMap((x, i) =>
    along(YARD.y, 2, 7).map((y, j) =>
      piece(`PV-${i}-${j}`, 'IFCSLAB', `Paving field ${i + 1}.${j + 1}`, 'Concrete paving 200', 'Concrete C30/37', {
        ...{ at: [x, y, LEVEL - 0.25], size: [1.99, 1.99, 0.2] },
      }),
    ),
  );
}

function kerbs(): Part[] {
  return along(YARD.x, 1, 60).flatMap((x, i) =>
    [YARD.y - 0.15, YARD.y + YARD.width].map((y, side) =>
      piece(`KB-${side}-${i}`, 'IFCBUILDINGELEMENTPROXY', `Kerb ${side + 1}.${i + 1}`, 'Kerb 150', 'Precast concrete', {
        ...{ at: [x, y, LEVEL - 0.3], size: [0.99, 0.15, 0.4], colour: KERB },
      }),
    ),
  );
}

/** At the two ends of the yard. */
const endKerbs = (): Part[] =>
  along(YARD.y, 1, YARD.width).flatMap((y, i) =>
    [YARD.x - 0.15, YARD.x + YARD.length].map((x, end) =>
      piece(
        `KE-${end}-${i}`,
        'IFCBUILDINGELEMENTPROXY',
        `End kerb ${end + 1}.${i + 1}`,
        'Kerb 150',
        'Precast concrete',
        {
          ...{ at: [x, y, LEVEL - 0.3], size: [0.15, 0.99, 0.4], colour: KERB },
        },
      ),
    ),
  );

function drainage(edition: YardEdition): Part[] {
  const drain = { system: 'Surface water', colour: STEEL };
  const channels = along(YARD.x, 1, 60).flatMap((x, i) => [
    piece(`CH-${i}`, 'IFCPIPESEGMENT', `Channel ${i + 1}`, 'Channel 200', 'Polymer concrete', {
      ...{ ...drain, at: [x, -8.1, LEVEL - 0.3], size: [0.99, 0.2, 0.22] },
    }),
    piece(`GR-${i}`, 'IFCDISCRETEACCESSORY', `Grating ${i + 1}`, 'Grating D400', 'Ductile iron', {
      ...{ ...drain, at: [x, -8.1, LEVEL - 0.08], size: [0.99, 0.2, 0.03], colour: RAIL },
    }),
  ]);
  const gullies = along(4, 8, 7).map((x, i) =>
    piece(`GU-${i}`, 'IFCWASTETERMINAL', `Gully ${i + 1}`, 'Gully 450', 'Ductile iron', {
      // In the third edition it no longer lies before the boat hall's side door.
      ...{ ...drain, at: [x + (edition === 3 && i === 2 ? 1.4 : 0), -4, LEVEL - 0.6], size: [0.45, 0.45, 0.55] },
    }),
  );
  const pipes = along(YARD.x, 1.5, 40).map((x, i) =>
    piece(`DP-${i}`, 'IFCPIPESEGMENT', `Drain pipe ${i + 1}`, 'Drain 225', 'Vitrified clay', {
      ...{ ...drain, at: [x, -10, LEVEL - 1.1], tilt: 90, size: [0.225, 0.225, 1.48], profile: round(0.225, 16) },
    }),
  );
  const manholes = along(6, 18, 4).map((x, i) =>
    piece(`MH-${i}`, 'IFCDISTRIBUTIONCHAMBERELEMENT', `Manhole ${i + 1}`, 'Manhole 1200', 'Precast concrete', {
      ...{ ...drain, at: [x, -10.6, LEVEL - 1.8], size: [1.2, 1.2, 1.75], profile: round(1.2, 24), colour: KERB },
    }),
  );
  return [...channels, ...gullies, ...pipes, ...manholes];
}

function fuelStore(edition: YardEdition): Part[] {
  const [x, y] = [48, -14.5];
  const fuel = { system: 'Fuel', colour: TANK };
  const bund = (key: string, at: Vector, size: Vector): Part =>
    piece(`BUND-${key}`, 'IFCWALL', `Bund wall ${key}`, 'Bund wall 200', 'Concrete C30/37', { at, size, colour: KERB });
  const length = edition === 3 ? 5.4 : 3.6;
  return [
    bund('S', [x, y, LEVEL], [7, 0.2, 1]),
    bund('N', [x, y + 3.8, LEVEL], [7, 0.2, 1]),
    bund('W', [x, y + 0.2, LEVEL], [0.2, 3.6, 1]),
    bund('E', [x + 6.8, y + 0.2, LEVEL], [0.2, 3.6, 1]),
    piece('FUEL-TANK', 'IFCTANK', 'Fuel tank', edition === 3 ? 'Tank 7500 l' : 'Tank 5000 l', 'Steel S235', {
      ...{ ...fuel, at: [x + 0.6, y + 1, LEVEL + 2.1], tilt: 90, size: [1.8, 1.8, length], profile: round(1.8, 32) },
    }),
    piece('FUEL-PUMP', 'IFCPUMP', 'Fuel pump', 'Transfer pump', 'Cast iron', {
      ...{ ...fuel, at: [x + 6.1, y + 1.6, LEVEL + 0.1], size: [0.4, 0.3, 0.4] },
    }),
    ...along(x + 7, 1, 4).map((at, i) =>
      piece(`FUEL-PIPE-${i}`, 'IFCPIPESEGMENT', `Fuel pipe ${i + 1}`, 'Steel 42', 'Steel P235', {
        ...{ ...fuel, at: [at, y + 1.7, LEVEL + 0.3], tilt: 90, size: [0.042, 0.042, 0.98], profile: round(0.042, 12) },
        colour: PIPE,
      }),
    ),
  ];
}

/** Two rails on the slipway, their chairs, and the rollers between them. */
function slipRails(): Part[] {
  const slope = (Math.atan(FALL) * 180) / Math.PI;
  const falling = (run: number): number => LEVEL - 0.02 - run * FALL;
  const rails = along(0, 1, 40).flatMap((run, i) =>
    [5.6, 8.2].flatMap((y, side) => [
      piece(`RL-${side}-${i}`, 'IFCMEMBER', `Slip rail ${side + 1}.${i + 1}`, 'Rail 50', 'Steel R260', {
        ...{ at: [-1.6 - run, y, falling(run)], turn: 180, tilt: slope, size: [1, 0.07, 0.15], colour: RAIL },
      }),
      piece(`RC-${side}-${i}`, 'IFCDISCRETEACCESSORY', `Rail chair ${side + 1}.${i + 1}`, 'Chair 200', 'Ductile iron', {
        ...{ at: [-2.1 - run, y - 0.14, falling(run + 0.5) - 0.04], size: [0.2, 0.2, 0.04], colour: STEEL },
      }),
    ]),
  );
  const rollers = along(0.5, 1, 39).map((run, i) =>
    piece(`RO-${i}`, 'IFCMECHANICALFASTENER', `Keel roller ${i + 1}`, 'Roller 300', 'Polyamide', {
      ...{ at: [-1.6 - run, 6.7, falling(run) + 0.02], size: [0.12, 0.5, 0.12], colour: YELLOW },
    }),
  );
  const sleepers = along(0.4, 1, 40).map((run, i) =>
    piece(`SL-${i}`, 'IFCBEAM', `Sleeper ${i + 1}`, 'Sleeper 3200', 'Azobe', {
      ...{ at: [-1.8 - run, 5.3, falling(run) - 0.2], size: [0.2, 3.2, 0.14], colour: RAIL },
    }),
  );
  return [...rails, ...rollers, ...sleepers];
}

function bollards(): Part[] {
  return along(1.5, 2.5, 22).map((x, i) =>
    piece(`BO-${i}`, 'IFCRAILING', `Bollard ${i + 1}`, 'Bollard 168', 'Steel S235', {
      ...{ at: [x, -1.6, LEVEL - 0.4], size: [0.168, 0.168, 1.4], profile: round(0.168, 16), colour: YELLOW },
    }),
  );
}

function fence(): Part[] {
  const posts = Math.floor(HALL.length / 2) + 12;
  return along(YARD.x, 2, posts + 1).flatMap((x, i) => [
    piece(`FP-${i}`, 'IFCMEMBER', `Fence post ${i + 1}`, 'Post 60', 'Steel S235', {
      ...{ at: [x, YARD.y - 0.3, LEVEL - 0.5], size: [0.06, 0.06, 2.5], colour: STEEL },
    }),
    ...(i === posts
      ? []
      : [
          piece(`FF-${i}`, 'IFCRAILING', `Fence panel ${i + 1}`, 'Mesh panel 2000', 'Steel S235', {
            ...{ at: [x + 0.06, YARD.y - 0.28, LEVEL], size: [1.93, 0.02, 1.9], colour: STEEL, opacity: 0.35 },
          }),
        ]),
  ]);
}
