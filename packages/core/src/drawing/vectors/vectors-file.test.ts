import fc from 'fast-check';
import { expect, it } from 'vitest';
import { VectorColumns, type SheetVectors } from './sheet-vectors.ts';
import { decodePage, encodePage, HEAD_BYTES, joinPages, pageAt, pageCount, tableLength } from './vectors-file.ts';

function vectorsOf(chains: number[][]): SheetVectors {
  const columns = new VectorColumns();
  for (const [i, chain] of chains.entries()) {
    for (let k = 0; k < chain.length; k += 2) columns.add(chain[k]! / 100, chain[k + 1]! / 100);
    columns.circle(i, 2 * i, 3.25);
    columns.end(i % 2);
  }
  return {
    width: 841.89,
    height: 595.28,
    styles: [
      { kind: 'line', colour: '#102030', width: 0.5, dash: [3, 2], layer: '' },
      { kind: 'area', colour: 'pattern', width: 0, dash: [], layer: 'Grid' },
    ],
    texts: [{ text: 'Kit room ½ “A” 房', x: 10.25, y: 20.5, width: 40, size: 7.5, angle: -1.5708 }],
    pictures: [[100, 0, 0, -50, 10, 60]],
    ...columns.columns(),
  };
}

it('what was written is read again, to a hundredth of a point', async () => {
  const coordinate = fc.integer({ min: -3_000_000, max: 3_000_000 });
  const chain = fc
    .array(coordinate, { minLength: 4, maxLength: 40 })
    .map((values) => values.slice(0, values.length - (values.length % 2)));
  await fc.assert(
    fc.asyncProperty(fc.array(chain, { maxLength: 12 }), async (chains) => {
      const vectors = vectorsOf(chains);
      const read = await decodePage(await encodePage(vectors));
      expect({ ...read, points: [], circles: [...read.circles] }).toEqual({
        ...vectors,
        points: [],
        circles: [...vectors.circles],
      });
      for (const [i, value] of read.points.entries()) expect(Math.abs(value - vectors.points[i]!)).toBeLessThan(0.005);
    }),
  );
});

it('each page of a file is found by the table alone', async () => {
  const pages = await Promise.all(
    [[], [[0, 0, 100, 100]], [[5, 5, 9, 9, 1, 1]]].map((some) => encodePage(vectorsOf(some))),
  );
  const file = joinPages(pages);
  expect(pageCount(file.subarray(0, HEAD_BYTES))).toBe(3);
  const table = file.subarray(0, tableLength(3));
  for (const [i, page] of pages.entries()) {
    const [offset, length] = pageAt(table, i + 1);
    expect(file.subarray(offset, offset + length)).toEqual(page);
  }
  expect((await decodePage(file.subarray(...sliceOf(table, 2)))).styleOf).toHaveLength(1);
});
const sliceOf = (table: Uint8Array, page: number): [number, number] => {
  const [offset, length] = pageAt(table, page);
  return [offset, offset + length];
};

it('anything else is refused', () => {
  expect(() => pageCount(new Uint8Array(HEAD_BYTES))).toThrow('not-vectors');
  expect(() => pageCount(new Uint8Array(3))).toThrow('not-vectors');
});

it('a plan of straight lines takes less than half of what its text would', async () => {
  const chains = Array.from({ length: 5000 }, (_, i) => [
    (i % 70) * 1000,
    ((i / 70) | 0) * 900,
    (i % 70) * 1000 + 400,
    77,
  ]);
  const bytes = await encodePage(vectorsOf(chains));
  const text = chains.map((chain) => `${chain.map((value) => value / 100).join(' ')} m l S`).join('\n');
  expect(bytes.length).toBeLessThan(text.length / 2);
});
