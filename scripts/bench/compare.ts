/** Sheets compared: against pdf.js drawing both, as they grow, and how right the answers are. */
import { PDFDocument } from '@cantoo/pdf-lib';
import { compareSheets } from '@kindred/core/compare/compare-sheets';
import { pdfOptions } from '@kindred/core/drawing/pdf-options';
import { readVectors } from '@kindred/core/drawing/vectors/read-vectors';
import { createCanvas } from '@napi-rs/canvas';
import { createRequire } from 'node:module';
import path from 'node:path';
import { getDocument, OPS } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { ratio, report, timed } from './measure.ts';
import { seeded } from './seeded.ts';
import { comparePairs } from './sheet-pairs.ts';

const [WIDTH, HEIGHT] = [2384, 1684];
const PDFJS = path.dirname(createRequire(import.meta.url).resolve('pdfjs-dist/package.json'));

/** Things of eight lines, as plans have them, in a grid over the page; each tenth of them is moved a little where `changed`. */
async function plan(lines: number, changed: boolean): Promise<Uint8Array> {
  const random = seeded(5);
  const pdf = await PDFDocument.create();
  const page = pdf.addPage([WIDTH, HEIGHT]);
  const things = Math.round(lines / 8);
  const columns = Math.ceil(Math.sqrt((things * WIDTH) / HEIGHT));
  const side = WIDTH / columns;
  const parts: string[] = ['0.3 w'];
  const at = (value: number): string => value.toFixed(2);
  for (let i = 0; i < things; i++) {
    const away = changed && i % 500 === 3 ? 1.8 : 0;
    const x = (i % columns) * side + side * 0.1 + away;
    const y = Math.floor(i / columns) * side + side * 0.1;
    const [w, h] = [side * (0.3 + 0.4 * random()), side * (0.3 + 0.4 * random())];
    parts.push(`${at(x)} ${at(y)} ${at(w)} ${at(h)} re S`);
    for (let k = 0; k < 4; k++)
      parts.push(
        `${at(x + w * random())} ${at(y + h * random())} m ${at(x + w * random())} ${at(y + h * random())} l S`,
      );
  }
  page.node.addContentStream(pdf.context.register(pdf.context.flateStream(parts.join('\n'))));
  return pdf.save();
}

const open = async (bytes: Uint8Array) =>
  (await getDocument({ data: bytes.slice(), ...pdfOptions(PDFJS) }).promise).getPage(1);
const read = async (bytes: Uint8Array) => readVectors(await open(bytes), OPS as unknown as Record<string, number>, []);
async function draw(bytes: Uint8Array): Promise<void> {
  const page = await open(bytes);
  const viewport = page.getViewport({ scale: 150 / 72 });
  const canvas = createCanvas(Math.round(viewport.width), Math.round(viewport.height));
  await page.render({ canvas: canvas as never, canvasContext: canvas.getContext('2d') as never, viewport }).promise;
}

const pages = [await plan(20_000, false), await plan(20_000, true)] as const;
const [before, after] = [await read(pages[0]), await read(pages[1])];
report(
  'comparing two A1 sheets of 20,000 lines, ms, against pdf.js drawing both at 150 dpi',
  await ratio(
    () => timed(() => Promise.resolve(compareSheets(before, after))),
    () =>
      timed(async () => {
        await draw(pages[0]);
        await draw(pages[1]);
      }),
    5,
  ),
  { atMost: 1 },
);

const large = [await read(await plan(200_000, false)), await read(await plan(200_000, true))] as const;
const growth = await ratio(
  () => timed(() => Promise.resolve(compareSheets(...large))),
  () => timed(() => Promise.resolve(compareSheets(before, after))),
  3,
);
const power = Math.log10(growth.ratio);
report(
  'power by which the time grows from 20,000 to 200,000 lines, against 1.2',
  { ours: power, baseline: 1.2, ratio: power / 1.2 },
  { atMost: 1 },
);

const { all, byKind, worst, wrong } = comparePairs(300);
for (const [kind, { right, missed, invented }] of byKind)
  console.log(`         ${kind.padEnd(10)} ${right} found, ${missed} missed, ${invented} invented`);
for (const line of wrong.slice(0, 5)) console.log(`         ${line}`);
report(
  'changes invented in 300 pairs, against those found',
  { ours: all.invented, baseline: all.right, ratio: all.invented / all.right },
  { atMost: 0 },
);
report(
  'changes missed in 300 pairs, against all',
  { ours: all.missed, baseline: all.right + all.missed, ratio: all.missed / (all.right + all.missed) },
  { atMost: 0.01 },
);
report(
  'the largest error of a shift, mm, against 0.05 mm',
  { ours: worst, baseline: 0.05, ratio: worst / 0.05 },
  { atMost: 1 },
);
