import { countChanges } from '@kindred/core/compare/change-counts';
import { compareScans } from '@kindred/core/compare/compare-scans';
import { compareSheets, isScan, type SheetChange, type SheetComparison } from '@kindred/core/compare/compare-sheets';
import { matchPages, sheetOfSet, type SheetOfSet } from '@kindred/core/compare/match-pages';
import type { TablePart } from '@kindred/core/compare/tables';
import { apply, inverse, multiply, type Matrix } from '@kindred/core/drawing/vectors/matrix';
import { counted } from '@kindred/words/sentence';
import { sayChange, sayNotCompared } from '@kindred/words/sheet-changes';
import fs from 'node:fs/promises';
import path from 'node:path';
import type { PDFDocumentProxy } from 'pdfjs-dist/legacy/build/pdf.mjs';
import { drawOverlay } from './overlay.ts';
import { scannedPage } from './scanned-page.ts';
import { openPdf, readSheetTexts, readSheetVectors } from './pdf-sheets.ts';

type Box = [number, number, number, number];
interface Listed {
  kind: SheetChange['kind'];
  /** Points of the page's own space, origin lower left; of what was removed on the page before. */
  box: Box;
  shift?: [number, number];
  /** Degrees against the clock. */
  turn?: number;
  mirrored?: true;
  before?: string;
  after?: string;
  picture?: boolean;
  /** What of a table came or went. */
  part?: TablePart;
  /** How it was drawn and is drawn now; weights in points. */
  look?: SheetChange['look'];
}

export async function listSheetChanges(beforeFile: string, afterFile: string, overlay: string | undefined) {
  const [before, after] = [await openPdf(beforeFile), await openPdf(afterFile)];
  const pairs = matchPages(await sheetsOf(before), await sheetsOf(after));
  const pages = [];
  const pictures: Buffer[] = [];
  for (const pair of pairs) {
    const named = { before: nameOf(pair.before), after: nameOf(pair.after) };
    if (!pair.before || !pair.after) {
      pages.push({ ...named, transform: null, changes: [], looks: [], routine: [] });
      continue;
    }
    const [was, is] = [
      await readSheetVectors(before, pair.before.page),
      await readSheetVectors(after, pair.after.page),
    ];
    const drawn = [
      { pdf: before, page: pair.before.page },
      { pdf: after, page: pair.after.page },
    ] as const;
    const found =
      isScan(was.vectors) || isScan(is.vectors)
        ? await compareScans(await scannedPage(drawn[0]), await scannedPage(drawn[1]))
        : compareSheets(was.vectors, is.vectors);
    const changes = pair.split ? found.changes.filter(({ kind }) => kind !== 'removed') : found.changes;
    pages.push({
      ...named,
      ...(pair.split && { split: true }),
      ...listed({ ...found, changes }, was.view, is.view),
    });
    if (overlay) pictures.push(await drawOverlay(...drawn, found));
  }
  const { dir, name, ext } = path.parse(overlay ?? '');
  for (const [i, picture] of pictures.entries())
    await fs.writeFile(i ? path.join(dir, `${name}-${i + 1}${ext}`) : overlay!, picture);
  const all = pages.flatMap(({ changes }) => changes);
  const { look: _, ...summary } = countChanges(all);
  void _;
  return { data: { pages, summary }, text: pages.map(sayPage).join('\n'), findings: all.length };
}

async function sheetsOf(pdf: PDFDocumentProxy): Promise<SheetOfSet[]> {
  const sheets: SheetOfSet[] = [];
  for await (const { page, text } of readSheetTexts(pdf)) sheets.push(sheetOfSet(page, text));
  return sheets;
}
const nameOf = (sheet: SheetOfSet | undefined) =>
  sheet ? { page: sheet.page, number: sheet.number || null, title: sheet.title || null } : null;

/** A comparison in the points of the pages' own spaces, their rotation undone. */
function listed({ similarity, unlike, pictures, unread, changes }: SheetComparison, before: Matrix, after: Matrix) {
  const [toBefore, toAfter] = [inverse(before)!, inverse(after)!];
  const said = changes.map((change): Listed & { routine?: boolean } => {
    const { kind, box, shift, turn, mirrored, part, look, picture, routine, before: was, after: is } = change;
    const own = kind === 'removed' ? toBefore : toAfter;
    return {
      kind,
      box: boxIn(own, box),
      ...(shift && { shift: shiftIn(own, shift) }),
      ...(turn && { turn: rounded((-turn * 180) / Math.PI) }),
      ...(mirrored && { mirrored }),
      ...(was !== undefined && { before: was }),
      ...(is !== undefined && { after: is }),
      ...(part && { part }),
      ...(picture && { picture }),
      ...(look && { look }),
      ...(routine && { routine }),
    };
  });
  const note = unlike ? NOTHING_IN_COMMON : sayNotCompared({ pictures, unread });
  return {
    transform: multiply(toAfter, multiply(similarity.matrix, before)).map((value) => Number(value.toFixed(9))),
    ...(note && { note }),
    changes: said.filter(({ kind, routine }) => !routine && kind !== 'look'),
    looks: said.filter(({ kind }) => kind === 'look'),
    routine: said.filter(({ routine }) => routine).map(({ routine: _, ...change }) => (void _, change)),
  };
}
const rounded = (value: number): number => Math.round(value * 1000) / 1000;
function boxIn(map: Matrix, [x0, y0, x1, y1]: SheetChange['box']): Box {
  const corners = [apply(map, x0, y0), apply(map, x1, y1)] as const;
  const [[ax, ay], [bx, by]] = corners;
  return [Math.min(ax, bx), Math.min(ay, by), Math.max(ax, bx), Math.max(ay, by)].map(rounded) as Box;
}
const shiftIn = ([a, b, c, d]: Matrix, [x, y]: readonly [number, number]): [number, number] => [
  rounded(a * x + c * y),
  rounded(b * x + d * y),
];

const NOTHING_IN_COMMON = 'The two pages have nothing in common.';
type Page = {
  before: ReturnType<typeof nameOf>;
  after: ReturnType<typeof nameOf>;
  note?: string;
  changes: Listed[];
  looks: Listed[];
  routine: Listed[];
};
function sayPage({ before, after, note, changes, looks, routine }: Page): string {
  const sheet = after ?? before!;
  const title = [sheet.number, sheet.title].filter(Boolean).join(' ') || `Page ${sheet.page}`;
  if (!before || !after) return `${title}: ${after ? 'a new sheet' : 'not there any more'}`;
  if (note === NOTHING_IN_COMMON) return `${title}: ${note}`;
  const said = [
    changes.length ? counted(changes.length, 'change') : 'nothing changed',
    looks.length && `${counted(looks.length, 'thing')} drawn in another way`,
    routine.length && `${counted(routine.length, 'field')} that each issue changes`,
  ].filter(Boolean);
  const head = `${title}: ${said.join(', besides ')}`;
  return [
    note ? `${head}. ${note}` : head,
    ...[...changes, ...looks].map(({ turn = 0, ...change }) => {
      const place = change.box.map((value) => Math.round(value)).join(', ');
      return `  ${sayChange({ ...change, turn: (turn * Math.PI) / 180 })} at ${place}`;
    }),
  ].join('\n');
}
