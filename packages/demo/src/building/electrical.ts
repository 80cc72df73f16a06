import { CREW, HALL, LEVEL } from './layout.ts';
import { along, elevationOf, GROUND, UPPER, type Part, type Vector } from './parts.ts';

const TRAY: Vector = [0.66, 0.69, 0.71];
const LIGHT: Vector = [0.96, 0.93, 0.78];
const WHITE: Vector = [0.93, 0.93, 0.92];
const SIGN: Vector = [0.16, 0.55, 0.35];
const BOARD: Vector = [0.36, 0.4, 0.45];
const CONDUCTOR: Vector = [0.72, 0.5, 0.33];

/** Three editions: emergency lighting comes with the second; in the third the trays of the upper floor make room for the ducts. */
export type ElectricalEdition = 1 | 2 | 3;

export function electrical(edition: ElectricalEdition): Part[] {
  return [
    ...boards(),
    ...crewFloors(edition),
    ...hallTrays(),
    ...hallLights(),
    ...lightningProtection(),
    ...hallSockets(),
    ...(edition > 1 ? emergencyLights() : []),
  ];
}

type Rest = Pick<Part, 'at' | 'size' | 'storey'> & Partial<Part>;

function fitting(key: string, cls: string, name: string, type: string, circuit: string, rest: Rest): Part {
  return {
    ...{ key, class: cls, name, type, system: circuit, material: 'Galvanised steel', colour: TRAY },
    properties: {
      Pset_ElectricalDeviceCommon: { RatedVoltage: 230, IP_Code: rest.storey === GROUND ? 'IP44' : 'IP20' },
      Station_Circuit: { Circuit: circuit },
    },
    ...rest,
  };
}

/** Upright, of some length; to a luminaire it is short. Metres. */
const cable = (key: string, name: string, circuit: string, storey: string, at: Vector, length = 0.2): Part =>
  fitting(key, 'IFCCABLESEGMENT', name, 'NYM 3 × 2.5', circuit, {
    ...{ storey, at, size: [0.012, 0.012, length], colour: WHITE, material: 'Copper' },
  });

function boards(): Part[] {
  return [0, 1, 2, 3].map((i) =>
    fitting(
      `DB-${i + 1}`,
      'IFCELECTRICDISTRIBUTIONBOARD',
      `Distribution board ${i + 1}`,
      i ? 'Board 48 ways' : 'Main board 400 A',
      'Supply',
      {
        storey: i === 2 ? UPPER : GROUND,
        at: [CREW.x + 19.2 - i * 0.9, 5.72, (i === 2 ? elevationOf(UPPER) : LEVEL) + 0.3],
        size: [0.8, 0.25, 1.8],
        colour: BOARD,
      },
    ),
  );
}

function crewFloors(edition: ElectricalEdition): Part[] {
  const parts: Part[] = [];
  for (const [storey, index] of [
    [GROUND, 0],
    [UPPER, 1],
  ] as const) {
    const floor = elevationOf(storey);
    const tray = floor + (edition === 3 && storey === UPPER ? 2.6 : 2.75);
    along(0.5, 1.15, 20).forEach((dx, i) => {
      for (const [run, y, circuit] of [
        ['P', 4.72, 'Power'],
        ['D', 5.5, 'Data'],
      ] as const) {
        const tag = `${index}${run}-${i}`;
        const at = (up: number): Vector => [CREW.x + dx, y, tray + up];
        parts.push(
          fitting(`TR-${tag}`, 'IFCCABLECARRIERSEGMENT', `${circuit} tray ${index}.${i + 1}`, 'Tray 200', circuit, {
            ...{ storey, at: at(0), size: [1.14, 0.2, 0.06] },
          }),
          fitting(`TH-${tag}`, 'IFCDISCRETEACCESSORY', `Tray hanger ${index}${run}.${i + 1}`, 'Hanger M8', circuit, {
            ...{ storey, at: [CREW.x + dx + 0.5, y + 0.09, tray + 0.06], size: [0.03, 0.02, 0.5] },
          }),
        );
      }
    });
    along(1.2, 2.2, 10).forEach((dx, i) => {
      for (const [row, y] of [2, 7.6].entries()) {
        const tag = `${index}-${row}-${i}`;
        const circuit = `Lighting ${index}${row ? 'N' : 'S'}`;
        const place = { storey, colour: WHITE, material: 'Polycarbonate' };
        parts.push(
          fitting(`LU-${tag}`, 'IFCLIGHTFIXTURE', `Luminaire ${tag}`, 'Panel 600 × 600', circuit, {
            ...{ ...place, at: [CREW.x + dx, y, floor + 2.7], size: [0.6, 0.6, 0.05], colour: LIGHT },
          }),
          fitting(`SM-${tag}`, 'IFCSENSOR', `Smoke detector ${tag}`, 'Detector', 'Fire alarm', {
            ...{ ...place, at: [CREW.x + dx + 1.1, y + 0.2, floor + 2.68], size: [0.1, 0.1, 0.06] },
          }),
          fitting(`SW-${tag}`, 'IFCSWITCHINGDEVICE', `Switch ${tag}`, 'Rocker switch', circuit, {
            ...{ ...place, at: [CREW.x + dx, row ? 5.74 : 3.9, floor + 1.05], size: [0.08, 0.02, 0.08] },
          }),
        );
        parts.push(
          fitting(`SP-${tag}`, 'IFCAUDIOVISUALAPPLIANCE', `Call loudspeaker ${tag}`, 'Loudspeaker 6 W', 'Crew call', {
            ...{ ...place, at: [CREW.x + dx + 1.5, y + 0.2, floor + 2.68], size: [0.2, 0.2, 0.05] },
          }),
          cable(`LC-${tag}`, `Cable to luminaire ${tag}`, circuit, storey, [CREW.x + dx + 0.3, y + 0.3, floor + 2.75]),
          cable(
            `SC-${tag}`,
            `Cable to switch ${tag}`,
            circuit,
            storey,
            [CREW.x + dx, row ? 5.74 : 3.9, floor + 1.13],
            1.6,
          ),
        );
        for (const [k, side] of [0.36, 9.62].entries()) {
          const x = CREW.x + dx + row * 0.5;
          parts.push(
            fitting(`SO-${tag}-${k}`, 'IFCOUTLET', `Socket ${tag}.${k + 1}`, 'Double socket', `Sockets ${index}`, {
              ...{ ...place, at: [x, side, floor + 0.4], size: [0.15, 0.02, 0.08] },
            }),
            cable(
              `OC-${tag}-${k}`,
              `Cable to socket ${tag}.${k + 1}`,
              `Sockets ${index}`,
              storey,
              [x, side, floor + 0.48],
              2.2,
            ),
          );
        }
      }
    });
  }
  return parts;
}

