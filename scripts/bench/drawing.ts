/** What a sheet draws, read and looked up: against pdf.js reading its operators, against the PDF itself, against a pointer's patience. */
import { PDFDocument, StandardFonts } from '@cantoo/pdf-lib';
import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import { readVectors } from '@kindred/core/drawing/vectors/read-vectors';
import { Snapper, snapParts } from '@kindred/core/drawing/vectors/snap';
import { encodePage } from '@kindred/core/drawing/vectors/vectors-file';
import { createRequire } from 'node:module';
import path from 'node:path';
import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { ratio, report, timed } from './measure.ts';
import { seeded } from './seeded.ts';

const LINES = 200_000;
const [WIDTH, HEIGHT] = [3370, 2384];
const PDFJS = path.dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));

/** A plan as drawing programs write it: short lines near to each other, some in chains, some as curves, with words. */
async function plan(): Promise<Uint8Array> {
  const random = seeded(7);
  const pdf = await PDFDocument.create();
  const font = await pdf.embedFont(StandardFonts.Helvetica);
  const page = pdf.addPage([WIDTH, HEIGHT]);
  const number = (value: number): string => value.toFixed(2);
  const parts: string[] = [];
  for (let drawn = 0; drawn < LINES;) {
    const [x, y] = [random() * WIDTH, random() * HEIGHT];
    const chain = 1 + Math.floor(random() * 6);
    parts.push(`${number(random() * 2)} w ${number(x)} ${number(y)} m`);
    for (let i = 0; i < chain; i++, drawn++) parts.push(`${number(x + random() * 60)} ${number(y + random() * 60)} l`);
    parts.push('S');
  }
  page.node.addContentStream(pdf.context.register(pdf.context.flateStream(parts.join('\n'))));
  for (let i = 0; i < 2000; i++)
    page.drawText(`Room ${i}`, { x: random() * WIDTH, y: random() * HEIGHT, font, size: 6 });
  return pdf.save();
}

const bytes = await plan();
const open = async () => (await getDocument({ data: bytes.slice(), ...pdfOptions(PDFJS) }).promise).getPage(1);
const read = async () => {
  const page = await open();
  const { items } = await page.getTextContent();
  return readVectors(page, OPS as unknown as Record<string, number>, items);
};
report(
  `reading lines and words of a sheet of ${LINES} lines, ms, against pdf.js reading its operators and words`,
  await ratio(
    () => timed(read),
    () =>
      timed(async () => {
        const page = await open();
        await page.getTextContent();
        await page.getOperatorList({ annotationMode: 0 });
      }),
    5,
  ),
  { atMost: 1.3 },
);

const vectors = await read();
const packed = await encodePage(vectors);
report(
  'what is kept of it, kB, against the PDF',
  { ours: packed.length / 1000, baseline: bytes.length / 1000, ratio: packed.length / bytes.length },
  { atMost: 0.5 },
);

const snapper = new Snapper(snapParts(vectors));
const random = seeded(11);
const times: number[] = [];
for (let i = 0; i < 2000; i++) {
  const [x, y] = [random() * WIDTH, random() * HEIGHT];
  times.push(await timed(() => snapper.find(x, y, 8, [x - 40, y - 30])));
}
const slowest = times.sort((a, b) => a - b)[Math.floor(times.length * 0.95)]!;
report(
  `the place that catches the pointer among ${LINES} lines, ms, 95 of 100, against 2 ms`,
  { ours: slowest, baseline: 2, ratio: slowest / 2 },
  { atMost: 1 },
);
