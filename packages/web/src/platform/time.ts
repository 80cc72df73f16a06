import dayjs from 'dayjs';
import timezone from 'dayjs/plugin/timezone.js';
import utc from 'dayjs/plugin/utc.js';
import { settings } from './settings.ts';

dayjs.extend(utc);
dayjs.extend(timezone);

/** Moments in the time zone of the project. */
export function useTime() {
  const inZone = (moment: string) => dayjs(moment).tz(settings.timeZone || dayjs.tz.guess());
  return {
    date: (moment: string) => inZone(moment).format('D MMM YYYY'),
    moment: (moment: string) => inZone(moment).format('D MMM YYYY, HH:mm'),
    short: (moment: string) => inZone(moment).format(dayjs(moment).isSame(dayjs(), 'year') ? 'D MMM' : 'D MMM YY'),
    clock: (moment: string) => inZone(moment).format('HH:mm'),
    /** A minute of a day of a year (both from its first one) as the clocks of the project show it. */
    atClock: (year: number, day: number, minute: number): Date => {
      // Added up without a zone: an hour that a clock skips must not move all that follows.
      const shown = dayjs.utc(`${year}-01-01T00:00`).add(day, 'day').add(minute, 'minute');
      return dayjs.tz(shown.format('YYYY-MM-DDTHH:mm'), settings.timeZone || dayjs.tz.guess()).toDate();
    },
    zone: () => settings.timeZone,
  };
}

/** A calendar day, YYYY-MM-DD, which no time zone moves. */
export const day = (value: string): string => dayjs(value).format('D MMM YYYY');
export const isOverdue = (value: string | null): boolean => value !== null && value < dayjs().format('YYYY-MM-DD');

export function bytes(size: number): string {
  if (size < 1000) return `${size} B`;
  const units = ['kB', 'MB', 'GB', 'TB'];
  let value = size;
  let unit = -1;
  while (value >= 1000 && unit < units.length - 1) {
    value /= 1000;
    unit++;
  }
  return `${value < 10 ? value.toFixed(1) : Math.round(value)} ${units[unit]}`;
}
