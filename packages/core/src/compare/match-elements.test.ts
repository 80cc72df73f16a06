import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { ElementTable } from '../scene/prepare-model.ts';
import { matchElements, type ElementPlace } from './match-elements.ts';

interface Element {
  id: string;
  name?: string;
  class?: string;
  type?: string;
  tag?: string;
  x?: number;
  area?: number;
}
function side(elements: readonly Element[]): { table: ElementTable; place: (row: number) => ElementPlace } {
  const classes = [...new Set(elements.map((one) => one.class ?? 'IfcWall'))];
  const types = [...new Set(elements.map((one) => one.type ?? 'T'))];
  return {
    table: {
      ...{ classes, types, nodes: [] },
      globalId: elements.map(({ id }) => id),
      name: elements.map(({ name }) => name ?? ''),
      class: elements.map((one) => classes.indexOf(one.class ?? 'IfcWall')),
      type: elements.map((one) => types.indexOf(one.type ?? 'T')),
      node: elements.map(() => -1),
      tag: elements.map(({ tag }) => tag ?? ''),
    } as unknown as ElementTable,
    place: (row) => ({ middle: [elements[row]!.x ?? row * 10, 0, 0], area: elements[row]!.area ?? 6 }),
  };
}
function match(before: readonly Element[], after: readonly Element[]) {
  const [a, b] = [side(before), side(after)];
  const { pairs, removed, added } = matchElements(a.table, b.table, a.place, b.place);
  return {
    pairs: pairs.map(
      ({ before: one, after: other, renamed }) => `${before[one]!.id}>${after[other]!.id}${renamed ? '*' : ''}`,
    ),
    removed: removed.map((row) => before[row]!.id),
    added: added.map((row) => after[row]!.id),
  };
}
const kept = (count: number): Element[] => Array.from({ length: count }, (_, i) => ({ id: `k${i}`, x: 1000 + i }));

describe('elements of two versions', () => {
  it('are one by their GlobalId, whatever else changed', () => {
    expect(match([{ id: 'a', name: 'Wall' }], [{ id: 'a', name: 'Door', class: 'IfcDoor', x: 500 }])).toEqual({
      ...{ pairs: ['a>a'], removed: [], added: [] },
    });
  });

  it('with one GlobalId twice are paired one by one', () => {
    expect(match([{ id: 'a' }, { id: 'a' }], [{ id: 'a' }, { id: 'a' }, { id: 'a' }])).toEqual({
      ...{ pairs: ['a>a', 'a>a'], removed: [], added: ['a'] },
    });
  });

  it('under new GlobalIds are what stands where they stood, then what has their tag or their name alone', () => {
    const before = [
      ...kept(9),
      { id: 'a', name: 'W', x: 0 },
      { id: 'b', tag: '77', x: 50 },
      { id: 'c', name: 'Core', x: 90 },
    ];
    const after = [
      ...kept(9),
      { id: 'x', name: 'W', x: 0.001 },
      { id: 'y', tag: '77', x: 53 },
      { id: 'z', name: 'Core', x: 99 },
    ];
    expect(match(before, after).pairs.slice(9)).toEqual(['a>x*', 'b>y*', 'c>z*']);
  });

  it('are not taken for each other only because they are of one kind, while most GlobalIds are kept', () => {
    const [before, after] = [
      [...kept(9), { id: 'a', x: 0 }],
      [...kept(9), { id: 'x', x: 1 }],
    ];
    expect(match(before, after)).toMatchObject({ removed: ['a'], added: ['x'] });
    // Where all are new, the nearest of a kind is it.
    expect(
      match(
        [
          { id: 'a', x: 0 },
          { id: 'b', x: 9 },
        ],
        [
          { id: 'x', x: 9.5 },
          { id: 'y', x: 1 },
        ],
      ).pairs,
    ).toEqual(['b>x*', 'a>y*']);
  });

  it('of another schema are what has their name and stands where they stood', () => {
    expect(
      match(
        [{ id: 'a', name: 'Duct 4', class: 'IfcFlowSegment' }],
        [{ id: 'b', name: 'Duct 4', class: 'IfcDuctSegment' }],
      ).pairs,
    ).toEqual(['a>b*']);
  });

  it('are each in one place: paired, removed or added', () => {
    const element = fc.record({
      id: fc.constantFrom('a', 'b', 'c', 'd', 'e', 'f'),
      name: fc.constantFrom('', 'W', 'V'),
      tag: fc.constantFrom('', '1', '2'),
      x: fc.integer({ min: 0, max: 6 }),
    });
    fc.assert(
      fc.property(fc.array(element, { maxLength: 12 }), fc.array(element, { maxLength: 12 }), (before, after) => {
        const [a, b] = [side(before), side(after)];
        const { pairs, removed, added } = matchElements(a.table, b.table, a.place, b.place);
        const rows = (count: number) => Array.from({ length: count }, (_, row) => row);
        const sorted = (all: number[]) => all.sort((p, q) => p - q);
        expect(sorted([...pairs.map((pair) => pair.before), ...removed])).toEqual(rows(before.length));
        expect(sorted([...pairs.map((pair) => pair.after), ...added])).toEqual(rows(after.length));
      }),
    );
  });
});
