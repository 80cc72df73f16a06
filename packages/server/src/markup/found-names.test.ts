import type { AnnotatedMark } from '@kindred/core/markup/annotations/compare';
import { expect, it } from 'vitest';
import { withNames } from './found-names.ts';

const mark = (over: Partial<AnnotatedMark>): AnnotatedMark =>
  ({
    ...{ id: 'object-1/0', page: 1, kind: 'rectangle', author: 'Tom', created: null, contents: 'Wider', replies: [] },
    ...{ box: [0, 0, 10, 10], points: [], ...over },
  }) as unknown as AnnotatedMark;
const names = (...marks: AnnotatedMark[]) => withNames(marks).map(({ id }) => id);

it('what has no name is known by what it is, wherever it stands in its file', () => {
  expect(names(mark({}))).toEqual(names(mark({ id: 'object-1/7' })));
  expect(names(mark({}))).not.toEqual(names(mark({ contents: 'Another file' })));
});

it('a name of its own stays; two of one name, or two that are alike, are told apart', () => {
  expect(names(mark({ id: 'nm' }), mark({ id: 'nm' }))).toEqual(['nm', 'nm/2']);
  const [one, two] = names(mark({}), mark({ id: 'object-1/1' }));
  expect(two).toBe(`${one}/2`);
  expect(names(mark({ id: 'x'.repeat(5000) }))[0]!.length).toBeLessThan(60);
});

it('answers without a name are told apart by what they say', () => {
  const reply = (contents: string) => ({ id: 'object-1/3', author: 'Tom', modified: null, contents, status: null });
  const [first] = withNames([mark({ replies: [reply('Yes')] })]);
  const [other] = withNames([mark({ replies: [reply('No')] })]);
  expect(first!.replies[0]!.id).not.toBe(other!.replies[0]!.id);
});
