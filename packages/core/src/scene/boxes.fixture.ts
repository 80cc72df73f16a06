/** Boxes as a scene package, each an element of its own: for tests. */
import type { ScenePackage } from './package.ts';
import type { Point } from './pick.ts';

export interface TestBox {
  min: Point;
  size: Point;
}

const CORNERS = Uint16Array.from({ length: 24 }, (_, i) => ((Math.floor(i / 3) >> (i % 3)) & 1 ? 65535 : 0));
/** Outwards, counter-clockwise. */
const FACES = [
  0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5,
];

export function boxes(all: readonly TestBox[], origin: [number, number, number] = [0, 0, 0]): ScenePackage {
  const end = (axis: number): number => Math.max(0, ...all.map(({ min, size }) => min[axis]! + size[axis]!));
  const begin = (axis: number): number => Math.min(...all.map(({ min }) => min[axis]!));
  return {
    origin,
    bounds: [begin(0), begin(1), begin(2), end(0), end(1), end(2)],
    shapes: {
      vertexStarts: Uint32Array.of(0, 8),
      indexStarts: Uint32Array.of(0, 36),
      positions: CORNERS,
      indices: Uint32Array.from(FACES),
    },
    instances: {
      shape: new Uint32Array(all.length),
      element: Uint32Array.from(all, (_, i) => i),
      matrix: Float32Array.from(all.flatMap(({ min, size: [x, y, z] }) => [x, 0, 0, 0, y, 0, 0, 0, z, ...min])),
      colour: Uint8Array.from(all.flatMap(() => [120, 120, 120, 255])),
    },
  };
}
