/** Changes of a model as a workbook, row by row: elements, and every value that is another one. */
import type { ModelChange } from '@kindred/core/compare/list-model-changes';
import { counted } from '@kindred/words/sentence';
import { MODEL_CHANGE_WORDS, sayShapeChange } from '@kindred/words/model-changes';
import { sayValue } from '@kindred/words/property-values';
import { and, asc, eq, gt } from 'drizzle-orm';
import { PassThrough, type Readable } from 'node:stream';
import type { Db } from '../platform/database.ts';
import { workbookWriter } from '../platform/workbook.ts';
import { changedElements } from './schema.ts';

type Cell = string | number | null;
type Heads = readonly (readonly [head: string, width: number])[];
const AT_ONCE = 1000;
const HEADS = [
  ['No.', 7],
  ['Change', 12],
  ['Class', 22],
  ['Name', 40],
  ['Storey', 20],
  ['How', 50],
  ['Values', 12],
  ['GlobalId', 26],
  ['GlobalId before', 26],
] as const;
const VALUE_HEADS = [
  ['No.', 7],
  ['Name', 40],
  ['Set', 30],
  ['Property', 30],
  ['Before', 30],
  ['After', 30],
] as const;

export function modelWorkbook(db: Db, comparisonId: string, progress: (done: number) => Promise<void>): Readable {
  const out = new PassThrough();
  write(db, comparisonId, progress, out).catch((error: Error) => out.destroy(error));
  return out;
}

async function write(
  db: Db,
  comparisonId: string,
  progress: (done: number) => Promise<void>,
  stream: PassThrough,
): Promise<void> {
  const WorkbookWriter = await workbookWriter();
  const book = new WorkbookWriter({ stream, useStyles: true });
  const sheetOf = (name: string, heads: Heads) => {
    const sheet = book.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
    sheet.columns = heads.map(([header, width]) => ({ header, width }));
    sheet.getRow(1).font = { bold: true };
    return sheet;
  };
  const all = 2 * (await db.$count(changedElements, eq(changedElements.comparisonId, comparisonId)));
  let done = 0;
  // Sheet by sheet: what is written beside another one would wait in memory.
  const fill = async (name: string, heads: Heads, rowsFor: (change: ModelChange) => Cell[][]): Promise<void> => {
    const sheet = sheetOf(name, heads);
    for await (const { change } of rowsOf(db, comparisonId)) {
      for (const row of rowsFor(change)) sheet.addRow(row).commit();
      if (++done % AT_ONCE === 0) await progress(done / all);
    }
    sheet.commit();
  };
  await fill('Elements', HEADS, (change) => [elementRow(change)]);
  await fill('Values', VALUE_HEADS, valueRows);
  await book.commit();
}

const elementRow = (change: ModelChange): Cell[] => {
  const { number, kind, name, storey, properties, globalId, formerId } = change;
  const values = properties.length ? counted(properties.length, 'value') : '';
  return [
    number,
    MODEL_CHANGE_WORDS[kind],
    change.class,
    name,
    storey,
    sayShapeChange(change),
    values,
    globalId,
    formerId,
  ];
};
const valueRows = ({ number, name, properties }: ModelChange): Cell[][] =>
  properties.map(({ set, name: property, before, after }) => [
    ...[number, name, set, property],
    ...[before, after].map((said) => (said ? sayValue(said) : '')),
  ]);

async function* rowsOf(db: Db, comparisonId: string) {
  for (let last = 0; ;) {
    const rows = await db
      .select()
      .from(changedElements)
      .where(and(eq(changedElements.comparisonId, comparisonId), gt(changedElements.number, last)))
      .orderBy(asc(changedElements.number))
      .limit(AT_ONCE);
    yield* rows;
    if (rows.length < AT_ONCE) return;
    last = rows.at(-1)!.number;
  }
}
