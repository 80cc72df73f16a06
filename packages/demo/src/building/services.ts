import { CREW, HALL, LEVEL, type Edition } from './layout.ts';
import { along, elevationOf, GROUND, round, UPPER, type Part, type Vector } from './parts.ts';

const DUCT: Vector = [0.42, 0.62, 0.72];
const EXTRACT: Vector = [0.78, 0.6, 0.34];
const COPPER: Vector = [0.75, 0.45, 0.3];
const BRACKET: Vector = [0.55, 0.57, 0.58];

export function services({ number }: Edition): Part[] {
  const parts = [...crewDucts(number), ...hallDucts(), ...pipes(), ...plant()];
  return number === 1 ? parts.map(unconfirmed) : parts;
}

/** In the first edition sizes are those of the tender. */
const unconfirmed = (part: Part): Part => ({
  ...part,
  properties: { Pset_DistributionFlowElementCommon: { Reference: part.type, Status: 'Unset' } },
});

function service(
  key: string,
  cls: string,
  name: string,
  type: string,
  system: string,
  rest: Pick<Part, 'at' | 'size' | 'storey'> & Partial<Part>,
): Part {
  return {
    key,
    class: cls,
    name,
    type,
    material: 'Galvanised steel',
    colour: DUCT,
    system,
    properties: {
      Pset_DistributionFlowElementCommon: { Reference: type, Status: 'New' },
    },
    ...rest,
  };
}

function crewDucts(edition: number): Part[] {
  const parts: Part[] = [];
  for (const [storey, index] of [
    [GROUND, 0],
    [UPPER, 1],
  ] as const) {
    // In the second edition the upper main duct is lowered, straight through the beams.
    const z = elevationOf(storey) + (edition === 2 && storey === UPPER ? 3.0 : 2.78);
    along(0.5, 1.15, 20).forEach((dx, i) => {
      for (const [run, y, system, colour] of [
        ['S', 4.15, 'Supply', DUCT],
        ['E', 4.95, 'Extract', EXTRACT],
      ] as const) {
        parts.push(
          service(
            `DU-${index}${run}-${i}`,
            'IFCDUCTSEGMENT',
            `${system} duct ${index}.${i + 1}`,
            'Duct 500 × 300',
            system,
            {
              storey,
              at: [CREW.x + dx, y, z],
              size: [1.13, 0.5, 0.3],
              colour,
            },
          ),
        );
        for (const end of [0, 1])
          parts.push(
            service(
              `DH-${index}${run}-${i}-${end}`,
              'IFCDISCRETEACCESSORY',
              `Duct hanger ${index}${run}.${i + 1}.${end + 1}`,
              'Hanger M8',
              system,
              {
                storey,
                at: [CREW.x + dx + 0.2 + end * 0.7, y - 0.03, z],
                size: [0.03, 0.01, 0.75],
                colour: BRACKET,
              },
            ),
          );
        if (i % 2 === 0)
          for (const [room, offset] of [
            ['a', -1.9],
            ['b', 2.6],
          ] as const) {
            const tag = `${index}${run}-${i}${room}`;
            parts.push(
              service(`BR-${tag}`, 'IFCDUCTSEGMENT', `${system} branch ${tag}`, 'Round duct 160', system, {
                storey,
                at: [CREW.x + dx + 0.4, offset < 0 ? y + offset : y + 0.5, z + 0.07],
                turn: 90,
                size: [Math.abs(offset) - (offset > 0 ? 0.5 : 0), 0.16, 0.16],
                colour,
              }),
              service(`AT-${tag}`, 'IFCAIRTERMINAL', `${system} valve ${tag}`, 'Valve 300', system, {
                storey,
                at: [CREW.x + dx + 0.22, y + (offset < 0 ? offset - 0.3 : offset), elevationOf(storey) + 2.7],
                size: [0.3, 0.3, 0.12],
                colour,
              }),
            );
          }
      }
    });
  }
  return parts;
}

function hallDucts(): Part[] {
  const parts: Part[] = [];
  along(0.6, 1.15, 30).forEach((x, i) => {
    for (const [side, y] of [
      ['S', 1.2],
      ['N', HALL.width - 1.9],
    ] as const) {
      parts.push(
        service(`HD-${side}-${i}`, 'IFCDUCTSEGMENT', `Hall duct ${side}.${i + 1}`, 'Round duct 630', 'Hall extract', {
          storey: GROUND,
          at: [x, y, LEVEL + 6.6],
          turn: 0,
          tilt: 90,
          size: [0.63, 0.63, 1.13],
          profile: round(0.63, 20),
          colour: EXTRACT,
        }),
        service(
          `HB-${side}-${i}`,
          'IFCDISCRETEACCESSORY',
          `Hall duct bracket ${side}.${i + 1}`,
          'Ring bracket 630',
          'Hall extract',
          {
            storey: GROUND,
            at: [x + 0.5, y - 0.04, LEVEL + 5.93],
            size: [0.05, 0.71, 0.71],
            colour: BRACKET,
          },
        ),
      );
    }
  });
  return parts;
}

function pipes(): Part[] {
  const parts: Part[] = [];
  for (const [storey, index] of [
    [GROUND, 0],
    [UPPER, 1],
  ] as const)
    for (const [line, y, type, system] of [
      ['C', 3.5, 'Copper 28', 'Cold water'],
      ['H', 3.62, 'Copper 28', 'Hot water'],
      ['F', 6.0, 'Steel 42', 'Heating flow'],
      ['R', 6.12, 'Steel 42', 'Heating return'],
    ] as const)
      along(0.5, 1.15, 20).forEach((dx, i) => {
        const diameter = type === 'Copper 28' ? 0.028 : 0.042;
        parts.push(
          service(`PI-${index}${line}-${i}`, 'IFCPIPESEGMENT', `${system} pipe ${index}.${i + 1}`, type, system, {
            storey,
            at: [CREW.x + dx, y, elevationOf(storey) + 2.98],
            tilt: 90,
            size: [diameter, diameter, 1.14],
            profile: round(diameter, 12),
            colour: COPPER,
            material: type.split(' ')[0]!,
          }),
          service(
            `PC-${index}${line}-${i}`,
            'IFCDISCRETEACCESSORY',
            `Pipe clip ${index}${line}.${i + 1}`,
            'Clip 28',
            system,
            {
              storey,
              at: [CREW.x + dx + 0.5, y - 0.01, elevationOf(storey) + 2.93],
              size: [0.02, diameter + 0.02, 0.2],
              colour: BRACKET,
            },
          ),
        );
      });
  return parts;
}

function plant(): Part[] {
  const unit = (key: string, cls: string, name: string, type: string, at: Vector, size: Vector): Part =>
    service(key, cls, name, type, 'Plant', { storey: GROUND, at, size, colour: [0.5, 0.58, 0.52] });
  const x = CREW.x + 20.4;
  return [
    unit('AHU-1', 'IFCUNITARYEQUIPMENT', 'Air handling unit', 'AHU 2400', [x, 6.2, LEVEL + 0.1], [2.4, 1.4, 1.9]),
    unit('BOILER-1', 'IFCBOILER', 'Heat pump buffer', 'Buffer 500', [x, 8.3, LEVEL + 0.1], [0.7, 0.7, 1.8]),
    unit('PUMP-1', 'IFCPUMP', 'Heating pump', 'Pump 32', [x + 1, 8.4, LEVEL + 0.1], [0.4, 0.3, 0.4]),
    unit('TANK-1', 'IFCTANK', 'Cold water tank', 'Tank 1000', [x + 1.7, 8, LEVEL + 0.1], [1.2, 1, 1.3]),
  ];
}
