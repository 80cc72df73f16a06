import { degrees, PDFDocument, PDFName } from '@cantoo/pdf-lib';
import fc from 'fast-check';
import { getDocument } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { expect, it } from 'vitest';
import { annotationsOf, type MarkupToWrite } from './of-markup.ts';
import { fromPageSpace, placesOf, toPageSpace } from './page-space.ts';
import { openPdf, readAnnotations } from './read-pdf.ts';
import { annotate } from './write-pdf.ts';

async function page(turn: number, crop: [number, number, number, number], unit: number): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const one = pdf.addPage([600, 400]);
  one.setRotation(degrees(turn));
  one.setCropBox(...crop);
  one.node.set(PDFName.of('UserUnit'), pdf.context.obj(unit));
  return pdf.save();
}

it('a place is where pdf.js shows it: turned, cropped, with a unit of its own', async () => {
  const coordinate = fc.integer({ min: 0, max: 500 });
  for (const turn of [0, 90, 180, 270])
    for (const unit of [1, 2.5]) {
      const bytes = await page(turn, [50, 30, 400, 300], unit);
      const [place] = placesOf(await openPdf(bytes));
      const viewport = (
        await (await getDocument({ data: bytes.slice(), verbosity: 0 }).promise).getPage(1)
      ).getViewport({ scale: 1 });
      fc.assert(
        fc.property(coordinate, coordinate, (x, y) => {
          const [wantedX, wantedY] = viewport.convertToPdfPoint(x, y) as [number, number];
          const [px, py] = toPageSpace(place!, [x, y]);
          expect(px).toBeCloseTo(wantedX, 6);
          expect(py).toBeCloseTo(wantedY, 6);
          const back = fromPageSpace(place!, [px, py]);
          expect([Math.round(back[0]), Math.round(back[1])]).toEqual([x, y]);
        }),
        { numRuns: 20 },
      );
    }
});

const markup = (id: string, over: Partial<MarkupToWrite>): MarkupToWrite => ({
  id,
  page: 1,
  shape: {
    kind: 'rectangle',
    points: [
      [10, 20],
      [60, 80],
    ],
  },
  style: {},
  text: id,
  status: 'ask',
  author: 'Ann',
  createdAt: '2026-11-25T10:15:00.123Z',
  answers: [],
  ...over,
});

it('our markups are annotations where they belong, with their status', async () => {
  const bytes = await page(90, [0, 0, 600, 400], 1);
  const markups = [
    markup('ask', {}),
    markup('settled', { status: 'settled', shape: { kind: 'callout', target: [5, 5], box: [50, 50, 100, 40] } }),
    markup('area', {
      status: 'note',
      text: '5.00 m²',
      shape: {
        kind: 'area',
        points: [
          [0, 0],
          [50, 0],
          [50, 50],
        ],
      },
    }),
    markup('count', {
      shape: {
        kind: 'count',
        points: [
          [10, 10],
          [30, 30],
        ],
      },
    }),
    markup('mark', {
      shape: {
        kind: 'highlighter',
        points: [
          [10, 10],
          [90, 10],
        ],
      },
    }),
    markup('beyond', { page: 4 }),
  ];
  const marks = annotationsOf(markups, placesOf(await openPdf(bytes)));
  const { pdf, skipped } = await annotate(bytes, marks);
  expect(skipped).toEqual([]);
  const [found] = await readAnnotations(pdf);
  expect(found!.annotations.map(({ id, kind, status, colour }) => [id, kind, status, colour])).toEqual([
    ['ask', 'rectangle', 'ask', '#8f5e0b'],
    ['settled', 'callout', 'settled', '#14706a'],
    ['area', 'polygon', 'note', '#3f6188'],
    ['count', 'freehand', 'ask', '#8f5e0b'],
    ['mark', 'highlighter', 'ask', '#8f5e0b'],
  ]);
  // Turned a quarter: what is shown 10 to 60 across and 20 to 80 down is 20 to 80 and 10 to 60 on the page itself.
  expect(found!.annotations[0]!.box).toEqual([20, 10, 80, 60]);
});
