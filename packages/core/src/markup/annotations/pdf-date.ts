/** Moments as PDF writes them: `D:20261125101500+01'00'`, everything after the year may be missing. */
const DATE =
  /^\s*(?:D:)?(\d{4})(\d\d)?(\d\d)?(\d\d)?(\d\d)?(\d\d)?\s*(?:(Z)(?:00'?00'?)?|([+-])(\d\d)'?(?:(\d\d)'?)?)?/;

/** RFC 3339, without an offset where none is named; null where it is no moment. */
export function readPdfDate(text: string): string | null {
  const parts = DATE.exec(text);
  if (!parts) return null;
  const [
    ,
    year,
    month = '01',
    day = '01',
    hour = '00',
    minute = '00',
    second = '00',
    zulu,
    sign,
    hours,
    minutes = '00',
  ] = parts;
  const moment = `${year}-${month}-${day}T${hour}:${minute}:${second}`;
  if (Number.isNaN(Date.parse(`${moment}Z`))) return null;
  if (zulu) return `${moment}Z`;
  return sign ? `${moment}${sign}${hours}:${minutes}` : moment;
}

/** `moment`: RFC 3339, with or without an offset. */
export function writePdfDate(moment: string): string {
  const digits = moment.slice(0, 'yyyy-mm-ddThh:mm:ss'.length).replace(/[-T:]/g, '');
  const zone = /(?:Z|[+-]\d\d:\d\d)$/.exec(moment)?.[0] ?? '';
  return `D:${digits}${zone.length > 1 ? `${zone.replace(':', "'")}'` : zone}`;
}
