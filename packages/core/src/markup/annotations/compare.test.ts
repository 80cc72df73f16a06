import { PDFDocument } from '@cantoo/pdf-lib';
import fc from 'fast-check';
import { expect, it } from 'vitest';
import { MARKUP_STATUSES } from '../shapes.ts';
import type { Annotation } from './annotation.ts';
import { compareMarks, type KnownMarkup } from './compare.ts';
import { annotationsOf, type MarkupToWrite } from './of-markup.ts';
import { placesOf, type PagePlace } from './page-space.ts';
import { openPdf, readAnnotations } from './read-pdf.ts';
import { annotate } from './write-pdf.ts';

const ours = (over: Partial<MarkupToWrite> = {}): MarkupToWrite => ({
  ...{
    id: 'm',
    page: 1,
    shape: {
      kind: 'cloud',
      points: [
        [100, 100],
        [200, 160],
      ],
    },
    style: {},
    text: 'Widen the door',
    status: 'act',
  },
  ...{
    author: 'Ann',
    createdAt: '2026-11-25T10:15:00Z',
    answers: [{ id: 'a1', author: 'Bo', text: 'Which one?', at: '2026-11-25T11:00:00Z' }],
  },
  ...over,
});
const known = (now: MarkupToWrite, earlier: MarkupToWrite[] = []): Map<string, KnownMarkup> =>
  new Map([['m', { now, earlier, answers: new Set(['a1']) }]]);
const ids = new Map([['m', 'm']]);

async function away(
  markups: MarkupToWrite[],
): Promise<{ marks: (Annotation & { page: number })[]; places: PagePlace[] }> {
  const pdf = await PDFDocument.create();
  pdf.addPage([600, 400]);
  const bytes = await pdf.save();
  const places = placesOf(await openPdf(bytes));
  const written = await annotate(bytes, annotationsOf(markups, places));
  const marks = (await readAnnotations(written.pdf)).flatMap(({ page, annotations }) =>
    annotations.map((one) => ({ page, ...one })),
  );
  return { marks, places };
}

it('what comes back as it went says nothing new, whatever it was', async () => {
  await fc.assert(
    fc.asyncProperty(
      fc.constantFrom(...MARKUP_STATUSES),
      fc.string({ minLength: 1, maxLength: 30 }).filter((text) => !/[\p{C}\p{Z}]/u.test(text)),
      async (status, text) => {
        const now = ours({ status, text });
        const { marks, places } = await away([now]);
        expect(compareMarks(marks, known(now), ids, places)).toMatchObject([
          { found: 'same', known: 'm', answers: [] },
        ]);
      },
    ),
    { numRuns: 30 },
  );
});

it('an answer, a status, other words, another place', async () => {
  const now = ours();
  const { marks, places } = await away([now]);
  const [mark] = marks;
  const compared = (over: Partial<Annotation>) => compareMarks([{ ...mark!, ...over }], known(now), ids, places)[0]!;
  const reply = { id: 'r9', author: 'Cy', modified: null, contents: 'Done', status: 'settled' as const };
  expect(compared({ status: 'settled', replies: [...mark!.replies, reply] })).toMatchObject({
    found: 'answered',
    parts: ['status'],
    answers: [{ id: 'r9' }],
  });
  expect(compared({ contents: 'Widen the door to 1,010' })).toMatchObject({ found: 'changed', parts: ['text'] });
  const shifted = mark!.points.map((row) => row.map((value) => value + 5));
  expect(compared({ points: shifted, box: mark!.box.map((value) => value + 5) as Annotation['box'] })).toMatchObject({
    found: 'changed',
    parts: ['shape'],
  });
  expect(compared({ points: mark!.points.map((row) => row.map((value) => value + 0.3)) })).toMatchObject({
    found: 'same',
  });
  expect(compareMarks([{ ...mark!, id: 'theirs' }], known(now), ids, places)).toMatchObject([
    { found: 'new', known: undefined },
  ]);
});

it('where both sides changed, somebody has to choose; where only we did, ours stays', async () => {
  const was = ours();
  const now = ours({ text: 'Widen the door to 1.0 m', status: 'ask' });
  const { marks, places } = await away([was]);
  const [mark] = marks;
  expect(compareMarks([mark!], known(now, [was]), ids, places)).toMatchObject([{ found: 'same' }]);
  expect(compareMarks([{ ...mark!, contents: 'No' }], known(now, [was]), ids, places)).toMatchObject([
    { found: 'conflict', parts: ['text'], conflicts: ['text'] },
  ]);
});
