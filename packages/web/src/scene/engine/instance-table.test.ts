import type { Instances } from '@kindred/core/scene/package';
import type { DataTexture } from 'three';
import { expect, it } from 'vitest';
import { InstanceTable } from './instance-table.ts';

const COUNT = 600;
const instances: Instances = {
  shape: new Uint32Array(COUNT),
  element: Uint32Array.from({ length: COUNT }, (_, i) => i),
  matrix: Float32Array.from({ length: COUNT * 12 }, (_, i) => i),
  colour: Uint8Array.from({ length: COUNT * 4 }, (_, i) => (i % 4 === 3 ? 0 : 200)),
};
const texture = (table: InstanceTable, name: 'paintTexture' | 'placeTexture') =>
  (table as unknown as Record<typeof name, DataTexture>)[name].image as {
    data: Uint8Array;
    width: number;
    height: number;
  };

it('gives each instance the numbers of its matrix, over as many rows of the texture as it takes', () => {
  const { data, width, height } = texture(new InstanceTable(instances), 'placeTexture');
  expect([width, height]).toEqual([512 * 3, 2]);
  const first = 599 * 12;
  expect([...data.subarray(first, first + 4)]).toEqual([0, 1, 2, 3].map((n) => first + n));
});

it('shows each look; what is wholly clear of itself is still there, what is hidden is not', () => {
  const table = new InstanceTable(instances);
  const paint = (instance: number): number[] => [
    ...texture(table, 'paintTexture').data.subarray(instance * 4, instance * 4 + 4),
  ];
  expect(paint(599)).toEqual([200, 200, 200, 1]);
  table.setLook(599, 'hidden');
  expect(paint(599)).toEqual([0, 0, 0, 0]);
  table.setLook(599, 0x010203);
  expect(paint(599)).toEqual([1, 2, 3, 1]);
  table.setLook(599, 'selected');
  expect(paint(599)[3]).toBe(254);
  table.setLook(599, 'own');
  expect(paint(599)).toEqual([200, 200, 200, 1]);
  expect(paint(598)).toEqual([200, 200, 200, 1]);
});

it('makes a ghost of what is solid, and takes places anew', () => {
  const solid: Instances = {
    ...instances,
    colour: new Uint8Array(COUNT * 4).fill(255),
    matrix: instances.matrix.slice(),
  };
  const table = new InstanceTable(solid);
  table.setLook(0, 'ghost');
  const ghost = [...texture(table, 'paintTexture').data.subarray(0, 4)];
  expect(ghost[3]).toBeLessThan(60);
  expect(ghost[3]).toBeGreaterThan(0);
  solid.matrix[11] = 77;
  table.moved();
  expect(texture(table, 'placeTexture').data[11]).toBe(77);
});
