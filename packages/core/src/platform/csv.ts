import Papa from 'papaparse';

/** One line of RFC 4180 CSV; cells that a spreadsheet would take for a formula are made harmless with an apostrophe. */
export function csvLine(cells: readonly string[]): string {
  return `${cells.map(csvCell).join(',')}\r\n`;
}

/**
 * Signs that begin a formula, plain or full-width (U+FF0B …), after whatever blanks: spreadsheets skip those. Leading
 * apostrophes belong to it, so that a text which looks neutralised already gets one more and comes back whole.
 */
const FORMULA = /^'*(?:[\s\u00a0\u200b\ufeff]*[=+\-@\uff1d\uff0b\uff0d\uff20]|[\t\r\n])/;
const NUMBER = /^-?\d+(?:\.\d+)?$/;

function csvCell(text: string): string {
  const safe = FORMULA.test(text) && !NUMBER.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** Rows of CSV with commas, semicolons or tabs; the apostrophe of a neutralised formula is taken off again. */
export function readCsv(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t', '|'],
  });
  return data.map((cells) =>
    cells.map((cell) => (cell.startsWith("'") && FORMULA.test(cell.slice(1)) ? cell.slice(1) : cell)),
  );
}
