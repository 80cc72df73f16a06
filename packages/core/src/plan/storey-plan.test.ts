import { expect, it } from 'vitest';
import type { ScenePackage } from '../scene/package.ts';
import type { ElementTable } from '../scene/prepare-model.ts';
import { elementAt, elementsOn, storeysOf } from './storey-plan.ts';

/** Boxes: class, storey, x0, y0, z0 and size, metres; far from the origin of the model. */
const FAR = 400_000;
const BOXES: [string, number, [number, number, number], [number, number, number]][] = [
  ['IfcSlab', 0, [0, 0, 4.0], [10, 8, 0.2]],
  ['IfcWall', 0, [0, 0, 4.2], [10, 0.3, 3]],
  ['IfcDoor', 0, [4, 0, 4.2], [1, 0.3, 2.1]],
  ['IfcFurniture', 0, [6, 5, 4.2], [1, 1, 0.7]],
  ['IfcWall', 1, [0, 0, 8.1], [10, 0.3, 3]],
];
const matrix = BOXES.flatMap(([, , [x, y, z], [dx, dy, dz]]) => [dx, 0, 0, 0, dy, 0, 0, 0, dz, x, y, z]);
const CUBE = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((i) => [i & 1 ? 65535 : 0, i & 2 ? 65535 : 0, i & 4 ? 65535 : 0]);
const FACES = [
  0, 2, 1, 1, 2, 3, 4, 5, 6, 5, 7, 6, 0, 1, 4, 1, 5, 4, 2, 6, 3, 3, 6, 7, 0, 4, 2, 2, 4, 6, 1, 3, 5, 3, 7, 5,
];
const scene: ScenePackage = {
  origin: [FAR, FAR, 0],
  bounds: [0, 0, 0, 10, 8, 12],
  shapes: {
    vertexStarts: Uint32Array.of(0, 8),
    indexStarts: Uint32Array.of(0, 36),
    positions: Uint16Array.from(CUBE),
    indices: Uint32Array.from(FACES),
  },
  instances: {
    shape: new Uint32Array(BOXES.length),
    element: Uint32Array.from(BOXES.keys()),
    matrix: Float32Array.from(matrix),
    colour: new Uint8Array(4 * BOXES.length),
  },
};
const classes = [...new Set(BOXES.map(([name]) => name))];
const table = {
  classes,
  class: BOXES.map(([name]) => classes.indexOf(name)),
  node: BOXES.map(([, storey]) => storey + 1),
  globalId: BOXES.map((_, i) => `id${i}`),
  nodes: [
    { name: 'Station', class: 'IfcBuilding', elevation: null, parent: -1 },
    { name: 'Ground', class: 'IfcBuildingStorey', elevation: 4.2, parent: 0 },
    { name: 'Upper', class: 'IfcBuildingStorey', elevation: 8.1, parent: 0 },
  ],
} as unknown as ElementTable;

it('storeys stand from the lowest up, each with its elements where they are in the model', () => {
  expect(storeysOf(table).map(({ name, elevation }) => [name, elevation])).toEqual([
    ['Ground', 4.2],
    ['Upper', 8.1],
  ]);
  const [slab] = elementsOn(scene, table, 1);
  expect(slab!.class).toBe('IfcSlab');
  expect(slab!.bounds.map((value) => Math.round(value * 1000) / 1000)).toEqual([FAR, FAR, 4, FAR + 10, FAR + 8, 4.2]);
  expect(elementsOn(scene, table, 2).map(({ row }) => row)).toEqual([4]);
});

it('a place of the plan is what is cut there, the smallest first, else the highest below', () => {
  const elements = elementsOn(scene, table, 1);
  const at = (x: number, y: number) => elementAt(scene, elements, [FAR + x, FAR + y], 4.2, 0.05);
  expect(BOXES[at(4.5, 0.15)!]![0]).toBe('IfcDoor');
  expect(BOXES[at(2, 0.15)!]![0]).toBe('IfcWall');
  expect(BOXES[at(6.5, 5.5)!]![0]).toBe('IfcFurniture');
  expect(BOXES[at(2, 4)!]![0]).toBe('IfcSlab');
  expect(BOXES[at(2, 0.33)!]![0]).toBe('IfcWall');
  expect(at(50, 50)).toBeUndefined();
});
