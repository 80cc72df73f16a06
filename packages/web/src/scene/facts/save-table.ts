/** Tables of elements as a workbook, made here and kept by the browser. */
import { OF_ELEMENT, type PropertyKey } from '@kindred/core/scene/element-index';
import { csvLine } from '@kindred/core/platform/csv';
import { saveBlob } from '../../platform/files.ts';
import type { Facts } from './facts.ts';

const TYPE = 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet';

/** What is said of some elements, a line for each and a column for each property that any of them has. */
export async function saveSelection({ remote, columns }: Facts, elements: readonly number[]): Promise<void> {
  const keys = columns.value.map(({ set, name, unit }) => ({ set, name, unit }));
  const order = (key: PropertyKey): number => (key.set ? OF_ELEMENT.length : OF_ELEMENT.indexOf(key.name as never));
  keys.sort((a, b) => order(a) - order(b) || a.set.localeCompare(b.set) || a.name.localeCompare(b.name));
  const book = await remote.bookOfElements(keys, Float64Array.from(elements));
  saveBlob(new Blob([book], { type: TYPE }), 'Elements.xlsx');
}

export async function saveSchedule({ remote, columns }: Facts, by: PropertyKey[], sum: PropertyKey[]): Promise<void> {
  const unitOf = ({ set, name }: PropertyKey): string | undefined =>
    columns.value.find((one) => one.set === set && one.name === name)?.unit;
  const book = await remote.bookOfSchedule({ by, sum }, sum.map(unitOf));
  saveBlob(new Blob([book], { type: TYPE }), 'Schedule.xlsx');
}

/** What was measured: kind and value, a line each. */
export function saveMeasures(measures: readonly (readonly [kind: string, value: string])[]): void {
  const lines = [['Measure', 'Value'], ...measures].map((line) => csvLine(line));
  saveBlob(new Blob(['\ufeff', ...lines], { type: 'text/csv;charset=utf-8' }), 'Measures.csv');
}
