import { csvLine, readCsv } from '../platform/csv.ts';
import type { FieldValue } from './convention.ts';

export interface ValuesRead {
  values: FieldValue[];
  /** Lines that were left out, and why. */
  problems: { line: number; message: string }[];
}

export const writeValues = (values: readonly FieldValue[]): string =>
  csvLine(['code', 'meaning']) + values.map(({ code, meaning }) => csvLine([code, meaning])).join('');

/** Codes and meanings from CSV text; a head line is known by its words. */
export function readValues(text: string, separator: string): ValuesRead {
  const read: ValuesRead = { values: [], problems: [] };
  const seen = new Set<string>();
  readCsv(text).forEach((cells, i) => {
    const [code = '', meaning = ''] = cells.map((cell) => cell.trim());
    const leaveOut = (message: string): void => void read.problems.push({ line: i + 1, message });
    if (i === 0 && /^(?:code|value|key)$/i.test(code)) return;
    if (!code) leaveOut('There is no code.');
    else if (code.length > 60) leaveOut(`“${code.slice(0, 20)}…” is longer than 60 characters.`);
    else if (separator && code.includes(separator)) leaveOut(`“${code}” holds the separator “${separator}”.`);
    else if (seen.has(code)) leaveOut(`“${code}” is there twice.`);
    else {
      seen.add(code);
      read.values.push({ code, meaning });
    }
  });
  return read;
}
