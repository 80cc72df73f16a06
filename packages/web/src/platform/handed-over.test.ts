import { expect, it } from 'vitest';
import { handOver, takeHandedOver } from './handed-over.ts';

it('a list of any length comes as it went, again after a reload, and beside others', () => {
  const ids = Array.from({ length: 1000 }, () => crypto.randomUUID());
  const [name, other] = [handOver(ids), handOver(['x'])];
  expect(takeHandedOver(name)).toEqual(ids);
  expect(takeHandedOver(name)).toEqual(ids);
  expect(takeHandedOver(other)).toEqual(['x']);
  expect(takeHandedOver('unknown')).toEqual([]);
  expect(takeHandedOver('')).toEqual([]);
});
