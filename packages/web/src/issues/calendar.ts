/** A month as weeks of days, from Monday; days are written YYYY-MM-DD. */
const DAY_MS = 86_400_000;
const iso = (ms: number): string => new Date(ms).toISOString().slice(0, 10);

/** `month`: YYYY-MM. Days beside the month fill its first and last week. */
export function weeksOf(month: string): string[][] {
  const first = Date.parse(`${month}-01T00:00:00Z`);
  const date = new Date(first);
  const next = Date.UTC(date.getUTCFullYear(), date.getUTCMonth() + 1, 1);
  const monday = first - ((date.getUTCDay() + 6) % 7) * DAY_MS;
  const weeks: string[][] = [];
  for (let start = monday; start < next; start += 7 * DAY_MS)
    weeks.push(Array.from({ length: 7 }, (_, i) => iso(start + i * DAY_MS)));
  return weeks;
}

export function monthBeside(month: string, by: number): string {
  const [year, number] = month.split('-').map(Number) as [number, number];
  return iso(Date.UTC(year, number - 1 + by, 1)).slice(0, 7);
}
