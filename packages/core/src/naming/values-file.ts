import { csvLine, readCsv } from '../platform/csv.ts';
import type { Values } from '../platform/coded-error.ts';
import type { FieldValue } from './convention.ts';

export interface ValuesRead {
  values: FieldValue[];
  /** Lines that were left out, and why. */
  problems: { line: number; code: string; values: Values }[];
}

export const writeValues = (values: readonly FieldValue[]): string =>
  csvLine(['code', 'meaning']) + values.map(({ code, meaning }) => csvLine([code, meaning])).join('');

/** Codes and meanings from CSV text; a head line is known by its words. */
export function readValues(text: string, separator: string): ValuesRead {
  const read: ValuesRead = { values: [], problems: [] };
  const seen = new Set<string>();
  readCsv(text).forEach((cells, i) => {
    const [code = '', meaning = ''] = cells.map((cell) => cell.trim());
    const leaveOut = (problem: string, values: Values = {}): void =>
      void read.problems.push({ line: i + 1, code: problem, values });
    if (i === 0 && /^(?:code|value|key)$/i.test(code)) return;
    if (!code) leaveOut('code-missing');
    else if (code.length > 60) leaveOut('code-too-long', { value: code, longest: 60 });
    else if (separator && code.includes(separator)) leaveOut('holds-separator', { value: code, separator });
    else if (seen.has(code)) leaveOut('value-twice', { value: code });
    else {
      seen.add(code);
      read.values.push({ code, meaning });
    }
  });
  return read;
}
