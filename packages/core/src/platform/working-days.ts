/** Days that are worked: Monday to Friday without the holidays of a project. Days are written YYYY-MM-DD. */
const DAY_MS = 86_400_000;

const plusDays = (day: string, days: number): string =>
  new Date(Date.parse(`${day}T00:00:00Z`) + days * DAY_MS).toISOString().slice(0, 10);
const isWeekend = (day: string): boolean => [0, 6].includes(new Date(`${day}T00:00:00Z`).getUTCDay());

export const isWorkingDay = (day: string, holidays: ReadonlySet<string>): boolean =>
  !isWeekend(day) && !holidays.has(day);

/** The day that lies `days` working days after `from`; with none, the first that is worked from then on. */
export function addWorkingDays(from: string, days: number, holidays: ReadonlySet<string>): string {
  let day = from;
  let left = days;
  while (left > 0 || !isWorkingDay(day, holidays)) {
    day = plusDays(day, 1);
    if (isWorkingDay(day, holidays)) left--;
  }
  return day;
}

/** Working days from one day to a later one, that one counted; negative where it lies before. */
export function workingDaysBetween(from: string, to: string, holidays: ReadonlySet<string>): number {
  if (to < from) return -workingDaysBetween(to, from, holidays);
  let count = 0;
  for (let day = from; day < to;) {
    day = plusDays(day, 1);
    if (isWorkingDay(day, holidays)) count++;
  }
  return count;
}
