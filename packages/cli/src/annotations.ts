/** Markups of PDFs: read, and written. */
import { annotate, type Annotated } from '@kindred/core/markup/annotations/write-pdf';
import { looseOf, openPdf, readAnnotations } from '@kindred/core/markup/annotations/read-pdf';
import { readXfdf, writeXfdf, type ReadXfdf } from '@kindred/core/markup/annotations/xfdf';
import { decodeText } from '@kindred/core/platform/decode-text';
import { counted } from '@kindred/words/sentence';
import fs from 'node:fs/promises';
import { UsageError } from './problem.ts';
import { writeWhole } from './write-whole.ts';

/** The markups of a PDF; with `--xfdf OUT` they are written as XFDF too. */
export async function listAnnotations(file: string, xfdf: string | undefined) {
  const bytes = await fs.readFile(file);
  const pages = (await readAnnotations(bytes)).map(({ page, annotations }) => ({
    page,
    annotations: annotations.map(({ points: _points, width: _width, opacity: _opacity, fill: _fill, ...shown }) => {
      void [_points, _width, _opacity, _fill];
      return shown;
    }),
  }));
  if (xfdf) await writeWhole(xfdf, writeXfdf(looseOf(await openPdf(bytes)).map(({ loose }) => loose)));
  const text = pages
    .flatMap(({ page, annotations }) =>
      annotations.map(
        ({ kind, author, contents, status, replies }) =>
          `${page}: ${kind}${status ? ` (${status})` : ''} by ${author || 'somebody'}: ${contents.split('\n')[0] || 'no words'}${replies.length ? `, ${counted(replies.length, 'answer')}` : ''}`,
      ),
    )
    .join('\n');
  return { data: { pages }, text: text || 'No markups.' };
}

const REASONS: Record<(Annotated['skipped'] | ReadXfdf['skipped'])[number]['reason'], string> = {
  'no-such-page': 'The PDF has no such page.',
  'unknown-parent': 'It answers a markup that is neither in the PDF nor in the XFDF file.',
  'unknown-kind': 'This kind of annotation is no markup that can be written.',
  'no-place': 'It names no page, or no place on it.',
};

export async function writeAnnotations(file: string, xfdf: string, out: string | undefined, flatten: boolean) {
  if (!out) throw new UsageError('--out is missing', 'Say where the new PDF goes: --out OUT.pdf');
  const { marks, skipped } = readXfdf(decodeText(await fs.readFile(xfdf)).text);
  const { pdf, ...counts } = await annotate(await fs.readFile(file), marks, flatten);
  await writeWhole(out, pdf);
  const said = [...skipped, ...counts.skipped].map(({ id, reason }) => ({ id, reason: REASONS[reason] }));
  const { added, updated, unchanged } = counts;
  return {
    data: { added, updated, unchanged, skipped: said },
    text: [
      `${added} added, ${updated} updated, ${unchanged} unchanged, ${said.length} skipped`,
      ...said.map(({ id, reason }) => `  ${id}: ${reason}`),
    ].join('\n'),
    findings: said.length,
  };
}
