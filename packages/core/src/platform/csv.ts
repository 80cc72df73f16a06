import Papa from 'papaparse';

/** One line of RFC 4180 CSV; cells that a spreadsheet would take for a formula are made harmless with an apostrophe. */
export function csvLine(cells: readonly string[]): string {
  return `${cells.map(csvCell).join(',')}\r\n`;
}

function csvCell(text: string): string {
  const safe = /^[=+\-@\t\r]/.test(text) && !/^-?\d+(?:\.\d+)?$/.test(text) ? `'${text}` : text;
  return /[",\r\n]/.test(safe) ? `"${safe.replaceAll('"', '""')}"` : safe;
}

/** Rows of CSV with commas, semicolons or tabs; the apostrophe of a neutralised formula is taken off again. */
export function readCsv(text: string): string[][] {
  const { data } = Papa.parse<string[]>(text.replace(/^\ufeff/, ''), {
    skipEmptyLines: 'greedy',
    delimitersToGuess: [',', ';', '\t', '|'],
  });
  return data.map((cells) => cells.map((cell) => cell.replace(/^'(?=[=+\-@\t\r])/, '')));
}