function hallTrays(): Part[] {
  return along(0.6, 1.15, 30).flatMap((x, i) =>
    [0.5, HALL.width - 0.9].flatMap((y, side) => {
      const tag = `${side ? 'N' : 'S'}-${i}`;
      return [
        fitting(`HT-${tag}`, 'IFCCABLECARRIERSEGMENT', `Hall tray ${tag}`, 'Tray 300', 'Power', {
          ...{ storey: GROUND, at: [x, y, LEVEL + 5.4], size: [1.14, 0.3, 0.08] },
        }),
        fitting(`HC-${tag}`, 'IFCDISCRETEACCESSORY', `Cantilever arm ${tag}`, 'Arm 320', 'Power', {
          ...{ storey: GROUND, at: [x + 0.5, y - (side ? -0.28 : 0.2), LEVEL + 5.36], size: [0.04, 0.32, 0.04] },
        }),
      ];
    }),
  );
}

function hallLights(): Part[] {
  return along(3, 6, 6).flatMap((x, bay) =>
    along(2, 2.5, 5).flatMap((y, row) => {
      const tag = `${bay + 1}.${row + 1}`;
      const above = LEVEL + 7.4;
      return [
        fitting(`HB-${tag}`, 'IFCLIGHTFIXTURE', `High bay luminaire ${tag}`, 'High bay 150 W', `Hall lighting ${row}`, {
          ...{ storey: GROUND, at: [x, y, above], size: [0.4, 0.4, 0.3], colour: LIGHT, material: 'Aluminium' },
        }),
        fitting(`HR-${tag}`, 'IFCDISCRETEACCESSORY', `Rod ${tag}`, 'Rod M10', `Hall lighting ${row}`, {
          ...{ storey: GROUND, at: [x + 0.19, y + 0.19, above + 0.3], size: [0.02, 0.02, 0.6] },
        }),
      ];
    }),
  );
}

const hallSockets = (): Part[] =>
  along(2, 2.5, 14).map((x, i) =>
    fitting(`HS-${i}`, 'IFCOUTLET', `Hall socket ${i + 1}`, 'Industrial socket 32 A', 'Power', {
      ...{ storey: GROUND, at: [x, HALL.width - 0.1, LEVEL + 1.1], size: [0.2, 0.08, 0.3], colour: BOARD },
    }),
  );

function emergencyLights(): Part[] {
  const exit = (tag: string, storey: string, at: Vector): Part =>
    fitting(`EX-${tag}`, 'IFCLIGHTFIXTURE', `Exit sign ${tag}`, 'Exit sign 3 h', 'Emergency lighting', {
      ...{ storey, at, size: [0.35, 0.04, 0.18], colour: SIGN, material: 'Polycarbonate' },
    });
  return [
    ...along(2, 5, 5).map((dx, i) => exit(`0-${i + 1}`, GROUND, [CREW.x + dx, 5.52, LEVEL + 2.3])),
    ...along(2, 5, 5).map((dx, i) => exit(`1-${i + 1}`, UPPER, [CREW.x + dx, 5.52, elevationOf(UPPER) + 2.3])),
    ...along(3, 6, 6).map((x, i) => exit(`H-${i + 1}`, GROUND, [x, 0.35, LEVEL + 2.8])),
  ];
}

/** Conductors on the hall's eaves, and their way down to the ground. */
function lightningProtection(): Part[] {
  const conductor = (key: string, name: string, at: Vector, size: Vector): Part => ({
    ...fitting(key, 'IFCCABLESEGMENT', name, 'Conductor 8 mm', 'Lightning protection', { storey: GROUND, at, size }),
    ...{ colour: CONDUCTOR, material: 'Copper' },
  });
  return [-0.36, HALL.width + 0.35].flatMap((y, side) => [
    ...along(0, 2, 18).map((x, i) =>
      conductor(`LP-${side}-${i}`, `Eaves conductor ${side + 1}.${i + 1}`, [x, y, LEVEL + 8], [1.98, 0.01, 0.01]),
    ),
    ...along(0, 6, 7).map((x, i) =>
      conductor(`LD-${side}-${i}`, `Down conductor ${side + 1}.${i + 1}`, [x, y, LEVEL - 0.3], [0.01, 0.01, 8.3]),
    ),
  ]);
}
