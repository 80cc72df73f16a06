import fc from 'fast-check';
import { expect, it } from 'vitest';
import { jsonBounds } from './json-bounds.ts';

const boundsOf = (text: string) => jsonBounds(new TextEncoder().encode(text));
const depthOf = (value: unknown): number =>
  typeof value === 'object' && value !== null ? 1 + Math.max(0, ...Object.values(value).map(depthOf)) : 0;
const partsOf = (value: unknown): number =>
  Array.isArray(value)
    ? value.reduce((sum: number, part) => sum + partsOf(part), 0)
    : typeof value === 'object' && value !== null
      ? Object.values(value).reduce((sum: number, part) => sum + 1 + partsOf(part), 0)
      : 1;

it('says how deep a text nests, and is never below how much it holds', () => {
  fc.assert(
    fc.property(fc.jsonValue(), (value) => {
      const { depth, parts } = boundsOf(JSON.stringify(value));
      expect(depth).toBe(depthOf(value));
      expect(parts).toBeGreaterThanOrEqual(partsOf(value));
    }),
  );
});

it('is not led astray by signs within texts', () => {
  expect(boundsOf('{"a[[[[\\"{":"},:,[\\\\"}')).toEqual({ depth: 1, parts: 2 });
});

it('takes any bytes', () => {
  fc.assert(fc.property(fc.uint8Array(), (bytes) => void jsonBounds(bytes)));
  expect(boundsOf('['.repeat(100_000)).depth).toBe(100_000);
});
