import fc from 'fast-check';
import { expect, it } from 'vitest';
import { learnLayout, readByLayout } from './taught-layout.ts';
import type { TitleBlock } from './title-block.ts';
import type { VectorText } from './vectors/sheet-vectors.ts';

const run = (text: string, x: number, y: number, size = 10): VectorText => ({
  text,
  x,
  y,
  size,
  width: text.length * size * 0.5,
  angle: 0,
});
/** A block without labels that a reader could know: only its places tell. */
const block = (
  over: Partial<Record<'number' | 'title' | 'revision', string>> = {},
  width = 842,
  height = 595,
): VectorText[] => {
  const { number = '4711-B', title = 'Plattform Nord', revision = 'C' } = over;
  return [
    run('Ingenieure am Deich', width - 300, height - 90),
    run('Werk 3', width - 300, height - 70),
    run('gepr.', width - 120, height - 70, 6),
    run('Los', width - 120, height - 50, 6),
    ...(title ? [run(title, width - 300, height - 50)] : []),
    ...(number ? [run(number, width - 300, height - 30, 12)] : []),
    ...(revision ? [run(revision, width - 60, height - 30)] : []),
    run('Schnitt A', 100, 100, 14),
  ];
};
const taught = (over: Partial<TitleBlock> = {}): TitleBlock => ({
  ...{ number: '4711-B', title: 'Plattform Nord', revision: 'C', status: '', scale: '', date: '' },
  ...over,
});

it('what was corrected once is read so from then on, also on paper of another size', () => {
  const layout = learnLayout(block(), [842, 595], taught())!;
  const words = fc.stringMatching(/^[A-Za-z0-9]{1,4}(?: [A-Za-z0-9]{1,6})?$/);
  fc.assert(
    fc.property(words, words, fc.constantFrom([842, 595], [1191, 842], [2384, 1684]), (number, title, size) => {
      const [width, height] = size as [number, number];
      expect(readByLayout(block({ number, title }, width, height), [width, height], [layout])).toEqual({
        number,
        title,
        revision: 'C',
      });
    }),
  );
});

it('an empty cell stays empty', () => {
  const layout = learnLayout(block(), [842, 595], taught())!;
  expect(readByLayout(block({ revision: '' }), [842, 595], [layout])).toMatchObject({ revision: '', number: '4711-B' });
});

it('a block of somebody else is not read so', () => {
  const layout = learnLayout(block(), [842, 595], taught())!;
  const other = block().map((one) => ({ ...one, x: one.x - 40 }));
  expect(readByLayout(other, [842, 595], [layout])).toBeUndefined();
  expect(readByLayout([run('Plan', 10, 10)], [842, 595], [layout])).toBeUndefined();
});

it('nothing is learnt where no value stands on the page, or nothing around it', () => {
  expect(learnLayout(block(), [842, 595], taught({ number: 'X', title: 'Y', revision: 'Z' }))).toBeUndefined();
  expect(learnLayout([run('4711-B', 500, 500)], [842, 595], taught())).toBeUndefined();
});

it('words that were written in pieces are one', () => {
  const pieces = block().flatMap((one) =>
    one.text === 'Plattform Nord'
      ? [run('Platt', one.x, one.y), run('form', one.x + 25.2, one.y), run('Nord', one.x + 50, one.y)]
      : [one],
  );
  expect(learnLayout(pieces, [842, 595], taught())!.fields.title).toBeDefined();
});
