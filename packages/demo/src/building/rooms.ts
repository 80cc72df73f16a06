import { CREW, HALL, LEVEL } from './layout.ts';
import { elevationOf, GROUND, UPPER, type Vector } from './parts.ts';

/** A room with its clear inside. Metres. */
export interface Room {
  key: string;
  number: string;
  name: string;
  storey: string;
  at: Vector;
  size: Vector;
}

/** From the west: rooms between one partition and the next; on the south side of the corridor, then on its north side. */
const NAMES: Record<string, [south: string[], north: string[]]> = {
  [GROUND]: [
    ['Drying room', 'Kit room', 'Workshop', 'Store', 'Wash room', 'Office'],
    ['Lobby', 'Changing room 1', 'Changing room 2', 'Lift', 'Stair', 'Plant room'],
  ],
  [UPPER]: [
    ['Mess', 'Control room', 'Kitchen', 'Store', 'Wash room', 'Office'],
    ['Library', 'Rest room', 'Training room', 'Lift', 'Stair', 'Server room'],
  ],
};
const PARTITIONS: Record<string, number[]> = {
  [GROUND]: [4.2, 8.6, 13, 14.8, 20.1],
  [UPPER]: [5.1, 9.3, 13, 14.8, 20.1],
};
const CLEAR = 2.7;

export function rooms(): Room[] {
  const hall: Room = {
    ...{ key: 'ROOM-HALL', number: '00.01', name: 'Boat hall', storey: GROUND },
    ...{ at: [0, 0, LEVEL], size: [HALL.length, HALL.width, HALL.eaves - 2] },
  };
  return [hall, ...[GROUND, UPPER].flatMap(roomsOf)];
}

function roomsOf(storey: string, floor: number): Room[] {
  const z = elevationOf(storey);
  const walls = PARTITIONS[storey]!;
  const [south, north] = NAMES[storey]!;
  const row = (names: string[], y: number, depth: number, first: number): Room[] =>
    names.map((name, i) => {
      const from = i ? walls[i - 1]! + 0.12 : 0.35;
      const to = walls[i] ?? CREW.length - 0.35;
      return {
        ...{
          key: `ROOM-${floor}-${first + i}`,
          number: `0${floor}.${String(first + i).padStart(2, '0')}`,
          name,
          storey,
        },
        ...{ at: [CREW.x + from, CREW.y + y, z], size: [to - from, depth, CLEAR] },
      };
    });
  const corridor: Room = {
    ...{ key: `ROOM-${floor}-10`, number: `0${floor}.10`, name: 'Corridor', storey },
    ...{ at: [CREW.x + 0.35, CREW.y + 4.06, z], size: [CREW.length - 0.7, 1.54, CLEAR] },
  };
  return [corridor, ...row(south, 0.35, 3.59, 11), ...row(north, 5.72, 3.93, 21)];
}
