/** What is said of the elements of all open models: searched, filtered, grouped and summed beside the page. */
import { filterElements, type ElementFilter } from '@kindred/core/scene/element-filter';
import {
  ElementIndex,
  keyOf,
  type ColumnSummary,
  type PropertyKey,
  type Value,
} from '@kindred/core/scene/element-index';
import type { ElementTable } from '@kindred/core/scene/prepare-model';
import { decodeProperties } from '@kindred/core/scene/property-file';
import { groupElements, scheduleElements } from '@kindred/core/scene/schedule';
import { expose } from 'comlink';
import { elementNumber, rowOf, slotOf } from '../engine/element-numbers.ts';

/** Elements by their numbers in the scene. */
export interface Group {
  value: Value | null;
  elements: Float64Array;
}
export interface ScheduleLine {
  values: (Value | null)[];
  count: number;
  sums: (number | null)[];
  elements: Float64Array;
}
export interface ScheduleAsked {
  by: PropertyKey[];
  sum: PropertyKey[];
}

const indexes = new Map<number, ElementIndex>();

const facts = {
  /** False where the properties of a version are not there: then only what the table says can be asked. */
  async open(slot: number, table: ElementTable, address: string): Promise<boolean> {
    const response = await fetch(address);
    const properties = response.ok ? decodeProperties(await response.arrayBuffer()) : null;
    indexes.set(slot, new ElementIndex(table, properties));
    return response.ok;
  },
  /** What the code of the model says of all its elements. */
  describe(slot: number, parts: Record<string, string>): void {
    indexes.get(slot)?.describe(parts);
  },
  close(slot: number): void {
    indexes.delete(slot);
  },
  /** Properties of all models, those that most elements have first. */
  list(): ColumnSummary[] {
    const all = new Map<string, ColumnSummary>();
    for (const index of indexes.values())
      for (const column of index.list()) {
        const known = all.get(keyOf(column));
        if (!known) all.set(keyOf(column), column);
        else {
          known.rows += column.rows;
          known.distinct = Math.max(known.distinct, column.distinct);
          known.numeric &&= column.numeric;
        }
      }
    return [...all.values()].sort((a, b) => b.rows - a.rows);
  },
  search: (words: string): Float64Array => numbers((index) => index.search(words)),
  filter: (filter: ElementFilter): Float64Array => numbers((index) => filterElements(index, filter)),
  /** `elements`: all of them where none are named. */
  group(by: PropertyKey, elements?: Float64Array): Group[] {
    const groups = new Map<Value | null, Float64Array[]>();
    for (const [slot, index, rows] of within(elements))
      for (const { value, rows: members } of groupElements(index, by, rows))
        groups.set(value, [...(groups.get(value) ?? []), numbered(slot, members)]);
    return [...groups]
      .map(([value, parts]) => ({ value, elements: joined(parts) }))
      .sort((a, b) => Number(a.value === null) - Number(b.value === null) || b.elements.length - a.elements.length);
  },
  schedule(asked: ScheduleAsked, elements?: Float64Array): ScheduleLine[] {
    const lines = new Map<string, ScheduleLine & { parts: Float64Array[] }>();
    for (const [slot, index, rows] of within(elements))
      for (const { values, count, sums, rows: members } of scheduleElements(index, asked, rows)) {
        const key = JSON.stringify(values);
        const part = numbered(slot, members);
        const known = lines.get(key);
        if (!known) lines.set(key, { values, count, sums, elements: part, parts: [part] });
        else {
          known.count += count;
          known.parts.push(part);
          known.sums = known.sums.map((sum, i) =>
            sum === null && sums[i] === null ? null : (sum ?? 0) + (sums[i] ?? 0),
          );
        }
      }
    return [...lines.values()]
      .map(({ parts, ...line }) => ({ ...line, elements: joined(parts) }))
      .sort((a, b) => b.count - a.count);
  },
  /** What is said of elements under some properties, one line for each. */
  rows(keys: PropertyKey[], elements: Float64Array): (Value | null)[][] {
    const asked = new Map<number, Map<number, (Value | null)[]>>();
    for (const element of elements) {
      const slot = slotOf(element);
      if (!asked.has(slot)) asked.set(slot, new Map());
      asked.get(slot)!.set(
        rowOf(element),
        keys.map(() => null),
      );
    }
    for (const [slot, lines] of asked)
      keys.forEach((key, k) => {
        const column = indexes.get(slot)?.get(key);
        column?.rows.forEach((row, i) => {
          const line = lines.get(row);
          if (line) line[k] ??= column.values[column.of[i]!]!;
        });
      });
    return Array.from(elements, (element) => asked.get(slotOf(element))!.get(rowOf(element))!);
  },
  async bookOfElements(
    keys: (PropertyKey & { unit?: string | undefined })[],
    elements: Float64Array,
  ): Promise<ArrayBuffer> {
    const rows = this.rows(keys, elements);
    const said = keys.map((_, k) => rows.some((row) => row[k] !== null));
    const kept = <T>(list: readonly T[]): T[] => list.filter((_, k) => said[k]);
    const heads = keys.map(({ set, name, unit }) => `${set ? `${set} / ` : ''}${name}${unit ? ` (${unit})` : ''}`);
    return book('Elements', kept(heads), rows.map(kept));
  },
  async bookOfSchedule(asked: ScheduleAsked, units: readonly (string | undefined)[]): Promise<ArrayBuffer> {
    const sums = asked.sum.map(({ name }, i) => `${name}${units[i] ? ` (${units[i]})` : ''}`);
    const lines = this.schedule(asked).map(({ values, count, sums: said }) => [...values, count, ...said]);
    return book('Schedule', [...asked.by.map(({ name }) => name), 'Elements', ...sums], lines);
  },
};
export type FactsWorker = typeof facts;
expose(facts);

/** One sheet; the library comes when it is first needed. */
async function book(name: string, heads: readonly string[], rows: readonly (Value | null)[][]): Promise<ArrayBuffer> {
  const { default: ExcelJS } = await import('@protobi/exceljs');
  const workbook = new ExcelJS.Workbook();
  const sheet = workbook.addWorksheet(name, { views: [{ state: 'frozen', ySplit: 1 }] });
  sheet.addRow([...heads]).font = { bold: true };
  sheet.addRows(rows.map((row) => [...row]));
  sheet.columns.forEach((column) => (column.width = 22));
  return (await workbook.xlsx.writeBuffer()) as ArrayBuffer;
}

const numbered = (slot: number, rows: Uint32Array): Float64Array =>
  Float64Array.from(rows, (row) => elementNumber(slot, row));

function joined(parts: readonly Float64Array[]): Float64Array {
  const all = new Float64Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

const numbers = (rowsOf: (index: ElementIndex) => Uint32Array): Float64Array =>
  joined([...indexes].map(([slot, index]) => numbered(slot, rowsOf(index))));

/** Rows of each model, those of `elements` where they are named. */
function* within(elements?: Float64Array): Generator<[number, ElementIndex, Uint32Array]> {
  for (const [slot, index] of indexes)
    yield [
      slot,
      index,
      elements
        ? Uint32Array.from(
            elements.filter((element) => slotOf(element) === slot),
            rowOf,
          )
        : Uint32Array.from({ length: index.size }, (_, row) => row),
    ];
}
